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
 * @param isGroundAt  ground distance per pixel and the tolerance that still counts as ground
 * @returns label plane: OUTSIDE or MARK
 */
export function spreadGround(distance: Uint8Array, width: number, height: number, tolerance: number): Int32Array {
  const labels = new Int32Array(width * height);
  const stack: number[] = [];
  const seed = (i: number) => {
    if (labels[i] === MARK && distance[i] <= tolerance) fillFrom(i, distance, labels, width, height, tolerance, OUTSIDE, stack);
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
 * @returns the number of pixels filled
 * @see A. Smith, "Tint Fill", 1979 (filling by horizontal runs)
 */
export function fillFrom(
  start: number, distance: Uint8Array, labels: Int32Array, width: number, height: number,
  tolerance: number, label: number, stack: number[], box?: [number, number, number, number],
): number {
  let filled = 0;
  stack.push(start);
  while (stack.length) {
    const i = stack.pop() as number;
    if (labels[i] !== MARK || distance[i] > tolerance) continue;
    const rowStart = i - (i % width);
    let left = i;
    while (left > rowStart && labels[left - 1] === MARK && distance[left - 1] <= tolerance) left--;
    const rowEnd = rowStart + width;
    let right = i;
    while (right + 1 < rowEnd && labels[right + 1] === MARK && distance[right + 1] <= tolerance) right++;
    for (let k = left; k <= right; k++) labels[k] = label;
    filled += right - left + 1;
    if (box) {
      const y = (rowStart / width) | 0;
      if (left - rowStart < box[0]) box[0] = left - rowStart;
      if (y < box[1]) box[1] = y;
      if (right - rowStart > box[2]) box[2] = right - rowStart;
      if (y > box[3]) box[3] = y;
    }
    if (rowStart > 0) pushRuns(left - width, right - width, distance, labels, tolerance, stack);
    if (rowEnd < width * height) pushRuns(left + width, right + width, distance, labels, tolerance, stack);
  }
  return filled;
}

function pushRuns(from: number, to: number, distance: Uint8Array, labels: Int32Array, tolerance: number, stack: number[]): void {
  let inRun = false;
  for (let k = from; k <= to; k++) {
    const fits = labels[k] === MARK && distance[k] <= tolerance;
    if (fits && !inRun) stack.push(k);
    inRun = fits;
  }
}
