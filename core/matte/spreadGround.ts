import { type Kernels, call, ints } from '../kernels/heap';
import type { RowSegments } from './rowSegments';

/** What a pixel is, in a label plane. Anything from `FIRST_AREA` up is an enclosed area's number plus that. */
export const MARK = 0;
export const OUTSIDE = 1;
/** A shadow or glow: part of the artwork, but outside its edges. */
export const SOFT = 2;
/** The same inside an enclosed area, until it is known whether that area is open. */
export const SOFT_INSIDE = 3;
export const FIRST_AREA = 16;

/**
 * Marks as OUTSIDE every pixel that a path of ground pixels joins to the picture's border.
 * @param distance  ground distance per pixel; up to the tolerance it counts as ground
 * @param segments  of that plane
 * @returns label plane: OUTSIDE or MARK
 * @see A. Smith, "Tint Fill", 1979 (filling by horizontal runs)
 */
export function spreadGround(
  distance: Uint8Array,
  segments: RowSegments,
  width: number,
  height: number,
  tolerance: number,
): Int32Array {
  const labels = ints(width * height);
  const stack = stackRoom(width, height);
  call([distance, segments.state], [labels], stack, ({ k, at, scratch }) => {
    k.setFill(
      at(distance),
      at(labels),
      at(segments.state),
      width,
      height,
      Math.floor(tolerance),
      scratch(stack, false),
    );
    k.fillFromBorder();
  });
  return labels;
}

/** There are no more labels than this: areas have the mark between them. */
export const mostLabels = (pixels: number): number => Math.ceil(pixels / 2) + FIRST_AREA + 1;

/** Bytes of scratch that filling asks for: a run begins on every other pixel at most, and is met from above and below. */
export const stackRoom = (width: number, height: number): number => 6 * width * height + 4 * (width + height) + 64;

/** Left, top, right and bottom, the last two included. */
export type Box = readonly [left: number, top: number, right: number, bottom: number];
export const filledBox = (k: Kernels): Box => [k.filledLeft(), k.filledTop(), k.filledRight(), k.filledBottom()];
