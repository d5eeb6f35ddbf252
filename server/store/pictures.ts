import { createHash } from 'node:crypto';
import type { Finding } from '../../core/findings/finding';
import type { StageValues } from '../../core/stages';
import type { Db } from './db';

/** To be raised when the same stages and settings give other pictures than before. */
const PICTURE_VERSION = 1;

export interface KeptPicture {
  readonly blobSha: string;
  readonly findings: readonly Finding[];
}

/** The master at full size; trimmed at card size; or small on its own grid, so that two of them lie on one another. */
export type PictureKind = 'master' | 'thumbnail' | 'whole';

/**
 * What a picture was made from: its kind, the source's content and all stage settings, each with its stage's version.
 */
export const pictureKey = (kind: PictureKind, sourceSha: string, stages: StageValues): string =>
  createHash('sha256')
    .update(JSON.stringify([PICTURE_VERSION, kind, sourceSha, stages]))
    .digest('hex');

export async function findPicture(db: Db, key: string): Promise<KeptPicture | null> {
  const { rows } = await db.query<{ blob_sha: string; findings: Finding[] }>(
    'select blob_sha, findings from picture where key = $1',
    [key],
  );
  return rows[0] ? { blobSha: rows[0].blob_sha, findings: rows[0].findings } : null;
}

export async function keepPicture(db: Db, key: string, sourceSha: string, picture: KeptPicture): Promise<void> {
  await db.query(
    'insert into picture (key, source_sha, blob_sha, findings) values ($1, $2, $3, $4) on conflict (key) do nothing',
    [key, sourceSha, picture.blobSha, JSON.stringify(picture.findings)],
  );
}

/** Forgets pictures of sources that no mark starts from any more, and such as nobody has made anew for two months. */
export async function forgetPictures(db: Db): Promise<void> {
  await db.query(
    `delete from picture p where p.made_at < now() - interval '60 days' or not exists
       (select 1 from mark m where p.source_sha in (m.working_sha, m.reduced_sha))`,
  );
}
