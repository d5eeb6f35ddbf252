import type { Rgb } from '../colour/hex';
import type { Raster } from '../raster/raster';

/** Columns and rows of one checker agree to this share of a cell. */
const CELLS_AGREE = 0.06;
/** Beside the outermost lines, one a little inside: files come with a border line of their own. */
const INSIDE = 0.02;
/** A pixel with this much of one colour is of that colour; those between lie on a cell's edge. */
const WHOLE = 0.98;

/** A checker pattern baked into a picture: two colours in squares. */
export interface Checker {
  readonly colours: readonly [Rgb, Rgb];
  /** Side of a square in px; need not be whole, as after a change of size. */
  readonly cellPx: number;
  /** Where a square of the first colour begins. */
  readonly originX: number;
  readonly originY: number;
}

const LEAST_CELL = 3;
const MOST_CELL = 160;
/** Of the border's pixels so many must be one of the two colours, and each of the two at least so many. */
const LEAST_TOGETHER = 0.72;
const LEAST_EACH = 0.22;
/** And so many must be where the pattern says. */
const LEAST_AGREEING = 0.85;
const LEAST_APART = 8;

/**
 * Looks for a baked-in checker along the border. Returns null when there is none.
 * @param at  border pixels to look at
 */
export function measureChecker(raster: Raster, at: readonly number[]): Checker | null {
  const colours = twoColours(raster, at);
  if (!colours) return null;
  const columns = fitGrid(raster, colours, true);
  const rows = fitGrid(raster, colours, false);
  if (!columns || !rows) return null;
  const cellPx = (columns.cell * columns.count + rows.cell * rows.count) / (columns.count + rows.count);
  if (Math.abs(columns.cell - rows.cell) > CELLS_AGREE * cellPx) return null;
  for (const shift of [0, cellPx]) {
    const checker: Checker = { colours, cellPx, originX: columns.origin + shift, originY: rows.origin };
    if (agreement(raster, checker, at) >= LEAST_AGREEING) return checker;
  }
  return null;
}

const differ = (data: Uint8Array, i: number, c: ArrayLike<number>) =>
  Math.max(Math.abs(data[i * 4] - c[0]), Math.abs(data[i * 4 + 1] - c[1]), Math.abs(data[i * 4 + 2] - c[2]));

function twoColours({ data }: Raster, at: readonly number[]): [Rgb, Rgb] | null {
  const bins = new Map<number, number>();
  for (const i of at) {
    const key = ((data[i * 4] >> 3) << 10) | ((data[i * 4 + 1] >> 3) << 5) | (data[i * 4 + 2] >> 3);
    bins.set(key, (bins.get(key) ?? 0) + 1);
  }
  const found: Rgb[] = [];
  for (const [key] of [...bins].sort((a, b) => b[1] - a[1])) {
    const middle = [(key >> 10) & 31, (key >> 5) & 31, key & 31].map((v) => v * 8 + 4);
    if (found.some((f) => Math.max(...f.map((v, c) => Math.abs(v - middle[c]))) < LEAST_APART)) continue;
    const near = at.filter((i) => differ(data, i, middle) <= 7);
    if (near.length < at.length * LEAST_EACH) break;
    found.push(
      [0, 1, 2].map((c) => Math.round(near.reduce((s, i) => s + data[i * 4 + c], 0) / near.length)) as unknown as Rgb,
    );
    if (found.length === 2) break;
  }
  if (found.length < 2) return null;
  const both = at.filter((i) => found.some((f) => differ(data, i, f) <= 14)).length;
  return both >= at.length * LEAST_TOGETHER ? [found[0], found[1]] : null;
}

/** Where the colours change along lines near the border, as a grid of equal steps. */
function fitGrid(
  { width, height, data }: Raster,
  [a, b]: readonly [Rgb, Rgb],
  along: boolean,
): { cell: number; origin: number; count: number } | null {
  const length = along ? width : height;
  const across = along ? height : width;
  const votes = new Float64Array(length);
  for (const line of [0, 1, 2, Math.floor(across * INSIDE), across - 3, across - 2, across - 1]) {
    if (line < 0 || line >= across) continue;
    const at = (k: number) => (along ? line * width + k : k * width + line);
    let last = 0;
    for (let k = 0; k < length; k++) {
      const [da, db] = [differ(data, at(k), a), differ(data, at(k), b)];
      const now = da + 2 < db ? 1 : db + 2 < da ? 2 : last;
      if (last && now !== last) votes[k]++;
      last = now;
    }
  }
  const edges: number[] = [];
  for (let k = 0; k < length; k++) {
    const sum = votes[k] + (votes[k - 1] ?? 0) + (votes[k + 1] ?? 0);
    if (votes[k] >= 2 && votes[k] >= (votes[k - 1] ?? 0) && votes[k] > (votes[k + 1] ?? 0) && sum >= 3) edges.push(k);
  }
  if (edges.length < 3) return null;
  const gaps = edges
    .slice(1)
    .map((e, k) => e - edges[k])
    .sort((p, q) => p - q);
  let cell = gaps[gaps.length >> 1];
  if (cell < LEAST_CELL || cell > MOST_CELL) return null;
  // Least squares of position on number, again with the better step until it stands.
  let origin = edges[0];
  for (let round = 0; round < 3; round++) {
    let n = 0,
      sk = 0,
      se = 0,
      skk = 0,
      ske = 0;
    let number = 0;
    for (const [j, e] of edges.entries()) {
      if (j > 0) number += Math.max(1, Math.round((e - edges[j - 1]) / cell));
      n++;
      sk += number;
      se += e;
      skk += number * number;
      ske += number * e;
    }
    const divisor = n * skk - sk * sk;
    if (divisor === 0) return null;
    cell = (n * ske - sk * se) / divisor;
    origin = (se - cell * sk) / n;
  }
  return { cell, origin, count: edges.length };
}

function agreement(raster: Raster, checker: Checker, at: readonly number[]): number {
  let fits = 0;
  let counted = 0;
  for (const i of at) {
    const share = shareOfFirst(checker, i % raster.width, Math.floor(i / raster.width));
    if (share > 1 - WHOLE && share < WHOLE) continue;
    counted++;
    if (differ(raster.data, i, checker.colours[share >= 0.5 ? 0 : 1]) <= 14) fits++;
  }
  return fits / Math.max(1, counted);
}

// How much of a pixel's width lies in even steps of the grid.
function evenShare(x: number, origin: number, cell: number): number {
  const from = (x - origin) / cell;
  const to = (x + 1 - origin) / cell;
  const first = Math.floor(from);
  const isEven = (first & 1) === 0;
  if (to <= first + 1) return isEven ? 1 : 0;
  const within = (first + 1 - from) / (to - from);
  return isEven ? within : 1 - within;
}

/** How much of a pixel is of the checker's first colour, 0..1: by area where a border runs through it. */
export function shareOfFirst({ cellPx, originX, originY }: Checker, x: number, y: number): number {
  const u = evenShare(x, originX, cellPx);
  const v = evenShare(y, originY, cellPx);
  return u * v + (1 - u) * (1 - v);
}
