import type pg from 'pg';
import { placesOf } from '../contract/wallPlaces';
import type { WallReceipt } from '../contract/walls';
import type { MadeFile } from '../codecs/wallFiles';
import type { SlotBox } from '../core/wall/drawSlot';
import { CoreError } from '../core/errors';
import type { CorePool, Waiter } from './corePool';
import { type Fixed, mendWall } from './mendWall';
import { type OpenSlot, isFresh, lookAtSlots, openWall, toWallView } from './openWall';
import type { MarkPictures } from './store/marks';
import type { WallOutTask } from './wallTasks';

export interface WallOrder {
  readonly id: string;
  readonly form: WallOutTask['form'];
  /** What is to become of problems that the check of this very state finds. */
  readonly problems: 'refuse' | 'fix' | 'keep';
}

export interface WallOut {
  readonly name: string;
  readonly files: MadeFile[];
  readonly receipt: WallReceipt;
}

/**
 * A wall's files as the wall is now, each read back. The check that decides what they show is made here, whatever a
 * screen knew.
 * @throws CoreError 'request/invalid' for an empty wall, 'wall/problems' where some are to be refused, 'wall/unchecked'
 *   where a logo changed during its check
 */
export async function makeWallFiles(
  deps: { pool: pg.Pool; core: CorePool },
  { id, form, problems }: WallOrder,
  waiter: Waiter,
): Promise<WallOut> {
  const { pool, core } = deps;
  const fixed: Fixed = problems === 'fix' ? await mendWall(deps, id, null, waiter) : new Map();
  await lookAtSlots(deps, await openWall(pool, id), null, waiter);
  const open = await openWall(pool, id);
  const view = toWallView(open);
  refuseUnchecked(open.slots);
  const broken = view.slots.filter((s) => s.problems.length > 0);
  if (problems === 'refuse' && broken.length > 0) throw hasProblems(broken.map((s) => s.file));
  const places = placesOf(view);
  const shown = open.slots.flatMap(({ row, task, mark, pictures }) =>
    task && mark && pictures && places.has(row.id)
      ? [{ task, title: mark.name, box: places.get(row.id) as SlotBox, pictures }]
      : [],
  );
  if (shown.length === 0) throw new CoreError('request/invalid', 'This wall is empty. Drop some logos first.');
  const largest = shown.map((s) => s.pictures).reduce((a, b) => (areaOf(b) > areaOf(a) ? b : a));
  const order: WallOutTask = {
    ...{ form, title: open.wall.name, rule: open.wall.rule, groundSha: open.groundSha },
    slots: shown.map(({ task, title, box }) => ({ ...task, title, box })),
  };
  const files = await core.makeWall(order, largest, waiter);
  const here = new Set(view.slots.map((s) => s.id));
  const receipt: WallReceipt = {
    ...{ wall: open.wall.name, logos: shown.length, files: files.length },
    fixed: [...fixed].flatMap(([slot, f]) => (here.has(slot) ? [{ file: f.file, problems: [...f.problems] }] : [])),
    withProblems: broken.map(({ file, problems: own }) => ({ file, problems: own })),
    leftOut: [...fixed].flatMap(([slot, f]) => (here.has(slot) ? [] : [f.file])),
    withoutSvg: view.slots.flatMap((s) => (places.has(s.id) && !s.look?.hasPaths ? [s.file] : [])),
  };
  return { name: open.wall.name, files, receipt };
}

const areaOf = ({ width, height }: MarkPictures) => width * height;

function refuseUnchecked(slots: readonly OpenSlot[]): void {
  const unchecked = slots.filter((s) => s.task !== null && !isFresh(s)).map((s) => s.row.file);
  if (unchecked.length > 0)
    throw new CoreError(
      'wall/unchecked',
      `${listOf(unchecked)} changed while it was checked. Nothing was exported. Wait for the check, then export again.`,
    );
}

const hasProblems = (files: readonly string[]) =>
  new CoreError(
    'wall/problems',
    `${files.length} ${files.length === 1 ? 'logo has a problem' : 'logos have problems'}: ${listOf(files)}. ` +
      'Nothing was exported. Fix them first, or export without fixing.',
  );

/** More names than this tire the reader of a message. */
const MAX_NAMES = 5;
const listOf = (files: readonly string[]): string =>
  files.length <= MAX_NAMES
    ? files.join(', ')
    : `${files.slice(0, MAX_NAMES).join(', ')} and ${files.length - MAX_NAMES} more`;
