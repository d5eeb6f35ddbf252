import { CLEAR, MIXED, SOFT } from './labels';
import { byteAt, fourAt, intAt, rowOf, rowScale, setByte, setInt, setReal, signedAt, sixteenAt } from './memory';

let labels: usize = 0;
let isOpen: usize = 0;
let depth: usize = 0;
let list: usize = 0;
let width: i32 = 0;
let height: i32 = 0;
let insideCount: i32 = 0;
let outsideCount: i32 = 0;

// @ts-ignore: decorator
@inline function openAt(i: i32): i32 {
  return byteAt(isOpen, intAt(labels, i));
}

function meet(a: i32, b: i32): void {
  const out = openAt(a) ? a : b;
  const inside = openAt(a) ? b : a;
  if (signedAt(depth, inside) == 0) {
    setByte(depth, inside, 1);
    setInt(list, insideCount++, inside);
  }
  if (signedAt(depth, out) == 0) {
    setByte(depth, out, -1);
    outsideCount++;
    setInt(list, width * height - outsideCount, out);
  }
}

function across(from: i32, to: i32): void {
  for (let i = from; i < to; i++) {
    while (i + 4 <= to && !v128.any_true(v128.xor(fourAt(labels, i), fourAt(labels, i + 1)))) i += 4;
    if (i < to && openAt(i) != openAt(i + 1)) meet(i, i + 1);
  }
}

function down(from: i32, to: i32): void {
  for (let i = from; i < to; i++) {
    while (i + 4 <= to && !v128.any_true(v128.xor(fourAt(labels, i), fourAt(labels, i + width)))) i += 4;
    if (i < to && openAt(i) != openAt(i + width)) meet(i, i + width);
  }
}

@unmanaged
class FindEdge {
  ofLabels: usize;
  openByLabel: usize;
  runs: usize;
  rowStart: usize;
  w: i32;
  h: i32;
  ofDepth: usize;
  room: usize;
}

/**
 * The pixels on both sides of the edge. `ofDepth`: a signed byte a pixel, all 0. `room`: a number a pixel; the inner
 * pixels come to its beginning, the outer ones, in order, to its end. Returns how many inner ones there are;
 * `outerCount` tells of the others.
 */
export function findEdge(args: FindEdge): i32 {
  const ofLabels = args.ofLabels;
  const openByLabel = args.openByLabel;
  const runs = args.runs;
  const rowStart = args.rowStart;
  const w = args.w;
  const h = args.h;
  const ofDepth = args.ofDepth;
  const room = args.room;
  labels = ofLabels;
  isOpen = openByLabel;
  depth = ofDepth;
  list = room;
  width = w;
  height = h;
  insideCount = 0;
  outsideCount = 0;
  for (let y = 0; y < height; y++) {
    const rowEnd = (y + 1) * width;
    let below = intAt(rowStart, y + 1);
    for (let r = intAt(rowStart, y); r < intAt(rowStart, y + 1); r += 3) {
      const to = intAt(runs, r + 2);
      const isMixed = intAt(runs, r) == MIXED;
      across(isMixed ? intAt(runs, r + 1) : to - 1, min(to, rowEnd - 1));
      if (y == height - 1) continue;
      // Against the runs below it: where neither is mixed, each is open throughout or not at all, so one pixel speaks
      // for it.
      for (let from = intAt(runs, r + 1); from < to;) {
        while (intAt(runs, below + 2) - width <= from) below += 3;
        const end = min(to, intAt(runs, below + 2) - width);
        if (isMixed || intAt(runs, below) == MIXED || openAt(from) != openAt(from + width)) down(from, end);
        from = end;
      }
    }
  }
  const first = width * height - outsideCount;
  for (let a = first, b = width * height - 1; a < b; a++, b--) {
    const held = intAt(list, a);
    setInt(list, a, intAt(list, b));
    setInt(list, b, held);
  }
  return insideCount;
}
export function outerCount(): i32 {
  return outsideCount;
}

/**
 * One step on from a ring, eight neighbours, over pixels of the wanted openness that have no depth yet. Returns how
 * many it adds at `next`.
 */
export function growRing(ring: usize, count: i32, next: usize, mark: i32, wanted: i32): i32 {
  let added = 0;
  const w = width;
  const total = w * height;
  const known = depth;
  const ofLabels = labels;
  const open = isOpen;
  const scale = rowScale(w);
  for (let k = 0; k < 9; k++) setInt(NINE, k, (k / 3 - 1) * w + (k % 3) - 1);
  for (let j = 0; j < count; j++) {
    const i = intAt(ring, j);
    const x = i - rowOf(i, scale) * w;
    if (x > 0 && x < w - 1 && i >= w && i + w + 3 < total) {
      // One bit for each of the nine that is unknown, row by row: most pixels have few, and which ones nothing
      // foretells.
      for (
        let free = unknown(known, i - w - 1) | (unknown(known, i - 1) << 3) | (unknown(known, i + w - 1) << 6);
        free;
        free &= free - 1
      ) {
        const n = i + intAt(NINE, ctz(free));
        if (byteAt(open, intAt(ofLabels, n)) != wanted) continue;
        setByte(known, n, mark);
        setInt(next, added++, n);
      }
      continue;
    }
    const right = x < w - 1 ? 1 : 0;
    for (let row = i >= w ? i - w : i; row <= (i < total - w ? i + w : i); row += w) {
      for (let n = row - (x > 0 ? 1 : 0); n <= row + right; n++) {
        if (signedAt(known, n) != 0 || byteAt(open, intAt(ofLabels, n)) != wanted) continue;
        setByte(known, n, mark);
        setInt(next, added++, n);
      }
    }
  }
  return added;
}

/** How far a pixel's eight neighbours and itself lie from it, row by row. */
const NINE: usize = memory.data(9 * 4);

// One bit for each of three bytes from a position on that is 0.
// @ts-ignore: decorator
@inline function unknown(plane: usize, at: i32): i32 {
  const v = load<u32>(plane + <usize>at);
  const zero = ~(((v & 0x7f7f7f7f) + 0x7f7f7f7f) | v) & 0x808080;
  return (<i32>((zero >> 7) | (zero >> 14) | (zero >> 21))) & 7;
}

/** Copies, opaque, all pixels whose label is not see-through. */
export function copyMark(
  picture: usize,
  ofLabels: usize,
  openByLabel: usize,
  runs: usize,
  runCount: i32,
  out: usize,
): void {
  labels = ofLabels;
  isOpen = openByLabel;
  for (let r = 0; r < runCount; r += 3) {
    const from = intAt(runs, r + 1);
    if (intAt(runs, r) == CLEAR && openAt(from)) continue;
    const end = intAt(runs, r + 2);
    for (let i = from; i < end; i++) {
      for (; i + 4 <= end && !v128.any_true(fourAt(labels, i)); i += 4)
        v128.store(out + ((<usize>i) << 2), v128.or(fourAt(picture, i), i32x4.splat(0xff000000)));
      if (i < end && !openAt(i)) setInt(out, i, intAt(picture, i) | 0xff000000);
    }
  }
}

/** Counts how often each ground distance occurs in a list of pixels, soft ones left out, in `count[0..255]`. */
export function countDistances(ring: usize, length: i32, distance: usize, ofLabels: usize, count: usize): void {
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    if (intAt(ofLabels, i) == SOFT) continue;
    const d = byteAt(distance, i);
    setInt(count, d, intAt(count, d) + 1);
  }
}

@unmanaged
class BinColours {
  picture: usize;
  w: i32;
  nearest: usize;
  ring: usize;
  length: i32;
  bins: usize;
  seen: i32;
}

/**
 * Adds up the colours of a ring's nearest solid pixels, every third, in 4096 bins of five reals: red, green, blue,
 * number, order of appearance (0: empty).
 */
export function binColours(args: BinColours): i32 {
  const picture = args.picture;
  const w = args.w;
  const nearest = args.nearest;
  const ring = args.ring;
  const length = args.length;
  const bins = args.bins;
  let seen = args.seen;
  for (let k = 0; k < length; k += 3) {
    const place = intAt(nearest, intAt(ring, k)) - 1;
    if (place < 0) continue;
    const s = ((place >>> 16) * w + (place & 0xffff)) << 2;
    const r = byteAt(picture, s),
      g = byteAt(picture, s + 1),
      b = byteAt(picture, s + 2);
    const bin = bins + <usize>((((r >> 4) << 8) | ((g >> 4) << 4) | (b >> 4)) * 40);
    if (load<f64>(bin, 32) == 0) setReal(bin, 4, <f64>++seen);
    setReal(bin, 0, load<f64>(bin) + <f64>r);
    setReal(bin, 1, load<f64>(bin, 8) + <f64>g);
    setReal(bin, 2, load<f64>(bin, 16) + <f64>b);
    setReal(bin, 3, load<f64>(bin, 24) + 1);
  }
  return seen;
}

@unmanaged
class StrongestOfThin {
  ring: usize;
  length: i32;
  nearest: usize;
  distance: usize;
  w: i32;
  h: i32;
  out: usize;
}

/**
 * The strongest pixel within three pixels of each pixel of a ring that has no solid pixel near. Returns how many `out`
 * holds.
 */
export function strongestOfThin(args: StrongestOfThin): i32 {
  const ring = args.ring;
  const length = args.length;
  const nearest = args.nearest;
  const distance = args.distance;
  const w = args.w;
  const h = args.h;
  const out = args.out;
  let count = 0;
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    if (intAt(nearest, i) == 0) setInt(out, count++, strongestNear(distance, i % w, i / w, w, h));
  }
  return count;
}

/**
 * The first of those up to three pixels away that lie farthest from the ground; the pixel itself unless another lies
 * farther.
 */
export function strongestNear(distance: usize, x: i32, y: i32, w: i32, h: i32): i32 {
  const own = y * w + x;
  if (x < 3 || y < 3 || x >= w - 13 || y >= h - 3) return strongestAtBorder(distance, x, y, w, h);
  const first = own - 3 * w - 3;
  let high = sixteenAt(distance, first);
  for (let row = 1; row < 7; row++) high = i8x16.max_u(high, sixteenAt(distance, first + row * w));
  // Seven of the sixteen, then the largest of them.
  high = v128.and(high, i64x2(0x00ffffffffffffff, 0));
  high = i8x16.max_u(high, i64x2.shr_u(high, 32));
  high = i8x16.max_u(high, i64x2.shr_u(high, 16));
  high = i8x16.max_u(high, i64x2.shr_u(high, 8));
  const most = <i32>i8x16.extract_lane_u(high, 0);
  if (most <= byteAt(distance, own)) return own;
  const many = i8x16.splat(<i8>most);
  let row = first;
  let found = 0;
  for (; !found; row += w) found = i8x16.bitmask(i8x16.eq(sixteenAt(distance, row), many)) & 127;
  return row - w + ctz(found);
}

function strongestAtBorder(distance: usize, x: i32, y: i32, w: i32, h: i32): i32 {
  let best = y * w + x;
  for (let py = max(0, y - 3); py <= min(h - 1, y + 3); py++) {
    for (let px = max(0, x - 3); px <= min(w - 1, x + 3); px++)
      if (byteAt(distance, py * w + px) > byteAt(distance, best)) best = py * w + px;
  }
  return best;
}

/**
 * Of every `step`th pixel the colours of those of the mark away from its edge or three pixels in. Returns how many
 * `out` holds.
 */
export function sampleMark(picture: usize, ofMark: usize, ofDepth: usize, total: i32, step: i32, out: usize): i32 {
  let count = 0;
  for (let i = 0; i < total; i += step) {
    const d = signedAt(ofDepth, i);
    if ((d == 0 || d >= 3) && byteAt(ofMark, (i << 2) + 3) == 255) setInt(out, count++, intAt(picture, i));
  }
  return count;
}

/** Counts a list of colours in 32768 bins of eight levels a channel. */
export function countColours(samples: usize, length: i32, counts: usize): void {
  for (let k = 0; k < length; k++) {
    const v = intAt(samples, k);
    const bin = ((v & 0xf8) << 7) | ((v >> 6) & 0x3e0) | ((v >> 19) & 31);
    setInt(counts, bin, intAt(counts, bin) + 1);
  }
}

@unmanaged
class SumWithin {
  samples: usize;
  length: i32;
  r: f64;
  g: f64;
  b: f64;
  reach: f64;
  sums: usize;
}

/** How many of a list of colours lie near one, each channel within `reach`; the sums of theirs come to `sums[0..2]`. */
export function sumWithin(args: SumWithin): i32 {
  const samples = args.samples;
  const length = args.length;
  const r = args.r;
  const g = args.g;
  const b = args.b;
  const reach = args.reach;
  const sums = args.sums;
  // Bytes in the order of a colour; alpha may be anything.
  const low = colourOf(Math.ceil(r - reach), Math.ceil(g - reach), Math.ceil(b - reach), 0);
  const high = colourOf(Math.floor(r + reach), Math.floor(g + reach), Math.floor(b + reach), 255);
  const lows = i32x4.splat(low);
  const highs = i32x4.splat(high);
  let counts = i32x4.splat(0);
  let totals = i32x4.splat(0);
  // Past the end of the list stands anything: the lanes that lie there are left out.
  for (let k = 0; k < length; k += 4) {
    const four = fourAt(samples, k);
    const off = v128.or(i8x16.sub_sat_u(four, highs), i8x16.sub_sat_u(lows, four));
    let isNear = i32x4.eq(off, i32x4.splat(0));
    if (k + 4 > length) isNear = v128.and(isNear, i32x4.gt_s(i32x4.splat(length - k), i32x4(0, 1, 2, 3)));
    const kept = v128.and(four, isNear);
    const pairs = i16x8.add(i16x8.extend_low_i8x16_u(kept), i16x8.extend_high_i8x16_u(kept));
    totals = i32x4.add(totals, i32x4.add(i32x4.extend_low_i16x8_u(pairs), i32x4.extend_high_i16x8_u(pairs)));
    counts = i32x4.sub(counts, isNear);
  }
  setReal(sums, 0, <f64>i32x4.extract_lane(totals, 0));
  setReal(sums, 1, <f64>i32x4.extract_lane(totals, 1));
  setReal(sums, 2, <f64>i32x4.extract_lane(totals, 2));
  return (
    i32x4.extract_lane(counts, 0) +
    i32x4.extract_lane(counts, 1) +
    i32x4.extract_lane(counts, 2) +
    i32x4.extract_lane(counts, 3)
  );
}

function colourOf(r: f64, g: f64, b: f64, a: i32): i32 {
  return (
    (a << 24) |
    ((<i32>Math.min(255, Math.max(0, b))) << 16) |
    ((<i32>Math.min(255, Math.max(0, g))) << 8) |
    (<i32>Math.min(255, Math.max(0, r)))
  );
}
