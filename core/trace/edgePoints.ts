import type { Plane } from '../raster/raster';
import type { CrackRing } from './followRings';

/** A border's places, one after another round the ring; x and y in pixels, middles at .5. */
export interface EdgeRing {
  readonly xs: Float64Array;
  readonly ys: Float64Array;
  /** Positive for an outer ring, negative for a hole: twice its area by whole pixels. */
  readonly area2: number;
}

/** Coverage this near to none or all, of 255, is none or all. */
const NEARLY = 3;
/** A border's own slope lets it pass so many pixels of a row that it crosses steeply; softness adds to it. */
const MOST_STEPS = 6;
/** A profile with its peak lower than this is a stroke thinner than its softness. */
const FULL = 250;
/** And it is no wider than this. */
const THIN_PX = 4;
/** The border lies where coverage passes one half, so near to the crack; farther off the row has met a corner. */
const MOST_OFF_PX = 1.05;
/** Closer than this two places are one. */
const SAME_PX = 0.3;

/**
 * Where a ring runs to a fraction of a pixel. In each row that the border crosses steeply, or column where it lies
 * flat, coverage is summed across it: for a straight border the sum is its exact mean place in that row. Across a thin
 * stroke, which nowhere covers a pixel whole, the sum is its width, and the centre of mass its middle.
 */
export function edgePoints(plane: Plane, ring: CrackRing): EdgeRing {
  const { width, height, data } = plane;
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= width || y >= height ? 0 : data[y * width + x]);
  const xs: number[] = [];
  const ys: number[] = [];
  const n = ring.ways.length;
  for (let k = 0; k < n; k++) {
    const way = ring.ways[k];
    const [cx, cy] = [ring.xs[k], ring.ys[k]];
    const isRow = way === 1 || way === 3;
    // From the inside pixel outwards: the inside lies at the right hand.
    const px = way === 0 ? cx : way === 1 ? cx - 1 : way === 2 ? cx - 1 : cx;
    const py = way === 0 ? cy : way === 1 ? cy : way === 2 ? cy - 1 : cy - 1;
    const out = way === 0 || way === 3 ? -1 : 1;
    const [ix, iy] = isRow ? [out, 0] : [0, out];
    if (!isSteep(at, px, py, ix, iy)) continue;
    const along = (s: number) => at(px + s * ix, py + s * iy);
    const offset = borderIn(along);
    if (offset === null || Math.abs(offset) > MOST_OFF_PX) continue;
    // The crack lies half a pixel outwards of the inside pixel's middle.
    const x = px + 0.5 + ix * (0.5 + offset);
    const y = py + 0.5 + iy * (0.5 + offset);
    const last = xs.length - 1;
    if (last >= 0 && Math.hypot(x - xs[last], y - ys[last]) < SAME_PX) {
      xs[last] = (xs[last] + x) / 2;
      ys[last] = (ys[last] + y) / 2;
    } else {
      xs.push(x);
      ys.push(y);
    }
  }
  while (xs.length > 3 && Math.hypot(xs[0] - xs[xs.length - 1], ys[0] - ys[ys.length - 1]) < SAME_PX) {
    xs.pop();
    ys.pop();
  }
  return { xs: Float64Array.from(xs), ys: Float64Array.from(ys), area2: ring.area2 };
}

/** Whether the border between a pixel and the next one outwards is crossed rather straight by that step. */
function isSteep(at: (x: number, y: number) => number, x: number, y: number, ix: number, iy: number): boolean {
  // The change across and along, over both pixels and their neighbours at the sides (a Sobel mask between two pixels).
  const p = (a: number, b: number) => at(x + a * ix - b * iy, y + a * iy + b * ix);
  const across = 2 * (p(0, 0) - p(1, 0)) + p(0, 1) - p(1, 1) + p(0, -1) - p(1, -1);
  const along = p(0, 1) + p(1, 1) - p(0, -1) - p(1, -1);
  // At 45° both are the same.
  return across > 0 && across >= Math.abs(along);
}

/**
 * How far outwards of the crack the border lies in a row of coverage.
 * @param along  coverage 0 to 255; 0 is the inside pixel at the crack, positive outwards
 * @returns null where the row does not tell
 */
function borderIn(along: (s: number) => number): number | null {
  let outside = 0;
  let s = 1;
  for (; s <= MOST_STEPS; s++) {
    const a = along(s);
    if (a <= NEARLY) {
      outside += a;
      break;
    }
    if (s > 1 && a > along(s - 1)) break;
    outside += a;
  }
  const isOpen = along(s) <= NEARLY;
  let missing = 0;
  let r = 0;
  for (; r > -MOST_STEPS; r--) {
    const a = along(r);
    if (a >= 255 - NEARLY) {
      missing += 255 - a;
      break;
    }
    if (r < 0 && a < along(r + 1)) break;
    missing += 255 - a;
  }
  const isSolid = along(r) >= 255 - NEARLY;
  if (isOpen && isSolid) return (outside - missing) / 255;
  if (isOpen) return thin(along, s) ?? between(along);
  if (isSolid) {
    const gap = thin((k) => 255 - along(1 - k), 1 - r);
    return gap === null ? between(along) : -gap;
  }
  return between(along);
}

/**
 * The border of a thin stroke: half its width from its middle.
 * @param from  the first clear pixel outwards; from there the row is followed inwards to the stroke's other side
 * @returns null for what is no thin stroke: whole somewhere, wide, or two of them side by side
 */
function thin(along: (s: number) => number, from: number): number | null {
  let sum = 0;
  let moment = 0;
  let peak = 0;
  let isFalling = false;
  for (let s = from; s > from - MOST_STEPS - THIN_PX; s--) {
    const a = along(s);
    const isRising = a > along(s + 1);
    if (isRising && isFalling) return null;
    if (a < along(s + 1)) isFalling = true;
    peak = Math.max(peak, a);
    sum += a;
    moment += a * s;
    if (!isFalling || a > NEARLY) continue;
    const width = sum / 255;
    // Pixel s reaches from s − ½ to s + ½; the crack is at ½.
    return peak < FULL && width <= THIN_PX && sum > 0 ? moment / sum + width / 2 - 0.5 : null;
  }
  return null;
}

/** Where coverage passes one half between the two pixels at the crack, straight from the one to the other. */
function between(along: (s: number) => number): number | null {
  const [a, b] = [along(0), along(1)];
  if (a <= b) return null;
  return Math.max(-0.5, Math.min(0.5, (a - 127.5) / (a - b) - 0.5));
}
