import { type Context, Hono } from 'hono';
import { CoreError } from '../../core/errors';
import type { AppDeps } from '../app';
import type { ThumbnailResult } from '../coreTasks';
import { readBlob } from '../store/blobs';
import { isGroundBlob } from '../store/brands';
import { asId } from '../store/db';
import { findMark, findMarkPictures, saveFindings } from '../store/marks';

const FOREVER = 'private, max-age=31536000, immutable';
const THUMBNAIL_PX = 560;
const MOST_THUMBNAILS = 200;

/** Pictures: originals, working and reduced pictures, masters, thumbnails, ground photos. */
export function pictureRoutes({ pool, core }: AppDeps) {
  // A cache, not state: any process can make every one of them again.
  const thumbnails = new Map<string, Promise<ThumbnailResult>>();

  return new Hono()
    .get('/api/marks/:id/original', async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      const { bytes, mediaType } = await readBlob(pool, pictures.original);
      c.header('Content-Disposition', attachment(pictures.originalName));
      return send(c, bytes, mediaType);
    })
    .get('/api/marks/:id/picture/:size{(working|reduced)\\.png}', async (c) => {
      const pictures = await findMarkPictures(pool, asId(c.req.param('id'), 'mark'));
      const { bytes } = await readBlob(
        pool,
        c.req.param('size') === 'working.png' ? pictures.working : pictures.reduced,
      );
      c.header('Cache-Control', FOREVER);
      return send(c, bytes, 'image/png');
    })
    .get('/api/marks/:id/master.png', async (c) => {
      const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
      const pictures = await findMarkPictures(pool, mark.id);
      const working = await readBlob(pool, pictures.working);
      const png = await core.makeMaster({
        picture: { key: pictures.working, png: working.bytes, reduction: 1 },
        recipe: mark.recipe,
      });
      return send(c, png, 'image/png');
    })
    .get('/api/marks/:id/thumbnail.png', async (c) => {
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
    .get('/api/blobs/:sha', async (c) => {
      const sha = c.req.param('sha');
      if (!/^[0-9a-f]{64}$/.test(sha) || !(await isGroundBlob(pool, sha)))
        throw new CoreError('store/not-found', 'There is no such picture.');
      const { bytes, mediaType } = await readBlob(pool, sha);
      c.header('Cache-Control', FOREVER);
      return send(c, bytes, mediaType);
    });

  async function makeThumbnail(id: string, revision: number, recipe: unknown): Promise<ThumbnailResult> {
    const pictures = await findMarkPictures(pool, id);
    const reduced = await readBlob(pool, pictures.reduced);
    const picture = { key: pictures.reduced, png: reduced.bytes, reduction: pictures.width / pictures.reducedWidth };
    const made = await core.makeThumbnail({ picture, recipe, longestPx: THUMBNAIL_PX });
    await saveFindings(pool, id, revision, made.findings);
    return made;
  }
}

const send = (c: Context, bytes: Uint8Array, mediaType: string) => {
  c.header('Content-Type', mediaType);
  c.header('X-Content-Type-Options', 'nosniff');
  return c.body(bytes as Uint8Array<ArrayBuffer>);
};

/** A download under a name; other letters than plain ones travel as RFC 5987 asks. */
export const attachment = (name: string) =>
  `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`;
