import { MARK, MIXED } from './labels';
import { apartBytes, byteAt, fourAt, intAt, rowOf, rowScale, setByte, setInt } from './memory';

/** No shadow or glow is stronger than this, and none is level above that: there a mark begins. */
export const DEEPEST: i32 = 185;
const LEVEL_FROM: i32 = 110;

export let picture: usize = 0;
export let distance: usize = 0;
export let labels: usize = 0;
export let isOpen: usize = 0;
let region: usize = 0;
export let width: i32 = 0;
export let height: i32 = 0;
export let scale: f64 = 0;
/** Twice the steepest change, so that it need not be halved. */
let limit: i32 = 0;
let seedRun: i32 = 0;
let seedPixel: i32 = 0;

@unmanaged
class StartSoft {
  ofPicture: usize;
  ofDistance: usize;
  ofLabels: usize;
  openByLabel: usize;
  ofRegion: usize;
  w: i32;
  h: i32;
  steepest: f64;
}

/** What the search works on; begins it. `region`: a byte a pixel, all 0, remembers all that was looked at. */
export function startSoft(args: StartSoft): void {
  const ofPicture = args.ofPicture;
  const ofDistance = args.ofDistance;
  const ofLabels = args.ofLabels;
  const openByLabel = args.openByLabel;
  const ofRegion = args.ofRegion;
  const w = args.w;
  const h = args.h;
  const steepest = args.steepest;
  picture = ofPicture;
  distance = ofDistance;
  labels = ofLabels;
  isOpen = openByLabel;
  region = ofRegion;
  width = w;
  height = h;
  scale = rowScale(w);
  limit = <i32>Math.floor(steepest * 2);
  seedRun = 0;
  seedPixel = 0;
}

/** The next pixel beside open ground from which a gradual part may rise, or −1. */
export function nextSoftSeed(runs: usize, runCount: i32): i32 {
  for (; seedRun < runCount; seedRun += 3) {
    if (intAt(runs, seedRun) != MIXED) continue;
    const end = intAt(runs, seedRun + 2);
    for (let n = max(seedPixel, intAt(runs, seedRun + 1)); n < end; n++) {
      while (n + 4 <= end && areInOne(n)) n += 4;
      if (n >= end) break;
      if (
        intAt(labels, n) != MARK ||
        byteAt(region, n) ||
        byteAt(distance, n) > DEEPEST ||
        !touchesOpen(n) ||
        colourStep(n) > limit
      )
        continue;
      seedPixel = n + 1;
      return n;
    }
  }
  return -1;
}

// Whether none of four pixels is the mark's, or all are and all their neighbours too. MARK is 0, and never open.
function areInOne(n: i32): bool {
  const own = fourAt(labels, n);
  if (i32x4.all_true(own)) return true;
  if (n < width || n >= width * (height - 1) - 4 || v128.any_true(own)) return false;
  return !v128.any_true(
    v128.or(
      v128.or(fourAt(labels, n - 1), fourAt(labels, n + 1)),
      v128.or(fourAt(labels, n - width), fourAt(labels, n + width)),
    ),
  );
}

export function touchesOpen(i: i32): bool {
  const x = i - rowOf(i, scale) * width;
  return (
    (x > 0 && byteAt(isOpen, intAt(labels, i - 1)) != 0) ||
    (x < width - 1 && byteAt(isOpen, intAt(labels, i + 1)) != 0) ||
    (i >= width && byteAt(isOpen, intAt(labels, i - width)) != 0) ||
    (i < width * (height - 1) && byteAt(isOpen, intAt(labels, i + width)) != 0)
  );
}

/** The change across two pixels, the worst channel, along rows and columns. */
// @ts-ignore: decorator
@inline function colourStep(i: i32): i32 {
  const x = i - rowOf(i, scale) * width;
  const left = x > 0 ? i - 1 : i;
  const right = x < width - 1 ? i + 1 : i;
  const up = i >= width ? i - width : i;
  const down = i < width * (height - 1) ? i + width : i;
  const after = i32x4.replace_lane(i32x4.splat(intAt(picture, right)), 1, intAt(picture, down));
  const before = i32x4.replace_lane(i32x4.splat(intAt(picture, left)), 1, intAt(picture, up));
  const d = apartBytes(after, before);
  const worst = i8x16.max_u(d, i8x16.max_u(i32x4.shr_u(d, 8), i32x4.shr_u(d, 16)));
  return max(i32x4.extract_lane(worst, 0) & 255, i32x4.extract_lane(worst, 1) & 255);
}

/** Whether the picture changes no faster there than a shadow does. */
export function isGradual(i: i32): bool {
  return colourStep(i) <= limit;
}

let stack: usize = 0;
let waiting: i32 = 0;

// @ts-ignore: decorator
@inline function visit(n: i32, faintest: i32, looked: usize, found: usize, far: usize): void {
  // Enclosed ground is judged later.
  if (byteAt(looked, n) || intAt(found, n) != MARK || byteAt(far, n) <= faintest) return;
  setByte(looked, n, 1);
  setInt(stack, waiting++, n);
}

/** A pixel that changes by less, in two, is level. */
const LEVEL_BELOW: i32 = 3;

/**
 * Spreads over pixels that are gradual on every side; returns how many `members` holds. Both lists: room for a number a
 * pixel.
 */
export function growSoft(start: i32, faintest: f64, members: usize, room: usize): i32 {
  // Names at hand are quicker to come by than those of the whole module.
  const w = width;
  const looked = region;
  const found = labels;
  const far = distance;
  const least = <i32>Math.floor(faintest);
  const lastRow = w * (height - 1);
  stack = room;
  waiting = 1;
  setInt(room, 0, start);
  setByte(looked, start, 1);
  let count = 0;
  while (waiting > 0) {
    const i = intAt(room, --waiting);
    const d = byteAt(far, i);
    if (d > DEEPEST) continue;
    const step = colourStep(i);
    if (step > limit || (step < LEVEL_BELOW && d > LEVEL_FROM)) continue;
    setInt(members, count++, i);
    const isWithin = i >= w && i < lastRow;
    if (
      isWithin &&
      (byteAt(looked, i - 1) & byteAt(looked, i + 1) & byteAt(looked, i - w) & byteAt(looked, i + w)) != 0
    )
      continue;
    const x = i - rowOf(i, scale) * w;
    // Along the row comes last, and so first off the stack: what lies together is looked at together.
    if (i >= w) visit(i - w, least, looked, found, far);
    if (i < lastRow) visit(i + w, least, looked, found, far);
    if (x > 0) visit(i - 1, least, looked, found, far);
    if (x < w - 1) visit(i + 1, least, looked, found, far);
  }
  return count;
}

// Whether a plane of 0 and 1 has 1 on all four sides of a pixel; those at the picture's border are not asked.
// @ts-ignore: decorator
@inline export function areAround(ones: usize, i: i32): bool {
  return (
    i >= width &&
    i < width * (height - 1) &&
    (byteAt(ones, i - 1) & byteAt(ones, i + 1) & byteAt(ones, i - width) & byteAt(ones, i + width)) != 0
  );
}

function visitCore(i: i32, own: usize): void {
  if (areAround(own, i)) return;
  const x = i - rowOf(i, scale) * width;
  if (i >= width) enterCore(i - width, own);
  if (i < width * (height - 1)) enterCore(i + width, own);
  if (x > 0) enterCore(i - 1, own);
  if (x < width - 1) enterCore(i + 1, own);
}

function enterCore(n: i32, own: usize): void {
  if (byteAt(own, n) || intAt(labels, n) != MARK || colourStep(n) > limit) return;
  setByte(own, n, 1);
  setByte(region, n, 1);
  setInt(stack, waiting++, n);
}

/**
 * On from what was grown, over gradual pixels of any strength; returns how many were added behind it. `own`: a byte a
 * pixel, all 0, and left so.
 */
export function growCore(grown: usize, count: i32, room: usize, own: usize): i32 {
  const added = grown + ((<usize>count) << 2);
  stack = room;
  waiting = 0;
  for (let k = 0; k < count; k++) setByte(own, intAt(grown, k), 1);
  for (let k = 0; k < count; k++) visitCore(intAt(grown, k), own);
  let found = 0;
  while (waiting > 0) {
    const i = intAt(stack, --waiting);
    setInt(added, found++, i);
    visitCore(i, own);
  }
  for (let k = 0; k < count; k++) setByte(own, intAt(grown, k), 0);
  for (let k = 0; k < found; k++) setByte(own, intAt(added, k), 0);
  return found;
}
