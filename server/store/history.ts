import type { HistoryEntry } from '../../contract/views';
import { type Recipe, readRecipe } from '../../core/recipe/recipe';
import { type Db, oneRow } from './db';

interface EntryRow {
  id: string;
  parent_id: string | null;
  why: string;
  name: string | null;
  made_at: Date;
  made_by: string | null;
  is_current: boolean;
}

/** Longer histories are listed as far as this; steps back lead on. */
const MOST_ENTRIES = 600;

/** A mark's revisions, the newest first. @throws CoreError 'store/not-found' */
export async function listHistory(db: Db, markId: string): Promise<HistoryEntry[]> {
  const { rows } = await db.query<EntryRow>(
    `select r.id, r.parent_id, r.why, r.name, r.made_at, r.made_by, r.id = m.revision_id as is_current
     from mark m join recipe_revision r on r.mark_id = m.id
     where m.id = $1 and m.removed_at is null order by r.id desc limit $2`,
    [markId, MOST_ENTRIES],
  );
  if (rows.length === 0) oneRow([], 'mark');
  return rows.map((r) => ({
    revision: Number(r.id),
    parent: r.parent_id === null ? null : Number(r.parent_id),
    why: r.why,
    name: r.name,
    madeAt: r.made_at.toISOString(),
    madeBy: r.made_by,
    isCurrent: r.is_current,
  }));
}

/** One revision's recipe and thumbnail. @throws CoreError 'store/not-found' */
export async function findRevision(
  db: Db,
  markId: string,
  revision: number,
): Promise<{ recipe: Recipe; thumbnailSha: string | null }> {
  const { rows } = await db.query<{ recipe: unknown; thumbnail_sha: string | null }>(
    'select recipe, thumbnail_sha from recipe_revision where mark_id = $1 and id = $2',
    [markId, revision],
  );
  const row = oneRow(rows, 'revision');
  return { recipe: readRecipe(row.recipe), thumbnailSha: row.thumbnail_sha };
}

/** Gives a revision a name, or takes it away. @throws CoreError 'store/not-found' */
export async function nameRevision(db: Db, markId: string, revision: number, name: string | null): Promise<void> {
  const { rowCount } = await db.query('update recipe_revision set name = $3 where mark_id = $1 and id = $2', [
    markId,
    revision,
    name,
  ]);
  if (!rowCount) oneRow([], 'revision');
}
