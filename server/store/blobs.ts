import { createHash } from 'node:crypto';
import { type Db, oneRow } from './db';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Keeps bytes by their content; the same bytes twice are one row. @returns the SHA-256 */
export async function keepBlob(db: Db, bytes: Uint8Array, mediaType: string): Promise<string> {
  const sha = sha256(bytes);
  const held = await db.query('select 1 from blob where sha256 = $1', [sha]);
  if (held.rowCount === 0) {
    await db.query('insert into blob (sha256, media_type, size, bytes) values ($1, $2, $3, $4) on conflict do nothing', [sha, mediaType, bytes.length, asBuffer(bytes)]);
  }
  return sha;
}

export interface Blob {
  readonly mediaType: string;
  readonly bytes: Buffer;
}

/** @throws CoreError 'store/not-found' */
export async function readBlob(db: Db, sha: string): Promise<Blob> {
  const meta = oneRow((await db.query<{ media_type: string }>('select media_type from blob where sha256 = $1', [sha])).rows, 'file');
  // Binary results: as text, every byte would travel as two letters and be parsed again.
  const { rows } = await db.query({ text: 'select bytes from blob where sha256 = $1', values: [sha], binary: true, types: RAW } as never);
  return { mediaType: meta.media_type, bytes: oneRow(rows as unknown as { bytes: Buffer }[], 'file').bytes };
}

// pg has no parser of its own for binary bytea and would make text of it.
const RAW = { getTypeParser: () => (value: Buffer) => value };

const asBuffer = (bytes: Uint8Array): Buffer => (Buffer.isBuffer(bytes) ? bytes : Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length));
