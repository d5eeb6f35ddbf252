import type { Raster } from '../raster/raster';

export interface Sharpness {
  /** The steepest step of a strong edge as a share of the whole edge, the middle of all: 1 a hard edge. */
  readonly alongRows: number;
  readonly downColumns: number;
  /** How many strong edges were found. */
  readonly edges: number;
}

/** An edge is looked at so far to both sides, px, and counts when it changes by so much, code values. */
const REACH = 4;
const STRONG = 90;
const MOST_EDGES = 4000;
/** Shadows and glows have softer ones, and lie to one side. */
const CRISP = 0.25;

/**
 * How sharp the edges of a mark are, by rows and by columns, on white.
 * @param kind  all edges; or only those that lean a little off the grid, whose place between pixels is left to chance
 *   all along them, so that rows and columns can be compared
 */
export function measureSharpness(raster: Raster, kind: 'all' | 'leaning' = 'all'): Sharpness {
  const { width, height, data } = raster;
  const grey = new Float32Array(width * height);
  for (let i = 0; i < grey.length; i++) {
    const a = data[i * 4 + 3] / 255;
    // Alpha counts as an edge too: a pale mark on clear ground has one.
    grey[i] = a * (0.3 * data[i * 4] + 0.59 * data[i * 4 + 1] + 0.11 * data[i * 4 + 2]) * 0.5 + (1 - a) * 255;
  }
  const lean = kind === 'leaning';
  const rows = steps(grey, { count: height, length: width, next: 1, line: width, lean });
  const columns = steps(grey, { count: width, length: height, next: width, line: 1, lean });
  const mean = lean ? average : middle;
  return { alongRows: mean(rows), downColumns: mean(columns), edges: Math.min(rows.length, columns.length) };
}

/** How far an edge may lean off the grid to be compared, as the change along it against that across it. */
const LEAN = { least: 0.04, most: 0.55 };

interface Lines {
  readonly count: number;
  readonly length: number;
  readonly next: number;
  readonly line: number;
  readonly lean: boolean;
}

function steps(grey: Float32Array, { count, length, next, line, lean }: Lines): number[] {
  const out: number[] = [];
  const skip = Math.max(1, Math.floor((count * length) / 1_500_000));
  for (let l = 0; l < count; l += skip) {
    for (let k = REACH; k < length - REACH; k++) {
      const i = l * line + k * next;
      const step = grey[i + next] - grey[i];
      const size = Math.abs(step);
      // Only where the step is the steepest of its own neighbourhood, of an edge that goes one way.
      if (
        size < 8 ||
        size < Math.abs(grey[i] - grey[i - next]) ||
        size <= Math.abs(grey[i + 2 * next] - grey[i + next])
      )
        continue;
      if (lean && !isLeaning(grey, i, { next, line, size })) continue;
      let [low, high] = [k, k + 1];
      const goesOn = (a: number, b: number) => (grey[l * line + b * next] - grey[l * line + a * next]) * step > 0;
      while (low > k - REACH && goesOn(low - 1, low)) low--;
      while (high < Math.min(length - 1, k + 1 + REACH) && goesOn(high, high + 1)) high++;
      const whole = Math.abs(grey[l * line + high * next] - grey[l * line + low * next]);
      if (whole >= STRONG && (!lean || size > CRISP * whole)) out.push(size / whole);
    }
    if (out.length > MOST_EDGES) break;
  }
  return out;
}

function isLeaning(grey: Float32Array, i: number, { next, line, size }: { next: number; line: number; size: number }) {
  const [before, after] = [i - line, i + line];
  if (before < 0 || after + next >= grey.length) return false;
  const along = Math.abs(grey[after] + grey[after + next] - grey[before] - grey[before + next]) / 4 / size;
  return along >= LEAN.least && along <= LEAN.most;
}

const average = (list: readonly number[]): number =>
  list.length === 0 ? 1 : list.reduce((sum, v) => sum + v, 0) / list.length;

function middle(list: number[]): number {
  if (list.length === 0) return 1;
  list.sort((a, b) => a - b);
  return list[list.length >> 1];
}
