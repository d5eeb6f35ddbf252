import type { RectPx } from '../params';
import { findExtents } from './extents';
import type { Raster } from './raster';

/**
 * Gives every fully transparent pixel the colour of a near visible pixel, in place.
 * Programs that scale without regard to alpha then find the mark's own colour past its edge, not black.
 * Beside the mark two sweeps carry the position of the nearest visible pixel from neighbour to neighbour: exact for almost
 * all pixels, and never farther off than the sweeps' usual small error. Farther off, where only a very coarse reduction
 * looks, eight by eight pixels share one colour, found in the same way. Outside of the extents their rim hands its colour on.
 * @param within  where alone anything is visible, in whole pixels, when that is known
 * @see P.-E. Danielsson, "Euclidean Distance Mapping", 1980 (sequential mapping with four neighbours)
 */
export function bleedColours(raster: Raster, within?: RectPx): Raster {
  // The faintest pixel is visible here: its alpha must stay.
  const extents = findExtents(raster, 1, within);
  if (!extents) return raster;
  const { width: w, height: h, data } = raster;
  // Only colour is copied: the alpha byte stays 0. Little-endian layout, as on every host we run on.
  const px = new Int32Array(data.buffer, data.byteOffset, w * h);
  bleedInside(px, w, extents);
  const right = extents.x + extents.width;
  const bottom = extents.y + extents.height;
  for (let y = extents.y; y < bottom; y++) {
    px.fill(px[y * w + extents.x] & 0x00ffffff, y * w, y * w + extents.x);
    px.fill(px[y * w + right - 1] & 0x00ffffff, y * w + right, (y + 1) * w);
  }
  const rowOf = (y: number) => Int32Array.from(px.subarray(y * w, (y + 1) * w), (v) => v & 0x00ffffff);
  if (extents.y > 0) px.set(rowOf(extents.y), 0);
  for (let y = 1; y < extents.y; y++) px.copyWithin(y * w, 0, w);
  if (bottom < h) px.set(rowOf(bottom - 1), bottom * w);
  for (let y = bottom + 1; y < h; y++) px.copyWithin(y * w, bottom * w, (bottom + 1) * w);
  return raster;
}

/** Pixels in a row and in a column that are looked at together. */
const CELL = 8;
const VISIBLE = 1;
const CLEAR = 2;
const BOTH = VISIBLE | CLEAR;

function bleedInside(px: Int32Array, stride: number, extents: RectPx): void {
  const { width, height } = extents;
  const origin = extents.y * stride + extents.x;
  const columns = Math.ceil(width / CELL);
  const rows = Math.ceil(height / CELL);
  const holds = whatCellsHold(px, stride, origin, width, height, columns, rows);
  const around = spreadBits(holds, columns, rows);
  // Places travel packed as y·65536 + x + 1 within the extents; 0 is none yet.
  const from = new Int32Array(width * height);
  const runs = sweepDown(px, stride, origin, from, around, width, height, columns);
  sweepUp(px, stride, origin, from, runs, width, height);
  fillFar(px, stride, origin, from, around, width, height, columns, rows);
}

function whatCellsHold(px: Int32Array, stride: number, origin: number, width: number, height: number, columns: number, rows: number): Uint8Array {
  const holds = new Uint8Array(columns * rows);
  for (let y = 0; y < height; y++) {
    const row = origin + y * stride;
    const cellRow = ((y / CELL) | 0) * columns;
    for (let c = 0; c < columns; c++) {
      let seen = holds[cellRow + c];
      if (seen === BOTH) continue;
      const end = row + Math.min(width, (c + 1) * CELL);
      for (let i = row + c * CELL; i < end; i++) seen |= px[i] >>> 24 ? VISIBLE : CLEAR;
      holds[cellRow + c] = seen;
    }
  }
  return holds;
}

/** What each cell and its eight neighbours hold together. */
function spreadBits(holds: Uint8Array, columns: number, rows: number): Uint8Array {
  const across = holds.slice();
  for (let k = 0; k < holds.length; k++) {
    if (k % columns > 0) across[k] |= holds[k - 1];
    if (k % columns < columns - 1) across[k] |= holds[k + 1];
  }
  const out = across.slice();
  for (let k = 0; k < holds.length; k++) {
    if (k >= columns) out[k] |= across[k - columns];
    if (k < columns * (rows - 1)) out[k] |= across[k + columns];
  }
  return out;
}

// Only see-through runs beside the mark are swept. Returns them: row, first, end.
function sweepDown(px: Int32Array, stride: number, origin: number, from: Int32Array, around: Uint8Array, width: number, height: number, columns: number): number[] {
  const runs: number[] = [];
  for (let y = 0; y < height; y++) {
    const cellRow = ((y / CELL) | 0) * columns;
    for (let c = 0; c < columns; c++) {
      if (around[cellRow + c] !== BOTH) continue;
      const first = c * CELL;
      while (c + 1 < columns && around[cellRow + c + 1] === BOTH) c++;
      sweepRow(px, origin + y * stride, from, y, first, Math.min(width, (c + 1) * CELL), width, runs);
    }
  }
  return runs;
}

function sweepRow(px: Int32Array, row: number, from: Int32Array, y: number, begin: number, end: number, width: number, runs: number[]): void {
  const start = y * width;
  for (let x = begin; x < end; x++) {
    if (px[row + x] >>> 24 !== 0) {
      from[start + x] = ((y << 16) | x) + 1;
      continue;
    }
    const first = x;
    let last = x > begin ? from[start + x - 1] : 0;
    for (; x < end && px[row + x] >>> 24 === 0; x++) from[start + x] = last = nearer(y > 0 ? from[start + x - width] : 0, last, x, y);
    runs.push(y, first, x);
    if (x < end) from[start + x] = last = ((y << 16) | x) + 1;
    for (let k = x - 1; k >= first; k--) from[start + k] = last = nearer(from[start + k], last, k, y);
  }
}

function sweepUp(px: Int32Array, stride: number, origin: number, from: Int32Array, runs: readonly number[], width: number, height: number): void {
  for (let r = runs.length - 3; r >= 0; r -= 3) {
    const y = runs[r];
    const first = runs[r + 1];
    const end = runs[r + 2];
    const row = origin + y * stride;
    const start = y * width;
    let last = end < width ? from[start + end] : 0;
    for (let x = end - 1; x >= first; x--) from[start + x] = last = nearer(nearer(from[start + x], y < height - 1 ? from[start + x + width] : 0, x, y), last, x, y);
    last = first > 0 ? from[start + first - 1] : 0;
    for (let x = first; x < end; x++) {
      from[start + x] = last = nearer(from[start + x], last, x, y);
      // The rows above still ask for this row's places, never for its pixels.
      if (last > 0) px[row + x] = colourAt(px, stride, origin, last);
    }
  }
}

const colourAt = (px: Int32Array, stride: number, origin: number, place: number): number =>
  px[origin + ((place - 1) >>> 16) * stride + ((place - 1) & 0xffff)] & 0x00ffffff;

/** Gives cells with nothing visible in or beside them the colour of a near place, carried from cell to cell. */
function fillFar(px: Int32Array, stride: number, origin: number, from: Int32Array, around: Uint8Array, width: number, height: number, columns: number, rows: number): void {
  const place = new Int32Array(columns * rows);
  const half = CELL >> 1;
  for (let r = 0, k = 0; r < rows; r++) {
    const y = Math.min(height - 1, r * CELL + half);
    for (let c = 0; c < columns; c++, k++) if (around[k] === BOTH) place[k] = from[y * width + Math.min(width - 1, c * CELL + half)];
  }
  const take = (k: number, n: number) => {
    if (around[k] === CLEAR) place[k] = nearer(place[k], place[n], (k % columns) * CELL + half, ((k / columns) | 0) * CELL + half);
  };
  for (let r = 0, k = 0; r < rows; r++, k += columns) {
    if (r > 0) for (let c = 0; c < columns; c++) take(k + c, k + c - columns);
    for (let c = 1; c < columns; c++) take(k + c, k + c - 1);
    for (let c = columns - 2; c >= 0; c--) take(k + c, k + c + 1);
  }
  for (let r = rows - 1, k = r * columns; r >= 0; r--, k -= columns) {
    if (r < rows - 1) for (let c = 0; c < columns; c++) take(k + c, k + c + columns);
    for (let c = 1; c < columns; c++) take(k + c, k + c - 1);
    for (let c = columns - 2; c >= 0; c--) take(k + c, k + c + 1);
  }
  for (let k = 0; k < place.length; k++) {
    if (around[k] !== CLEAR || place[k] === 0) continue;
    const x = (k % columns) * CELL;
    const y = ((k / columns) | 0) * CELL;
    const colour = colourAt(px, stride, origin, place[k]);
    while ((k + 1) % columns > 0 && around[k + 1] === CLEAR && place[k + 1] === place[k]) k++;
    const end = Math.min(width, ((k % columns) + 1) * CELL);
    for (let py = y; py < Math.min(height, y + CELL); py++) px.fill(colour, origin + py * stride + x, origin + py * stride + end);
  }
}

/** The nearer of two packed places to a pixel. */
function nearer(a: number, b: number, x: number, y: number): number {
  if (a === b || b === 0) return a;
  if (a === 0) return b;
  const ax = ((a - 1) & 0xffff) - x;
  const ay = ((a - 1) >>> 16) - y;
  const bx = ((b - 1) & 0xffff) - x;
  const by = ((b - 1) >>> 16) - y;
  return bx * bx + by * by < ax * ax + ay * ay ? b : a;
}
