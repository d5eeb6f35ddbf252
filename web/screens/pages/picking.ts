import type { PageView } from '../../../contract/views';
import { PICKED_SHARE, boxRound, shareInside } from '../../../core/vector/boxes';
import type { RectPx } from '../../../core/params';

/** What is picked on a page: some of its objects, or one of its pictures. */
export interface Picking {
  readonly objects: ReadonlySet<number>;
  readonly picture: number | null;
}

export const NOTHING: Picking = { objects: new Set(), picture: null };

/** Some objects more, or fewer where all of them were picked. A picture is taken by itself. */
export function toggleObjects({ objects }: Picking, some: readonly number[]): Picking {
  const next = new Set(objects);
  if (some.every((k) => next.has(k))) some.forEach((k) => next.delete(k));
  else some.forEach((k) => next.add(k));
  return { objects: next, picture: null };
}

export const togglePicture = ({ picture }: Picking, index: number): Picking => ({
  objects: new Set(),
  picture: picture === index ? null : index,
});

/** Objects that lie in a rectangle, points. */
export const objectsIn = ({ objects }: PageView, rect: RectPx): number[] =>
  objects.flatMap(({ box }, k) => (shareInside(box, rect) >= PICKED_SHARE ? [k] : []));

/** The objects that a press on one picks: its whole drawn picture, or itself. */
export function pressed({ groups }: PageView, object: number, takesGroups: boolean): readonly number[] {
  const group = takesGroups ? groups.find((g) => g.objects.includes(object)) : undefined;
  return group?.objects ?? [object];
}

/** Round everything that is picked, points; null where nothing is. */
export function boxOf(page: PageView, { objects, picture }: Picking): RectPx | null {
  if (picture !== null) return page.pictures[picture] ?? null;
  const boxes = [...objects].flatMap((k) => (page.objects[k] ? [page.objects[k].box] : []));
  return boxes.length === 0 ? null : boxRound(boxes);
}

/** Pieces of text without paths that stand among what is picked. */
export function textsAmong(page: PageView, picking: Picking): number {
  const box = picking.picture === null ? boxOf(page, picking) : null;
  return box ? page.texts.filter((t) => shareInside(t, box) >= PICKED_SHARE).length : 0;
}
