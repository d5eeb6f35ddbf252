import { CLEAR, DEEP, MIXED, SEGMENT } from './labels';
import { byteAt, intAt, rowOf, rowScale, setByte, setInt, sixteenAt } from './memory';

@unmanaged
class FindSegments {
  distance: usize;
  width: i32;
  height: i32;
  deepFrom: i32;
  state: usize;
  runs: usize;
  rowStart: usize;
}

/** What every piece of SEGMENT pixels holds; see core/matte/rowSegments.ts. Returns how many numbers `runs` has got. */
export function findSegments(args: FindSegments): i32 {
  const distance = args.distance;
  const width = args.width;
  const height = args.height;
  const deepFrom = args.deepFrom;
  const state = args.state;
  const runs = args.runs;
  const rowStart = args.rowStart;
  let s = 0;
  for (let y = 0; y < height; y++) {
    const end = (y + 1) * width;
    for (let from = y * width; from < end; from += SEGMENT, s++)
      setByte(state, s, stateOf(distance, from, min(end, from + SEGMENT), deepFrom));
  }
  return findRuns(state, width, height, runs, rowStart);
}

function stateOf(distance: usize, from: i32, to: i32, deepFrom: i32): i32 {
  let i = from;
  if (to - from == SEGMENT) {
    const a = sixteenAt(distance, from),
      b = sixteenAt(distance, from + 16);
    if (!v128.any_true(v128.or(a, b))) return CLEAR;
    return i8x16.all_true(i8x16.ge_u(i8x16.min_u(a, b), i8x16.splat(<i8>deepFrom))) ? DEEP : MIXED;
  }
  if (byteAt(distance, i) == 0) {
    while (i + 8 <= to && load<i64>(distance + <usize>i) == 0) i += 8;
    while (i < to && byteAt(distance, i) == 0) i++;
    return i == to ? CLEAR : MIXED;
  }
  while (i < to && byteAt(distance, i) >= deepFrom) i++;
  return i == to ? DEEP : MIXED;
}

/** Longest runs of one state: state, first pixel, the pixel after the last. */
export function findRuns(state: usize, width: i32, height: i32, runs: usize, rowStart: usize): i32 {
  const columns = (width + SEGMENT - 1) / SEGMENT;
  let count = 0;
  setInt(rowStart, 0, 0);
  for (let y = 0; y < height; y++) {
    const row = y * columns;
    for (let c = 0; c < columns; c++) {
      const own = byteAt(state, row + c);
      const first = c;
      while (c + 1 < columns && byteAt(state, row + c + 1) == own) c++;
      setInt(runs, count, own);
      setInt(runs, count + 1, y * width + first * SEGMENT);
      setInt(runs, count + 2, y * width + min(width, (c + 1) * SEGMENT));
      count += 3;
    }
    setInt(rowStart, y + 1, count);
  }
  return count;
}

/** Counts how often each value occurs, in `count[0..255]`. */
export function countBytes(plane: usize, length: i32, count: usize): void {
  for (let i = 0; i < length; i++) setInt(count, byteAt(plane, i), intAt(count, byteAt(plane, i)) + 1);
}

/** Every pixel `step` rows and columns apart, packed together. */
export function thinOut(plane: usize, width: i32, height: i32, step: i32, out: usize): void {
  let k = 0;
  for (let y = 0; y < height; y += step)
    for (let x = 0, i = y * width; x < width; x += step, i += step) setByte(out, k++, byteAt(plane, i));
}

// A pixel waits in the chain of its level: `head` has the newest of each level, `next` the one before, both plus one.
let head: usize = 0;
let next: usize = 0;

function enter(i: i32, from: i32, distance: usize, level: usize, seen: usize): void {
  if (byteAt(seen, i)) return;
  setByte(seen, i, 1);
  const d = max(byteAt(distance, i), from);
  setByte(level, i, d);
  setInt(next, i, intAt(head, d));
  setInt(head, d, i + 1);
}

/**
 * The least tolerance at which ground from the border reaches each pixel. `scratch`: 1024 + 5·w·h + 16 bytes, all 0.
 */
export function floodOrder(distance: usize, w: i32, h: i32, level: usize, scratch: usize): void {
  head = scratch;
  next = scratch + 1024;
  const seen = next + ((<usize>(w * h)) << 2);
  for (let x = 0; x < w; x++) {
    enter(x, 0, distance, level, seen);
    enter((h - 1) * w + x, 0, distance, level, seen);
  }
  for (let y = 0; y < h; y++) {
    enter(y * w, 0, distance, level, seen);
    enter(y * w + w - 1, 0, distance, level, seen);
  }
  for (let t = 0; t < 256; t++) {
    for (let found = intAt(head, t); found != 0; found = intAt(head, t)) {
      const i = found - 1;
      setInt(head, t, intAt(next, i));
      const x = i % w;
      if (x > 0) enter(i - 1, t, distance, level, seen);
      if (x < w - 1) enter(i + 1, t, distance, level, seen);
      if (i >= w) enter(i - w, t, distance, level, seen);
      if (i < w * (h - 1)) enter(i + w, t, distance, level, seen);
    }
  }
}

/** Pieces that hold a pixel of a list are of more than one kind. */
export function markMixed(pixels: usize, length: i32, width: i32, state: usize): void {
  const columns = (width + SEGMENT - 1) / SEGMENT;
  const scale = rowScale(width);
  for (let k = 0; k < length; k++) {
    const i = intAt(pixels, k);
    const y = rowOf(i, scale);
    setByte(state, y * columns + (i - y * width) / SEGMENT, MIXED);
  }
}
