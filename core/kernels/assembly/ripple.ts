import { CLEAR, DEEP, MIXED } from './labels';
import { apart, byteAt, intAt, setByte, setInt, sixteenAt } from './memory';

const STRONG: i32 = 72;
/** Compression works in blocks of eight pixels, so its ripples reach about that far from an edge. */
const REACH: i32 = 7;
const CELL: i32 = 4;
const CELLS_REACHED: i32 = 2;
const LEAST_PALE: i32 = 9;

/** Three to six pixels past an edge a shadow or glow is nowhere weaker than this, nor than this part of its mean. */
const LEAST_FADE: i32 = 6;
const LEAST_PART: f64 = 0.5;
/** It goes on past the reach of ripples, at least so strong. */
const LEAST_BEYOND: i32 = 3;
const BEYOND: i32 = 9;
/** It bends by no more from pixel to pixel, code values. */
const MOST_BEND: i32 = 4;

// Where a ripple swings about the ground and ends, a shadow keeps off it and goes on.
function isFade(distance: usize, i: i32, rowEnd: i32): bool {
  if (
    i + BEYOND >= rowEnd ||
    byteAt(distance, i + BEYOND - 1) < LEAST_BEYOND ||
    byteAt(distance, i + BEYOND) < LEAST_BEYOND
  )
    return false;
  let least = 255;
  let sum = 0;
  for (let k = 3; k <= 6; k++) {
    least = min(least, byteAt(distance, i + k));
    sum += byteAt(distance, i + k);
    if (
      apart(byteAt(distance, i + k) * 2, byteAt(distance, i + k - 1) + byteAt(distance, i + k + 1)) > MOST_BEND &&
      k > 3
    )
      return false;
  }
  return least >= LEAST_FADE && <f64>least >= (LEAST_PART * <f64>sum) / 4;
}

@unmanaged
class SampleRipple {
  distance: usize;
  runs: usize;
  rowStart: usize;
  width: i32;
  height: i32;
  step: i32;
  count: usize;
}

/**
 * Counts, in `count[0..47]`, the ground distances three to six pixels past the end of strong runs. Returns how many.
 */
export function sampleRipple(args: SampleRipple): i32 {
  const distance = args.distance;
  const runs = args.runs;
  const rowStart = args.rowStart;
  const width = args.width;
  const height = args.height;
  const step = args.step;
  const count = args.count;
  let total = 0;
  for (let y = 0; y < height; y += step) {
    const row = y * width;
    for (let r = intAt(rowStart, y); r < intAt(rowStart, y + 1); r += 3) {
      const state = intAt(runs, r);
      if (state == DEEP) continue;
      const last = min(state == CLEAR ? intAt(runs, r + 1) + 1 : intAt(runs, r + 2), row + width - REACH);
      for (let i = max(row + 1, intAt(runs, r + 1)); i < last; i++) {
        if (byteAt(distance, i) >= STRONG || byteAt(distance, i - 1) < STRONG) continue;
        // Only where the row really comes down to ground: a pale part beside the edge stays up.
        if (byteAt(distance, i + 6) > 30 || isFade(distance, i, row + width)) continue;
        for (let k = 3; k <= 6; k++) {
          const d = byteAt(distance, i + k);
          if (d >= 48) break;
          setInt(count, d, intAt(count, d) + 1);
          total++;
        }
      }
    }
  }
  return total;
}

@unmanaged
class CellsNearStrong {
  distance: usize;
  runs: usize;
  rowStart: usize;
  width: i32;
  height: i32;
  strong: usize;
  cells: usize;
}

/** Cells within reach of a strong pixel, in `cells`. `strong` is scratch; both all 0, one byte a cell. */
export function cellsNearStrong(args: CellsNearStrong): void {
  const distance = args.distance;
  const runs = args.runs;
  const rowStart = args.rowStart;
  const width = args.width;
  const height = args.height;
  const strong = args.strong;
  const cells = args.cells;
  const columns = (width + CELL - 1) / CELL;
  const rows = (height + CELL - 1) / CELL;
  for (let y = 0; y < height; y++) {
    const cellRow = (y / CELL) * columns;
    for (let r = intAt(rowStart, y); r < intAt(rowStart, y + 1); r += 3) {
      const state = intAt(runs, r);
      const x = intAt(runs, r + 1) - y * width;
      const end = intAt(runs, r + 2) - y * width;
      if (state == DEEP)
        memory.fill(strong + <usize>(cellRow + (x >> 2)), 1, <usize>(((end + CELL - 1) >> 2) - (x >> 2)));
      else if (state == MIXED)
        for (let k = x; k < end; k++)
          if (byteAt(distance, y * width + k) >= STRONG) setByte(strong, cellRow + (k >> 2), 1);
    }
  }
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      if (!byteAt(strong, r * columns + c)) continue;
      const first = c;
      while (c + 1 < columns && byteAt(strong, r * columns + c + 1)) c++;
      const from = max(0, first - CELLS_REACHED);
      const to = min(columns, c + CELLS_REACHED + 1);
      for (let y = max(0, r - CELLS_REACHED); y <= min(rows - 1, r + CELLS_REACHED); y++)
        memory.fill(cells + <usize>(y * columns + from), 1, <usize>(to - from));
    }
  }
}

function isAllPale(cell: i32, columns: i32, distance: usize, width: i32, height: i32): bool {
  const x0 = (cell % columns) * CELL;
  const y0 = (cell / columns) * CELL;
  for (let y = y0; y < min(height, y0 + CELL); y++)
    for (let x = x0; x < min(width, x0 + CELL); x++) if (byteAt(distance, y * width + x) < LEAST_PALE) return false;
  return true;
}

@unmanaged
class ExceptPale {
  cells: usize;
  near: usize;
  seen: usize;
  queue: usize;
  distance: usize;
  width: i32;
  height: i32;
  forgiven: i32;
}

/**
 * Takes back, in `cells`, those of a pale part that a strong edge crosses: nearly all its weak pixels there are at one
 * level, where a ripple swings about nothing, and it goes on beyond the reach of ripples. `near` has a copy of `cells`,
 * `seen` a byte a cell, all 0, and `queue` room for ten numbers a cell.
 */
export function exceptPale(args: ExceptPale): void {
  const cells = args.cells;
  const near = args.near;
  const seen = args.seen;
  const queue = args.queue;
  const distance = args.distance;
  const width = args.width;
  const height = args.height;
  const forgiven = args.forgiven;
  const columns = (width + CELL - 1) / CELL;
  const rows = (height + CELL - 1) / CELL;
  let waiting = 0;
  for (let cell = 0; cell < columns * rows; cell++) {
    if (!byteAt(near, cell)) continue;
    let goesOn = false;
    const c = cell % columns;
    const r = cell / columns;
    for (let y = max(0, r - 1); y <= min(rows - 1, r + 1) && !goesOn; y++) {
      for (let x = max(0, c - 1); x <= min(columns - 1, c + 1) && !goesOn; x++) {
        const n = y * columns + x;
        goesOn = !byteAt(near, n) && isAllPale(n, columns, distance, width, height);
      }
    }
    if (goesOn) setInt(queue, waiting++, cell);
  }
  while (waiting > 0) {
    const cell = intAt(queue, --waiting);
    if (byteAt(seen, cell)) continue;
    setByte(seen, cell, 1);
    const c = cell % columns;
    const r = cell / columns;
    if (!isOneLevel(c, r, distance, width, height, forgiven)) continue;
    setByte(cells, cell, 0);
    for (let y = max(0, r - 1); y <= min(rows - 1, r + 1); y++) {
      for (let x = max(0, c - 1); x <= min(columns - 1, c + 1); x++)
        if (byteAt(near, y * columns + x) && !byteAt(seen, y * columns + x)) setInt(queue, waiting++, y * columns + x);
    }
  }
}

let plane: usize = 0;
let stride: i32 = 0;
let left: i32 = 0;
let right: i32 = 0;
let top: i32 = 0;
let bottom: i32 = 0;

// Of a cell and its neighbours, the weak pixels.
function isOneLevel(c: i32, r: i32, distance: usize, width: i32, height: i32, forgiven: i32): bool {
  plane = distance;
  stride = width;
  left = max(0, (c - 1) * CELL);
  right = min(width, (c + 2) * CELL);
  top = max(0, (r - 1) * CELL);
  bottom = min(height, (r + 2) * CELL);
  const count = countBelow(STRONG);
  const place = <i32>Math.floor(<f64>count * 0.15);
  // Most that are asked about lie on plain ground.
  if (count < 24 || countBelow(LEAST_PALE) > place) return false;
  const low = ranked(place);
  const middle = ranked(count >> 1);
  return <f64>low >= 0.5 * <f64>middle && middle < forgiven * 3;
}

// The value that stands at a place when all are in order.
function ranked(place: i32): i32 {
  let low = 0;
  let high = STRONG;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (countBelow(middle + 1) > place) high = middle;
    else low = middle + 1;
  }
  return low;
}

function countBelow(value: i32): i32 {
  let count = 0;
  if (right - left == 3 * CELL && left + 16 <= stride) {
    const many = i8x16.splat(<i8>value);
    for (let i = top * stride + left; i < bottom * stride; i += stride)
      count += popcnt(i8x16.bitmask(i8x16.lt_u(sixteenAt(plane, i), many)) & 0xfff);
    return count;
  }
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) if (byteAt(plane, y * stride + x) < value) count++;
  return count;
}

@unmanaged
class Forgive {
  distance: usize;
  runs: usize;
  runCount: i32;
  cells: usize;
  width: i32;
  forgiven: i32;
  out: usize;
}

/** Takes what is forgiven off the weak pixels of marked cells, from `distance` into `out`, which has a copy. */
export function forgive(args: Forgive): void {
  const distance = args.distance;
  const runs = args.runs;
  const runCount = args.runCount;
  const cells = args.cells;
  const width = args.width;
  const forgiven = args.forgiven;
  const out = args.out;
  const columns = (width + CELL - 1) / CELL;
  for (let r = 0; r < runCount; r += 3) {
    if (intAt(runs, r) != MIXED) continue;
    const from = intAt(runs, r + 1);
    const y = from / width;
    const cellRow = (y / CELL) * columns;
    for (let i = from, x = from - y * width; i < intAt(runs, r + 2); x++, i++) {
      const d = byteAt(distance, i);
      if (d == 0 || d >= STRONG || !byteAt(cells, cellRow + (x >> 2))) continue;
      setByte(out, i, d > forgiven ? d - forgiven : 0);
    }
  }
}
