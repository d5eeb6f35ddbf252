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

/** How sharp the edges of a mark are, by rows and by columns, on white. */
export function measureSharpness(raster: Raster): Sharpness {
  const { width, height } = raster;
  const grey = greyOnWhite(raster);
  const rows = steps(grey, { count: height, length: width, next: 1, line: width });
  const columns = steps(grey, { count: width, length: height, next: width, line: 1 });
  return { alongRows: middle(rows), downColumns: middle(columns), edges: Math.min(rows.length, columns.length) };
}

/** A mark's greys on white, code values; ink at half, so that a pale mark on clear ground has edges too. */
export function greyOnWhite({ width, height, data }: Raster): Float32Array {
  const grey = new Float32Array(width * height);
  for (let i = 0; i < grey.length; i++) {
    const a = data[i * 4 + 3] / 255;
    grey[i] = a * (0.3 * data[i * 4] + 0.59 * data[i * 4 + 1] + 0.11 * data[i * 4 + 2]) * 0.5 + (1 - a) * 255;
  }
  return grey;
}

interface Lines {
  readonly count: number;
  readonly length: number;
  readonly next: number;
  readonly line: number;
}

function steps(grey: Float32Array, { count, length, next, line }: Lines): number[] {
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
      let [low, high] = [k, k + 1];
      const goesOn = (a: number, b: number) => (grey[l * line + b * next] - grey[l * line + a * next]) * step > 0;
      while (low > k - REACH && goesOn(low - 1, low)) low--;
      while (high < Math.min(length - 1, k + 1 + REACH) && goesOn(high, high + 1)) high++;
      const whole = Math.abs(grey[l * line + high * next] - grey[l * line + low * next]);
      if (whole >= STRONG) out.push(size / whole);
    }
    if (out.length > MOST_EDGES) break;
  }
  return out;
}

function middle(list: number[]): number {
  if (list.length === 0) return 1;
  list.sort((a, b) => a - b);
  return list[list.length >> 1];
}
