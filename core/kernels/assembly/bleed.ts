import { byteAt, intAt, setByte, setInt } from './memory';

// Pixels in a row and in a column that are looked at together; see core/raster/bleedColours.ts.
const CELL: i32 = 8;
const HALF: i32 = 4;
const VISIBLE: i32 = 1;
const CLEAR: i32 = 2;
const BOTH: i32 = 3;

let px: usize = 0;
let width: i32 = 0;
let height: i32 = 0;
let columns: i32 = 0;
let rows: i32 = 0;
/** Places travel packed as y·65536 + x + 1; 0 is none yet. */
let from: usize = 0;
let runs: usize = 0;
let runCount: i32 = 0;

/**
 * Gives each clear pixel of a picture the colour of a near visible one, if there is any. `room`: all 0, four bytes a
 * pixel and seven a cell. `runList`: room for three numbers for every other pixel and each row.
 */
export function bleed(picture: usize, w: i32, h: i32, room: usize, runList: usize): void {
  px = picture;
  width = w;
  height = h;
  columns = (w + CELL - 1) / CELL;
  rows = (h + CELL - 1) / CELL;
  const cells = columns * rows;
  const place = room;
  from = place + ((<usize>cells) << 2);
  runs = runList;
  const holds = from + ((<usize>(w * h)) << 2);
  const across = holds + <usize>cells;
  const around = across + <usize>cells;
  whatCellsHold(holds);
  spreadBits(holds, across, around);
  runCount = 0;
  for (let y = 0; y < height; y++) {
    const cellRow = (y / CELL) * columns;
    for (let c = 0; c < columns; c++) {
      if (byteAt(around, cellRow + c) != BOTH) continue;
      const first = c * CELL;
      while (c + 1 < columns && byteAt(around, cellRow + c + 1) == BOTH) c++;
      sweepDown(y, first, min(width, (c + 1) * CELL));
    }
  }
  for (let r = runCount - 3; r >= 0; r -= 3) sweepUp(intAt(runs, r), intAt(runs, r + 1), intAt(runs, r + 2));
  findFar(place, around);
  fillFar(place, around);
}

function whatCellsHold(holds: usize): void {
  const alphas = i32x4.splat(0xff000000);
  for (let r = 0, k = 0; r < rows; r++) {
    const bottom = min(height, (r + 1) * CELL);
    for (let c = 0; c < columns; c++, k++) {
      const end = min(width, (c + 1) * CELL);
      let seen = 0;
      if (end - c * CELL == CELL) {
        let any = i32x4.splat(0);
        let all = i32x4.splat(-1);
        for (let y = r * CELL; y < bottom; y++) {
          const at = px + ((<usize>(y * width + c * CELL)) << 2);
          const first = v128.and(v128.load(at), alphas);
          const second = v128.and(v128.load(at, 16), alphas);
          any = v128.or(any, v128.or(first, second));
          all = v128.and(all, v128.and(i32x4.ne(first, i32x4.splat(0)), i32x4.ne(second, i32x4.splat(0))));
        }
        seen = (v128.any_true(any) ? VISIBLE : 0) | (i32x4.all_true(all) ? 0 : CLEAR);
      } else
        for (let y = r * CELL; y < bottom; y++)
          for (let x = c * CELL; x < end; x++) seen |= intAt(px, y * width + x) >>> 24 ? VISIBLE : CLEAR;
      setByte(holds, k, seen);
    }
  }
}

/** What each cell and its eight neighbours hold together. */
function spreadBits(holds: usize, across: usize, out: usize): void {
  const cells = columns * rows;
  for (let k = 0; k < cells; k++) {
    let seen = byteAt(holds, k);
    if (k % columns > 0) seen |= byteAt(holds, k - 1);
    if (k % columns < columns - 1) seen |= byteAt(holds, k + 1);
    setByte(across, k, seen);
  }
  for (let k = 0; k < cells; k++) {
    let seen = byteAt(across, k);
    if (k >= columns) seen |= byteAt(across, k - columns);
    if (k < columns * (rows - 1)) seen |= byteAt(across, k + columns);
    setByte(out, k, seen);
  }
}

function sweepDown(y: i32, begin: i32, end: i32): void {
  const start = y * width;
  for (let x = begin; x < end; x++) {
    if (intAt(px, start + x) >>> 24) {
      setInt(from, start + x, ((y << 16) | x) + 1);
      continue;
    }
    const first = x;
    let last = x > begin ? intAt(from, start + x - 1) : 0;
    for (; x < end && !(intAt(px, start + x) >>> 24); x++) {
      last = nearer(y > 0 ? intAt(from, start + x - width) : 0, last, x, y);
      setInt(from, start + x, last);
    }
    setInt(runs, runCount, y);
    setInt(runs, runCount + 1, first);
    setInt(runs, runCount + 2, x);
    runCount += 3;
    if (x < end) {
      last = ((y << 16) | x) + 1;
      setInt(from, start + x, last);
    }
    for (let k = x - 1; k >= first; k--) {
      last = nearer(intAt(from, start + k), last, k, y);
      setInt(from, start + k, last);
    }
  }
}

function sweepUp(y: i32, first: i32, end: i32): void {
  const start = y * width;
  let last = end < width ? intAt(from, start + end) : 0;
  for (let x = end - 1; x >= first; x--) {
    last = nearer(
      nearer(intAt(from, start + x), y < height - 1 ? intAt(from, start + x + width) : 0, x, y),
      last,
      x,
      y,
    );
    setInt(from, start + x, last);
  }
  last = first > 0 ? intAt(from, start + first - 1) : 0;
  for (let x = first; x < end; x++) {
    last = nearer(intAt(from, start + x), last, x, y);
    setInt(from, start + x, last);
    // The rows above still ask for this row's places, never for its pixels.
    if (last > 0) setInt(px, start + x, colourAt(last));
  }
}

// @ts-ignore: decorator
@inline function colourAt(place: i32): i32 {
  return intAt(px, ((place - 1) >>> 16) * width + ((place - 1) & 0xffff)) & 0x00ffffff;
}

// Cells with nothing visible in or beside them take a place from cell to cell.
function findFar(place: usize, around: usize): void {
  for (let r = 0, k = 0; r < rows; r++) {
    const y = min(height - 1, r * CELL + HALF);
    for (let c = 0; c < columns; c++, k++)
      if (byteAt(around, k) == BOTH) setInt(place, k, intAt(from, y * width + min(width - 1, c * CELL + HALF)));
  }
  for (let r = 0; r < rows; r++) takeRow(place, around, r, r > 0 ? -columns : 0);
  for (let r = rows - 1; r >= 0; r--) takeRow(place, around, r, r < rows - 1 ? columns : 0);
}

function takeRow(place: usize, around: usize, r: i32, beside: i32): void {
  const k = r * columns;
  if (beside) for (let c = 0; c < columns; c++) take(place, around, k + c, k + c + beside, c, r);
  for (let c = 1; c < columns; c++) take(place, around, k + c, k + c - 1, c, r);
  for (let c = columns - 2; c >= 0; c--) take(place, around, k + c, k + c + 1, c, r);
}

function take(place: usize, around: usize, k: i32, n: i32, c: i32, r: i32): void {
  if (byteAt(around, k) == CLEAR)
    setInt(place, k, nearer(intAt(place, k), intAt(place, n), c * CELL + HALF, r * CELL + HALF));
}

function fillFar(place: usize, around: usize): void {
  for (let r = 0, k = 0; r < rows; r++) {
    const bottom = min(height, (r + 1) * CELL);
    for (let c = 0; c < columns; c++, k++) {
      if (byteAt(around, k) != CLEAR || intAt(place, k) == 0) continue;
      const colour = colourAt(intAt(place, k));
      const four = i32x4.splat(colour);
      const right = min(width, (c + 1) * CELL);
      for (let y = r * CELL; y < bottom; y++) {
        let i = y * width + c * CELL;
        for (; i + 4 <= y * width + right; i += 4) v128.store(px + ((<usize>i) << 2), four);
        for (; i < y * width + right; i++) setInt(px, i, colour);
      }
    }
  }
}

/** The nearer of two packed places to a pixel. */
function nearer(a: i32, b: i32, x: i32, y: i32): i32 {
  if (a == b || b == 0) return a;
  if (a == 0) return b;
  const ax = ((a - 1) & 0xffff) - x;
  const ay = ((a - 1) >>> 16) - y;
  const bx = ((b - 1) & 0xffff) - x;
  const by = ((b - 1) >>> 16) - y;
  return bx * bx + by * by < ax * ax + ay * ay ? b : a;
}
