import { CoreError } from '../../core/errors';
import type { Finding } from '../../core/findings/finding';
import { type Recipe, readRecipe } from '../../core/recipe/recipe';
import type { FoundView, MarkCard, MarkView } from '../../contract/views';
import { type Db, isUniqueViolation, oneRow } from './db';

interface MarkRow {
  id: string;
  brand_id: string;
  name: string;
  kind: MarkCard['kind'];
  state: MarkCard['state'];
  original_sha: string;
  original_name: string;
  source: MarkView['source'];
  working_sha: string;
  reduced_sha: string;
  width: number;
  height: number;
  reduced_width: number;
  found: FoundView;
  findings: Finding[];
  revision_id: string;
  recipe: unknown;
  parent_id: string | null;
  redo_id: string | null;
  created_at: Date;
  updated_at: Date;
}

const toCard = (r: MarkRow): MarkCard => ({
  id: r.id,
  brandId: r.brand_id,
  name: r.name,
  kind: r.kind,
  state: r.state,
  revision: Number(r.revision_id),
  variantCount: (r.recipe as Recipe).variants.length,
  findings: r.findings.map(({ id, title, weight }) => ({ id, title, weight })),
  originalName: r.original_name,
  width: r.width,
  height: r.height,
  createdAt: r.created_at.toISOString(),
  updatedAt: r.updated_at.toISOString(),
});

const toView = (r: MarkRow): MarkView => ({
  ...toCard(r),
  found: { ...r.found, markCount: r.found.markCount ?? 0 },
  recipe: readRecipe(r.recipe),
  canUndo: r.parent_id !== null,
  canRedo: r.redo_id !== null,
  reducedWidth: r.reduced_width,
  source: r.source,
});

const SELECT = `
  select m.*, r.recipe, r.parent_id,
    (select max(n.id) from recipe_revision n where n.mark_id = m.id and n.parent_id = m.revision_id) as redo_id
  from mark m join recipe_revision r on r.id = m.revision_id`;

export async function listMarks(db: Db, brandId: string): Promise<MarkCard[]> {
  const { rows } = await db.query<MarkRow>(`${SELECT} where m.brand_id = $1 order by m.created_at desc, m.id`, [
    brandId,
  ]);
  return rows.map(toCard);
}

export const findMark = async (db: Db, id: string): Promise<MarkView> => toView(await findMarkRow(db, id));

async function findMarkRow(db: Db, id: string, lock = ''): Promise<MarkRow> {
  const { rows } = await db.query<MarkRow>(`${SELECT} where m.id = $1 ${lock}`, [id]);
  return oneRow(rows, 'mark');
}

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
    'select id from mark where brand_id = $1 and original_sha = $2 order by part limit 1',
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
  readonly findings: readonly Finding[];
  readonly recipe: Recipe;
}

/**
 * Adds a mark with its first recipe; to be called in a transaction. @returns its id, or null when the same original is
 * there already
 */
export async function addMark(db: Db, m: NewMark): Promise<string | null> {
  try {
    const { rows } = await db.query<{ id: string }>(
      `insert into mark (brand_id, name, kind, original_sha, original_name, working_sha, reduced_sha,
         width, height, reduced_width, found, findings, source)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) returning id`,
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
        JSON.stringify(m.findings),
        m.source,
      ],
    );
    const id = rows[0].id;
    await addRevision(db, id, null, m.recipe, 'Taken in');
    return id;
  } catch (error) {
    if (isUniqueViolation(error, 'mark_original_unique')) return null;
    throw error;
  }
}

/**
 * Adds marks that share another mark's original, each with a name and a recipe of its own. In a transaction.
 * @returns their ids, in order
 */
export async function addSiblings(
  db: Db,
  markId: string,
  siblings: readonly { name: string; recipe: Recipe }[],
): Promise<string[]> {
  // The lock keeps two such requests from giving out the same parts.
  await findMarkRow(db, markId, 'for update of m');
  const ids: string[] = [];
  for (const { name, recipe } of siblings) {
    const { rows } = await db.query<{ id: string }>(
      `insert into mark (brand_id, name, kind, original_sha, original_name, working_sha, reduced_sha,
         width, height, reduced_width, found, source, part)
       select brand_id, $2, kind, original_sha, original_name, working_sha, reduced_sha,
         width, height, reduced_width, found, source,
         (select max(n.part) + 1 from mark n where n.brand_id = m.brand_id and n.original_sha = m.original_sha)
       from mark m where m.id = $1 returning id`,
      [markId, name],
    );
    ids.push(rows[0].id);
    await addRevision(db, rows[0].id, null, recipe, 'Taken from a sheet');
  }
  return ids;
}

async function addRevision(db: Db, markId: string, parent: number | null, recipe: Recipe, why: string): Promise<void> {
  const { rows } = await db.query<{ id: string }>(
    'insert into recipe_revision (mark_id, parent_id, recipe, why) values ($1, $2, $3, $4) returning id',
    [markId, parent, JSON.stringify(recipe), why],
  );
  await db.query('update mark set revision_id = $2, updated_at = now() where id = $1', [markId, rows[0].id]);
}

/**
 * Makes a changed recipe the current one; what could be redone before stays stored but is no longer offered.
 * To be called in a transaction.
 * @param basedOn  the revision that the change was made to
 * @throws CoreError 'store/conflict' when another one is current by now
 */
export async function saveRecipe(
  db: Db,
  markId: string,
  basedOn: number,
  recipe: Recipe,
  why: string,
): Promise<MarkView> {
  const row = await findMarkRow(db, markId, 'for update of m');
  if (Number(row.revision_id) !== basedOn) {
    throw new CoreError(
      'store/conflict',
      'This mark was changed in another window. Its newest state is shown now; make the change again.',
      { current: Number(row.revision_id) },
    );
  }
  await addRevision(db, markId, basedOn, recipe, why);
  return findMark(db, markId);
}

/** Steps the current recipe back or forth along its history. In a transaction. No step to take leaves all as it is. */
export async function stepHistory(db: Db, markId: string, way: 'undo' | 'redo'): Promise<MarkView> {
  const row = await findMarkRow(db, markId, 'for update of m');
  const target = way === 'undo' ? row.parent_id : row.redo_id;
  if (target !== null)
    await db.query('update mark set revision_id = $2, updated_at = now() where id = $1', [markId, target]);
  return findMark(db, markId);
}

/** Remembers what was found for a revision, unless the mark has moved on. */
export async function saveFindings(
  db: Db,
  markId: string,
  revision: number,
  findings: readonly Finding[],
): Promise<void> {
  await db.query('update mark set findings = $3 where id = $1 and revision_id = $2', [
    markId,
    revision,
    JSON.stringify(findings),
  ]);
}

export async function changeMark(
  db: Db,
  id: string,
  change: { name?: string; state?: string; kind?: string },
): Promise<MarkView> {
  await db.query(
    'update mark set name = coalesce($2, name), state = coalesce($3, state), kind = ' +
      'coalesce($4, kind), updated_at = now() where id = $1',
    [id, change.name ?? null, change.state ?? null, change.kind ?? null],
  );
  return findMark(db, id);
}

export async function removeMark(db: Db, id: string): Promise<void> {
  const { rowCount } = await db.query('delete from mark where id = $1', [id]);
  if (!rowCount) oneRow([], 'mark');
}
