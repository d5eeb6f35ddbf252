/**
 * Where the pen went and how much ink it left there, told apart: a stroke that was pressed lightly covers its pixels as
 * wholly as a heavy one.
 */
export interface SolidInk {
  /** How much of each pixel the pen covered, 0..1. */
  readonly coverage: Float32Array;
  /** Ink at the nearest core of the pixel's stroke, 0..1 of the fullest core; 0 where nothing is near. */
  readonly density: Float32Array;
}

interface Grid {
  readonly width: number;
  readonly height: number;
}

/** A stroke's body is what holds this share of the strongest ink near it, and of the usual core at most. */
const BODY_SHARE = 0.45;
/** The strongest ink is sought this many stroke widths away: half a stroke and a little more. */
const SEARCH_STROKES = 0.6;
/** Below this a core is noise or a ghost, and is not taken for ink of full coverage. */
const MIN_CORE = 0.2;
/** A body's pixel this far inside is covered wholly, whatever the paper's tooth left out there. */
const DEEP_PX = 2.5;
/** Density at a core is the mean over so many stroke widths of what lies deep in the stroke. */
const MEAN_STROKES = 0.5;
const MAX_MEAN_PX = 6;
const DEEP_SHARE = 0.6;
/** The edge's rise per pixel is taken between these limits: a sharp picture's, and one out of focus. */
const MIN_RISE = 0.16;
const MAX_RISE = 0.8;

/**
 * Tells coverage from density.
 * The edge lies where ink falls to half of its stroke's core, and it is made as sharp as an edge of one pixel: what the
 * camera blurred is undone by the rise that edges of this picture have.
 * @param alpha  ink as it lies, 1 for full ink and more where it pooled, row-major; not changed
 * @param strokePx  the usual width of a stroke
 */
export function solidInk(alpha: Float32Array, grid: Grid, strokePx: number): SolidInk {
  const inked = inkedOf(alpha);
  const body = findBody({ alpha, inked }, grid, strokePx);
  const { depth, order } = depthOf(body, { alpha, inked }, grid);
  const core = coresOf({ depth, order }, alpha, grid);
  const level = levelsOf(alpha, { core, depth, order }, grid, strokePx);
  const rise = edgeRise(alpha, { core, level, order }, grid);
  const coverage = new Float32Array(alpha.length);
  const density = new Float32Array(alpha.length);
  const fullest = fullestOf(level, order);
  for (const i of order) {
    const at = core[i];
    if (at < 0) continue;
    density[i] = Math.min(1, level[at] / fullest);
    const share = alpha[i] / Math.max(MIN_CORE, level[at]);
    const own = (share - 0.5) / rise + 0.5;
    coverage[i] = depth[i] >= DEEP_PX || own >= 1 ? 1 : own <= 0 ? 0 : own;
  }
  return { coverage, density };
}

interface Ink {
  readonly alpha: Float32Array;
  /** The pixels with ink, row by row: a few of a hundred, which is why nothing below goes through all. */
  readonly inked: Int32Array;
}

function inkedOf(alpha: Float32Array): Int32Array {
  let count = 0;
  for (let i = 0; i < alpha.length; i++) if (alpha[i] > 0) count++;
  const inked = new Int32Array(count);
  for (let i = 0, k = 0; i < alpha.length; i++) if (alpha[i] > 0) inked[k++] = i;
  return inked;
}

/** Pixels of strokes' bodies: 1, or 0. */
function findBody(ink: Ink, grid: Grid, strokePx: number): Uint8Array {
  const { alpha, inked } = ink;
  const most = strongestNear(ink, grid, Math.max(1, Math.round(strokePx * SEARCH_STROKES)));
  const usual = usualCore(ink, most);
  const body = new Uint8Array(alpha.length);
  for (const i of inked) if (alpha[i] >= BODY_SHARE * Math.max(MIN_CORE, Math.min(most[i], usual))) body[i] = 1;
  return body;
}

/** The strongest ink within a square round every pixel with ink. */
function strongestNear({ alpha, inked }: Ink, { width, height }: Grid, radius: number): Float32Array {
  const along = new Float32Array(alpha.length);
  for (const i of inked) {
    const x = i % width;
    const own = alpha[i];
    const to = i + Math.min(width - 1 - x, radius);
    for (let n = i - Math.min(x, radius); n <= to; n++) if (own > along[n]) along[n] = own;
  }
  const out = new Float32Array(alpha.length);
  for (const i of inked) {
    const y = (i / width) | 0;
    const to = i + Math.min(height - 1 - y, radius) * width;
    let most = 0;
    for (let n = i - Math.min(y, radius) * width; n <= to; n += width) if (along[n] > most) most = along[n];
    out[i] = most;
  }
  return out;
}

/** A core's pixel is the strongest around, give or take this share. */
const NEARLY = 0.85;

/** The middle of what cores hold: pixels that are nearly the strongest around. */
function usualCore({ alpha, inked }: Ink, most: Float32Array): number {
  const counts = new Float64Array(256);
  let all = 0;
  for (const i of inked) {
    if (alpha[i] < NEARLY * most[i]) continue;
    counts[Math.min(255, Math.round(alpha[i] * 255))]++;
    all++;
  }
  for (let k = 0, sum = 0; k < 256; k++) if ((sum += counts[k]) * 2 > all) return k / 255;
  return 1;
}

/** Between pixels beside each other and across a corner, px. */
const STRAIGHT = 1;
const SLANTED = Math.SQRT2;
/** From a pixel's middle to the border with the next one. */
const TO_BORDER = 0.5;
/** Depths are told apart to this part of a pixel when pixels are put in order. */
const DEPTH_STEPS = 8;
const MAX_DEPTH_PX = 64;

interface Depths {
  /** How far inside its body a pixel lies, px; below 0 how far outside. */
  readonly depth: Float32Array;
  /** Every pixel with ink, from the deepest on. */
  readonly order: Int32Array;
}

/** @see G. Borgefors, "Distance transformations in digital images", 1986 (two passes, here with true diagonals) */
function depthOf(body: Uint8Array, { inked }: Ink, { width }: Grid): Depths {
  const far = new Float32Array(body.length).fill(MAX_DEPTH_PX);
  // From one neighbour: on from there where it is of the same side, else the border is half way. Beyond the grid there
  // is none, which counts as the other side.
  const through = (i: number, n: number, step: number) => (body[n] === body[i] ? far[n] + step : TO_BORDER * step);
  const pass = (from: number, to: number, step: number) => {
    const [back, above] = [-step, -step * width];
    for (let k = from; k !== to; k += step) {
      const i = inked[k];
      far[i] = Math.min(
        far[i],
        through(i, i + back, STRAIGHT),
        through(i, i + above, STRAIGHT),
        through(i, i + above - 1, SLANTED),
        through(i, i + above + 1, SLANTED),
      );
    }
  };
  pass(0, inked.length, 1);
  pass(inked.length - 1, -1, -1);
  return inOrder(body, far, inked);
}

/** Depths in steps: a climb goes to pixels of a step above alone, which come earlier in the order. */
function inOrder(body: Uint8Array, far: Float32Array, inked: Int32Array): Depths {
  const depth = new Float32Array(body.length);
  const counts = new Int32Array(2 * MAX_DEPTH_PX * DEPTH_STEPS + 2);
  const slotOf = (i: number) => Math.round((MAX_DEPTH_PX - depth[i]) * DEPTH_STEPS);
  for (const i of inked) {
    const steps = Math.round(far[i] * DEPTH_STEPS) / DEPTH_STEPS;
    depth[i] = body[i] === 1 ? steps : -steps;
    counts[slotOf(i) + 1]++;
  }
  for (let k = 1; k < counts.length; k++) counts[k] += counts[k - 1];
  const order = new Int32Array(inked.length);
  for (const i of inked) order[counts[slotOf(i)]++] = i;
  return { depth, order };
}

/** The core of every pixel's stroke: where a climb to ever deeper pixels ends; −1 where none begins. */
function coresOf({ depth, order }: Depths, alpha: Float32Array, { width }: Grid): Int32Array {
  const core = new Int32Array(depth.length).fill(-1);
  for (const i of order) {
    let deepest = -1;
    for (let row = i - width; row <= i + width; row += width)
      for (let n = row - 1; n <= row + 1; n++)
        if (alpha[n] > 0 && depth[n] > depth[i] && (deepest < 0 || depth[n] > depth[deepest])) deepest = n;
    core[i] = deepest >= 0 ? core[deepest] : depth[i] > 0 ? i : -1;
  }
  return core;
}

/** Ink at every core: the mean of what lies deep in the stroke round it; 0 elsewhere. */
function levelsOf(
  alpha: Float32Array,
  { depth, core, order }: Depths & { core: Int32Array },
  { width, height }: Grid,
  strokePx: number,
): Float32Array {
  const reach = Math.min(MAX_MEAN_PX, Math.max(1, Math.round(strokePx * MEAN_STROKES)));
  const level = new Float32Array(alpha.length);
  for (const i of order) {
    if (core[i] !== i) continue;
    const [x, y] = [i % width, (i / width) | 0];
    const least = depth[i] * DEEP_SHARE;
    let [sum, count] = [0, 0];
    for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
      for (let u = Math.max(0, x - reach), n = v * width + u; u <= Math.min(width - 1, x + reach); u++, n++) {
        if (alpha[n] === 0 || depth[n] < least) continue;
        sum += alpha[n];
        count++;
      }
    level[i] = count > 0 ? sum / count : alpha[i];
  }
  return level;
}

/** What the fullest cores hold, but for a few where strokes cross; never less than full ink. */
function fullestOf(level: Float32Array, order: Int32Array): number {
  const known = Float32Array.from([...order.filter((i) => level[i] > 0)], (i) => level[i]).sort();
  return Math.max(1, known[Math.floor(known.length * FULLEST)] ?? 1);
}
const FULLEST = 0.98;

/** The edges' rise, share of the core per pixel, in the middle of all of them. */
function edgeRise(
  alpha: Float32Array,
  { order, core, level }: { order: Int32Array; core: Int32Array; level: Float32Array },
  { width }: Grid,
): number {
  const rises = new Float32Array(order.length);
  let count = 0;
  for (const i of order) {
    if (core[i] < 0) continue;
    const own = Math.max(MIN_CORE, level[core[i]]);
    if (Math.abs(alpha[i] / own - 0.5) > NEAR_HALF) continue;
    const across = (alpha[i + 1] - alpha[i - 1]) / 2;
    const down = (alpha[i + width] - alpha[i - width]) / 2;
    rises[count++] = Math.sqrt(across * across + down * down) / own;
  }
  if (count === 0) return MAX_RISE;
  const middle = rises.subarray(0, count).sort()[count >> 1];
  return Math.min(MAX_RISE, Math.max(MIN_RISE, middle));
}
/** An edge's pixel holds half of its core, give or take this much. */
const NEAR_HALF = 0.2;
