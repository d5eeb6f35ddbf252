import type { LiveView } from '../../contract/live';
import { paths } from '../../contract/paths';
import { CoreError } from '../../core/errors';
import { type Db, isUniqueViolation, oneRow } from './db';
import { addJob } from './jobs';

interface LiveRow {
  id: string;
  key: string;
  mark_id: string;
  mark_name: string;
  line_id: string;
  name: string;
  file_key: string | null;
  size: string | null;
  made_at: Date | null;
  problem: string | null;
  fetched_count: string;
  fetched_at: Date | null;
}

const LIVE = 'select l.*, m.name as mark_name from live_address l join mark m on m.id = l.mark_id';

const toView = (r: LiveRow): LiveView => ({
  ...{ id: r.id, path: paths.live(r.key, r.name), markId: r.mark_id, markName: r.mark_name, lineId: r.line_id },
  ...{ name: r.name, size: r.size === null ? null : Number(r.size), madeAt: r.made_at?.toISOString() ?? null },
  ...{ problem: r.problem, fetchedCount: Number(r.fetched_count), fetchedAt: r.fetched_at?.toISOString() ?? null },
});

export async function listLive(db: Db, brandId: string): Promise<LiveView[]> {
  const { rows } = await db.query<LiveRow>(
    `${LIVE} where m.brand_id = $1 and m.removed_at is null order by l.created_at desc`,
    [brandId],
  );
  return rows.map(toView);
}

export async function findLive(db: Db, id: string): Promise<LiveView> {
  return toView(oneRow((await db.query<LiveRow>(`${LIVE} where l.id = $1`, [id])).rows, 'live address'));
}

/** A new address, and the job that makes its first file. In a transaction. @returns its id */
export async function addLive(
  db: Db,
  a: { key: string; markId: string; lineId: string; name: string },
): Promise<string> {
  try {
    const { rows } = await db.query<{ id: string }>(
      'insert into live_address (key, mark_id, line_id, name) values ($1, $2, $3, $4) returning id',
      [a.key, a.markId, a.lineId, a.name],
    );
    await addJob(db, 'makeLive', a.markId);
    return rows[0].id;
  } catch (error) {
    if (isUniqueViolation(error, 'live_line_unique'))
      throw new CoreError('store/duplicate-name', 'This size line has a live address already.');
    throw error;
  }
}

export async function removeLive(db: Db, id: string): Promise<void> {
  const { rows } = await db.query<{ key: string }>('delete from live_address where id = $1 returning key', [id]);
  await announceLive(db, oneRow(rows, 'live address').key);
}

/** Addresses are made anew once a mark has been left alone for so long. */
const LIVE_AFTER_MS = 2000;

/** Whatever was changed of a mark, its live files follow. In the transaction of the change. */
export async function followLive(db: Db, markId: string): Promise<void> {
  const { rowCount } = await db.query('select 1 from live_address where mark_id = $1 limit 1', [markId]);
  if (rowCount) await addJob(db, 'makeLive', markId, LIVE_AFTER_MS);
}

export interface LiveLine {
  readonly id: string;
  readonly key: string;
  readonly lineId: string;
  readonly fileKey: string | null;
}

export async function listLiveLines(db: Db, markId: string): Promise<LiveLine[]> {
  const { rows } = await db.query<LiveRow>('select * from live_address where mark_id = $1 order by created_at', [
    markId,
  ]);
  return rows.map((r) => ({ id: r.id, key: r.key, lineId: r.line_id, fileKey: r.file_key }));
}

/** The newest finished file takes the place of the one before, whole. */
export async function keepLiveFile(
  db: Db,
  { id, key }: LiveLine,
  file: { fileKey: string; blobSha: string; size: number },
): Promise<void> {
  await db.query(
    `update live_address set blob_sha = $2, file_key = $3, size = $4, made_at = now(), problem = null where id = $1`,
    [id, file.blobSha, file.fileKey, file.size],
  );
  await announceLive(db, key);
}

/** Why there is no newer file; the one before goes on being served. */
export const keepLiveProblem = (db: Db, { id }: LiveLine, problem: string | null) =>
  db.query('update live_address set problem = $2 where id = $1', [id, problem]);

/** What is served under an address. @returns null where there is no such address, or no file yet */
export async function findLiveFile(db: Db, key: string): Promise<{ name: string; sha: string; type: string } | null> {
  const { rows } = await db.query<{ name: string; blob_sha: string; media_type: string }>(
    `select l.name, l.blob_sha, b.media_type from live_address l join blob b on b.sha256 = l.blob_sha
     join mark m on m.id = l.mark_id where l.key = $1 and m.removed_at is null`,
    [key],
  );
  return rows[0] ? { name: rows[0].name, sha: rows[0].blob_sha, type: rows[0].media_type } : null;
}

/** Adds fetches that were counted meanwhile. */
export const countFetches = (db: Db, counts: ReadonlyMap<string, number>) =>
  db.query(
    `update live_address l set fetched_count = fetched_count + t.n, fetched_at = now()
     from unnest($1::text[], $2::bigint[]) as t (key, n) where l.key = t.key`,
    [[...counts.keys()], [...counts.values()]],
  );

/** Tells every web server that an address has another file. */
export const announceLive = (db: Db, key: string) =>
  db.query("select pg_notify('tassel_delivery', $1)", [`live ${key}`]);
