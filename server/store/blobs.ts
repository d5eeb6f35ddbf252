import { createHash } from 'node:crypto';
import { type Db, oneRow } from './db';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Keeps bytes by their content; the same bytes twice are one row. @returns the SHA-256 */
export async function keepBlob(db: Db, bytes: Uint8Array, mediaType: string): Promise<string> {
  const sha = sha256(bytes);
  const held = await db.query('select 1 from blob where sha256 = $1', [sha]);
  if (held.rowCount === 0) {
    await db.query(
      'insert into blob (sha256, media_type, size, bytes) values ($1, $2, $3, $4) on conflict do nothing',
      [sha, mediaType, bytes.length, asBuffer(bytes)],
    );
  }
  return sha;
}

export interface Blob {
  readonly mediaType: string;
  readonly bytes: Buffer;
}

/** @throws CoreError 'store/not-found' */
export async function readBlob(db: Db, sha: string): Promise<Blob> {
  const { rows } = await db.query<{ media_type: string; bytes: Buffer }>(
    'select media_type, bytes from blob where sha256 = $1',
    [sha],
  );

  const row = oneRow(rows, 'file');
  return { mediaType: row.media_type, bytes: row.bytes };
}

const asBuffer = (bytes: Uint8Array): Buffer =>
  Buffer.isBuffer(bytes) ? bytes : Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
