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
  const rows = shapeOf({ grey, count: height, length: width, next: 1, line: width });
  const columns = shapeOf({ grey, count: width, length: height, next: width, line: 1 });
  const [ink, ground] = [rows.ink - columns.ink, rows.ground - columns.ground];
  return {
    greys: ink * ground > 0 ? 2 * Math.sign(ink) * Math.min(Math.abs(ink), Math.abs(ground)) : 0,
    softness: Math.log(columns.steepest / rows.steepest),
    spill: rows.spill - columns.spill,
    edges: Math.min(rows.edges, columns.edges),
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

/** The mean edge: grey pixels on its ink's side and its ground's, its steepest step, and what lies beyond. */
interface EdgeShape {
  readonly ink: number;
  readonly ground: number;
  readonly steepest: number;
  readonly spill: number;
  readonly edges: number;
}

/** A step less is no edge, code values. */
const LEAST_STEP = 20;
/** An edge from plateau to plateau changes by so much. */
const LEAST_EDGE = 60;
/** How far an edge may lean off the grid, as the change along it against that across it. */
const LEAN = { least: 0.04, most: 0.55 };
/** Plateaus are looked at so far from an edge's middle, px, and change by less than this share of it. */
const REACH = { from: 2, to: 5 };
const FLAT = 0.03;
/** Farther from both plateaus than this share a pixel is grey. */
const GREY = 0.02;
/** Softer edges are those of shadows and glows. */
const CRISP = 0.25;
const MOST_PIXELS = 3_000_000;

function shapeOf(lines: Lines): EdgeShape {
  const { count, length } = lines;
  const sum = { ink: 0, ground: 0, steepest: 0, spill: 0 };
  let edges = 0;
  const skip = Math.ceil((count * length) / MOST_PIXELS);
  for (let l = 1; l < count - 1; l += skip)
    for (let k = 1; k < length - 2; k++) {
      const edge = edgeAt(lines, l, k);
      if (!edge) continue;
      sum.ink += edge.ink;
      sum.ground += edge.ground;
      sum.steepest += edge.steepest;
      sum.spill += edge.spill;
      edges++;
    }
  const n = Math.max(1, edges);
  return {
    ...{ ink: sum.ink / n, ground: sum.ground / n, spill: sum.spill / n, edges },
    steepest: edges > 0 ? sum.steepest / n : 1,
  };
}

/** The edge whose steepest step is from value `k` of a line to the next; null where there is none to compare. */
function edgeAt({ grey, length, next, line }: Lines, l: number, k: number): Omit<EdgeShape, 'edges'> | null {
  const start = l * line;
  const at = (j: number) => grey[start + Math.min(length - 1, Math.max(0, j)) * next];
  const step = at(k + 1) - at(k);
  const size = Math.abs(step);
  if (size < LEAST_STEP || size < Math.abs(at(k) - at(k - 1)) || size <= Math.abs(at(k + 2) - at(k + 1))) return null;
  const i = start + k * next;
  const lean = Math.abs(grey[i + line] + grey[i + line + next] - grey[i - line] - grey[i - line + next]) / 4 / size;
  if (lean < LEAN.least || lean > LEAN.most) return null;
  const low = (at(k - REACH.from) + at(k - REACH.from - 1)) / 2;
  const high = (at(k + 1 + REACH.from) + at(k + 2 + REACH.from)) / 2;
  const whole = high - low;
  if (Math.abs(whole) < LEAST_EDGE || size < CRISP * Math.abs(whole) || whole * step < 0) return null;
  for (let j = REACH.from; j < REACH.to; j++) {
    const change = Math.max(Math.abs(at(k - j) - at(k - j - 1)), Math.abs(at(k + 1 + j) - at(k + 2 + j)));
    if (change > FLAT * Math.abs(whole)) return null;
  }
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
    steepest: size / Math.abs(whole),
    spill: Math.abs(a) + Math.abs(1 - d),
  };
}
