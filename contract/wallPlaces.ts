import { type SlotPlace, type WallMark, levelWall } from '../core/wall/levelWall';
import { slotOf } from '../core/wall/wallRule';
import type { SlotLook, SlotView, WallView } from './walls';

/** Where the marks of slots that were looked at stand, by the slots' ids. */
export function placesOf({ rule, slots }: Pick<WallView, 'rule' | 'slots'>): Map<string, SlotPlace> {
  const looked = slots.filter((s) => s.look !== null);
  const places = levelWall(looked.map(wallMarkOf), slotOf(rule), rule.level);
  return new Map(looked.map((s, k) => [s.id, places[k]]));
}

function wallMarkOf({ look, shows }: SlotView): WallMark {
  const { width, height, optics } = look as SlotLook;
  return { width, height, optics, isAsItCame: shows === 'file' };
}

/** What an optical size of 1 is: the middle one of all as they stand. */
export function usualSize(places: ReadonlyMap<string, SlotPlace>): number {
  const sizes = [...places.values()].map((p) => p.opticalSizeAfter).sort((a, b) => a - b);
  return sizes[sizes.length >> 1] || 1;
}
