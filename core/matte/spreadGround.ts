import { type Kernels, call, ints } from '../kernels/heap';
import { FIRST_AREA } from '../kernels/interface';
import type { RowSegments } from './rowSegments';

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
    k.setFill({
      ofPlane: at(distance),
      ofLabels: at(labels),
      ofState: at(segments.state),
      w: width,
      h: height,
      most: Math.floor(tolerance),
      room: scratch(stack, false),
    });
    k.fillFromBorder();
  });
  return labels;
}

/** There are no more labels than this: areas have the mark between them. */
export const mostLabels = (pixels: number): number => Math.ceil(pixels / 2) + FIRST_AREA + 1;

/**
 * Bytes of scratch that filling asks for: a run begins on every other pixel at most, and is met from above and below.
 */
export const stackRoom = (width: number, height: number): number => 6 * width * height + 4 * (width + height) + 64;

/** Left, top, right and bottom, the last two included. */
export type Box = readonly [left: number, top: number, right: number, bottom: number];
export const filledBox = (k: Kernels): Box => [k.filledLeft(), k.filledTop(), k.filledRight(), k.filledBottom()];
