import type { Raster } from '../raster/raster';
import { greyOnWhite } from './sharpness';

/**
 * What the edges along rows have more of than those down columns. All of it is nothing where a mark was drawn or scaled
 * both ways alike, whatever with.
 */
export interface EdgeDifference {
  /** Pixels between ink and ground an edge; of what lies on either side of its middle the lesser, twice. */
  readonly greys: number;
  /** By logarithm: over 0 where rows are softer, by the steepest step of each edge. */
  readonly softness: number;
  /** What lies beyond the two pixels in the middle, as a share of the edge. */
  readonly spill: number;
  /** How many edges were found, the fewer of both ways. */
  readonly edges: number;
}

/**
 * Compares edges along rows with those down columns: scaling one way alone leaves more grey pixels at them, and makes
 * them softer, or by a sharp filter steeper at first. Only edges that lean a little off the grid count: where they cut
 * a pixel is left to chance all along them. A soft shadow or glow lies on one side of an edge and does not count.
 */
export function compareEdges(raster: Raster): EdgeDifference {
  const { width, height } = raster;
  const grey = greyOnWhite(raster);
  const rows = edgesOf({ grey, count: height, length: width, next: 1, line: width });
  const columns = edgesOf({ grey, count: width, length: height, next: width, line: 1 });
  const near = differenceOf(rows.filter(isNear), columns.filter(isNear));
  return near.edges >= ENOUGH ? near : differenceOf(rows, columns);
}

function differenceOf(rowEdges: readonly Edge[], columnEdges: readonly Edge[]): EdgeDifference {
  const [rows, columns] = [meanOf(rowEdges), meanOf(columnEdges)];
  const [ink, ground] = [rows.ink - columns.ink, rows.ground - columns.ground];
  return {
    greys: ink * ground > 0 ? 2 * Math.sign(ink) * Math.min(Math.abs(ink), Math.abs(ground)) : 0,
    softness: Math.log(columns.steepest / rows.steepest),
    spill: rows.spill - columns.spill,
    edges: Math.min(rowEdges.length, columnEdges.length),
  };
}

interface Lines {
  readonly grey: Float32Array;
  readonly count: number;
  readonly length: number;
  /** From one value to the next of a line, and from one line to the next. */
  readonly next: number;
  readonly line: number;
}

/** Grey pixels on an edge's ink's side and its ground's, its steepest step, and what lies beyond the middle two. */
interface Edge {
  readonly ink: number;
  readonly ground: number;
  readonly steepest: number;
  readonly spill: number;
  /** How far it moves from a line to the next, px. */
  readonly lean: number;
}

/** A step less is no edge, code values. */
const LEAST_STEP = 20;
/** An edge from plateau to plateau changes by so much. */
const LEAST_EDGE = 60;
/** How far an edge may lean off the grid: by so many px it moves from a line to the next. */
const LEAN = { least: 0.04, most: 1.3 };
/** Plateaus are looked at so far from an edge's middle, px, and change by less than this share of it. */
const REACH = { from: 2, to: 5 };
const FLAT = 0.03;
/** Farther from both plateaus than this share a pixel is grey. */
const GREY = 0.02;
/** Softer edges are those of shadows and glows. */
const CRISP = 0.25;
const MOST_PIXELS = 3_000_000;

/** Edges that lean less show the difference better, and are taken alone where there are enough of them. */
const isNear = ({ lean }: Edge) => lean <= 0.75;
const ENOUGH = 120;

function edgesOf(lines: Lines): Edge[] {
  const { count, length, next, line } = lines;
  const edges: Edge[] = [];
  const skip = Math.ceil((count * length) / MOST_PIXELS);
  for (let l = 1; l < count - 1; l += skip)
    for (let k = 1; k < length - 2; k++) {
      const edge = isSteepest(lines, l * line + k * next) && edgeAt(lines, l, k);
      if (edge) edges.push(edge);
    }
  return edges;
}

const NO_EDGE: Edge = { ink: 0, ground: 0, steepest: 1, spill: 0, lean: 0 };

function meanOf(edges: readonly Edge[]): Edge {
  const mean = (of: (edge: Edge) => number) => edges.reduce((sum, e) => sum + of(e), 0) / edges.length;
  if (edges.length === 0) return NO_EDGE;
  return {
    ...{ ink: mean((e) => e.ink), ground: mean((e) => e.ground), lean: mean((e) => e.lean) },
    ...{ steepest: mean((e) => e.steepest), spill: mean((e) => e.spill) },
  };
}

/** Whether the step from a value to the next is an edge's, and steeper than those beside it. */
function isSteepest({ grey, next }: Lines, i: number): boolean {
  const size = Math.abs(grey[i + next] - grey[i]);
  return (
    size >= LEAST_STEP &&
    size >= Math.abs(grey[i] - grey[i - next]) &&
    size > Math.abs(grey[i + 2 * next] - grey[i + next])
  );
}

/** The edge whose steepest step is from value `k` of a line to the next; null where there is none to compare. */
function edgeAt({ grey, length, next, line }: Lines, l: number, k: number): Edge | null {
  const start = l * line;
  const at = (j: number) => grey[start + Math.min(length - 1, Math.max(0, j)) * next];
  const step = at(k + 1) - at(k);
  const size = Math.abs(step);
  const low = (at(k - REACH.from) + at(k - REACH.from - 1)) / 2;
  const high = (at(k + 1 + REACH.from) + at(k + 2 + REACH.from)) / 2;
  const whole = high - low;
  if (Math.abs(whole) < LEAST_EDGE || size < CRISP * Math.abs(whole) || whole * step < 0) return null;
  for (let j = REACH.from; j < REACH.to; j++) {
    const change = Math.max(Math.abs(at(k - j) - at(k - j - 1)), Math.abs(at(k + 1 + j) - at(k + 2 + j)));
    if (change > FLAT * Math.abs(whole)) return null;
  }
  const lean = leanAt({ grey, length, next, line }, start, k, whole);
  if (lean < LEAN.least || lean > LEAN.most) return null;
  const share = (j: number) => (at(j) - low) / whole;
  const isGrey = (v: number) => Number(v > GREY && v < 1 - GREY);
  const [a, b, c, d] = [share(k - 1), share(k), share(k + 1), share(k + 2)];
  // A leaning edge cuts more pixels by itself, half of them on either side.
  const before = isGrey(a) + isGrey(b) - lean / 2;
  const after = isGrey(c) + isGrey(d) - lean / 2;
  const isInkAfter = whole < 0;
  return {
    ink: isInkAfter ? after : before,
    ground: isInkAfter ? before : after,
    steepest: size / Math.abs(whole) / steepestOf(lean),
    spill: Math.abs(a) + Math.abs(1 - d) - spillOf(lean),
    lean,
  };
}

/** How far an edge moves from a line to the next, px: by what lies between the lines before and after it. */
function leanAt({ grey, length, next, line }: Omit<Lines, 'count'>, start: number, k: number, whole: number): number {
  let moved = 0;
  for (let j = Math.max(0, k + 1 - REACH.to); j <= Math.min(length - 1, k + REACH.to); j++) {
    const i = start + j * next;
    moved += grey[i + line] - grey[i - line];
  }
  return Math.abs(moved / (2 * whole));
}

/** The mean of straight edges is taken of so many phases, at so many leans a px up to the most. */
const PHASES = 40;
const LEANS_A_PX = 20;

/** Of a straight edge drawn with coverage, by its lean: its steepest step and what spills over, the mean of phases. */
const LEANING = Array.from({ length: LEAN.most * LEANS_A_PX + 1 }, (_, k) => meanOfPhases(k / LEANS_A_PX));
function meanOfPhases(lean: number): { steepest: number; spill: number } {
  // Coverage is a step through a pixel's width and the lean's.
  const ramp = (x: number, width: number) => Math.min(Math.max(x + width / 2, 0), width);
  const area = (x: number, width: number) => {
    const t = ramp(x, width);
    return (t * t) / 2 + width * Math.max(0, x - width / 2);
  };
  const covered = (x: number) => (lean < 0.01 ? ramp(x, 1) : (area(x + lean / 2, 1) - area(x - lean / 2, 1)) / lean);
  let [steepest, spill] = [0, 0];
  for (let p = 0; p < PHASES; p++) {
    const values = Array.from({ length: 9 }, (_, j) => covered(j - 4 + (p + 0.5) / PHASES));
    const steps = values.slice(1).map((v, j) => v - values[j]);
    const most = Math.max(...steps);
    const k = steps.indexOf(most);
    steepest += most;
    spill += values[k - 1] + 1 - values[k + 2];
  }
  return { steepest: steepest / PHASES, spill: spill / PHASES };
}
const leaningAt = (lean: number) => LEANING[Math.min(LEANING.length - 1, Math.round(lean * LEANS_A_PX))];
const steepestOf = (lean: number) => leaningAt(lean).steepest;
const spillOf = (lean: number) => leaningAt(lean).spill;
