import type { Context } from 'hono';
import type { Db } from '../store/db';
import { findBlob, streamBlob } from '../store/blobs';

export const FOREVER = 'private, max-age=31536000, immutable';

/** A download under a name; other letters than plain ones travel as RFC 5987 asks. */
export const attachment = (name: string) =>
  `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`;

/**
 * A blob piece by piece, of its own media type or a given one, which no browser is to guess anew. Its tag is its
 * content: who has it already is told so.
 */
export async function sendBlob(c: Context, db: Db, sha: string, mediaType?: string): Promise<Response> {
  const tag = `"${sha}"`;
  c.header('ETag', tag);
  if (c.req.header('if-none-match') === tag) return c.body(null, 304);
  const blob = await findBlob(db, sha);
  c.header('Content-Type', mediaType ?? blob.mediaType);
  c.header('Content-Length', String(blob.size));
  c.header('X-Content-Type-Options', 'nosniff');
  return c.body(streamBlob(db, sha, blob.size));
}
