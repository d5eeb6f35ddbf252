import { createHash } from 'node:crypto';
import { type Db, oneRow } from './db';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/**
 * Keeps bytes by their content; the same bytes twice are one row. A blob that was kept or touched within a day is never
 * collected, so whoever keeps one may refer to it in a later transaction. @returns the SHA-256
 */
export async function keepBlob(db: Db, bytes: Uint8Array, mediaType: string): Promise<string> {
  const sha = sha256(bytes);
  const held = await db.query('update blob set touched_at = now() where sha256 = $1', [sha]);
  if (held.rowCount === 0) {
    await db.query(
      'insert into blob (sha256, media_type, size, bytes) values ($1, $2, $3, $4) ' +
        'on conflict (sha256) do update set touched_at = now()',
      [sha, mediaType, bytes.length, asBuffer(bytes)],
    );
  }
  return sha;
}

export interface Blob {
  readonly mediaType: string;
  readonly bytes: Buffer;
}

/**
 * A whole blob, for threads: it is unpacked from text at one go, which takes too long on the event loop.
 * @throws CoreError 'store/not-found'
 */
export async function readBlob(db: Db, sha: string): Promise<Blob> {
  const { rows } = await db.query<{ media_type: string; bytes: Buffer }>(
    'select media_type, bytes from blob where sha256 = $1',
    [sha],
  );

  const row = oneRow(rows, 'file');
  return { mediaType: row.media_type, bytes: row.bytes };
}

/** @throws CoreError 'store/not-found' */
export async function findBlob(db: Db, sha: string): Promise<{ mediaType: string; size: number }> {
  const { rows } = await db.query<{ media_type: string; size: string }>(
    'select media_type, size from blob where sha256 = $1',
    [sha],
  );
  const row = oneRow(rows, 'file');
  return { mediaType: row.media_type, size: Number(row.size) };
}

/** So much of a blob is on its way at a time: some two milliseconds of unpacking. */
const PIECE_BYTES = 1 << 20;

/** A blob's bytes piece by piece, as the reader asks for them: however large it is, little of it is in memory. */
export function streamBlob(db: Db, sha: string, size: number): ReadableStream<Uint8Array> {
  let at = 0;
  return new ReadableStream(
    {
      async pull(controller) {
        const { rows } = await db.query<{ piece: Buffer }>(
          'select substring(bytes from $2 for $3) as piece from blob where sha256 = $1',
          [sha, at + 1, PIECE_BYTES],
        );
        const { piece } = oneRow(rows, 'file');
        at += piece.length;
        if (piece.length > 0) controller.enqueue(piece);
        if (at >= size) controller.close();
        else if (piece.length === 0) controller.error(new Error(`The blob ${sha} is shorter than its row says.`));
      },
    },
    { highWaterMark: 0 },
  );
}

/** Who refers to blobs: a blob that none of them names is nobody's. */
const REFERRERS = [
  'mark m where b.sha256 in (m.original_sha, m.working_sha, m.reduced_sha)',
  'former_original o where o.original_sha = b.sha256',
  'recipe_revision r where r.thumbnail_sha = b.sha256',
  'ground g where g.blob_sha = b.sha256',
  'delivery d where d.zip_sha = b.sha256',
  'delivered_file f where f.blob_sha = b.sha256',
  'run_ground r where b.sha256 in (r.blob_sha, r.preview_sha, r.made_sha)',
  'picture p where b.sha256 in (p.blob_sha, p.source_sha)',
  'live_address l where l.blob_sha = b.sha256',
  'proof_picture t where t.blob_sha = b.sha256',
  'wall_slot s where b.sha256 in (s.original_sha, s.picture_sha)',
];
const NOBODYS = REFERRERS.map((r) => `not exists (select 1 from ${r})`).join(' and ');

/**
 * Takes away blobs that nobody refers to and nobody meant within a day. Locked rows, which somebody is just about to
 * refer to, are passed over. @returns how many
 */
export async function collectBlobs(db: Db): Promise<number> {
  const { rowCount } = await db.query(
    `delete from blob where sha256 in (select b.sha256 from blob b
       where b.touched_at < now() - interval '1 day' and ${NOBODYS} for update skip locked)`,
  );
  return rowCount ?? 0;
}

/** The same for some blobs at once, whenever they were meant. */
export async function dropBlobs(db: Db, shas: readonly string[]): Promise<void> {
  await db.query(`delete from blob b where b.sha256 = any($1) and ${NOBODYS}`, [shas]);
}

const asBuffer = (bytes: Uint8Array): Buffer =>
  Buffer.isBuffer(bytes) ? bytes : Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
