import type pg from 'pg';
import { placesOf } from '../contract/wallPlaces';
import type { MadeFile } from '../codecs/wallFiles';
import type { SlotBox } from '../core/wall/drawSlot';
import { CoreError } from '../core/errors';
import type { CorePool, Waiter } from './corePool';
import { lookAtSlots, openWall, toWallView } from './openWall';
import type { MarkPictures } from './store/marks';
import type { WallOutTask } from './wallTasks';

/** A wall's files as it stands, each read back. @throws CoreError 'request/invalid' for an empty wall */
export async function makeWallFiles(
  { pool, core }: { pool: pg.Pool; core: CorePool },
  { id, form }: { id: string; form: WallOutTask['form'] },
  waiter: Waiter,
): Promise<{ name: string; files: MadeFile[] }> {
  await lookAtSlots({ pool, core }, await openWall(pool, id), null, waiter);
  const open = await openWall(pool, id);
  const view = toWallView(open);
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
  return { name: open.wall.name, files: await core.makeWall(order, largest, waiter) };
}

const areaOf = ({ width, height }: MarkPictures) => width * height;
