import type { Optics } from './opticalSize';

export interface Slot {
  readonly width: number;
  readonly height: number;
  /** Free on every side, px. */
  readonly padding: number;
}

/** A mark cut to what is visible of it. */
export interface WallMark {
  readonly width: number;
  readonly height: number;
  readonly optics: Optics;
}

/** Where a mark stands in its slot, px of the slot. */
export interface SlotPlace {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
  /** With every mark filling its slot, and as it stands. */
  readonly opticalSizeBefore: number;
  readonly opticalSizeAfter: number;
}

/** Marks whose size at full box is under this share of the middle one's do not make all others smaller. */
const LEAST_OF_MIDDLE = 0.72;
/** How far the optical middle is drawn to the slot's middle; the rest is the box's. */
const OPTICAL_MIDDLE = 0.6;

/**
 * Sizes and places of marks in equal slots: at `level` 0 each fills its slot's box, at 1 all look equally large, as far
 * as the box allows; between the two by the power of it.
 * @param level  0..1
 */
export function levelWall(marks: readonly WallMark[], slot: Slot, level: number): SlotPlace[] {
  const room = { width: slot.width - 2 * slot.padding, height: slot.height - 2 * slot.padding };
  const fits = marks.map((m) => Math.min(room.width / m.width, room.height / m.height));
  const before = marks.map((m, k) => m.optics.size * fits[k]);
  const sorted = [...before].sort((a, b) => a - b);
  const target = Math.max(sorted[0] ?? 0, LEAST_OF_MIDDLE * (sorted[sorted.length >> 1] ?? 0));
  return marks.map((m, k) => {
    const even = Math.min(fits[k], target / Math.max(1e-6, m.optics.size));
    const scale = fits[k] ** (1 - level) * even ** level;
    const [width, height] = [m.width * scale, m.height * scale];
    const place = (whole: number, size: number, middle: number) => {
      const box = (whole - size) / 2;
      const own = whole / 2 - middle * scale;
      const at = box + (own - box) * OPTICAL_MIDDLE * level;
      return Math.min(whole - slot.padding - size, Math.max(slot.padding, at));
    };
    return {
      scale,
      x: place(slot.width, width, m.optics.middle.x),
      y: place(slot.height, height, m.optics.middle.y),
      opticalSizeBefore: before[k],
      opticalSizeAfter: m.optics.size * scale,
    };
  });
}
