import { CLEAR, MARK, MIXED, OUTSIDE, SEGMENT } from './labels';
import { apartBytes, byteAt, intAt, setByte, setInt, sixteenAt } from './memory';

let plane: usize = 0;
let labels: usize = 0;
let state: usize = 0;
let columns: i32 = 0;
let width: i32 = 0;
let height: i32 = 0;
let tolerance: i32 = 0;
let stack: usize = 0;
let waiting: i32 = 0;
let boxLeft: i32 = 0;
let boxTop: i32 = 0;
let boxRight: i32 = 0;
let boxBottom: i32 = 0;

/** Of the region that `fillFrom` filled last: left, top, right and bottom. */
export function filledLeft(): i32 {
  return boxLeft;
}
export function filledTop(): i32 {
  return boxTop;
}
export function filledRight(): i32 {
  return boxRight;
}
export function filledBottom(): i32 {
  return boxBottom;
}

@unmanaged
class SetFill {
  ofPlane: usize;
  ofLabels: usize;
  ofState: usize;
  w: i32;
  h: i32;
  most: i32;
  room: usize;
}

/**
 * What the fills to come work on. `state`: segments of that very plane, or 0. `stack`: six bytes a pixel and four for
 * each row and column.
 */
export function setFill(args: SetFill): void {
  const ofPlane = args.ofPlane;
  const ofLabels = args.ofLabels;
  const ofState = args.ofState;
  const w = args.w;
  const h = args.h;
  const most = args.most;
  const room = args.room;
  plane = ofPlane;
  labels = ofLabels;
  state = ofState;
  columns = (w + SEGMENT - 1) / SEGMENT;
  width = w;
  height = h;
  tolerance = most;
  stack = room;
}

// @ts-ignore: decorator
@inline function isClear(x: i32, y: i32): bool {
  return state != 0 && byteAt(state, y * columns + x / SEGMENT) == CLEAR;
}
// @ts-ignore: decorator
@inline function fits(i: i32): bool {
  return intAt(labels, i) == MARK && byteAt(plane, i) <= tolerance;
}

/** Fills the four-connected region round a pixel, run by run; returns how many pixels it has. */
export function fillFrom(start: i32, label: i32): i32 {
  let filled = 0;
  boxLeft = width;
  boxTop = height;
  boxRight = 0;
  boxBottom = 0;
  waiting = 1;
  setInt(stack, 0, start);
  while (waiting > 0) {
    const i = intAt(stack, --waiting);
    if (!fits(i)) continue;
    const y = i / width;
    const rowStart = y * width;
    const rowEnd = rowStart + width;
    let left = i;
    let right = i;
    while (left > rowStart && fits(left - 1)) {
      left--;
      if (isClear(left - rowStart, y)) left -= (left - rowStart) % SEGMENT;
    }
    while (right + 1 < rowEnd && fits(right + 1)) {
      right++;
      if (isClear(right - rowStart, y)) right = min(rowEnd, right - ((right - rowStart) % SEGMENT) + SEGMENT) - 1;
    }
    fillInts(left, right + 1, label);
    filled += right - left + 1;
    boxLeft = min(boxLeft, left - rowStart);
    boxTop = min(boxTop, y);
    boxRight = max(boxRight, right - rowStart);
    boxBottom = max(boxBottom, y);
    if (y > 0) pushRuns(left - rowStart, right - rowStart, y - 1);
    if (y < height - 1) pushRuns(left - rowStart, right - rowStart, y + 1);
  }
  return filled;
}

/** So many numbers are written one by one; the rest of a run are copies, doubled each time. */
const WRITTEN: i32 = 64;

function fillInts(from: i32, to: i32, label: i32): void {
  const four = i32x4.splat(label);
  const end = min(to, from + WRITTEN);
  let k = from;
  for (; k + 4 <= end; k += 4) v128.store(labels + ((<usize>k) << 2), four);
  for (; k < end; k++) setInt(labels, k, label);
  const first = labels + ((<usize>from) << 2);
  for (let known = WRITTEN; known < to - from; known <<= 1)
    memory.copy(first + ((<usize>known) << 2), first, (<usize>min(known, to - from - known)) << 2);
}

function pushRuns(from: i32, to: i32, y: i32): void {
  const row = y * width;
  let inRun = false;
  for (let x = from; x <= to; x++) {
    const isOne = fits(row + x);
    if (isOne && !inRun) setInt(stack, waiting++, row + x);
    inRun = isOne;
    if (isClear(x, y)) x += SEGMENT - 1 - (x % SEGMENT);
  }
}

/** Labels OUTSIDE all ground that is joined to the border. */
export function fillFromBorder(): void {
  for (let x = 0; x < width; x++) {
    if (fits(x)) fillFrom(x, OUTSIDE);
    if (fits((height - 1) * width + x)) fillFrom((height - 1) * width + x, OUTSIDE);
  }
  for (let y = 0; y < height; y++) {
    if (fits(y * width)) fillFrom(y * width, OUTSIDE);
    if (fits(y * width + width - 1)) fillFrom(y * width + width - 1, OUTSIDE);
  }
}

let patchRun: i32 = 0;
let patchPixel: i32 = 0;

export function startPatches(): void {
  patchRun = 0;
  patchPixel = 0;
}

/** The next pixel that could begin a patch, or −1. A clear run is of one patch, so its first pixel speaks for it. */
export function nextPatch(runs: usize, runCount: i32): i32 {
  for (; patchRun < runCount; patchRun += 3) {
    const from = intAt(runs, patchRun + 1);
    const kind = intAt(runs, patchRun);
    if (kind == CLEAR) {
      if (intAt(labels, from) == MARK) return from;
    } else if (kind == MIXED) {
      for (let i = max(from, patchPixel); i < intAt(runs, patchRun + 2); i++) {
        if (!fits(i)) continue;
        patchPixel = i + 1;
        return i;
      }
    }
  }
  return -1;
}

@unmanaged
class FindFlat {
  picture: usize;
  distance: usize;
  above: i32;
  palest: i32;
  flat: f64;
  runs: usize;
  runCount: i32;
  step: usize;
  list: usize;
}

/**
 * Steps from pixel to pixel, for patches paler than the mark: `step` is 255 where none can be. Returns how many flat
 * ones `list` holds.
 */
export function findFlat(args: FindFlat): i32 {
  const picture = args.picture;
  const distance = args.distance;
  const above = args.above;
  const palest = args.palest;
  const flat = args.flat;
  const runs = args.runs;
  const runCount = args.runCount;
  const step = args.step;
  const list = args.list;
  let count = 0;
  const low = i8x16.splat(<i8>min(above, 255));
  const high = i8x16.splat(<i8>palest);
  for (let r = 0; r < runCount; r += 3) {
    if (intAt(runs, r) != MIXED) continue;
    const from = intAt(runs, r + 1);
    const y = from / width;
    if (y == 0 || y == height - 1) continue;
    const last = min(intAt(runs, r + 2), (y + 1) * width - 1);
    for (let i = max(from, y * width + 1); i < last; i++) {
      while (
        i + 16 <= last &&
        !v128.any_true(v128.and(i8x16.gt_u(sixteenAt(distance, i), low), i8x16.le_u(sixteenAt(distance, i), high)))
      )
        i += 16;
      if (i >= last) break;
      const d = byteAt(distance, i);
      if (d <= above || d > palest || intAt(labels, i) != MARK) continue;
      const most = mostBeside(picture, i);
      setByte(step, i, most);
      if (<f64>most <= flat) setInt(list, count++, i);
    }
  }
  return count;
}

// By how much a pixel differs from the one of its four neighbours that differs most.
function mostBeside(picture: usize, i: i32): i32 {
  let around = i32x4.splat(intAt(picture, i - 1));
  around = i32x4.replace_lane(around, 1, intAt(picture, i + 1));
  around = i32x4.replace_lane(around, 2, intAt(picture, i - width));
  around = i32x4.replace_lane(around, 3, intAt(picture, i + width));
  let d = apartBytes(around, i32x4.splat(intAt(picture, i)));
  d = i8x16.max_u(d, i8x16.max_u(i32x4.shr_u(d, 8), i32x4.shr_u(d, 16)));
  d = v128.and(d, i32x4.splat(255));
  return max(
    max(i32x4.extract_lane(d, 0), i32x4.extract_lane(d, 1)),
    max(i32x4.extract_lane(d, 2), i32x4.extract_lane(d, 3)),
  );
}

/** The first place from `k` on in a list of pixels whose pixel is still MARK; the list's end when there is none. */
export function nextMarked(list: usize, k: i32, count: i32): i32 {
  while (k < count && intAt(labels, intAt(list, k)) != MARK) k++;
  return k;
}
