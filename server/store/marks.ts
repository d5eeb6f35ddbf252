import { CoreError } from '../../core/errors';
import type { Finding } from '../../core/findings/finding';
import { type PaletteChanges, recolourVariants } from '../../core/recipe/recolourVariants';
import { type Recipe, readRecipe } from '../../core/recipe/recipe';
import { type FoundView, type MarkCard, type MarkView, RETURN_DAYS } from '../../contract/views';
import { dropBlobs } from './blobs';
import { type Db, oneRow, isForeignKeyViolation } from './db';
import { followLive } from './live';

interface CardRow {
  id: string;
  brand_id: string;
  name: string;
  kind: MarkCard['kind'];
  state: MarkCard['state'];
  details: number;
  notes: MarkCard['notes'];
  original_name: string;
  width: number;
  height: number;
  findings: Finding[] | null;
  revision_id: string;
  variant_count: number;
  created_at: Date;
  updated_at: Date;
  removed_at: Date | null;
}

interface MarkRow extends CardRow {
  original_sha: string;
  source: MarkView['source'];
  working_sha: string;
  reduced_sha: string;
  reduced_width: number;
  found: FoundView;
  recipe: unknown;
  parent_id: string | null;
  redo_id: string | null;
}

const toCard = (r: CardRow): MarkCard => ({
  id: r.id,
  brandId: r.brand_id,
  name: r.name,
  kind: r.kind,
  state: r.state,
  details: r.details,
  revision: Number(r.revision_id),
  variantCount: r.variant_count,
  findings: (r.findings ?? []).map(({ id, title, weight }) => ({ id, title, weight })),
  isLookedAt: r.findings !== null,
  notes: r.notes,
  originalName: r.original_name,
  width: r.width,
  height: r.height,
  createdAt: r.created_at.toISOString(),
  updatedAt: r.updated_at.toISOString(),
  removedAt: r.removed_at?.toISOString() ?? null,
});

const toView = (r: MarkRow): MarkView => ({
  ...toCard(r),
  found: { ...r.found, markCount: r.found.markCount ?? 0 },
  recipe: readRecipe(r.recipe),
  canUndo: r.parent_id !== null,
  canRedo: r.redo_id !== null,
  reducedWidth: r.reduced_width,
  source: r.source,
  sourceKey: r.working_sha.slice(0, 16),
});

const CARDS = `
  select m.id, m.brand_id, m.name, m.kind, m.state, m.details, m.notes, m.original_name, m.width, m.height,
    m.revision_id,
    m.created_at, m.updated_at, m.removed_at, r.findings, r.variant_count
  from mark m join recipe_revision r on r.id = m.revision_id`;
const MARKS = `
  select m.*, r.recipe, r.findings, r.variant_count, r.parent_id,
    (select max(n.id) from recipe_revision n where n.mark_id = m.id and n.parent_id = m.revision_id) as redo_id
  from mark m join recipe_revision r on r.id = m.revision_id`;

export async function listMarks(db: Db, brandId: string): Promise<MarkCard[]> {
  const { rows } = await db.query<CardRow>(
    `${CARDS} where m.brand_id = $1 and m.removed_at is null order by m.created_at desc, m.id`,
    [brandId],
  );
  return rows.map(toCard);
}

/** Marks that can still be brought back, the last removed first. */
export async function listRemoved(db: Db, brandId: string): Promise<MarkCard[]> {
  const { rows } = await db.query<CardRow>(
    `${CARDS} where m.brand_id = $1 and m.removed_at is not null order by m.removed_at desc, m.id`,
    [brandId],
  );
  return rows.map(toCard);
}

export const findMark = async (db: Db, id: string): Promise<MarkView> => toView(await findMarkRow(db, id));

async function findMarkRow(db: Db, id: string): Promise<MarkRow> {
  const { rows } = await db.query<MarkRow>(`${MARKS} where m.id = $1 and m.removed_at is null`, [id]);
  return oneRow(rows, 'mark');
}

/** The mark as nobody else can change it until the transaction ends. */
async function lockMark(db: Db, id: string): Promise<MarkRow> {
  // The row alone, first: whoever waited for it must then see what the other has made current.
  oneRow((await db.query('select 1 from mark where id = $1 and removed_at is null for update', [id])).rows, 'mark');
  return findMarkRow(db, id);
}

/** Somebody else was first: the answer brings the newer state along. */
const changedElsewhere = (row: MarkRow): CoreError =>
  new CoreError(
    'store/conflict',
    'This mark was changed in another window. Its newest state is shown now; make the change again.',
    { current: toView(row) },
  );

const checkRevision = (row: MarkRow, basedOn: number): void => {
  if (Number(row.revision_id) !== basedOn) throw changedElsewhere(row);
};

export interface MarkPictures {
  readonly original: string;
  readonly source: MarkView['source'];
  /** The working picture as a PNG, or the working drawing as JSON. */
  readonly working: string;
  readonly reduced: string;
  readonly originalName: string;
  readonly width: number;
  readonly height: number;
  readonly reducedWidth: number;
}

/** The blobs behind a mark. */
export async function findMarkPictures(db: Db, id: string): Promise<MarkPictures> {
  const r = await findMarkRow(db, id);
  return {
    original: r.original_sha,
    source: r.source,
    working: r.working_sha,
    reduced: r.reduced_sha,
    originalName: r.original_name,
    width: r.width,
    height: r.height,
    reducedWidth: r.reduced_width,
  };
}

export async function findMarkByOriginal(db: Db, brandId: string, sha: string): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    'select id from mark where brand_id = $1 and original_sha = $2 and removed_at is null order by part limit 1',
    [brandId, sha],
  );
  return rows[0]?.id ?? null;
}

export interface NewMark {
  readonly brandId: string;
  readonly name: string;
  readonly kind: MarkCard['kind'];
  readonly source: MarkView['source'];
  readonly originalSha: string;
  readonly originalName: string;
  readonly workingSha: string;
  readonly reducedSha: string;
  readonly width: number;
  readonly height: number;
  readonly reducedWidth: number;
  readonly found: FoundView;
  readonly look: Look;
  readonly recipe: Recipe;
}

/**
 * Adds a mark with its first recipe; to be called in a transaction. @returns its id, or null when the same original is
 * there already
 */
export async function addMark(db: Db, m: NewMark): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    `insert into mark (brand_id, name, kind, original_sha, original_name, working_sha, reduced_sha,
       width, height, reduced_width, found, source)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
     on conflict (brand_id, original_sha, part) where removed_at is null do nothing returning id`,
    [
      m.brandId,
      m.name,
      m.kind,
      m.originalSha,
      m.originalName,
      m.workingSha,
      m.reducedSha,
      m.width,
      m.height,
      m.reducedWidth,
      JSON.stringify(m.found),
      m.source,
    ],
  );
  if (!rows[0]) return null;
  await addRevision(db, rows[0].id, null, m.recipe, 'Taken in', m.look);
  return rows[0].id;
}

/**
 * Adds marks that share another mark's original, each with a name and a recipe of its own. In a transaction.
 * @param basedOn  the revision of the other mark that they were taken from
 * @returns their ids, in order
 * @throws CoreError 'store/conflict' when another one is current by now
 */
export async function addSiblings(
  db: Db,
  markId: string,
  basedOn: number,
  siblings: readonly { name: string; recipe: Recipe }[],
): Promise<string[]> {
  // The lock keeps two such requests from giving out the same parts.
  checkRevision(await lockMark(db, markId), basedOn);
  const ids: string[] = [];
  for (const { name, recipe } of siblings) {
    const { rows } = await db.query<{ id: string }>(
      `insert into mark (brand_id, name, kind, original_sha, original_name, working_sha, reduced_sha,
         width, height, reduced_width, found, source, part)
       select brand_id, $2, kind, original_sha, original_name, working_sha, reduced_sha,
         width, height, reduced_width, found, source, ${NEXT_PART}
       from mark m where m.id = $1 returning id`,
      [markId, name],
    );
    ids.push(rows[0].id);
    await addRevision(db, rows[0].id, null, recipe, 'Taken from a sheet');
  }
  return ids;
}

/** What tells marks of one original apart; removed ones count, for they may come back. */
const NEXT_PART =
  '(select max(n.part) + 1 from mark n where n.brand_id = m.brand_id and n.original_sha = m.original_sha)';

async function addRevision(
  db: Db,
  markId: string,
  parent: number | null,
  recipe: Recipe,
  why: string,
  look: Look | null = null,
): Promise<void> {
  const { rows } = await db.query<{ id: string }>(
    `insert into recipe_revision (mark_id, parent_id, recipe, why, findings, thumbnail_sha)
     values ($1, $2, $3, $4, $5, $6) returning id`,
    [markId, parent, JSON.stringify(recipe), why, look && JSON.stringify(look.findings), look?.thumbnailSha],
  );
  await setRevision(db, markId, rows[0].id);
}

/** Makes a revision the current one; whatever is made of the mark by itself follows. */
async function setRevision(db: Db, markId: string, revision: string | number): Promise<void> {
  await db.query('update mark set revision_id = $2, updated_at = now() where id = $1', [markId, revision]);
  await followLive(db, markId);
}

/**
 * Makes a changed recipe the current one; what could be redone before stays stored but is no longer offered.
 * To be called in a transaction.
 * @param basedOn  the revision that the change was made to
 * @throws CoreError 'store/conflict' with the newer state when another one is current by now
 */
export async function saveRecipe(
  db: Db,
  markId: string,
  basedOn: number,
  recipe: Recipe,
  why: string,
): Promise<MarkView> {
  checkRevision(await lockMark(db, markId), basedOn);
  await addRevision(db, markId, basedOn, recipe, why);
  return findMark(db, markId);
}

/**
 * Gives every mark of a brand that uses some colours in its variants others. In a transaction.
 * @returns how many marks and variants changed, and of how many marks delivered files are out of date by it
 */
export async function recolourMarks(
  db: Db,
  brandId: string,
  changes: PaletteChanges,
): Promise<{ ids: string[]; variants: number; outdated: number }> {
  const { rows } = await db.query<{ id: string }>(
    'select id from mark where brand_id = $1 and removed_at is null order by id',
    [brandId],
  );
  const ids: string[] = [];
  let variants = 0;
  for (const { id } of rows) {
    const row = await lockMark(db, id);
    const { recipe, changed } = recolourVariants(readRecipe(row.recipe), changes);
    if (changed === 0) continue;
    await addRevision(db, id, Number(row.revision_id), recipe, 'Follow the palette');
    ids.push(id);
    variants += changed;
  }
  const { rows: delivered } = await db.query<{ n: string }>(
    `select count(distinct dm.mark_id) as n from delivery d join delivery_part dm on dm.delivery_id = d.id
     where d.state = 'ready' and dm.mark_id = any($1::uuid[])`,
    [ids],
  );
  return { ids, variants, outdated: Number(delivered[0].n) };
}

/**
 * Steps the current recipe back or forth along its history. In a transaction. No step to take leaves all as it is.
 * @param basedOn  the revision from which the step is taken: nobody undoes what he has not seen
 * @throws CoreError 'store/conflict' with the newer state when another one is current by now
 */
export async function stepHistory(db: Db, markId: string, basedOn: number, way: 'undo' | 'redo'): Promise<MarkView> {
  const row = await lockMark(db, markId);
  checkRevision(row, basedOn);
  const target = way === 'undo' ? row.parent_id : row.redo_id;
  if (target !== null) await setRevision(db, markId, target);
  return findMark(db, markId);
}

/**
 * Makes any earlier or later revision the current one, wherever in the history it stands. In a transaction.
 * @param basedOn  the revision that is on the screen
 * @throws CoreError 'store/conflict' with the newer state, 'store/not-found' for a revision of no such mark
 */
export async function goToRevision(db: Db, markId: string, basedOn: number, revision: number): Promise<MarkView> {
  checkRevision(await lockMark(db, markId), basedOn);
  const found = await db.query('select 1 from recipe_revision where id = $2 and mark_id = $1', [markId, revision]);
  oneRow(found.rows, 'revision');
  await setRevision(db, markId, revision);
  return findMark(db, markId);
}

/**
 * Gives a mark another original, whose pictures are ready; the one before is kept with it. The recipe goes on as it is
 * carried over. In a transaction.
 * @throws CoreError 'store/conflict' with the newer state when another revision is current by now
 */
export async function replaceOriginal(
  db: Db,
  markId: string,
  basedOn: number,
  ready: NewMark,
  carryOver: (recipe: Recipe, across: number, down: number) => Recipe,
): Promise<MarkView> {
  const row = await lockMark(db, markId);
  checkRevision(row, basedOn);
  await db.query(
    `insert into former_original (mark_id, original_sha, original_name, width, height)
     select id, original_sha, original_name, width, height from mark where id = $1`,
    [markId],
  );
  await db.query(
    `update mark m set original_sha = $2, original_name = $3, working_sha = $4, reduced_sha = $5, width = $6,
       height = $7, reduced_width = $8, found = $9, source = $10,
       part = coalesce((select max(n.part) + 1 from mark n
         where n.brand_id = m.brand_id and n.original_sha = $2 and n.id <> m.id), 0)
     where m.id = $1`,
    [
      markId,
      ready.originalSha,
      ready.originalName,
      ready.workingSha,
      ready.reducedSha,
      ready.width,
      ready.height,
      ready.reducedWidth,
      JSON.stringify(ready.found),
      ready.source,
    ],
  );
  const recipe = carryOver(readRecipe(row.recipe), ready.width / row.width, ready.height / row.height);
  await addRevision(db, markId, basedOn, recipe, `Replace the original by ${ready.originalName}`.slice(0, 200));
  return findMark(db, markId);
}

/** Originals that were replaced, the last one first. */
export async function listFormerOriginals(
  db: Db,
  markId: string,
): Promise<{ id: number; name: string; sha: string; replacedAt: string }[]> {
  const { rows } = await db.query<{ id: string; original_name: string; original_sha: string; replaced_at: Date }>(
    'select id, original_name, original_sha, replaced_at from former_original where mark_id = $1 order by id desc',
    [markId],
  );
  return rows.map((r) => ({
    id: Number(r.id),
    name: r.original_name,
    sha: r.original_sha,
    replacedAt: r.replaced_at.toISOString(),
  }));
}

/** What somebody saw who looked at a revision. */
export interface Look {
  readonly findings: readonly Finding[];
  /** What it looks like, small; null where there is no picture of it. */
  readonly thumbnailSha: string | null;
}

/** Remembers what was seen in a revision. */
export async function saveLook(db: Db, revision: number, { findings, thumbnailSha }: Look): Promise<void> {
  await db.query('update recipe_revision set findings = $2, thumbnail_sha = $3 where id = $1', [
    revision,
    JSON.stringify(findings),
    thumbnailSha,
  ]);
}

/** The current revision's thumbnail, or where nobody has looked at it yet the newest one before it. */
export async function findThumbnail(
  db: Db,
  markId: string,
): Promise<{ revision: number; sha: string | null; isCurrent: boolean }> {
  const { rows } = await db.query<{ revision_id: string; sha: string | null; of: string | null }>(
    `select m.revision_id, t.thumbnail_sha as sha, t.id as of from mark m left join lateral
       (select r.id, r.thumbnail_sha from recipe_revision r where r.mark_id = m.id and r.thumbnail_sha is not null
        order by (r.id = m.revision_id) desc, r.id desc limit 1) t on true
     where m.id = $1 and m.removed_at is null`,
    [markId],
  );
  const { revision_id, sha, of } = oneRow(rows, 'mark');
  return { revision: Number(revision_id), sha, isCurrent: of === revision_id };
}

/** A revision that nobody has looked at yet, with what its stages start from; null for any other. */
export async function findUnseenRevision(db: Db, markId: string): Promise<{ revision: number; recipe: Recipe } | null> {
  const { rows } = await db.query<{ id: string; recipe: unknown }>(
    `select r.id, r.recipe from mark m join recipe_revision r on r.id = m.revision_id
     where m.id = $1 and m.removed_at is null and r.findings is null`,
    [markId],
  );
  return rows[0] ? { revision: Number(rows[0].id), recipe: readRecipe(rows[0].recipe) } : null;
}

/**
 * Changes name, state or kind. In a transaction.
 * @param basedOn  the count of such changes that the change was made to
 * @throws CoreError 'store/conflict' with the newer state when there were others since
 */
export async function changeMark(
  db: Db,
  id: string,
  basedOn: number,
  change: { name?: string; state?: string; kind?: string; brandId?: string; notes?: MarkCard['notes'] },
): Promise<MarkView> {
  const row = await lockMark(db, id);
  if (row.details !== basedOn) throw changedElsewhere(row);
  await db.query(
    'update mark set name = coalesce($2, name), state = coalesce($3, state), kind = ' +
      'coalesce($4, kind), notes = coalesce($5, notes), details = details + 1, updated_at = now() where id = $1',
    [id, change.name ?? null, change.state ?? null, change.kind ?? null, change.notes && JSON.stringify(change.notes)],
  );
  if (change.brandId) await moveMark(db, id, change.brandId);
  return findMark(db, id);
}

/** Puts a mark into another brand, where the same file may be already: then it is one more mark of it. */
async function moveMark(db: Db, id: string, brandId: string): Promise<void> {
  await db
    .query(
      `update mark m set brand_id = $2, part = coalesce((select max(n.part) + 1 from mark n
         where n.brand_id = $2 and n.original_sha = m.original_sha and n.id <> m.id), 0) where m.id = $1`,
      [id, brandId],
    )
    .catch((error: unknown) => {
      if (isForeignKeyViolation(error)) throw new CoreError('store/not-found', 'There is no such brand.');
      throw error;
    });
}

/** Puts a mark aside; it can be brought back for 30 days. @throws CoreError 'store/not-found' */
export async function removeMark(db: Db, id: string): Promise<void> {
  const { rowCount } = await db.query('update mark set removed_at = now() where id = $1 and removed_at is null', [id]);
  if (!rowCount) oneRow([], 'mark');
}

/**
 * Brings a removed mark back. In a transaction. @throws CoreError 'store/not-found' when there is none to bring back
 */
export async function returnMark(db: Db, id: string): Promise<MarkView> {
  // The same file may have been taken in again meanwhile: then this is one more mark of it.
  const { rowCount } = await db.query(
    `update mark m set removed_at = null, updated_at = now(), part = case when exists
       (select 1 from mark n where n.brand_id = m.brand_id and n.original_sha = m.original_sha and n.part = m.part
          and n.removed_at is null) then ${NEXT_PART} else m.part end
     where m.id = $1 and m.removed_at is not null`,
    [id],
  );
  if (!rowCount) oneRow([], 'removed mark');
  return findMark(db, id);
}

/**
 * Removes a mark at once and for good, with every blob that nobody else refers to. In a transaction.
 * @throws CoreError 'store/not-found'
 */
export async function eraseMark(db: Db, id: string): Promise<void> {
  const { rows } = await db.query<{ own: string[]; sources: string[] }>(
    `select array[m.original_sha, m.working_sha, m.reduced_sha]
         || array(select o.original_sha from former_original o where o.mark_id = m.id) as sources,
       array(select d.zip_sha from delivery d where d.mark_id = m.id and d.zip_sha is not null)
         || array(select f.blob_sha from delivered_file f join delivery d on d.id = f.delivery_id
              where d.mark_id = m.id or f.mark_id = m.id)
         || array(select r.thumbnail_sha from recipe_revision r where r.mark_id = m.id and r.thumbnail_sha is not null)
         || array(select p.blob_sha from picture p where p.source_sha in (m.working_sha, m.reduced_sha)) as own
     from mark m where m.id = $1 for update`,
    [id],
  );
  const { own, sources } = oneRow(rows, 'mark');
  await db.query('delete from mark where id = $1', [id]);
  await db.query(
    `delete from picture p where p.source_sha = any($1) and not exists
       (select 1 from mark m where p.source_sha in (m.working_sha, m.reduced_sha))`,
    [sources],
  );
  await dropBlobs(db, [...own, ...sources]);
}

/** Removes for good what could have been brought back for 30 days. @returns how many marks */
export async function eraseOldMarks(db: Db): Promise<number> {
  const { rowCount } = await db.query(`delete from mark where removed_at < now() - make_interval(days => $1)`, [
    RETURN_DAYS,
  ]);
  return rowCount ?? 0;
}
