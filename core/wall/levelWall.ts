import type { Optics } from './opticalSize';
import { type Slot, roomOf } from './wallRule';

/** A mark cut to what is visible of it. */
export interface WallMark {
  readonly width: number;
  readonly height: number;
  readonly optics: Optics;
  /** A file as it came, with its box and margins: it fills its slot and is not levelled. */
  readonly isAsItCame?: boolean;
}

/** Where a mark stands in its slot, px of the slot. */
export interface SlotPlace {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** With every mark filling its slot, and as it stands. */
  readonly opticalSizeBefore: number;
  readonly opticalSizeAfter: number;
}

/** Marks whose size at full box is under this share of the middle one's do not make all others smaller. */
const LEAST_OF_MIDDLE = 0.72;
/** So much of the spread at full box may be left, and by such steps the common size gives way to that. */
const MOST_SPREAD_LEFT = 0.25;
const STEP = 0.97;
/** How far the optical middle is drawn to the slot's middle; the rest is the box's. */
const OPTICAL_MIDDLE = 0.6;

/**
 * Sizes and places of marks in equal slots: at `level` 0 each fills its slot's box, at 1 all look equally large, as far
 * as the box allows; between the two by the power of it.
 * @param level  0..1
 */
export function levelWall(marks: readonly WallMark[], slot: Slot, level: number): SlotPlace[] {
  const room = roomOf(slot);
  const fits = marks.map((m) => Math.min(room.width / m.width, room.height / m.height));
  const before = marks.map((m, k) => m.optics.size * fits[k]);
  const sorted = before.filter((_, k) => !marks[k].isAsItCame).sort((a, b) => a - b);
  const target = commonSize(sorted);
  return marks.map((m, k) => {
    const own = m.isAsItCame ? 0 : level;
    const even = Math.min(fits[k], target / Math.max(1e-6, m.optics.size));
    const scale = fits[k] ** (1 - own) * even ** own;
    const [width, height] = [m.width * scale, m.height * scale];
    const place = (whole: number, size: number, middle: number) => {
      const box = (whole - size) / 2;
      const optical = whole / 2 - middle * scale;
      const at = box + (optical - box) * OPTICAL_MIDDLE * own;
      return Math.min(whole - slot.padding - size, Math.max(slot.padding, at));
    };
    return {
      ...{ scale, width, height },
      x: place(slot.width, width, m.optics.middle.x),
      y: place(slot.height, height, m.optics.middle.y),
      opticalSizeBefore: before[k],
      opticalSizeAfter: m.optics.size * scale,
    };
  });
}

/**
 * The size that all are brought to: the smallest one's, but no smaller than it takes for hardly any spread to be left.
 * @param sizes  at full box, the smallest first
 */
function commonSize(sizes: readonly number[]): number {
  const least = sizes[0] ?? 0;
  let size = Math.max(least, LEAST_OF_MIDDLE * (sizes[sizes.length >> 1] ?? 0));
  const most = MOST_SPREAD_LEFT * spreadOf(sizes);
  while (size > least && spreadOf(sizes.map((own) => Math.min(own, size))) > most) size *= STEP;
  return Math.max(least, size);
}

/** Deviation over mean. */
function spreadOf(sizes: readonly number[]): number {
  const mean = sizes.reduce((a, b) => a + b, 0) / Math.max(1, sizes.length);
  if (mean === 0) return 0;
  return Math.sqrt(sizes.reduce((sum, v) => sum + (v - mean) ** 2, 0) / sizes.length) / mean;
}
