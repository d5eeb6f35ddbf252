import { type Context, Hono } from 'hono';
import { paths } from '../../contract/paths';
import { CoreError } from '../../core/errors';
import type { AppDeps } from '../deps';
import { boardRequest, checkBody } from '../../contract/requests';
import { slug } from '../../core/recipe/fileNames';
import { sourceOf } from '../sources';
import { findBrand, findGroundPhoto, isGroundBlob } from '../store/brands';
import { asId } from '../store/db';
import { findMark, findMarkPictures, findThumbnail } from '../store/marks';
import { personOf } from './marks';
import { limitJson, readJson } from './readJson';
import { FOREVER, attachment, sendBlob } from './respond';

/** Pictures: originals, working and reduced pictures, masters, thumbnails, ground photos. */
export function pictureRoutes({ pool, core, pictures: maker }: AppDeps) {
  const sendPicture = async (c: Context, kind: 'master' | 'thumbnail') => {
    const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
    const pictures = await findMarkPictures(pool, mark.id);
    const { blobSha } = await maker.find(kind, pictures, mark.recipe, personOf(c));
    if (c.req.query('revision') === String(mark.revision)) c.header('Cache-Control', FOREVER);
    return sendBlob(c, pool, blobSha);
  };

  return new Hono()
    .get(paths.markOriginal(':id'), async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      c.header('Content-Disposition', attachment(pictures.originalName));
      return sendBlob(c, pool, pictures.original);
    })
    .get(paths.markPictures(':id'), async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      if (pictures.source !== 'picture') throw new CoreError('store/not-found', 'This mark is a drawing.');
      c.header('Cache-Control', FOREVER);
      return sendBlob(
        c,
        pool,
        c.req.param('size') === 'working.png' ? pictures.working : pictures.reduced,
        'image/png',
      );
    })
    .get(paths.markDrawing(':id'), async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      if (pictures.source !== 'drawing') throw new CoreError('store/not-found', 'This mark is not a drawing.');
      c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, pictures.working, 'application/json');
    })
    .get(paths.markMaster(':id'), (c) => sendPicture(c, 'master'))
    .get(paths.markThumbnail(':id'), async (c) => {
      const { sha, isCurrent, revision } = await findThumbnail(pool, asId(c.req.param('id'), 'mark'));
      if (!sha) return sendPicture(c, 'thumbnail');
      // One from before is better than none while the newest is being made, but is not to be kept.
      if (isCurrent && c.req.query('revision') === String(revision)) c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, sha);
    })
    .post(paths.markBoard(':id'), limitJson, async (c) => {
      const { format, grounds } = await checkBody(boardRequest, await readJson(c));
      const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
      const { palette } = await findBrand(pool, mark.brandId);
      const pictures = await findMarkPictures(pool, mark.id);
      const placed = [];
      for (const { name, hex, id } of grounds) {
        if ((hex === null) === (id === null))
          throw new CoreError('request/invalid', 'A ground is either a colour or a photo.');
        placed.push({ name, hex: hex ?? null, sha: id && (await findGroundPhoto(pool, mark.brandId, id)) });
      }
      // On a board a mark is some hundred pixels wide: the reduced picture holds all of that.
      const source = sourceOf(pictures, 'reduced');
      const task = { source, recipe: mark.recipe, format, palette, grounds: placed };
      const bytes = await core.makeBoard(task, pictures, personOf(c));
      c.header('Content-Type', format === 'pdf' ? 'application/pdf' : 'image/png');
      c.header('Content-Disposition', attachment(`${slug(mark.name)}-board.${format}`));
      return c.body(bytes);
    })
    .get(paths.blob(':sha'), async (c) => {
      const sha = c.req.param('sha') ?? '';
      if (!/^[0-9a-f]{64}$/.test(sha) || !(await isGroundBlob(pool, sha)))
        throw new CoreError('store/not-found', 'There is no such picture.');
      c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, sha);
    });
}
