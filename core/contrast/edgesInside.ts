import { withoutLines } from '../raster/morphology';
import type { Plane, Raster } from '../raster/raster';

/** A step of at most this from pixel to pixel, levels of any channel, stays within one tone: a glow, an even rim. */
const MAX_STEP = 26;
/** An edge's own pixels: a mixture of both sides, this many deep. */
const EDGE_PX = 2;
/** What an edge encloses must reach over this share of the mark both ways, or the edge is not round the mark. */
const MIN_REACH = 0.45;
/** A rim in a plate on a silhouette: more edges than this nobody tells apart. */
const MAX_EDGES = 3;
const SOLID = 128;

/**
 * Edges within a mark that are closed round it, from outside inwards: each as a plane that is 255 inside of it.
 * From outside one goes inwards wherever the tone changes gently. Where that ends there is an edge; beyond it the next
 * tone is followed in the same way.
 */
export function edgesInside(raster: Raster): Plane[] {
  const { width, height, data } = raster;
  const tones = premultiplied(raster);
  const left = new Uint8Array(width * height).fill(1);
  const whole = reachOf(left, width, (n) => data[n * 4 + 3] >= SOLID);
  if (!whole) return [];
  const found: Plane[] = [];
  // The ground comes first: what is clear, and what fades into it.
  let seeds = bordersOf(width, height, (n) => data[n * 4 + 3] === 0);
  for (let k = 0; k <= MAX_EDGES && seeds.length > 0; k++) {
    const reached = follow(tones, left, seeds, width);
    const hasSolid = reached.some((n) => data[n * 4 + 3] >= SOLID);
    const inside = reachOf(left, width, (n) => data[n * 4 + 3] >= SOLID);
    const isRound = inside !== null && isLarge(inside, whole);
    // The first edge is the outline, unless something that fades lies outside of it.
    // Mixed pixels that are left over of an edge farther out are lines: they enclose nothing.
    if (isRound && (k > 0 || hasSolid))
      found.push({ width, height, data: withoutLines(left, width, height).map((v) => v * 255) });
    if (!isRound) break;
    seeds = within(left, width, height);
  }
  return found;
}

interface Reach {
  readonly width: number;
  readonly height: number;
}

const isLarge = (inside: Reach, whole: Reach) =>
  inside.width >= whole.width * MIN_REACH && inside.height >= whole.height * MIN_REACH;

function reachOf(left: Uint8Array, width: number, isSolid: (n: number) => boolean): Reach | null {
  let [x0, x1, y0, y1] = [Infinity, -1, Infinity, -1];
  for (let n = 0; n < left.length; n++) {
    if (left[n] === 0 || !isSolid(n)) continue;
    const [x, y] = [n % width, Math.floor(n / width)];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
  }
  return x1 < 0 ? null : { width: x1 - x0 + 1, height: y1 - y0 + 1 };
}

/** Pixels that one may come from outside by: all clear ones, whether the picture is trimmed or not. */
function bordersOf(width: number, height: number, isClear: (n: number) => boolean): number[] {
  const out: number[] = [];
  for (let n = 0; n < width * height; n++) if (isClear(n)) out.push(n);
  return out;
}

/** What lies just beyond the pixels of an edge, seen from outside: the next tone. */
function within(left: Uint8Array, width: number, height: number): number[] {
  let ring: number[] = [];
  const depth = new Uint8Array(left.length);
  for (let n = 0; n < left.length; n++) {
    if (left[n] === 0) continue;
    const [x, y] = [n % width, Math.floor(n / width)];
    const isAtEdge =
      x === 0 ||
      y === 0 ||
      x === width - 1 ||
      y === height - 1 ||
      !left[n - 1] ||
      !left[n + 1] ||
      !left[n - width] ||
      !left[n + width];
    if (!isAtEdge) continue;
    depth[n] = 1;
    ring.push(n);
  }
  for (let d = 1; d <= EDGE_PX && ring.length > 0; d++) {
    const next: number[] = [];
    for (const n of ring) {
      if (d < EDGE_PX) left[n] = 0;
      for (const m of [n - 1, n + 1, n - width, n + width]) {
        if (m < 0 || m >= left.length || left[m] === 0 || depth[m] > 0) continue;
        depth[m] = d + 1;
        next.push(m);
      }
    }
    if (d === EDGE_PX) return next.length > 0 ? next : ring;
    ring = next;
  }
  return ring;
}

/**
 * Takes from `left` all that is reached from some pixels by gentle steps. Along an edge that is nearly upright or level
 * its mixed pixels change gently from one side's tone to the other's: a step between pixels whose neighbours on both
 * sides differ leads along such an edge, and is none.
 * @returns what was taken
 */
function follow(tones: Uint8Array, left: Uint8Array, seeds: readonly number[], width: number): number[] {
  const taken: number[] = [];
  for (const n of seeds) {
    if (left[n] === 0) continue;
    left[n] = 0;
    taken.push(n);
  }
  const differ = (a: number, b: number, most: number) => {
    for (let p = a * 4, q = b * 4; p < a * 4 + 4; p++, q++) if (Math.abs(tones[p] - tones[q]) > most) return true;
    return false;
  };
  const last = left.length - 1;
  const step = (n: number, m: number, aside: number) => {
    if (m < 0 || m > last || left[m] === 0 || differ(n, m, MAX_STEP)) return;
    if (differ(Math.max(0, m - aside), Math.min(last, m + aside), 2 * MAX_STEP)) return;
    left[m] = 0;
    taken.push(m);
  };
  for (let at = 0; at < taken.length; at++) {
    const n = taken[at];
    const x = n % width;
    if (x > 0) step(n, n - 1, width);
    if (x < width - 1) step(n, n + 1, width);
    step(n, n - width, 1);
    step(n, n + width, 1);
  }
  return taken;
}

function premultiplied({ data }: Raster): Uint8Array {
  const out = new Uint8Array(data.length);
  for (let p = 0; p < data.length; p += 4) {
    const alpha = data[p + 3];
    for (let c = 0; c < 3; c++) out[p + c] = Math.round((data[p + c] * alpha) / 255);
    out[p + 3] = alpha;
  }
  return out;
}
