import { B0, B1, B2, groundAt } from './ground';
import { MIXED } from './labels';
import { byteAt, channelAt, fourAt, intAt, realAt, setByte, setInt, setReal } from './memory';

// Looks at a finished cut-out; see core/matte/measureTrouble.ts, which says what is looked for.
let out: usize = 0;
let width: i32 = 0;
let height: i32 = 0;

// @ts-ignore: decorator
@inline function alphaAt(i: i32): i32 {
  return byteAt(out, (i << 2) + 3);
}
// @ts-ignore: decorator
@inline function alphasAt(i: i32): v128 {
  return i32x4.shr_u(fourAt(out, i), 24);
}

/** Below this alpha a pixel is clear. */
const CLEAR_BELOW: i32 = 16;
/** Weaker edge pixels are not asked what they hold. */
const ASKED_FROM: i32 = 90;

export function startTrouble(ofOut: usize, w: i32, h: i32): void {
  out = ofOut;
  width = w;
  height = h;
}

/**
 * Trouble in squares of `cell` pixels: an amount each, the pixel it was first met at, and which squares have any, in
 * order of appearance.
 */
let cell: i32 = 1;
let columns: i32 = 0;
let cells: i32 = 0;

const TINTED: i32 = 0;
const GONE: i32 = 1;

/** The trouble `amount` at pixel `i`, into the tables of one kind. @returns how many squares are known now */
function collect(kind: i32, args: FindTrouble, known: i32, i: i32, amount: f64): i32 {
  const amounts = args.amounts + ((<usize>(kind * cells)) << 3);
  const firsts = args.firsts + ((<usize>(kind * cells)) << 2);
  const order = args.order + ((<usize>(kind * cells)) << 2);
  const at = (i / width / cell) * columns + (i % width) / cell;
  setReal(amounts, at, realAt(amounts, at) + amount);
  if (intAt(firsts, at)) return known;
  setInt(firsts, at, i + 1);
  setInt(order, known, at);
  return known + 1;
}

@unmanaged
class FindTrouble {
  distance: usize;
  runs: usize;
  runCount: i32;
  surely: i32;
  tinted: f64;
  size: i32;
  amounts: usize;
  firsts: usize;
  order: usize;
  totals: usize;
}

/**
 * Edge pixels that still hold the ground's colour, at least the part `tinted`, and pixels that surely were no ground
 * and are gone. Two tables, one after the other: `amounts` a real a square, `firsts` and `order` a number a square, all
 * 0. `totals`: edge pixels, tinted ones, the sum of what those hold, pixels gone, squares of either kind.
 */
export function findTrouble(args: FindTrouble): void {
  const distance = args.distance;
  const runs = args.runs;
  const runCount = args.runCount;
  const surely = args.surely;
  const tinted = args.tinted;
  const size = args.size;
  const totals = args.totals;
  cell = size;
  columns = (width + cell - 1) / cell;
  cells = columns * ((height + cell - 1) / cell);
  let edges = 0,
    found = 0,
    gone = 0,
    tintedCells = 0,
    goneCells = 0;
  let strength: f64 = 0;
  for (let r = 0; r < runCount; r += 3) {
    if (intAt(runs, r) != MIXED) continue;
    const from = intAt(runs, r + 1);
    const y = from / width;
    if (y < 2 || y >= height - 2) continue;
    const row = y * width;
    const end = min(intAt(runs, r + 2), row + width - 2);
    for (let i = max(from, row + 2); i < end; i++) {
      while (i + 4 <= end && isDull(i, distance, surely)) i += 4;
      if (i >= end) break;
      const alpha = alphaAt(i);
      if (alpha < CLEAR_BELOW) {
        // Beside what is visible it was unmixed; only what is lost whole is gone.
        if (byteAt(distance, i) > surely && isLostWhole(i)) {
          gone++;
          goneCells = collect(GONE, args, goneCells, i, 1);
        }
      } else if (alpha >= ASKED_FROM && touchesClear(i)) {
        edges++;
        const held = groundHeld(i, i - row, y);
        if (held < tinted) continue;
        found++;
        strength += held;
        tintedCells = collect(TINTED, args, tintedCells, i, held * (<f64>alpha / 255));
      }
    }
  }
  setReal(totals, 0, edges);
  setReal(totals, 1, found);
  setReal(totals, 2, strength);
  setReal(totals, 3, gone);
  setReal(totals, 4, tintedCells);
  setReal(totals, 5, goneCells);
}

// Of four pixels, whether none is asked about: all are clear and near the ground, or they and all beside them are not
// clear.
function isDull(i: i32, distance: usize, surely: i32): bool {
  const least = i32x4.splat(CLEAR_BELOW);
  const clear = i32x4.bitmask(i32x4.lt_s(alphasAt(i), least));
  if (clear == 15)
    return (
      byteAt(distance, i) <= surely &&
      byteAt(distance, i + 1) <= surely &&
      byteAt(distance, i + 2) <= surely &&
      byteAt(distance, i + 3) <= surely
    );
  if (clear) return false;
  const beside = i32x4.min_s(
    i32x4.min_s(alphasAt(i - 1), alphasAt(i + 1)),
    i32x4.min_s(alphasAt(i - width), alphasAt(i + width)),
  );
  return !i32x4.bitmask(i32x4.lt_s(beside, least));
}

function touchesClear(i: i32): bool {
  return (
    alphaAt(i - 1) < CLEAR_BELOW ||
    alphaAt(i + 1) < CLEAR_BELOW ||
    alphaAt(i - width) < CLEAR_BELOW ||
    alphaAt(i + width) < CLEAR_BELOW
  );
}

function isLostWhole(i: i32): bool {
  for (let row = i - 2 * width; row <= i + 2 * width; row += width)
    for (let n = row - 2; n <= row + 2; n++) if (alphaAt(n) >= CLEAR_BELOW) return false;
  return true;
}

/**
 * A solid colour beside an edge must differ from the ground by so much in all, code values, for what lies between to be
 * told.
 */
const LEAST_CONTRAST: f64 = 90;
/** Farther off the line between the two, code values in all, a pixel is another colour of the mark. */
const MOST_OFF: f64 = 36;

// How far an edge pixel's own colour lies from the solid colour beside it towards the ground: 0 none, 1 the ground
// itself.
function groundHeld(i: i32, x: i32, y: i32): f64 {
  groundAt(x, y);
  const own = sumOff(i);
  let best = -1;
  let most: f64 = 0;
  for (let row = i - 2 * width; row <= i + 2 * width; row += width) {
    for (let n = row - 2; n <= row + 2; n++) {
      if (alphaAt(n) != 255) continue;
      const off = sumOff(n);
      if (off > most) {
        most = off;
        best = n;
      }
    }
  }
  if (best < 0 || most < LEAST_CONTRAST || own >= most) return 0;
  const f0 = <f64>channelAt(out, best, 0) - B0,
    f1 = <f64>channelAt(out, best, 1) - B1,
    f2 = <f64>channelAt(out, best, 2) - B2;
  const c0 = <f64>channelAt(out, i, 0) - B0,
    c1 = <f64>channelAt(out, i, 1) - B1,
    c2 = <f64>channelAt(out, i, 2) - B2;
  const t = (c0 * f0 + c1 * f1 + c2 * f2) / (f0 * f0 + f1 * f1 + f2 * f2);
  const off = Math.abs(c0 - t * f0) + Math.abs(c1 - t * f1) + Math.abs(c2 - t * f2);
  return off > MOST_OFF || t > 1 ? 0 : 1 - Math.max(0, t);
}

// @ts-ignore: decorator
@inline function sumOff(i: i32): f64 {
  return (
    Math.abs(<f64>channelAt(out, i, 0) - B0) +
    Math.abs(<f64>channelAt(out, i, 1) - B1) +
    Math.abs(<f64>channelAt(out, i, 2) - B2)
  );
}

/** From this alpha on a pixel counts as visible. */
const VISIBLE: i32 = 48;
const LARGE: i32 = 2;

/** How many of every `step`th pixel are visible. */
export function countVisible(step: i32): i32 {
  let count = 0;
  for (let i = 0; i < width * height; i += step) if (alphaAt(i) >= VISIBLE) count++;
  return count;
}

let speckRun: i32 = 0;
let speckPixel: i32 = 0;

export function startSpecks(): void {
  speckRun = 0;
  speckPixel = 0;
}

/**
 * The next piece of at most `most` visible pixels, corners joined, with nothing visible within `alone` pixels of the
 * one it begins at. Returns how many pixels `piece` holds, that one first; 0 when there is none left. `seen`: a byte a
 * pixel, all 0 at first. `piece`: room for `most` + 9 numbers.
 */
export function nextSpeck(runs: usize, runCount: i32, most: f64, alone: i32, seen: usize, piece: usize): i32 {
  for (; speckRun < runCount; speckRun += 3) {
    if (intAt(runs, speckRun) != MIXED) continue;
    const end = intAt(runs, speckRun + 2);
    for (let i = max(speckPixel, intAt(runs, speckRun + 1)); i < end; i++) {
      while (i + 4 <= end && !i32x4.bitmask(i32x4.ge_s(alphasAt(i), i32x4.splat(VISIBLE)))) i += 4;
      if (i >= end) break;
      // A piece is entered where nothing of it lies to the left or above, and left as soon as it is too large.
      if (
        alphaAt(i) < VISIBLE ||
        byteAt(seen, i) ||
        (i % width > 0 && alphaAt(i - 1) >= VISIBLE) ||
        (i >= width && alphaAt(i - width) >= VISIBLE)
      )
        continue;
      const count = follow(i, most, seen, piece);
      if (count == 0 || !isAlone(i, count, alone, piece)) continue;
      speckPixel = i + 1;
      return count;
    }
  }
  return 0;
}

function follow(start: i32, most: f64, seen: usize, piece: usize): i32 {
  let count = 1;
  setInt(piece, 0, start);
  setByte(seen, start, 1);
  let isLarge = false;
  for (let k = 0; k < count && !isLarge; k++) {
    const i = intAt(piece, k);
    const y = i / width;
    const x = i - y * width;
    for (let row = max(0, y - 1); row <= min(height - 1, y + 1); row++) {
      for (let n = row * width + max(0, x - 1); n <= row * width + min(width - 1, x + 1); n++) {
        if (alphaAt(n) < VISIBLE || byteAt(seen, n) == 1) continue;
        if (byteAt(seen, n) == LARGE || <f64>count > most) {
          isLarge = true;
          continue;
        }
        setByte(seen, n, 1);
        setInt(piece, count++, n);
      }
    }
  }
  if (!isLarge) return count;
  for (let k = 0; k < count; k++) setByte(seen, intAt(piece, k), LARGE);
  return 0;
}

function isAlone(start: i32, count: i32, alone: i32, piece: usize): bool {
  const y = start / width;
  const x = start - y * width;
  for (let row = max(0, y - alone); row <= min(height - 1, y + alone); row++) {
    for (let n = row * width + max(0, x - alone); n <= row * width + min(width - 1, x + alone); n++)
      if (alphaAt(n) >= VISIBLE && !isIn(n, piece, count)) return false;
  }
  return true;
}

function isIn(n: i32, piece: usize, count: i32): bool {
  for (let k = 0; k < count; k++) if (intAt(piece, k) == n) return true;
  return false;
}
