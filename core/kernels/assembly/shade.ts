import { B0, B1, B2, groundAt, isOneColour } from './ground';
import { MARK, OUTSIDE, SOFT } from './labels';
import {
  byteAt,
  channelAt,
  fourAt,
  intAt,
  roundOf,
  rowOf,
  rowScale,
  setByte,
  setInt,
  setReal,
  sixteenAt,
} from './memory';
import {
  DEEPEST,
  areAround,
  distance,
  height,
  isGradual,
  isOpen,
  labels,
  picture,
  scale,
  touchesOpen,
  width,
} from './soft';

// What is measured of a soft region that was grown, and done with it; see core/matte/softRegions.ts. Regions are lists
// of pixels.

/**
 * The sum of three by three distances: compression's ripples average out, a shadow does not. In ninths of a code value.
 */
let level: usize = 0;

// @ts-ignore: decorator
@inline function levelAt(i: i32): i32 {
  return <i32>load<u16>(level + ((<usize>i) << 1));
}
// @ts-ignore: decorator
@inline function setLevel(i: i32, v: i32): void {
  store<u16>(level + ((<usize>i) << 1), <u16>v);
}

/**
 * The level of every pixel but those of ground outside the mark that are the ground's colour exactly: theirs is 0.
 * `out`: two bytes a pixel, all 0.
 */
export function smoothDistance(out: usize): void {
  level = out;
  const w = width;
  for (let y = 0; y < height; y++) {
    const row = y * w;
    if (y == 0 || y == height - 1 || w < 3) {
      for (let i = row; i < row + w; i++) setLevel(i, byteAt(distance, i) * 9);
      continue;
    }
    const last = row + w - 1;
    setLevel(row, byteAt(distance, row) * 9);
    setLevel(last, byteAt(distance, last) * 9);
    let i = row + 1;
    let at = distance + <usize>i;
    const down = <usize>w;
    for (; i + 16 <= last; i += 16, at += 16) {
      // The first and the last of the eighteen columns are in it, and with them all between.
      const any = v128.or(
        v128.or(v128.load(at - down - 1), v128.load(at - down + 1)),
        v128.or(
          v128.or(v128.load(at - 1), v128.load(at + 1)),
          v128.or(v128.load(at + down - 1), v128.load(at + down + 1)),
        ),
      );
      if (v128.any_true(any)) smoothSixteen(i);
    }
    for (; i < last; i++) setLevel(i, isSmoothed(i) ? threeAt(i - w) + threeAt(i) + threeAt(i + w) : 0);
  }
}

// @ts-ignore: decorator
@inline function isSmoothed(i: i32): bool {
  return byteAt(distance, i) != 0 || intAt(labels, i) == MARK;
}
// @ts-ignore: decorator
@inline function threeAt(i: i32): i32 {
  return byteAt(distance, i - 1) + byteAt(distance, i) + byteAt(distance, i + 1);
}

function smoothSixteen(i: i32): void {
  let low = i16x8.splat(0);
  let high = i16x8.splat(0);
  for (let row = i - width; row <= i + width; row += width) {
    for (let n = row - 1; n <= row + 1; n++) {
      const v = sixteenAt(distance, n);
      low = i16x8.add(low, i16x8.extend_low_i8x16_u(v));
      high = i16x8.add(high, i16x8.extend_high_i8x16_u(v));
    }
  }
  const at = level + ((<usize>i) << 1);
  v128.store(at, low);
  v128.store(at, high, 16);
  for (let zero = i8x16.bitmask(i8x16.eq(sixteenAt(distance, i), i8x16.splat(0))); zero; zero &= zero - 1)
    if (intAt(labels, i + ctz(zero)) != MARK) setLevel(i + ctz(zero), 0);
}

/** Counts the levels of a region, in `counts[0..2295]`. */
export function countLevels(members: usize, count: i32, counts: usize): void {
  for (let k = 0; k < count; k++) {
    const at = levelAt(intAt(members, k));
    setInt(counts, at, intAt(counts, at) + 1);
  }
}

let row: i32 = 0;

// Leaves in B0, B1, B2 the ground's colour under a pixel.
// @ts-ignore: decorator
@inline function groundUnder(i: i32): void {
  row = rowOf(i, scale);
  groundAt(i - row * width, row);
}

/**
 * Adds up in `sums[0..2]` by how much the pixels of a region that are no stronger than `most` differ from the ground,
 * and in `sums[3..5]` the ground under them.
 */
export function sumColours(members: usize, count: i32, most: i32, sums: usize): void {
  r = g = b = under0 = under1 = under2 = 0;
  if (isOneColour()) sumOverOne(members, count, most);
  else sumOverMany(members, count, most);
  setReal(sums, 0, r);
  setReal(sums, 1, g);
  setReal(sums, 2, b);
  setReal(sums, 3, under0);
  setReal(sums, 4, under1);
  setReal(sums, 5, under2);
}

let r: f64 = 0;
let g: f64 = 0;
let b: f64 = 0;
let under0: f64 = 0;
let under1: f64 = 0;
let under2: f64 = 0;

function sumOverMany(members: usize, count: i32, most: i32): void {
  for (let k = 0; k < count; k++) {
    const i = intAt(members, k);
    if (levelAt(i) > most) continue;
    groundUnder(i);
    r += <f64>channelAt(picture, i, 0) - B0;
    g += <f64>channelAt(picture, i, 1) - B1;
    b += <f64>channelAt(picture, i, 2) - B2;
    under0 += B0;
    under1 += B1;
    under2 += B2;
  }
}

/** Sums of so many bytes fit a word. */
const AT_ONCE: i32 = 1 << 22;

function sumOverOne(members: usize, count: i32, most: i32): void {
  let amount = 0;
  for (let from = 0; from < count; from += AT_ONCE) {
    let sum = i32x4.splat(0);
    for (let k = from; k < min(count, from + AT_ONCE); k++) {
      const i = intAt(members, k);
      if (levelAt(i) > most) continue;
      amount++;
      sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(i32x4.splat(intAt(picture, i)))));
    }
    r += <f64>i32x4.extract_lane(sum, 0);
    g += <f64>i32x4.extract_lane(sum, 1);
    b += <f64>i32x4.extract_lane(sum, 2);
  }
  under0 = B0 * <f64>amount;
  under1 = B1 * <f64>amount;
  under2 = B2 * <f64>amount;
  r -= under0;
  g -= under1;
  b -= under2;
}

/**
 * Pairs of a colour met lately, and what was found of it: over one ground, pixels of one colour are alike, and a shadow
 * has few.
 */
const lately: usize = memory.data(1024 * 8);
const UNKNOWN: i32 = -1;

// @ts-ignore: decorator
@inline function forget(): void {
  memory.fill(lately, 0, 1024 * 8);
}
// @ts-ignore: decorator
@inline function placeOf(colour: i32): usize {
  return lately + ((<usize>((colour * 0x9e3779b1) >>> 22)) << 3);
}
// @ts-ignore: decorator
@inline function recall(colour: i32): i32 {
  const at = placeOf(colour);
  return load<i32>(at) == colour ? load<i32>(at, 4) : UNKNOWN;
}
// @ts-ignore: decorator
@inline function remember(colour: i32, what: i32): void {
  store<i32>(placeOf(colour), colour);
  store<i32>(placeOf(colour), what, 4);
}

@unmanaged
class KeepOnLine {
  members: usize;
  count: i32;
  u0: f64;
  u1: f64;
  u2: f64;
  length: f64;
  out: usize;
}

/**
 * Those of a region whose colour lies on the line from the ground in a direction of some length; returns how many `out`
 * holds.
 */
export function keepOnLine(args: KeepOnLine): i32 {
  const members = args.members;
  const count = args.count;
  const u0 = args.u0;
  const u1 = args.u1;
  const u2 = args.u2;
  const length = args.length;
  const out = args.out;
  let kept = 0;
  const isOne = isOneColour();
  forget();
  for (let k = 0; k < count; k++) {
    const i = intAt(members, k);
    const colour = intAt(picture, i);
    let isOn = isOne ? recall(colour) : UNKNOWN;
    if (isOn == UNKNOWN) {
      groundUnder(i);
      isOn = isOnLine(colour, u0, u1, u2, length) ? 1 : 0;
      if (isOne) remember(colour, isOn);
    }
    setInt(out, kept, i);
    kept += isOn;
  }
  return kept;
}

function isOnLine(colour: i32, u0: f64, u1: f64, u2: f64, length: f64): bool {
  const v0 = <f64>(colour & 255) - B0;
  const v1 = <f64>((colour >> 8) & 255) - B1;
  const v2 = <f64>((colour >> 16) & 255) - B2;
  const along = (v0 * u0 + v1 * u1 + v2 * u2) / length;
  const off = Math.sqrt(Math.max(0, v0 * v0 + v1 * v1 + v2 * v2 - along * along));
  return along > 0 && off <= 9 + 0.12 * along;
}

/**
 * How many of a region lie between two levels, in `out[0]`, and how many of at least a third level have a neighbour
 * under it, in `out[1]`.
 */
export function countFade(members: usize, count: i32, above: f64, below: f64, contour: f64, out: usize): void {
  const from = <i32>Math.floor(above) + 1;
  const to = <i32>Math.ceil(below);
  const half = <i32>Math.ceil(contour);
  let between = 0;
  let rim = 0;
  for (let k = 0; k < count; k++) {
    const i = intAt(members, k);
    const own = levelAt(i);
    if (own >= from && own < to) between++;
    if (own >= half && !areHigh(i, half) && lowestBeside(i) < half) rim++;
  }
  setInt(out, 0, between);
  setInt(out, 1, rim);
}

// Whether all four neighbours are at least so strong, for most pixels the quickest that can be asked; those at the
// picture's border are not asked. @ts-ignore: decorator
@inline function areHigh(i: i32, half: i32): bool {
  return (
    i >= width &&
    i < width * (height - 1) &&
    ((levelAt(i - 1) - half) | (levelAt(i + 1) - half) | (levelAt(i - width) - half) | (levelAt(i + width) - half)) >= 0
  );
}

function lowestBeside(i: i32): i32 {
  const x = i - rowOf(i, scale) * width;
  let least = i32.MAX_VALUE;
  if (x > 0) least = min(least, levelAt(i - 1));
  if (x < width - 1) least = min(least, levelAt(i + 1));
  if (i >= width) least = min(least, levelAt(i - width));
  if (i < width * (height - 1)) least = min(least, levelAt(i + width));
  return least;
}

@unmanaged
class CountHigh {
  members: usize;
  count: i32;
  step: i32;
  half: f64;
  flatBelow: f64;
  reach: i32;
  out: usize;
}

/**
 * Of every `step`th of a region that is at least `half` strong: how many there are, in `out[0]`; how many differ from
 * all their neighbours by less than `flatBelow`, in `out[1]`; how far the one farthest from open ground lies from it,
 * up to `reach`, in `out[2]`.
 */
export function countHigh(args: CountHigh): void {
  const members = args.members;
  const count = args.count;
  const step = args.step;
  const half = args.half;
  const flatBelow = args.flatBelow;
  const reach = args.reach;
  const out = args.out;
  let high = 0;
  let flat = 0;
  let farthest = 0;
  for (let k = 0; k < count; k += step) {
    const i = intAt(members, k);
    if (<f64>levelAt(i) < half) continue;
    high++;
    if (<f64>steepness(i) < flatBelow) flat++;
    if (farthest < reach) farthest = max(farthest, distanceToOpen(i, reach));
  }
  setInt(out, 0, high);
  setInt(out, 1, flat);
  setInt(out, 2, farthest);
}

function steepness(i: i32): i32 {
  const x = i - rowOf(i, scale) * width;
  const own = levelAt(i);
  let most = 0;
  if (x > 0) most = abs(levelAt(i - 1) - own);
  if (x < width - 1) most = max(most, abs(levelAt(i + 1) - own));
  if (i >= width) most = max(most, abs(levelAt(i - width) - own));
  if (i < width * (height - 1)) most = max(most, abs(levelAt(i + width) - own));
  return most;
}

// @ts-ignore: decorator
@inline function openAt(i: i32): bool {
  return byteAt(isOpen, intAt(labels, i)) != 0;
}

function distanceToOpen(i: i32, reach: i32): i32 {
  const y = rowOf(i, scale);
  const x = i - y * width;
  for (let r = 1; r < reach; r++) {
    if (
      (x >= r && openAt(i - r)) ||
      (x + r < width && openAt(i + r)) ||
      (y >= r && openAt(i - r * width)) ||
      (y + r < height && openAt(i + r * width))
    )
      return r;
  }
  return reach;
}

/**
 * The open labels beside a region, each once; returns how many `out` holds. `noted`: a byte a label, all 0, and left
 * so.
 */
export function labelsBeside(members: usize, count: i32, noted: usize, out: usize): i32 {
  let found = 0;
  for (let k = 0; k < count; k++) {
    const i = intAt(members, k);
    const x = i - rowOf(i, scale) * width;
    if (x > 0) found = noteLabel(intAt(labels, i - 1), noted, out, found);
    if (x < width - 1) found = noteLabel(intAt(labels, i + 1), noted, out, found);
    if (i >= width) found = noteLabel(intAt(labels, i - width), noted, out, found);
    if (i < width * (height - 1)) found = noteLabel(intAt(labels, i + width), noted, out, found);
  }
  for (let k = 0; k < found; k++) setByte(noted, intAt(out, k), 0);
  return found;
}

function noteLabel(label: i32, noted: usize, out: usize, found: i32): i32 {
  if (!byteAt(isOpen, label) || byteAt(noted, label)) return found;
  setByte(noted, label, 1);
  setInt(out, found, label);
  return found + 1;
}

/** Gives a region its label. */
export function labelRegion(members: usize, count: i32, label: i32): void {
  for (let k = 0; k < count; k++) setInt(labels, intAt(members, k), label);
}

/**
 * Where the fade goes on over open ground, falling, down to `floor` and up to `farthest` pixels out; all of it gets the
 * label. Returns how many `members` holds then. `room`: a number for each it held before.
 */
export function addTail(members: usize, count: i32, label: i32, floor: f64, farthest: i32, room: usize): i32 {
  const least = <i32>Math.ceil(floor);
  let rim = 0;
  for (let k = 0; k < count; k++) {
    const i = intAt(members, k);
    if (!isAmong(i, label) && touchesOpen(i)) setInt(room, rim++, i);
  }
  let edge = room;
  let from = 0;
  let to = rim;
  let total = count;
  for (let step = 0; step < farthest && to > from; step++) {
    const before = total;
    for (let k = from; k < to; k++) {
      const i = intAt(edge, k);
      const most = levelAt(i) + 9;
      const x = i - rowOf(i, scale) * width;
      if (x > 0) total = enterTail(i - 1, least, most, label, members, total);
      if (x < width - 1) total = enterTail(i + 1, least, most, label, members, total);
      if (i >= width) total = enterTail(i - width, least, most, label, members, total);
      if (i < width * (height - 1)) total = enterTail(i + width, least, most, label, members, total);
    }
    edge = members;
    from = before;
    to = total;
  }
  return total;
}

// Whether all four neighbours have the label, for most pixels the quickest that can be asked; those at the picture's
// border are not asked.
function isAmong(i: i32, label: i32): bool {
  return (
    i >= width &&
    i < width * (height - 1) &&
    ((intAt(labels, i - 1) ^ label) |
      (intAt(labels, i + 1) ^ label) |
      (intAt(labels, i - width) ^ label) |
      (intAt(labels, i + width) ^ label)) ==
      0
  );
}

function enterTail(n: i32, least: i32, most: i32, label: i32, members: usize, total: i32): i32 {
  if (!openAt(n) || levelAt(n) < least || levelAt(n) > most) return total;
  setInt(labels, n, label);
  setInt(members, total, n);
  return total + 1;
}

let F0: f64 = 0;
let F1: f64 = 0;
let F2: f64 = 0;

/** The colour that a soft region is taken to have. */
export function setSoftColour(r: f64, g: f64, b: f64): void {
  F0 = r;
  F1 = g;
  F2 = b;
}

// How much of the colour a pixel holds over the ground, 0..1.
function alphaOf(i: i32): f64 {
  groundUnder(i);
  const f0 = F0 - B0,
    f1 = F1 - B1,
    f2 = F2 - B2;
  const dot =
    (<f64>channelAt(picture, i, 0) - B0) * f0 +
    (<f64>channelAt(picture, i, 1) - B1) * f1 +
    (<f64>channelAt(picture, i, 2) - B2) * f2;
  const square = f0 * f0 + f1 * f1 + f2 * f2;
  return square < 1 ? 0 : Math.min(1, Math.max(0, dot / square));
}

/** The alpha of every `step`th of a region, as 32-bit reals; returns how many `out` holds. */
export function alphasOf(members: usize, count: i32, step: i32, out: usize): i32 {
  let n = 0;
  for (let k = 0; k < count; k += step) {
    store<f32>(out + ((<usize>n) << 2), <f32>alphaOf(intAt(members, k)));
    n++;
  }
  return n;
}

/** Writes a region into a picture: the colour, each pixel as strong as it holds it. */
export function writeSoft(members: usize, count: i32, out: usize): void {
  const own = roundOf(F0) | (roundOf(F1) << 8) | (roundOf(F2) << 16);
  const isOne = isOneColour();
  forget();
  for (let k = 0; k < count; k++) {
    const i = intAt(members, k);
    const colour = intAt(picture, i);
    let alpha = isOne ? recall(colour) : UNKNOWN;
    if (alpha == UNKNOWN) {
      alpha = roundOf(alphaOf(i) * 255);
      if (isOne) remember(colour, alpha);
    }
    setInt(out, i, own | (alpha << 24));
  }
}

/** A patch under a shadow is at least this large, in pixels, and its shade varies by at least this share. */
const LEAST_SHADED: i32 = 12;
const LEAST_VARIATION: f64 = 0.025;
/**
 * What compression leaves inside a plate is fainter than this share of the shadow; a plate's edges are steep,
 * and on one side of them all is bright.
 */
const LEAST_SHADE: f64 = 0.35;
/** Nothing weaker is asked whether it is shaded ground. */
const FAINTEST: i32 = 4;

let strongest: i32 = 0;
let slack: f64 = 0;

// On the shadow's own colour line, and no stronger than the shadow.
function isShaded(i: i32): bool {
  const d = byteAt(distance, i);
  if (d > strongest || d < FAINTEST || intAt(labels, i) != MARK) return false;
  const colour = intAt(picture, i);
  let isOn = isOneColour() ? recall(colour) : UNKNOWN;
  if (isOn == UNKNOWN) {
    groundUnder(i);
    isOn = isNearLine(colour) ? 1 : 0;
    if (isOneColour()) remember(colour, isOn);
  }
  return isOn != 0;
}

function isNearLine(colour: i32): bool {
  const f0 = F0 - B0,
    f1 = F1 - B1,
    f2 = F2 - B2;
  const v0 = <f64>(colour & 255) - B0,
    v1 = <f64>((colour >> 8) & 255) - B1,
    v2 = <f64>((colour >> 16) & 255) - B2;
  const dot = v0 * f0 + v1 * f1 + v2 * f2;
  const square = f0 * f0 + f1 * f1 + f2 * f2;
  const along = dot / Math.sqrt(square == 0 ? 1 : square);
  const most = slack + 0.06 * along;
  return along > 0 && v0 * v0 + v1 * v1 + v2 * v2 - along * along <= most * most;
}

function mayBeShaded(i: i32): i32 {
  const d = sixteenAt(distance, i);
  const found = i8x16.bitmask(
    v128.and(i8x16.ge_u(d, i8x16.splat(<i8>FAINTEST)), i8x16.le_u(d, i8x16.splat(<i8>strongest))),
  );
  return (
    found && found & (unlabelled(i) | (unlabelled(i + 4) << 4) | (unlabelled(i + 8) << 8) | (unlabelled(i + 12) << 12))
  );
}

// @ts-ignore: decorator
@inline function unlabelled(i: i32): i32 {
  return i32x4.bitmask(i32x4.eq(fourAt(labels, i), i32x4.splat(MARK)));
}

let patch: usize = 0;
let patchEnd: i32 = 0;
let outside: i32 = 0;
let soft: i32 = 0;
let bright: i32 = 0;

function visitShaded(n: i32, seen: usize): void {
  const label = intAt(labels, n);
  if (label == OUTSIDE) outside++;
  else if (label == SOFT) soft++;
  else if (label == MARK && !byteAt(seen, n)) {
    if (byteAt(distance, n) < FAINTEST) bright++;
    else if (isShaded(n)) {
      setByte(seen, n, 1);
      setInt(patch, patchEnd++, n);
    }
  }
}

// Grows a patch of shaded ground; appended to `members` when it is part of the shadow. Returns how many those are then.
function takePatch(start: i32, seen: usize, members: usize, total: i32): i32 {
  const first = patchEnd;
  setByte(seen, start, 1);
  setInt(patch, patchEnd++, start);
  outside = 0;
  soft = 0;
  bright = 0;
  let sum: f64 = 0;
  let squares: f64 = 0;
  let deepest = 0;
  let gradual = 0;
  for (let k = first; k < patchEnd; k++) {
    const i = intAt(patch, k);
    const level = byteAt(distance, i);
    const d = <f64>level;
    sum += d;
    squares += d * d;
    deepest = max(deepest, level);
    if (isGradual(i)) gradual++;
    if (areAround(seen, i)) continue;
    const x = i - rowOf(i, scale) * width;
    if (x > 0) visitShaded(i - 1, seen);
    if (x < width - 1) visitShaded(i + 1, seen);
    if (i >= width) visitShaded(i - width, seen);
    if (i < width * (height - 1)) visitShaded(i + width, seen);
  }
  const size = patchEnd - first;
  const mean = sum / <f64>size;
  const deviation = Math.sqrt(Math.max(0, squares / <f64>size - mean * mean));
  if (outside > soft || size < LEAST_SHADED || deviation < LEAST_VARIATION * mean) return total;
  if (<f64>deepest < LEAST_SHADE * <f64>strongest || 2 * gradual < size || 4 * bright > size) return total;
  for (let k = first; k < patchEnd; k++) setInt(members, total++, intAt(patch, k));
  return total;
}

let boxLeft: i32 = 0;
let boxRight: i32 = 0;
let boxTop: i32 = 0;
let boxBottom: i32 = 0;

// The outermost rows and columns of a region, four pixels at a time.
function boxOf(members: usize, count: i32): void {
  const w = width;
  const four = i32x4.splat(w);
  const half = f64x2.splat(0.5);
  const by = f64x2.splat(scale);
  let first = i32x4.splat(i32.MAX_VALUE),
    last = i32x4.splat(0),
    left = i32x4.splat(w),
    right = i32x4.splat(0);
  for (let k = 0; k < count; k += 4) {
    // The last few once more where the list does not come out even.
    const v = count < 4 ? i32x4.splat(intAt(members, k)) : fourAt(members, min(k, count - 4));
    const low = i32x4.trunc_sat_f64x2_s_zero(f64x2.mul(f64x2.add(f64x2.convert_low_i32x4_s(v), half), by));
    const high = i32x4.trunc_sat_f64x2_s_zero(
      f64x2.mul(f64x2.add(f64x2.convert_low_i32x4_s(v128.shuffle<i64>(v, v, 1, 0)), half), by),
    );
    const x = i32x4.sub(v, i32x4.mul(v128.shuffle<i64>(low, high, 0, 2), four));
    first = i32x4.min_s(first, v);
    last = i32x4.max_s(last, v);
    left = i32x4.min_s(left, x);
    right = i32x4.max_s(right, x);
    if (count < 4) k -= 3;
  }
  boxTop = leastOf(first) / w;
  boxBottom = mostOf(last) / w;
  boxLeft = leastOf(left);
  boxRight = mostOf(right);
}

// @ts-ignore: decorator
@inline function leastOf(v: v128): i32 {
  return min(
    min(i32x4.extract_lane(v, 0), i32x4.extract_lane(v, 1)),
    min(i32x4.extract_lane(v, 2), i32x4.extract_lane(v, 3)),
  );
}
// @ts-ignore: decorator
@inline function mostOf(v: v128): i32 {
  return max(
    max(i32x4.extract_lane(v, 0), i32x4.extract_lane(v, 1)),
    max(i32x4.extract_lane(v, 2), i32x4.extract_lane(v, 3)),
  );
}

/**
 * A shadow also falls on ground that the mark encloses, such as the counters of letters: there it never comes down to
 * the ground. Patches inside the mark, between the region's outermost rows and columns, that lie on the shadow's own
 * colour line, no stronger than the shadow, uneven as a shadow is, become part of it. `tolerated`: how far from the
 * line a weak pixel may lie, code values. `seen`: a byte a pixel, all 0, and left so. `room`: a number a pixel. Returns
 * how many `members` holds then.
 */
export function addShaded(members: usize, count: i32, tolerated: f64, seen: usize, room: usize): i32 {
  let high = 0;
  for (let k = 0; k < count; k++) high = max(high, levelAt(intAt(members, k)));
  boxOf(members, count);
  strongest = <i32>Math.floor(Math.min(<f64>DEEPEST, (<f64>high / 9) * 1.15 + 6));
  slack = tolerated;
  forget();
  patch = room;
  patchEnd = 0;
  let total = count;
  for (let y = boxTop; y <= boxBottom; y++) {
    const end = y * width + boxRight + 1;
    for (let i = y * width + boxLeft; i < end; i += 16) {
      // One bit for each of sixteen that may be shaded by its strength and label: mostly none.
      for (let asked = i + 16 <= end ? mayBeShaded(i) : (1 << (end - i)) - 1; asked; asked &= asked - 1) {
        const start = i + ctz(asked);
        if (!byteAt(seen, start) && isShaded(start)) total = takePatch(start, seen, members, total);
      }
    }
  }
  for (let k = 0; k < patchEnd; k++) setByte(seen, intAt(patch, k), 0);
  for (let k = count; k < total; k++) setInt(labels, intAt(members, k), SOFT);
  return total;
}
