import { createHash } from 'node:crypto';
import type pg from 'pg';
import { paths } from '../contract/paths';
import type { SlotProblem, SlotView, WallView } from '../contract/walls';
import { isCoreError } from '../core/errors';
import { type Copyable, copiesAmong } from '../core/wall/copies';
import type { CorePool, Waiter } from './corePool';
import { sourceOf } from './sources';
import { findBrand, findGroundPhoto } from './store/brands';
import { type MarkPictures, findMark, findMarkPictures } from './store/marks';
import { type FoundWall, type SlotRow, findWall, keepSlotLook, listSlots } from './store/walls';
import type { LookTask } from './wallTasks';
import type { MarkView } from '../contract/views';

/** A slot with its mark as it is now; null where that was removed. */
export interface OpenSlot {
  readonly row: SlotRow;
  readonly mark: MarkView | null;
  readonly pictures: MarkPictures | null;
  readonly task: LookTask | null;
  /** What it is looked at with, as one word. */
  readonly key: string;
}

export interface OpenWall {
  readonly wall: FoundWall;
  readonly groundSha: string | null;
  readonly slots: readonly OpenSlot[];
}

/** To be raised when the same slot is to be looked at anew. */
const LOOK_VERSION = 2;

const orNull = <T>(work: Promise<T>): Promise<T | null> =>
  work.catch((error: unknown) => {
    if (isCoreError(error) && error.code === 'store/not-found') return null;
    throw error;
  });

/** A wall with its marks as they are now. @throws CoreError 'store/not-found' */
export async function openWall(pool: pg.Pool, id: string): Promise<OpenWall> {
  const wall = await findWall(pool, id);
  const { palette } = await findBrand(pool, wall.brandId);
  const { groundId } = wall.rule;
  // A wall outlives its ground: its colour takes the photo's place then.
  const groundSha = groundId ? await orNull(findGroundPhoto(pool, wall.brandId, groundId)) : null;
  const slots = [];
  for (const row of await listSlots(pool, id)) {
    const mark = await orNull(findMark(pool, row.mark_id));
    const pictures = mark && (await findMarkPictures(pool, mark.id));
    const task = mark && pictures && taskOf(wall, groundSha, { row, mark, pictures, palette });
    slots.push({ row, mark, pictures, task, key: task ? keyOf(task) : '' });
  }
  return { wall, groundSha, slots };
}

interface SlotParts {
  readonly row: SlotRow;
  readonly mark: MarkView;
  readonly pictures: MarkPictures;
  readonly palette: LookTask['mark']['palette'];
}

const taskOf = (wall: FoundWall, groundSha: string | null, { row, mark, pictures, palette }: SlotParts): LookTask => ({
  ...{ file: row.file, originalSha: row.original_sha, shows: row.shows, variant: row.variant, squeeze: row.squeeze },
  mark: { id: mark.id, source: sourceOf(pictures, 'working'), recipe: mark.recipe, palette },
  ...{ rule: wall.rule, groundSha, isOlder: row.original_sha !== pictures.original },
});

function keyOf({ mark, rule, isOlder: _, ...task }: LookTask): string {
  const { level: __, ...looked } = rule;
  const own = [mark.source, mark.recipe.stages, mark.recipe.variants, mark.palette];
  // What nobody has said yet was decided by the look itself.
  const parts = [LOOK_VERSION, { ...task, shows: task.shows ?? 'file' }, looked, task.shows === 'file' ? [] : own];
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex');
}

export const isFresh = ({ row, key }: OpenSlot) => row.look !== null && row.look_key === key;

/** Looks at slots that changed since somebody did, several at a time. */
export async function lookAtSlots(
  { pool, core }: { pool: pg.Pool; core: CorePool },
  { slots }: OpenWall,
  wanted: readonly string[] | null,
  waiter: Waiter,
): Promise<void> {
  const left = slots.filter((s) => !isFresh(s) && (wanted === null || wanted.includes(s.row.id)));
  const turn = async () => {
    for (let next = left.shift(); next; next = left.shift()) {
      const { row, task, pictures } = next;
      if (!task || !pictures) continue;
      const { shows, look, pictureSha } = await core.lookAtSlot(task, pictures, waiter);
      await keepSlotLook(pool, row.id, row.shows, { look, key: keyOf({ ...task, shows }), pictureSha, shows });
    }
  };
  await Promise.all(Array.from({ length: core.threads }, turn));
}

/** What is wrong with each slot, by itself and among the others. */
function problemsOf(slots: readonly OpenSlot[]): SlotProblem[][] {
  const own = slots.map(copyableOf);
  const known = own.filter((c): c is Copyable => c !== null);
  const copies = copiesAmong(known);
  return slots.map((slot, k) => {
    const { row, mark } = slot;
    if (!mark) return ['gone'];
    if (!isFresh(slot) || !row.look) return [];
    const isOlder = row.shows === 'file' && slot.task?.isOlder;
    const isCopy = copies[known.indexOf(own[k] as Copyable)];
    return [...row.look.problems, ...(isOlder ? ['older' as const] : []), ...(isCopy ? ['duplicate' as const] : [])];
  });
}

/** Slots without a mark or a look are no copies. */
function copyableOf(slot: OpenSlot): Copyable | null {
  const { row, mark } = slot;
  if (!mark || !row.look || !isFresh(slot)) return null;
  const { alike, hasPaths, problems } = row.look;
  return { file: row.file, look: alike, isDrawn: hasPaths, problems: problems.length, key: mark.id };
}

export function toWallView({ wall, slots }: OpenWall): WallView {
  const problems = problemsOf(slots);
  return { ...wall, slots: slots.map((slot, k) => toSlotView(slot, problems[k])) };
}

function toSlotView(slot: OpenSlot, problems: readonly SlotProblem[]): SlotView {
  const { row, mark } = slot;
  const { alike: _, problems: __, ...look } = row.look ?? ({} as NonNullable<SlotRow['look']>);
  return {
    ...{ id: row.id, markId: row.mark_id, markName: mark?.name ?? row.file, revision: mark?.revision ?? 0 },
    ...{ file: row.file, format: mark?.found.format ?? '', widthPx: mark?.width ?? 0, heightPx: mark?.height ?? 0 },
    ...{ shows: row.shows, variant: row.variant, squeeze: row.squeeze, problems },
    variants: (mark?.recipe.variants ?? []).map(({ id, name }) => ({ id, name })),
    look: isFresh(slot) ? { ...look, picture: paths.wallSlotPicture(row.id, row.picture_sha as string) } : null,
  };
}
