import type { PaperLight } from './paperLight';

/** Steps of the search for the lines' angle, degrees, each round the best of the one before. */
const COARSE_DEG = 0.5;
const FINE_DEG = 0.1;
const FINEST_DEG = 0.025;
/** Share of the gaps that must be whole numbers of the spacing, for ruling and not a few strokes side by side. */
const LEAST_REGULAR = 0.6;
/** Density from which a pixel may belong to a faint line: less than the noise, since many lie in a row. */
const FAINT_FLOOR = 0.012;
const FAINT_OVER_NOISE = 0.8;
/** A pixel counts as no deeper than this, so that writing does not outvote lines. */
const MOST_VOTE = 0.16;
/** A line's peak stands three times over what most of the profile has, and a third as high as its highest. */
const BODY_RANK = 0.75;
const OVER_BODY = 3;
const TOP_RANK = 0.985;
const OF_TOP = 0.3;
/** How far from a whole number of spacings a gap may be while the spacing is sought, and once it is known. */
const OFF_STEP = 0.16;
const OFF_KNOWN_STEP = 0.22;
/** Gaps of more spacings than this fit some whole number always. */
const MOST_STEPS = 4.3;

/** Lines printed on the paper, all at one angle, on the small grid. */
export interface LineFamily {
  /** Clockwise from the horizontal; about 90 for upright lines. */
  readonly angleDeg: number;
  /** Distance of each line from the origin, along the normal (−sin, cos). */
  readonly offsets: readonly number[];
  /** How deep the lines are on average, density. */
  readonly depth: number;
}

/** Lines may lie turned by this much from level or upright. */
const MOST_TURN = 22;
const LEAST_LINES = 4;
/** No printed line is deeper than this: what is darker is ink. */
const DEEPEST = 0.42;
const BINS_PER_PX = 2;

/**
 * Finds ruled and squared lines by projecting the density along every direction: along that of the lines it gathers in
 * sharp equal peaks. Ink counts only as much as a line could.
 * @see R. Duda, P. Hart, "Use of the Hough Transformation to Detect Lines and Curves in Pictures", 1972
 */
export function findRuledLines(paper: PaperLight): LineFamily[] {
  const points = faintPoints(paper);
  if (points.length < 90) return [];
  const few = everyNth(points, COARSE_POINTS);
  return [0, 90].map((base) => findFamily(paper, points, few, base)).filter((f): f is LineFamily => f !== null);
}

/** The first look along all directions makes do with so many points. */
const COARSE_POINTS = 24_000;

function findFamily(paper: PaperLight, points: Float32Array, few: Float32Array, base: number): LineFamily | null {
  let best = { angle: base, score: 0 };
  const scan = (among: Float32Array, from: number, to: number, step: number) => {
    best = { ...best, score: 0 };
    for (let angle = from; angle <= to + 1e-9; angle += step) {
      const score = peakiness(among, angle, paper);
      if (score > best.score) best = { angle, score };
    }
  };
  scan(few, base - MOST_TURN, base + MOST_TURN, COARSE_DEG);
  scan(points, best.angle - COARSE_DEG, best.angle + COARSE_DEG, FINE_DEG);
  scan(points, best.angle - FINE_DEG, best.angle + FINE_DEG, FINEST_DEG);
  const profile = project(points, best.angle, paper);
  const offsets = findPeaks(profile);
  if (offsets.length < LEAST_LINES) return null;
  const { spacing, regular } = regularity(offsets.map((o) => o.at));
  if (regular < LEAST_REGULAR) return null;
  const kept = offsets.filter((o, k) =>
    isInStep(
      o.at,
      k,
      offsets.map((p) => p.at),
      spacing,
    ),
  );
  if (kept.length < LEAST_LINES || !runAcross(points, best.angle, kept, paper)) return null;
  return {
    angleDeg: best.angle,
    offsets: kept.map((o) => o.at),
    depth: kept.reduce((s, o) => s + o.depth, 0) / kept.length,
  };
}

/** Printed lines show in this share of their sections together; strokes that lie along one, in fewer than half. */
const SECTIONS = 8;
const LEAST_SECTIONS = 0.6;
/** A section shows the line when it holds this many times what lies beside it, px of the small grid. */
const OVER_BESIDE = 1.6;
const ON_PX = 1;
const BESIDE_FROM_PX = 3;
const BESIDE_TO_PX = 6;

// Printed lines run from one side of the sheet to the other; the stems of a signature, alike and side by side, do not.
function runAcross(
  points: Float32Array,
  angleDeg: number,
  lines: readonly { readonly at: number }[],
  { width, height }: PaperLight,
): boolean {
  const a = (angleDeg * Math.PI) / 180;
  const [dx, dy] = [Math.cos(a), Math.sin(a)];
  const isLevel = Math.abs(dx) > Math.abs(dy);
  const long = isLevel ? width : height;
  const on = new Float32Array(lines.length * SECTIONS);
  const beside = new Float32Array(on.length);
  const sorted = lines.map((l) => l.at).sort((p, q) => p - q);
  for (let k = 0; k < points.length; k += 3) {
    const [x, y, v] = [points[k], points[k + 1], points[k + 2]];
    const across = -x * dy + y * dx;
    let [low, high] = [0, sorted.length - 1];
    while (low < high) {
      const mid = (low + high) >> 1;
      if (sorted[mid] < across - BESIDE_TO_PX) low = mid + 1;
      else high = mid;
    }
    const off = Math.abs(across - sorted[low]);
    const cell = low * SECTIONS + Math.min(SECTIONS - 1, Math.floor(((isLevel ? x : y) / long) * SECTIONS));
    if (off <= ON_PX) on[cell] += v;
    else if (off >= BESIDE_FROM_PX && off <= BESIDE_TO_PX) beside[cell] += v;
  }
  const share = (BESIDE_TO_PX - BESIDE_FROM_PX) / ON_PX;
  const shown = on.filter((v, k) => v > 0 && v * share > OVER_BESIDE * beside[k]).length;
  return shown >= LEAST_SECTIONS * on.length;
}

// Triples x, y, density of pixels that stand out a little.
function faintPoints({ width, height, density, noise }: PaperLight): Float32Array {
  const floor = Math.max(FAINT_FLOOR, noise * FAINT_OVER_NOISE);
  const out: number[] = [];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (density[i] > floor && density[i] < DEEPEST) out.push(x + 0.5, y + 0.5, Math.min(density[i], MOST_VOTE));
    }
  return everyNth(Float32Array.from(out), 60_000);
}

// Of very many points, fewer serve as well; they are taken evenly, with a step that keeps no rhythm with the rows.
function everyNth(points: Float32Array, most: number): Float32Array {
  const count = points.length / 3;
  if (count <= most) return points;
  const out = new Float32Array(most * 3);
  for (let k = 0; k < most; k++) {
    const from = Math.floor((k * count) / most) * 3;
    out[k * 3] = points[from];
    out[k * 3 + 1] = points[from + 1];
    out[k * 3 + 2] = points[from + 2];
  }
  return out;
}

interface Profile {
  readonly sum: Float32Array;
  readonly reach: Float32Array;
  readonly from: number;
}

function project(points: Float32Array, angleDeg: number, { width, height }: PaperLight): Profile {
  const a = (angleDeg * Math.PI) / 180;
  const [nx, ny] = [-Math.sin(a), Math.cos(a)];
  const corners = [0, nx * width, ny * height, nx * width + ny * height];
  const from = Math.min(...corners);
  const bins = Math.ceil((Math.max(...corners) - from) * BINS_PER_PX) + 2;
  const sum = new Float32Array(bins);
  for (let k = 0; k < points.length; k += 3)
    sum[((points[k] * nx + points[k + 1] * ny - from) * BINS_PER_PX) | 0] += points[k + 2];
  // How long a line through each bin is within the picture.
  const reach = new Float32Array(bins);
  const along = Math.abs(ny) > Math.abs(nx) ? width / Math.abs(ny) : height / Math.abs(nx);
  const ramp = Math.abs(ny) > Math.abs(nx) ? Math.abs(nx) * width : Math.abs(ny) * height;
  const whole = bins / BINS_PER_PX;
  for (let b = 0; b < bins; b++) {
    const d = b / BINS_PER_PX;
    reach[b] = Math.max(20, along * Math.min(1, (d + 1) / (ramp + 1), (whole - d) / (ramp + 1)));
  }
  return { sum, reach, from };
}

function excess({ sum, reach }: Profile): Float32Array {
  const bins = sum.length;
  const level = new Float32Array(bins);
  for (let b = 0; b < bins; b++)
    level[b] =
      ((sum[b] + (b > 0 ? sum[b - 1] : 0) * 0.5 + (b + 1 < bins ? sum[b + 1] : 0) * 0.5) / 2 / reach[b]) * BINS_PER_PX;
  // What a few pixels to either side hold is no line.
  const out = new Float32Array(bins);
  const near = 4 * BINS_PER_PX;
  for (let b = 0; b < bins; b++) {
    // The mean of the middle two of four: a neighbouring line on one side does not count.
    const [p, q] = [b >= near ? level[b - near] : 0, b >= near - 2 ? level[b - near + 2] : 0];
    const [r, s] = [b + near - 2 < bins ? level[b + near - 2] : 0, b + near < bins ? level[b + near] : 0];
    out[b] = Math.max(0, level[b] - (p + q + r + s - Math.min(p, q, r, s) - Math.max(p, q, r, s)) / 2);
  }
  return out;
}

function peakiness(points: Float32Array, angle: number, paper: PaperLight): number {
  const over = excess(project(points, angle, paper));
  let sum = 0;
  for (const v of over) sum += v * v;
  return sum;
}

/** A line's mean density along its whole length must be this high. */
const LEAST_DEPTH = 0.016;

function findPeaks(profile: Profile): { at: number; depth: number }[] {
  const over = excess(profile);
  const sorted = Float32Array.from(over).sort();
  const floor = Math.max(
    LEAST_DEPTH,
    sorted[Math.floor(sorted.length * BODY_RANK)] * OVER_BODY,
    sorted[Math.floor(sorted.length * TOP_RANK)] * OF_TOP,
  );
  const found: { at: number; depth: number }[] = [];
  for (let b = 1; b < over.length - 1; b++) {
    if (over[b] < floor || over[b] < over[b - 1] || over[b] <= over[b + 1]) continue;
    let weight = 0;
    let sum = 0;
    for (let k = Math.max(0, b - 3); k <= Math.min(over.length - 1, b + 3); k++) {
      weight += over[k];
      sum += over[k] * (k + 0.5);
    }
    const at = sum / weight / BINS_PER_PX + profile.from;
    const last = found[found.length - 1];
    if (last && at - last.at < 3) {
      if (over[b] > last.depth) found[found.length - 1] = { at, depth: over[b] };
    } else found.push({ at, depth: over[b] });
  }
  return found;
}

// The commonest gap, and how many gaps are whole multiples of it.
function regularity(at: readonly number[]): { spacing: number; regular: number } {
  const gaps = at.slice(1).map((v, k) => v - at[k]);
  let best = { spacing: 0, regular: 0 };
  for (const spacing of gaps) {
    const fits =
      gaps.filter(
        (g) =>
          Math.round(g / spacing) >= 1 &&
          Math.abs(g / spacing - Math.round(g / spacing)) < OFF_STEP &&
          g / spacing < MOST_STEPS,
      ).length / gaps.length;
    if (fits > best.regular + 1e-9 || (fits > best.regular - 1e-9 && spacing > best.spacing))
      best = { spacing, regular: fits };
  }
  return best;
}

function isInStep(at: number, k: number, all: readonly number[], spacing: number): boolean {
  return [all[k - 1], all[k + 1]].some(
    (n) =>
      n !== undefined &&
      Math.round(Math.abs(at - n) / spacing) >= 1 &&
      Math.abs(Math.abs(at - n) / spacing - Math.round(Math.abs(at - n) / spacing)) < OFF_KNOWN_STEP,
  );
}
