import type { BrushEdit } from './edits';

/** More places are thinned further: a stroke is kept in every revision that comes after it. */
const MOST_PLACES = 100;
const LEAST_TOLERANCE_PX = 0.15;

/**
 * A stroke's places as a hand drew them, thinned to those that matter: none of the others is farther from the line
 * between its neighbours than a small share of the brush's size. Places to a tenth of a pixel, pressure to a hundredth.
 * @param points  x, y, pressure, and so on
 * @see D. Douglas and T. Peucker, "Algorithms for the reduction of the number of points required to represent a
 *   digitized line or its caricature", 1973
 */
export function simplifyStroke({ size, points, ...rest }: BrushEdit): BrushEdit {
  const at = (k: number) => points.slice(3 * k, 3 * k + 3);
  const count = points.length / 3;
  let tolerance = Math.max(LEAST_TOLERANCE_PX, size * 0.01);
  let kept = reduce(at, count, size, tolerance);
  while (kept.length > MOST_PLACES) kept = reduce(at, count, size, (tolerance *= 1.5));
  const rounded = kept.flatMap((k) => {
    const [x, y, pressure] = at(k);
    return [Math.round(x * 10) / 10, Math.round(y * 10) / 10, Math.round(pressure * 100) / 100];
  });
  return { ...rest, size, points: rounded };
}

function reduce(at: (k: number) => readonly number[], count: number, size: number, tolerance: number): number[] {
  const kept = new Set([0, count - 1]);
  const open: [number, number][] = [[0, count - 1]];
  for (let span = open.pop(); span; span = open.pop()) {
    const [from, to] = span;
    let [worst, most] = [-1, tolerance];
    for (let k = from + 1; k < to; k++) {
      const off = offLine(at(k), at(from), at(to), size);
      if (off > most) [worst, most] = [k, off];
    }
    if (worst < 0) continue;
    kept.add(worst);
    open.push([from, worst], [worst, to]);
  }
  return [...kept].sort((a, b) => a - b);
}

/** How far a place is from where an even way between two others has it, in breadth as well. */
function offLine(p: readonly number[], a: readonly number[], b: readonly number[], size: number): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length2 = dx * dx + dy * dy;
  const t = length2 > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / length2)) : 0;
  const off = Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dy);
  return Math.max(off, (Math.abs(p[2] - a[2] - t * (b[2] - a[2])) * size) / 2);
}
