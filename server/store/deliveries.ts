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
  is_outdated: boolean;
  marks: { id: string; name: string; revision: number }[];
  created_at: Date;
  finished_at: Date | null;
}
interface FileRow {
  position: number;
  name: string;
  variant: string;
  purpose: string;
  receipt: DeliveredFileView['receipt'];
}

const SELECT = `select d.*, m.name as mark_name,
    (select json_agg(json_build_object('id', o.id, 'name', o.name, 'revision', dm.revision_id) order by dm.position)
       from delivery_part dm join mark o on o.id = dm.mark_id where dm.delivery_id = d.id) as marks,
    exists (select 1 from delivery_part dm join mark o on o.id = dm.mark_id
       where dm.delivery_id = d.id and o.revision_id <> dm.revision_id) as is_outdated
  from delivery d join mark m on m.id = d.mark_id and m.removed_at is null`;

const toView = (r: DeliveryRow, files: FileRow[]): DeliveryView => ({
  id: r.id,
  markId: r.mark_id,
  markName: r.mark_name,
  revision: Number(r.revision_id),
  marks: r.marks,
  isOutdated: r.is_outdated,
  state: r.state,
  fileCount: r.file_count,
  doneCount: r.done_count,
  zipName: r.zip_name,
  problem: r.error?.message ?? null,
  createdAt: r.created_at.toISOString(),
  finishedAt: r.finished_at?.toISOString() ?? null,
  // A delivery is reachable only when it is whole.
  files: r.state === 'ready' ? files.map((f) => ({ ...f, receipt: completeReceipt(f.receipt) })) : [],
});

export interface NewDelivery {
  /** At least one; each at the revision that its files are made of. */
  readonly marks: readonly { readonly id: string; readonly revision: number }[];
  readonly fileCount: number;
  readonly zipName: string;
}

/** A delivery and the job that makes it, in one transaction: neither is ever there without the other. */
export async function addDelivery(db: Db, { marks, fileCount, zipName }: NewDelivery): Promise<string> {
  const [first] = marks;
  const { rows } = await db.query<{ id: string }>(
    'insert into delivery (mark_id, revision_id, file_count, zip_name) values ($1, $2, $3, $4) returning id',
    [first.id, first.revision, fileCount, zipName],
  );
  const [{ id }] = rows;
  await db.query(
    `insert into delivery_part (delivery_id, position, mark_id, revision_id)
     select $1, n - 1, mark, revision from unnest($2::uuid[], $3::bigint[]) with ordinality as t (mark, revision, n)`,
    [id, marks.map((m) => m.id), marks.map((m) => m.revision)],
  );
  await addJob(db, 'makeDelivery', id);
  return id;
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
  if (rowCount !== 1) return false;
  await dropMade(db, id);
  await addJob(db, 'makeDelivery', id);
  return true;
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
    'select position, name, variant, purpose, receipt from delivered_file where delivery_id = $1 order by position',
    [id],
  );
  return toView(row, files.rows);
}

export async function listDeliveries(db: Db, brandId: string, markId: string | null): Promise<DeliveryView[]> {
  const { rows } = await db.query<DeliveryRow>(
    `${SELECT} where m.brand_id = $1 and ($2::uuid is null or exists
       (select 1 from delivery_part dm where dm.delivery_id = d.id and dm.mark_id = $2))
     order by d.created_at desc limit 100`,
    [brandId, markId],
  );
  return rows.map((r) => toView(r, []));
}

export interface DeliveryPart {
  readonly markId: string;
  readonly revision: number;
  /** As it was when the files were asked for. */
  readonly recipe: unknown;
}

/** The marks of a delivery, each with the recipe that it was asked for with. */
export async function findDeliveryParts(db: Db, id: string): Promise<DeliveryPart[]> {
  const { rows } = await db.query<{ mark_id: string; revision_id: string; recipe: unknown }>(
    `select dm.mark_id, dm.revision_id, r.recipe from delivery_part dm join recipe_revision r on r.id = dm.revision_id
     where dm.delivery_id = $1 order by dm.position`,
    [id],
  );
  return rows.map((r) => ({ markId: r.mark_id, revision: Number(r.revision_id), recipe: r.recipe }));
}

/** Claims a delivery for making. @returns false when it was ended in the meantime */
export async function beginDelivery(db: Db, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    `update delivery d set state = 'making', error = null, done_count =
       (select count(*) from delivered_file f where f.delivery_id = d.id)
     where d.id = $1 and d.state in ('waiting', 'making')`,
    [id],
  );
  return rowCount === 1;
}

export interface MadeFile {
  /** Its place among all files of the delivery. */
  readonly position: number;
  readonly name: string;
  readonly markId: string;
  readonly variant: string;
  readonly purpose: string;
  readonly blobSha: string;
  readonly size: number;
  readonly crc32: number;
  readonly receipt: DeliveredFileView['receipt'];
}

/** Keeps a file that was made, which nobody reaches before all are. @returns false when the delivery was cancelled */
export async function keepFile(db: Db, id: string, f: MadeFile): Promise<boolean> {
  const { rowCount } = await db.query(
    `with kept as (
       insert into delivered_file
         (delivery_id, position, name, mark_id, variant, purpose, blob_sha, size, crc32, receipt)
       select $1, $2, $3, $4, $5, $6, $7, $8, $9, $10 from delivery where id = $1 and state = 'making'
       on conflict (delivery_id, position) do nothing returning 1)
     update delivery set done_count = done_count + (select count(*) from kept) where id = $1 and state = 'making'`,
    [id, f.position, f.name, f.markId, f.variant, f.purpose, f.blobSha, f.size, f.crc32, JSON.stringify(f.receipt)],
  );
  return rowCount === 1;
}

interface MadeRow {
  position: number;
  name: string;
  mark_id: string;
  variant: string;
  purpose: string;
  blob_sha: string;
  size: string;
  crc32: string;
  receipt: DeliveredFileView['receipt'];
}

/** Files of a delivery that are made already, whatever its state. */
export async function listMadeFiles(db: Db, id: string): Promise<MadeFile[]> {
  const { rows } = await db.query<MadeRow>(
    `select position, name, mark_id, variant, purpose, blob_sha, size, crc32, receipt from delivered_file
     where delivery_id = $1 and crc32 is not null order by position`,
    [id],
  );
  return rows.map((r) => ({
    ...{ position: r.position, name: r.name, markId: r.mark_id, variant: r.variant, purpose: r.purpose },
    ...{ blobSha: r.blob_sha, size: Number(r.size), crc32: Number(r.crc32), receipt: completeReceipt(r.receipt) },
  }));
}

const dropMade = (db: Db, id: string) => db.query('delete from delivered_file where delivery_id = $1', [id]);

/** @returns false when there was nothing left to cancel */
export async function cancelDelivery(db: Db, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    "update delivery set state = 'cancelled', finished_at = now() where id = $1 and state in ('waiting', 'making')",
    [id],
  );
  if (rowCount === 1) await dropMade(db, id);
  return rowCount === 1;
}

export async function failDelivery(db: Db, id: string, message: string): Promise<void> {
  await db.query(
    "update delivery set state = 'failed', error = $2, finished_at = now() where id = $1 " +
      "and state in ('waiting', 'making')",
    [id, JSON.stringify({ message })],
  );
  await dropMade(db, id);
}

/**
 * Makes a delivery reachable, whole. In a transaction.
 * @param names  of all files, by their positions: no two alike
 * @returns false when it was cancelled
 */
export async function finishDelivery(db: Db, id: string, names: readonly string[]): Promise<boolean> {
  const { rowCount } = await db.query(
    `update delivery set state = 'ready', done_count = file_count, finished_at = now()
     where id = $1 and state = 'making'`,
    [id],
  );
  if (rowCount !== 1) return false;
  await db.query(
    `update delivered_file f set name = t.name
     from unnest($2::text[]) with ordinality as t (name, n) where f.delivery_id = $1 and f.position = t.n - 1`,
    [id, names],
  );
  return true;
}

/** A delivery's archive: one that was kept whole, or the files it is put together of; null before it is ready. */
export async function findZip(
  db: Db,
  id: string,
): Promise<{ name: string; sha: string | null; files: MadeFile[] } | null> {
  const { rows } = await db.query<{ zip_sha: string | null; zip_name: string; state: string }>(
    'select zip_sha, zip_name, state from delivery where id = $1',
    [id],
  );
  const row = oneRow(rows, 'delivery');
  if (row.state !== 'ready') return null;
  const files = row.zip_sha ? [] : await listMadeFiles(db, id);
  return { name: row.zip_name, sha: row.zip_sha, files };
}

/** One file of a delivery that is ready. @throws CoreError 'store/not-found' */
export async function findDeliveredFile(db: Db, id: string, position: number): Promise<{ name: string; sha: string }> {
  const { rows } = await db.query<{ name: string; blob_sha: string }>(
    `select f.name, f.blob_sha from delivered_file f join delivery d on d.id = f.delivery_id
     where d.id = $1 and f.position = $2 and d.state = 'ready'`,
    [id, position],
  );
  const row = oneRow(rows, 'file');
  return { name: row.name, sha: row.blob_sha };
}

/** Tells every web server that a delivery has moved on. */
export const announce = (db: Db, id: string) => db.query("select pg_notify('tassel_delivery', $1)", [id]);
