import type { Grid } from './size';

/**
 * Where a part begins along one side of a room, by the name of its place.
 * @param place  such as "upper-left"
 * @param near, far  the words that push it to the room's beginning and end
 */
export function alongSide(
  place: string,
  [near, far]: readonly [string, string],
  room: { readonly from: number; readonly length: number },
  part: number,
  grid: Grid,
): number {
  const words = place.split('-');
  if (words.includes(near)) return room.from;
  if (words.includes(far)) return room.from + room.length - part;
  return room.from + grid.floor((room.length - part) / 2);
}

export const ACROSS = ['left', 'right'] as const;
export const DOWN = ['upper', 'lower'] as const;
