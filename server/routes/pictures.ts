import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { CoreError } from '../../core/errors';
import type { AppDeps } from '../deps';
import type { ThumbnailResult } from '../coreTasks';
import { readBlob } from '../store/blobs';
import { isGroundBlob } from '../store/brands';
import { asId } from '../store/db';
import { findMark, findMarkPictures, saveFindings } from '../store/marks';
import { readSource } from '../sources';
import { attachment, send } from './respond';

const FOREVER = 'private, max-age=31536000, immutable';
const THUMBNAIL_PX = 560;
const MOST_THUMBNAILS = 200;

/** Pictures: originals, working and reduced pictures, masters, thumbnails, ground photos. */
export function pictureRoutes({ pool, core }: AppDeps) {
  // A cache, not state: any process can make every one of them again.
  const thumbnails = new Map<string, Promise<ThumbnailResult>>();

  return new Hono()
    .get(paths.markOriginal(':id'), async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      const { bytes, mediaType } = await readBlob(pool, pictures.original);
      c.header('Content-Disposition', attachment(pictures.originalName));
      return send(c, bytes, mediaType);
    })
    .get(paths.markPictures(':id'), async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      if (pictures.source !== 'picture') throw new CoreError('store/not-found', 'This mark is a drawing.');
      const { bytes } = await readBlob(
        pool,
        c.req.param('size') === 'working.png' ? pictures.working : pictures.reduced,
      );
      c.header('Cache-Control', FOREVER);
      return send(c, bytes, 'image/png');
    })
    .get(paths.markDrawing(':id'), async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      if (pictures.source !== 'drawing') throw new CoreError('store/not-found', 'This mark is not a drawing.');
      const { bytes } = await readBlob(pool, pictures.working);
      c.header('Cache-Control', FOREVER);
      return send(c, bytes, 'application/json');
    })
    .get(paths.markMaster(':id'), async (c) => {
      const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
      const source = await readSource(pool, mark.id, 'working');
      const png = await core.makeMaster({ source, recipe: mark.recipe });
      return send(c, png, 'image/png');
    })
    .get(paths.markThumbnail(':id'), async (c) => {
      const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
      const key = `${mark.id}@${mark.revision}`;
      let made = thumbnails.get(key);
      if (!made) {
        made = makeThumbnail(mark.id, mark.revision, mark.recipe);
        thumbnails.set(key, made);
        made.catch(() => thumbnails.delete(key));
        while (thumbnails.size > MOST_THUMBNAILS) thumbnails.delete(thumbnails.keys().next().value as string);
      }
      const { png } = await made;
      if (c.req.query('revision') === String(mark.revision)) c.header('Cache-Control', FOREVER);
      return send(c, png, 'image/png');
    })
    .get(paths.blob(':sha'), async (c) => {
      const sha = c.req.param('sha') ?? '';
      if (!/^[0-9a-f]{64}$/.test(sha) || !(await isGroundBlob(pool, sha)))
        throw new CoreError('store/not-found', 'There is no such picture.');
      const { bytes, mediaType } = await readBlob(pool, sha);
      c.header('Cache-Control', FOREVER);
      return send(c, bytes, mediaType);
    });

  async function makeThumbnail(id: string, revision: number, recipe: unknown): Promise<ThumbnailResult> {
    const source = await readSource(pool, id, 'reduced');
    const made = await core.makeThumbnail({ source, recipe, longestPx: THUMBNAIL_PX });
    await saveFindings(pool, id, revision, made.findings);
    return made;
  }
}
