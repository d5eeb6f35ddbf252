import { createHash } from 'node:crypto';
import type pg from 'pg';
import type { LookView } from '../contract/views';
import type { CorePool, Waiter } from './corePool';
import { type OpenRun, groundTask, openRun } from './openRun';
import { type RunGroundRow, findRunGround, keepSeen, listRunGrounds } from './store/placements';

/** Raise this when the same background is to be checked anew. */
const CHECK_VERSION = 1;

/**
 * What the check of a background depends on, as one word: its picture, its items, the frame, and the marks as they are.
 * A check made with another word is void.
 */
export function checkKeyOf({ placement, marks }: OpenRun, ground: RunGroundRow): string {
  const { items } = groundTask(placement, ground);
  const { frame, fit } = placement.rule;
  const used = marks.map((m) => [m.id, m.workingSha, m.recipe.stages, m.recipe.variants, m.palette]);
  const parts = [CHECK_VERSION, ground.preview_sha, ground.kind, items, frame, fit, used];
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex');
}

/** What a background's file is made of, as one word: as long as it stays, so does the file. */
export function keyOf(run: OpenRun, ground: RunGroundRow): string {
  const parts = [checkKeyOf(run, ground), ground.blob_sha, run.placement.options];
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex');
}

/** The variants that the newest check chose, by the items' numbers; null where no check holds any more. */
export const seenOf = (run: OpenRun, ground: RunGroundRow): RunGroundRow['seen'] =>
  ground.seen !== null && ground.seen_key === checkKeyOf(run, ground) ? ground.seen : null;

/** Checks some backgrounds of a run, and keeps which variants were chosen. */
export async function checkBackgrounds(
  { pool, core }: { pool: pg.Pool; core: CorePool },
  { id, wanted, corners }: { id: string; wanted: (ground: RunGroundRow) => boolean; corners: boolean },
  waiter: Waiter,
): Promise<LookView[]> {
  const run = await openRun(pool, id, 'reduced');
  const { placement } = run;
  const rows = (await listRunGrounds(pool, id)).filter(wanted);
  const out: LookView[] = [];
  for (const row of rows) {
    const task = { marks: run.marks, rule: placement.rule, grounds: [groundTask(placement, row)], corners };
    const [look] = await core.lookAtGrounds(task, waiter);
    out.push(look);
    const [seen, key] = [look.items.map((item) => item.variant), checkKeyOf(run, row)];
    if (row.seen_key === key && JSON.stringify(row.seen) === JSON.stringify(seen)) continue;
    await keepSeen(pool, row, { seen, key, edition: placement.edition });
  }
  return out;
}

/** The variants that a check of this very state chose for a background; it is made now where there is none. */
export async function checkedFor(
  deps: { pool: pg.Pool; core: CorePool },
  run: OpenRun,
  ground: RunGroundRow,
  waiter: Waiter,
): Promise<RunGroundRow['seen']> {
  const known = seenOf(run, ground);
  if (known) return known;
  const wanted = (g: RunGroundRow) => g.id === ground.id;
  await checkBackgrounds(deps, { id: run.placement.id, wanted, corners: false }, waiter);
  // What was changed meanwhile is no check of this state: its file chooses for itself, and counts as outdated.
  return seenOf(run, await findRunGround(deps.pool, ground.id));
}
