import { CLEAR, type RowSegments, SEGMENT } from './rowSegments';

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
 */
export function spreadGround(distance: Uint8Array, segments: RowSegments, width: number, height: number, tolerance: number): Int32Array {
  const labels = new Int32Array(width * height);
  const stack: number[] = [];
  const seed = (i: number) => {
    if (labels[i] === MARK && distance[i] <= tolerance) fillFrom(i, distance, labels, width, height, tolerance, OUTSIDE, stack, undefined, segments);
  };
  for (let x = 0; x < width; x++) {
    seed(x);
    seed((height - 1) * width + x);
  }
  for (let y = 0; y < height; y++) {
    seed(y * width);
    seed(y * width + width - 1);
  }
  return labels;
}

/**
 * Fills the 4-connected ground region around a pixel with a label, run by run.
 * @param stack  scratch, empty on entry and on return
 * @param box  grown to hold the region, `[left, top, right, bottom]`, when given
 * @param segments  of the plane, when known: its clear segments are of one label throughout and are passed over whole
 * @returns the number of pixels filled
 * @see A. Smith, "Tint Fill", 1979 (filling by horizontal runs)
 */
export function fillFrom(
  start: number, distance: Uint8Array, labels: Int32Array, width: number, height: number,
  tolerance: number, label: number, stack: number[], box?: [number, number, number, number], segments?: RowSegments,
): number {
  let filled = 0;
  stack.push(start);
  while (stack.length) {
    const i = stack.pop() as number;
    if (labels[i] !== MARK || distance[i] > tolerance) continue;
    const y = (i / width) | 0;
    const rowStart = y * width;
    const rowEnd = rowStart + width;
    let left = i;
    let right = i;
    while (left > rowStart && labels[left - 1] === MARK && distance[left - 1] <= tolerance) {
      left--;
      if (segments && isClear(segments, left - rowStart, y)) left -= (left - rowStart) % SEGMENT;
    }
    while (right + 1 < rowEnd && labels[right + 1] === MARK && distance[right + 1] <= tolerance) {
      right++;
      if (segments && isClear(segments, right - rowStart, y)) right = Math.min(rowEnd, right - ((right - rowStart) % SEGMENT) + SEGMENT) - 1;
    }
    labels.fill(label, left, right + 1);
    filled += right - left + 1;
    if (box) {
      if (left - rowStart < box[0]) box[0] = left - rowStart;
      if (y < box[1]) box[1] = y;
      if (right - rowStart > box[2]) box[2] = right - rowStart;
      if (y > box[3]) box[3] = y;
    }
    if (y > 0) pushRuns(left - rowStart, right - rowStart, y - 1, width, distance, labels, tolerance, stack, segments);
    if (y < height - 1) pushRuns(left - rowStart, right - rowStart, y + 1, width, distance, labels, tolerance, stack, segments);
  }
  return filled;
}

const isClear = ({ columns, state }: RowSegments, x: number, y: number): boolean => state[y * columns + ((x / SEGMENT) | 0)] === CLEAR;

function pushRuns(from: number, to: number, y: number, width: number, distance: Uint8Array, labels: Int32Array, tolerance: number, stack: number[], segments?: RowSegments): void {
  const row = y * width;
  let inRun = false;
  for (let x = from; x <= to; x++) {
    const fits = labels[row + x] === MARK && distance[row + x] <= tolerance;
    if (fits && !inRun) stack.push(row + x);
    inRun = fits;
    if (segments && isClear(segments, x, y)) x += SEGMENT - 1 - (x % SEGMENT);
  }
}
