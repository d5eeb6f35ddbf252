import { completeReceipt } from '../../core/formats/receipt';
import type { DeliveredFileView, DeliveryView } from '../../contract/views';
import { type Db, oneRow } from './db';
import { addJob } from './jobs';

interface DeliveryRow {
  id: string;
  mark_id: string;
  mark_name: string;
  revision_id: string;
  state: DeliveryView['state'];
  file_count: number;
  done_count: number;
  zip_sha: string | null;
  zip_name: string;
  error: { message: string } | null;
  created_at: Date;
  finished_at: Date | null;
}
interface FileRow {
  name: string;
  variant: string;
  purpose: string;
  receipt: DeliveredFileView['receipt'];
}

const SELECT =
  'select d.*, m.name as mark_name from delivery d join mark m on m.id = d.mark_id and m.removed_at is null';

const toView = (r: DeliveryRow, files: FileRow[]): DeliveryView => ({
  id: r.id,
  markId: r.mark_id,
  markName: r.mark_name,
  revision: Number(r.revision_id),
  state: r.state,
  fileCount: r.file_count,
  doneCount: r.done_count,
  zipName: r.zip_name,
  problem: r.error?.message ?? null,
  createdAt: r.created_at.toISOString(),
  finishedAt: r.finished_at?.toISOString() ?? null,
  files: files.map((f) => ({ ...f, receipt: completeReceipt(f.receipt) })),
});

/** A delivery and the job that makes it, in one transaction: neither is ever there without the other. */
export async function addDelivery(
  db: Db,
  markId: string,
  revision: number,
  fileCount: number,
  zipName: string,
): Promise<string> {
  const { rows } = await db.query<{ id: string }>(
    'insert into delivery (mark_id, revision_id, file_count, zip_name) values ($1, $2, $3, $4) returning id',
    [markId, revision, fileCount, zipName],
  );
  await addJob(db, 'makeDelivery', rows[0].id);
  return rows[0].id;
}

/**
 * Has an ended delivery made again. In a transaction. @returns false when it is not one that failed or was cancelled
 */
export async function retryDelivery(db: Db, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    "update delivery set state = 'waiting', done_count = 0, error = null, finished_at = null " +
      "where id = $1 and state in ('failed', 'cancelled')",
    [id],
  );
  if (rowCount === 1) await addJob(db, 'makeDelivery', id);
  return rowCount === 1;
}

/**
 * Ends as failed what no job works on any more: all attempts were used up, by processes that died in the middle of it.
 * @returns the deliveries' ids
 */
export async function failAbandoned(db: Db): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `update delivery d set state = 'failed', finished_at = now(), error = $1
     where d.state in ('waiting', 'making') and not exists (
       select 1 from graphile_worker.jobs j
       where j.key = 'makeDelivery ' || d.id and (j.locked_at is not null or j.attempts < j.max_attempts))
     returning d.id`,
    [JSON.stringify({ message: 'Making these files was begun many times and never came to an end. Try again.' })],
  );
  return rows.map((r) => r.id);
}

export async function findDelivery(db: Db, id: string): Promise<DeliveryView> {
  const { rows } = await db.query<DeliveryRow>(`${SELECT} where d.id = $1`, [id]);
  const row = oneRow(rows, 'delivery');
  const files = await db.query<FileRow>(
    'select name, variant, purpose, receipt from delivered_file where delivery_id = $1 order by position',
    [id],
  );
  return toView(row, files.rows);
}

export async function listDeliveries(db: Db, brandId: string, markId: string | null): Promise<DeliveryView[]> {
  const { rows } = await db.query<DeliveryRow>(
    `${SELECT} where m.brand_id = $1 and ($2::uuid is null or m.id = $2) order by d.created_at desc limit 100`,
    [brandId, markId],
  );
  return rows.map((r) => toView(r, []));
}

/** The recipe that a delivery was asked for with. */
export async function findDeliveryRecipe(db: Db, id: string): Promise<unknown> {
  const { rows } = await db.query<{ recipe: unknown }>(
    'select r.recipe from delivery d join recipe_revision r on r.id = d.revision_id where d.id = $1',
    [id],
  );
  return oneRow(rows, 'delivery').recipe;
}

/** Claims a delivery for making. @returns false when it was ended in the meantime */
export async function beginDelivery(db: Db, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    "update delivery set state = 'making', done_count = 0, error = null where id = $1 and " +
      "state in ('waiting', 'making')",
    [id],
  );
  return rowCount === 1;
}

/** @returns false when the delivery was cancelled, so that the work can stop */
export async function countDone(db: Db, id: string, done: number): Promise<boolean> {
  const { rowCount } = await db.query("update delivery set done_count = $2 where id = $1 and state = 'making'", [
    id,
    done,
  ]);
  return rowCount === 1;
}

/** @returns false when there was nothing left to cancel */
export async function cancelDelivery(db: Db, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    "update delivery set state = 'cancelled', finished_at = now() where id = $1 and state in ('waiting', 'making')",
    [id],
  );
  return rowCount === 1;
}

export async function failDelivery(db: Db, id: string, message: string): Promise<void> {
  await db.query(
    "update delivery set state = 'failed', error = $2, finished_at = now() where id = $1 " +
      "and state in ('waiting', 'making')",
    [id, JSON.stringify({ message })],
  );
}

export interface MadeFile {
  readonly name: string;
  readonly variant: string;
  readonly purpose: string;
  readonly blobSha: string;
  readonly receipt: DeliveredFileView['receipt'];
}

/**
 * Makes a delivery reachable, whole; to be called in the transaction that also stores its blobs. @returns false when it
 * was cancelled
 */
export async function finishDelivery(db: Db, id: string, zipSha: string, files: readonly MadeFile[]): Promise<boolean> {
  const { rowCount } = await db.query(
    "update delivery set state = 'ready', zip_sha = $2, done_count = file_count, " +
      "finished_at = now() where id = $1 and state = 'making'",
    [id, zipSha],
  );
  if (rowCount !== 1) return false;
  await db.query('delete from delivered_file where delivery_id = $1', [id]);
  for (const [position, f] of files.entries()) {
    await db.query(
      'insert into delivered_file (delivery_id, position, name, variant, purpose, blob_sha, ' +
        'receipt) values ($1, $2, $3, $4, $5, $6, $7)',
      [id, position, f.name, f.variant, f.purpose, f.blobSha, JSON.stringify(f.receipt)],
    );
  }
  return true;
}

export async function findZip(db: Db, id: string): Promise<{ sha: string; name: string } | null> {
  const { rows } = await db.query<{ zip_sha: string | null; zip_name: string }>(
    'select zip_sha, zip_name from delivery where id = $1',
    [id],
  );
  const row = oneRow(rows, 'delivery');
  return row.zip_sha ? { sha: row.zip_sha, name: row.zip_name } : null;
}
