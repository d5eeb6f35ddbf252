import { MARK, OUTSIDE } from './labels';
import { B0, B1, B2, groundAt } from './ground';
import { byteAt, channelAt, fourAt, intAt, setByte, setInt, setReal } from './memory';

@unmanaged
class MeasureShape {
  label: i32;
  left: i32;
  top: i32;
  right: i32;
  bottom: i32;
  step: i32;
  picture: usize;
  distance: usize;
  labels: usize;
  width: i32;
  height: i32;
  byPlace: bool;
  out: usize;
  rim: usize;
}

/**
 * One area's shape, see core/matte/enclosedAreas.ts. Writes eleven numbers into `out`: sum of distances, pixels
 * counted, pixels near the outside, mark's pixels beside it, the sums of their colours, of the area's own colours, and
 * the length of `rim`, which gets the rim's pixels. `byPlace`: the ground's colour changes from place to place, so the
 * area's is taken relative to it, at the colour in its middle.
 */
export function measureShape(args: MeasureShape): void {
  const label = args.label;
  const left = args.left;
  const top = args.top;
  const right = args.right;
  const bottom = args.bottom;
  const step = args.step;
  const picture = args.picture;
  const distance = args.distance;
  const labels = args.labels;
  const width = args.width;
  const height = args.height;
  const byPlace = args.byPlace;
  const out = args.out;
  const rim = args.rim;
  groundAt((left + right) >> 1, (top + bottom) >> 1);
  const b0 = B0,
    b1 = B1,
    b2 = B2;
  let sum: i64 = 0,
    inside0: i64 = 0,
    inside1: i64 = 0,
    inside2: i64 = 0;
  let counted = 0,
    outside = 0,
    beside = 0,
    rims = 0;
  let around0: f64 = 0,
    around1: f64 = 0,
    around2: f64 = 0,
    moved0: f64 = 0,
    moved1: f64 = 0,
    moved2: f64 = 0;
  const total = width * height;
  const own = i32x4.splat(label);
  for (let y = top; y <= bottom; y += step) {
    for (let x = left, i = y * width + left; x <= right; x++, i++) {
      while (x + 4 <= right && !v128.any_true(i32x4.eq(fourAt(labels, i), own))) {
        x += 4;
        i += 4;
      }
      if (intAt(labels, i) != label) continue;
      // Well inside nothing but sums is asked for.
      if (!byPlace && x > 0 && y > 0 && y < height - 1) {
        let sums = i32x4.splat(0);
        const from = i;
        while (x + 4 <= right && areInside(labels, i, width, own)) {
          const pixels = fourAt(picture, i);
          const pairs = i16x8.add(i16x8.extend_low_i8x16_u(pixels), i16x8.extend_high_i8x16_u(pixels));
          sums = i32x4.add(sums, i32x4.add(i32x4.extend_low_i16x8_u(pairs), i32x4.extend_high_i16x8_u(pairs)));
          sum += <i64>(
            (byteAt(distance, i) + byteAt(distance, i + 1) + byteAt(distance, i + 2) + byteAt(distance, i + 3))
          );
          x += 4;
          i += 4;
        }
        counted += i - from;
        inside0 += <i64>i32x4.extract_lane(sums, 0);
        inside1 += <i64>i32x4.extract_lane(sums, 1);
        inside2 += <i64>i32x4.extract_lane(sums, 2);
        if (intAt(labels, i) != label) continue;
      }
      sum += <i64>byteAt(distance, i);
      counted++;
      inside0 += <i64>channelAt(picture, i, 0);
      inside1 += <i64>channelAt(picture, i, 1);
      inside2 += <i64>channelAt(picture, i, 2);
      if (byPlace) {
        groundAt(x, y);
        moved0 += b0 - B0;
        moved1 += b1 - B1;
        moved2 += b2 - B2;
      }
      if (
        x > 0 &&
        y > 0 &&
        x < width - 1 &&
        y < height - 1 &&
        intAt(labels, i - 1) == label &&
        intAt(labels, i + 1) == label &&
        intAt(labels, i - width) == label &&
        intAt(labels, i + width) == label
      )
        continue;
      setInt(rim, rims++, i);
      for (let k = 0; k < 4; k++) {
        const n = i + (k == 0 ? -4 : k == 1 ? 4 : k == 2 ? -4 * width : 4 * width);
        if (n < 0 || n >= total || intAt(labels, n) != MARK) continue;
        around0 += <f64>channelAt(picture, n, 0);
        around1 += <f64>channelAt(picture, n, 1);
        around2 += <f64>channelAt(picture, n, 2);
        beside++;
      }
      if (reachesOutside(i, x, y, labels, width, height)) outside++;
    }
  }
  setReal(out, 0, <f64>sum);
  setReal(out, 1, <f64>counted);
  setReal(out, 2, <f64>outside);
  setReal(out, 3, <f64>beside);
  setReal(out, 4, around0);
  setReal(out, 5, around1);
  setReal(out, 6, around2);
  setReal(out, 7, <f64>inside0 + moved0);
  setReal(out, 8, <f64>inside1 + moved1);
  setReal(out, 9, <f64>inside2 + moved2);
  setReal(out, 10, <f64>rims);
}

// Whether four pixels and all their neighbours above, below and beside are one area's.
// @ts-ignore: decorator
@inline function areInside(labels: usize, i: i32, width: i32, own: v128): bool {
  const beside = v128.or(v128.xor(fourAt(labels, i - 1), own), v128.xor(fourAt(labels, i + 1), own));
  return !v128.any_true(
    v128.or(beside, v128.or(v128.xor(fourAt(labels, i - width), own), v128.xor(fourAt(labels, i + width), own))),
  );
}

// Within three pixels: a pale part that only an edge pixel or two separates from the ground is not enclosed.
function reachesOutside(i: i32, x: i32, y: i32, labels: usize, width: i32, height: i32): bool {
  for (let k = 1; k <= 3; k++) {
    if ((x >= k && intAt(labels, i - k) == OUTSIDE) || (x + k < width && intAt(labels, i + k) == OUTSIDE)) return true;
    if (
      (y >= k && intAt(labels, i - k * width) == OUTSIDE) ||
      (y + k < height && intAt(labels, i + k * width) == OUTSIDE)
    )
      return true;
  }
  return false;
}

/** Of all labels up to here, SOFT is the last that ends a ray. */
const LAST_OPEN: i32 = 2;

/** Bytes of a row of bits, one a pixel. */
// @ts-ignore: decorator
@inline function bitStride(width: i32): i32 {
  return ((width + 15) / 16) * 2;
}

/**
 * One bit a pixel, set where it is not the mark's: so small that reading it down a column costs little. `out`: all 0.
 */
export function bitsOfOthers(labels: usize, width: i32, height: i32, out: usize): void {
  for (let y = 0; y < height; y++) {
    const row = out + <usize>(y * bitStride(width));
    let x = 0;
    for (let i = y * width; x + 16 <= width; x += 16, i += 16) {
      const first = i16x8.narrow_i32x4_s(isOther(fourAt(labels, i)), isOther(fourAt(labels, i + 4)));
      const second = i16x8.narrow_i32x4_s(isOther(fourAt(labels, i + 8)), isOther(fourAt(labels, i + 12)));
      store<u16>(row + <usize>(x >> 3), <u16>i8x16.bitmask(i8x16.narrow_i16x8_s(first, second)));
    }
    for (; x < width; x++)
      if (intAt(labels, y * width + x) != MARK) setByte(row, x >> 3, byteAt(row, x >> 3) | (1 << (x & 7)));
  }
}

// All ones in each lane that is not MARK, which is 0.
// @ts-ignore: decorator
@inline function isOther(four: v128): v128 {
  return i32x4.ne(four, i32x4.splat(0));
}

// How many steps a coordinate can take before it leaves 0 … length − 1.
function stepsWithin(at: i64, step: i64, length: i32): i32 {
  if (step == 0) return i32.MAX_VALUE;
  return <i32>((step > 0 ? ((<i64>length) << 32) - 1 - at : -at) / step);
}

@unmanaged
class CastRays {
  rim: usize;
  length: i32;
  step: i32;
  own: i32;
  labels: usize;
  others: usize;
  width: i32;
  height: i32;
  limit: f64;
  out: usize;
}

/**
 * Rays from every `step`th pixel of a rim. For each that has a way out `out` gets the number of its pairs, then the
 * pairs; returns how many numbers in all.
 */
export function castRays(args: CastRays): i32 {
  const rim = args.rim;
  const length = args.length;
  const step = args.step;
  const out = args.out;
  let at = 0;
  for (let r = 0; r < length; r += step) {
    const pairs = castRay(args, intAt(rim, r), out + ((<usize>(at + 1)) << 2));
    if (pairs < 0) continue;
    setInt(out, at, pairs);
    at += 1 + 2 * pairs;
  }
  return at;
}

// Straight out from a pixel of the rim: pairs of how far and which label, for each patch met. Returns the number of
// pairs, or −1 where there is no way out.
function castRay(args: CastRays, start: i32, out: usize): i32 {
  const own = args.own;
  const labels = args.labels;
  const others = args.others;
  const width = args.width;
  const height = args.height;
  const limit = args.limit;
  const x = start % width;
  const y = start / width;
  let nx = 0;
  let ny = 0;
  for (let dy = -3; dy <= 3; dy++) {
    for (let dx = -3; dx <= 3; dx++) {
      const px = x + dx;
      const py = y + dy;
      if (px >= 0 && py >= 0 && px < width && py < height && intAt(labels, py * width + px) == own) continue;
      nx += dx;
      ny += dy;
    }
  }
  const norm = Math.sqrt(<f64>(nx * nx + ny * ny));
  if (norm < 1) return -1;
  // In 2^-32 of a pixel, from half a pixel on, so that whole pixels are rounded ones.
  const stepX = <i64>Math.round((<f64>nx / norm) * 4294967296);
  const stepY = <i64>Math.round((<f64>ny / norm) * 4294967296);
  let atX = ((<i64>x) << 32) + 0x80000000;
  let atY = ((<i64>y) << 32) + 0x80000000;
  const stride = bitStride(width);
  const steps = min(<i32>Math.ceil(limit) - 1, min(stepsWithin(atX, stepX, width), stepsWithin(atY, stepY, height)));
  let pairs = 0;
  let last = own;
  for (let run = 1; run <= steps; run++) {
    atX += stepX;
    atY += stepY;
    const px = <i32>(atX >> 32);
    const py = <i32>(atY >> 32);
    if (!(byteAt(others, py * stride + (px >> 3)) & (1 << (px & 7)))) {
      last = MARK;
      continue;
    }
    const label = intAt(labels, py * width + px);
    if (label != last) {
      setInt(out, pairs * 2, run);
      setInt(out, pairs * 2 + 1, label);
      pairs++;
    }
    last = label;
    if (label == OUTSIDE || label == LAST_OPEN) break;
  }
  return pairs;
}

@unmanaged
class DeepPoint {
  start: i32;
  label: i32;
  left: i32;
  top: i32;
  right: i32;
  bottom: i32;
  step: i32;
  labels: usize;
  width: i32;
}

/** The middle of an area's longest run, on the row where it is deepest; the start where there is none. */
export function deepPoint(args: DeepPoint): i32 {
  const start = args.start;
  const label = args.label;
  const left = args.left;
  const top = args.top;
  const right = args.right;
  const bottom = args.bottom;
  const step = args.step;
  const labels = args.labels;
  const width = args.width;
  let best = 0;
  let at = start;
  const own = i32x4.splat(label);
  for (let y = top; y <= bottom; y += step) {
    let run = 0;
    for (let x = left; x <= right + 1; x++) {
      while (x + 4 <= right) {
        const four = i32x4.eq(fourAt(labels, y * width + x), own);
        if (run > 0 ? !i32x4.all_true(four) : v128.any_true(four)) break;
        if (run > 0) run += 4;
        x += 4;
      }
      if (x <= right && intAt(labels, y * width + x) == label) {
        run++;
        continue;
      }
      if (run > best) {
        const middle = x - 1 - (run >> 1);
        const depth = min(run, columnRun(args, middle, y));
        if (depth > best) {
          best = depth;
          at = y * width + middle;
        }
      }
      run = 0;
    }
  }
  return at;
}

function columnRun(args: DeepPoint, x: i32, y: i32): i32 {
  const top = args.top;
  const bottom = args.bottom;
  const label = args.label;
  const labels = args.labels;
  const width = args.width;
  let up = 0;
  while (y - up - 1 >= top && intAt(labels, (y - up - 1) * width + x) == label) up++;
  let down = 0;
  while (y + down + 1 <= bottom && intAt(labels, (y + down + 1) * width + x) == label) down++;
  return 1 + 2 * min(up, down);
}

let rimPx: i32 = 0;
export function bodyRim(): i32 {
  return rimPx;
}

@unmanaged
class MeasureBody {
  start: i32;
  id: i32;
  labels: usize;
  width: i32;
  total: i32;
  piece: usize;
  stack: usize;
}

/**
 * Numbers, in `piece` (16 bits a pixel), the piece of the mark round a pixel; returns its pixels. `stack`: six bytes a
 * pixel.
 */
export function measureBody(args: MeasureBody): i32 {
  const start = args.start;
  const id = args.id;
  const labels = args.labels;
  const width = args.width;
  const total = args.total;
  const piece = args.piece;
  const stack = args.stack;
  let areaPx = 0;
  rimPx = 0;
  let waiting = 1;
  setInt(stack, 0, start);
  while (waiting > 0) {
    const i = intAt(stack, --waiting);
    if (load<u16>(piece + ((<usize>i) << 1))) continue;
    const rowStart = i - (i % width);
    let left = i;
    while (left > rowStart && intAt(labels, left - 1) == MARK) left--;
    let right = i;
    while (right + 1 < rowStart + width && intAt(labels, right + 1) == MARK) right++;
    areaPx += right - left + 1;
    let isOpenAbove = false;
    let isOpenBelow = false;
    const four = <u64>id * 0x0001000100010001;
    for (let k = left; k <= right; k++) {
      // Well inside, where the rows above and below are known already, nothing is to be counted.
      while (
        k > left &&
        k + 4 <= right &&
        isOpenAbove &&
        isOpenBelow &&
        k >= width &&
        k + 4 + width <= total &&
        !v128.any_true(v128.or(fourAt(labels, k - width), fourAt(labels, k + width)))
      ) {
        store<u64>(piece + ((<usize>k) << 1), four);
        k += 4;
      }
      store<u16>(piece + ((<usize>k) << 1), <u16>id);
      const isAbove = k >= width && intAt(labels, k - width) == MARK;
      const isBelow = k + width < total && intAt(labels, k + width) == MARK;
      if (k == left || k == right || !isAbove || !isBelow) rimPx++;
      if (isAbove && !isOpenAbove && !load<u16>(piece + ((<usize>(k - width)) << 1)))
        setInt(stack, waiting++, k - width);
      if (isBelow && !isOpenBelow && !load<u16>(piece + ((<usize>(k + width)) << 1)))
        setInt(stack, waiting++, k + width);
      isOpenAbove = isAbove;
      isOpenBelow = isBelow;
    }
  }
  return areaPx;
}

@unmanaged
class Relabel {
  label: i32;
  left: i32;
  top: i32;
  right: i32;
  bottom: i32;
  labels: usize;
  width: i32;
  to: i32;
}

/** Gives an area's pixels another label. */
export function relabel(args: Relabel): void {
  const label = args.label;
  const left = args.left;
  const top = args.top;
  const right = args.right;
  const bottom = args.bottom;
  const labels = args.labels;
  const width = args.width;
  const to = args.to;
  for (let y = top; y <= bottom; y++)
    for (let i = y * width + left; i <= y * width + right; i++) if (intAt(labels, i) == label) setInt(labels, i, to);
}
