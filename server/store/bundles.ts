import type { MarkCard } from '../../contract/views';
import { type Recipe, readRecipe } from '../../core/recipe/recipe';
import type { BundledMark } from '../../contract/bundleManifest';
import { type Db, oneRow } from './db';
import type { NewMark } from './marks';

/** A mark with all that is kept of it, for a bundle. */
export interface WholeMark {
  readonly id: string;
  readonly name: string;
  readonly kind: MarkCard['kind'];
  readonly state: MarkCard['state'];
  readonly notes: MarkCard['notes'];
  readonly found: { readonly sentence: string; readonly notes: readonly string[] };
  readonly original: { readonly sha: string; readonly name: string };
  readonly former: readonly { readonly sha: string; readonly name: string; readonly replacedAt: string }[];
  readonly working: string;
  readonly revisions: readonly {
    readonly id: number;
    readonly parent: number | null;
    readonly why: string;
    readonly name: string | null;
    readonly madeAt: string;
    readonly recipe: Recipe;
  }[];
  readonly current: number;
}

interface MarkRow {
  id: string;
  name: string;
  kind: MarkCard['kind'];
  state: MarkCard['state'];
  notes: MarkCard['notes'];
  found: { sentence: string; notes: string[] };
  original_sha: string;
  original_name: string;
  working_sha: string;
  revision_id: string;
}
interface RevisionRow {
  id: string;
  parent_id: string | null;
  why: string;
  name: string | null;
  made_at: Date;
  recipe: unknown;
}

/** @throws CoreError 'store/not-found' */
export async function findWholeMark(db: Db, id: string): Promise<WholeMark> {
  const { rows } = await db.query<MarkRow>('select * from mark where id = $1 and removed_at is null', [id]);
  const m = oneRow(rows, 'mark');
  const former = await db.query<{ original_sha: string; original_name: string; replaced_at: Date }>(
    'select original_sha, original_name, replaced_at from former_original where mark_id = $1 order by id',
    [id],
  );
  const revisions = await db.query<RevisionRow>(
    'select id, parent_id, why, name, made_at, recipe from recipe_revision where mark_id = $1 order by id',
    [id],
  );
  return {
    ...{ id, name: m.name, kind: m.kind, state: m.state, notes: m.notes, working: m.working_sha },
    found: { sentence: m.found.sentence, notes: m.found.notes },
    original: { sha: m.original_sha, name: m.original_name },
    former: former.rows.map((f) => ({
      ...{ sha: f.original_sha, name: f.original_name, replacedAt: f.replaced_at.toISOString() },
    })),
    revisions: revisions.rows.map((r) => ({
      ...{ id: Number(r.id), parent: r.parent_id === null ? null : Number(r.parent_id), why: r.why, name: r.name },
      ...{ madeAt: r.made_at.toISOString(), recipe: readRecipe(r.recipe) },
    })),
    current: Number(m.revision_id),
  };
}

/** Marks of a brand in the order in which they were taken in, which their names and places in a bundle follow. */
export async function listMarkIds(db: Db, brandId: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    'select id from mark where brand_id = $1 and removed_at is null order by created_at, name, id',
    [brandId],
  );
  return rows.map((r) => r.id);
}

/**
 * Adds a mark with its whole history, beside any other of the same original. In a transaction. @returns its id
 */
export async function addBundledMark(
  db: Db,
  m: NewMark,
  { state, notes, revisions, current }: BundledMark,
  former: readonly { sha: string; name: string; replacedAt: string }[],
): Promise<string> {
  const { rows } = await db.query<{ id: string }>(
    `insert into mark (brand_id, name, kind, original_sha, original_name, working_sha, reduced_sha, width, height,
       reduced_width, found, source, state, notes, part, created_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14,
       (select coalesce(max(n.part) + 1, 0) from mark n where n.brand_id = $1 and n.original_sha = $4),
       clock_timestamp())
     returning id`,
    [
      ...[m.brandId, m.name, m.kind, m.originalSha, m.originalName, m.workingSha, m.reducedSha, m.width, m.height],
      ...[m.reducedWidth, JSON.stringify(m.found), m.source, state, JSON.stringify(notes)],
    ],
  );
  const { id } = rows[0];
  for (const own of former)
    await db.query(
      `insert into former_original (mark_id, original_sha, original_name, width, height, replaced_at)
       values ($1, $2, $3, $4, $5, $6)`,
      [id, own.sha, own.name, m.width, m.height, own.replacedAt],
    );
  const ids: string[] = [];
  for (const r of revisions) {
    const parent = r.parent === null ? null : ids[r.parent];
    const added = await db.query<{ id: string }>(
      `insert into recipe_revision (mark_id, parent_id, recipe, why, name, made_at)
       values ($1, $2, $3, $4, $5, $6) returning id`,
      [id, parent, JSON.stringify(r.recipe), r.why, r.name, r.madeAt],
    );
    ids.push(added.rows[0].id);
  }
  await db.query('update mark set revision_id = $2 where id = $1', [id, ids[current]]);
  return id;
}
