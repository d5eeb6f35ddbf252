import type { Context } from 'hono';

/** Bytes of a media type of ours, which no browser is to guess anew. */
export const send = (c: Context, bytes: Uint8Array, mediaType: string) => {
  c.header('Content-Type', mediaType);
  c.header('X-Content-Type-Options', 'nosniff');
  return c.body(bytes as Uint8Array<ArrayBuffer>);
};

/** A download under a name; other letters than plain ones travel as RFC 5987 asks. */
export const attachment = (name: string) =>
  `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`;
