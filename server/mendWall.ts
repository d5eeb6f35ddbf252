import type pg from 'pg';
import type { SlotProblem } from '../contract/walls';
import { mendSlot } from '../core/wall/mendSlot';
import type { CorePool, Waiter } from './corePool';
import { lookAtSlots, openWall, toWallView } from './openWall';
import { withTransaction } from './store/db';
import { addJob } from './store/jobs';
import { findMark, saveRecipe } from './store/marks';
import { changeSlot, removeSlot } from './store/walls';

export type Fixed = ReadonlyMap<string, { readonly file: string; readonly problems: ReadonlySet<SlotProblem> }>;

/** What a first mending brings to light, such as a mark that is lost once its box is gone, is mended too. */
const TURNS = 3;

/**
 * Mends slots as far as that goes in one press, each in one transaction with its mark's recipe.
 * @param wanted  the slots; null for all of the wall
 * @returns what was wrong with each slot that was fixed, by its id
 */
export async function mendWall(
  deps: { pool: pg.Pool; core: CorePool },
  id: string,
  wanted: readonly string[] | null,
  waiter: Waiter,
): Promise<Fixed> {
  const fixed = new Map<string, { file: string; problems: Set<SlotProblem> }>();
  for (let turn = 0; turn < TURNS; turn++) {
    await lookAtSlots(deps, await openWall(deps.pool, id), wanted, waiter);
    const wall = await openWall(deps.pool, id);
    const view = toWallView(wall);
    const isAsked = (slot: string) => wanted === null || wanted.includes(slot);
    const broken = view.slots.filter((s) => isAsked(s.id) && s.problems.length > 0);
    for (const slot of broken) {
      await mendOne(deps.pool, wall.wall.name, slot);
      const { problems } = fixed.get(slot.id) ?? { problems: new Set() };
      fixed.set(slot.id, { file: slot.file, problems: new Set([...problems, ...slot.problems]) });
    }
    if (broken.length === 0) break;
  }
  await lookAtSlots(deps, await openWall(deps.pool, id), wanted, waiter);
  return fixed;
}

type Slot = ReturnType<typeof toWallView>['slots'][number];

async function mendOne(pool: pg.Pool, wallName: string, { id, markId, problems, look }: Slot): Promise<void> {
  if (problems.includes('gone')) return removeSlot(pool, id);
  await withTransaction(pool, async (tx) => {
    const mark = await findMark(tx, markId);
    const { stretch = 1, best = null, oldGround = null } = look ?? {};
    const found = { problems, stretch, best, oldGround };
    const mend = mendSlot(found, mark.recipe);
    if (mend.isRemoved) return removeSlot(tx, id);
    if (mend.recipe) {
      const why = `${mend.recipe.why} (for the wall ${wallName})`.slice(0, 200);
      await saveRecipe(tx, markId, mark.revision, mend.recipe.recipe, why);
      await addJob(tx, 'lookAt', markId);
    }
    await changeSlot(tx, id, {
      ...(mend.showsMark ? { shows: 'mark' as const } : {}),
      ...(mend.squeeze ? { squeeze: mend.squeeze } : {}),
      ...(mend.variant ? { variant: mend.variant } : {}),
    });
  });
}
