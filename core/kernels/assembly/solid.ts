import { SOFT } from './labels';
import { apartBytes, byteAt, fourAt, intAt, rowOf, rowScale, setInt, signedAt } from './memory';

@unmanaged
class FindSolid {
  picture: usize;
  width: i32;
  height: i32;
  ring: usize;
  length: i32;
  distance: usize;
  leastDistance: f64;
  depth: usize;
  flat: i32;
  nearest: usize;
}

/**
 * Pixels of a ring that hold one colour unmixed become their own nearest solid pixel; see core/matte/nearestSolid.ts.
 */
export function findSolid(args: FindSolid): void {
  const picture = args.picture;
  const width = args.width;
  const height = args.height;
  const ring = args.ring;
  const length = args.length;
  const distance = args.distance;
  const leastDistance = args.leastDistance;
  const depth = args.depth;
  const flat = args.flat;
  const nearest = args.nearest;
  const most = i8x16.splat(<i8>min(flat, 255));
  const scale = rowScale(width);
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    if (<f64>byteAt(distance, i) < leastDistance) continue;
    const y = rowOf(i, scale);
    const x = i - y * width;
    if (x == 0 || y == 0 || x == width - 1 || y == height - 1) continue;
    if (
      signedAt(depth, i - 1) < 0 ||
      signedAt(depth, i + 1) < 0 ||
      signedAt(depth, i - width) < 0 ||
      signedAt(depth, i + width) < 0
    )
      continue;
    let around = i32x4.splat(intAt(picture, i - 1));
    around = i32x4.replace_lane(around, 1, intAt(picture, i + 1));
    around = i32x4.replace_lane(around, 2, intAt(picture, i - width));
    around = i32x4.replace_lane(around, 3, intAt(picture, i + width));
    if (!v128.any_true(i8x16.gt_u(apartBytes(around, i32x4.splat(intAt(picture, i))), most)))
      setInt(nearest, i, ((y << 16) | x) + 1);
  }
}

/** Each pixel of a ring takes the nearest of the places that its neighbours know, there and back again. */
export function handOn(ring: usize, length: i32, nearest: usize, width: i32, total: i32): void {
  const scale = rowScale(width);
  for (let k = 0; k < length; k++) takeNearest(intAt(ring, k), nearest, width, total, scale, 1);
  // Only a solid pixel right beside is nearer than one corner to corner, and that was known the first time.
  for (let k = length - 1; k >= 0; k--) takeNearest(intAt(ring, k), nearest, width, total, scale, 2);
}

function takeNearest(i: i32, nearest: usize, width: i32, total: i32, scale: f64, enough: i32): void {
  const y = rowOf(i, scale);
  const x = i - y * width;
  let best = intAt(nearest, i);
  let reach = 0x7fffffff;
  if (best > 0) {
    const dx = ((best - 1) & 0xffff) - x;
    const dy = ((best - 1) >>> 16) - y;
    reach = dx * dx + dy * dy;
    if (reach <= enough) return;
  }
  // Places lie within a few rings, so that four bits are left over for the order in which neighbours are asked.
  if (x > 0 && x < width - 2 && i >= width && i + width < total) {
    const least = nearestOfNine(i, x, y, nearest, width);
    if (least != NONE && least >> 4 < reach)
      setInt(nearest, i, intAt(nearest, i + ((least & 15) / 3 - 1) * width + ((least & 15) % 3) - 1));
    return;
  }
  const left = x > 0 ? -1 : 0;
  const right = x < width - 1 ? 1 : 0;
  const last = i + width < total ? i + width : i;
  for (let row = i >= width ? i - width : i; row <= last; row += width) {
    for (let n = row + left; n <= row + right; n++) {
      const s = intAt(nearest, n);
      if (s == 0 || s == best) continue;
      const dx = ((s - 1) & 0xffff) - x;
      const dy = ((s - 1) >>> 16) - y;
      const d = dx * dx + dy * dy;
      if (d < reach) {
        reach = d;
        best = s;
      }
    }
  }
  setInt(nearest, i, best);
}

const NONE: i32 = 0x7fffffff;

// The least squared distance of the places that a pixel and its neighbours know, times sixteen, plus which of the nine
// it is, row by row.
function nearestOfNine(i: i32, x: i32, y: i32, nearest: usize, width: i32): i32 {
  const above = keysOf(fourAt(nearest, i - width - 1), x, y, 0);
  const beside = keysOf(fourAt(nearest, i - 1), x, y, 3);
  const below = keysOf(fourAt(nearest, i + width - 1), x, y, 6);
  const least = i32x4.min_s(above, i32x4.min_s(beside, below));
  return min(i32x4.extract_lane(least, 0), min(i32x4.extract_lane(least, 1), i32x4.extract_lane(least, 2)));
}

// @ts-ignore: decorator
@inline function keysOf(places: v128, x: i32, y: i32, first: i32): v128 {
  const at = i32x4.sub(places, i32x4.splat(1));
  const dx = i32x4.sub(v128.and(at, i32x4.splat(0xffff)), i32x4.splat(x));
  const dy = i32x4.sub(i32x4.shr_u(at, 16), i32x4.splat(y));
  const d = i32x4.add(i32x4.mul(dx, dx), i32x4.mul(dy, dy));
  const keys = i32x4.add(i32x4.shl(d, 4), i32x4.add(i32x4.splat(first), i32x4(0, 1, 2, 3)));
  return v128.bitselect(i32x4.splat(NONE), keys, i32x4.eq(places, i32x4.splat(0)));
}

/** Pixels of a ring that are soft stand for themselves: each becomes its own soft pixel, counted from 1. */
export function seedSoft(ring: usize, length: i32, labels: usize, behind: usize): void {
  for (let k = 0; k < length; k++)
    if (intAt(labels, intAt(ring, k)) == SOFT) setInt(behind, intAt(ring, k), intAt(ring, k) + 1);
}

/**
 * Each pixel of a ring takes the soft pixel that a neighbour of another ring knows: one beside it before one corner to
 * corner. `room`: a number for each.
 */
export function handSoftOn(ring: usize, length: i32, behind: usize, width: i32, height: i32, room: usize): void {
  const scale = rowScale(width);
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    const y = rowOf(i, scale);
    const x = i - y * width;
    let known = softAt(behind, x, y - 1, width, height);
    if (!known) known = softAt(behind, x - 1, y, width, height);
    if (!known) known = softAt(behind, x + 1, y, width, height);
    if (!known) known = softAt(behind, x, y + 1, width, height);
    if (!known) known = softAt(behind, x - 1, y - 1, width, height);
    if (!known) known = softAt(behind, x + 1, y - 1, width, height);
    if (!known) known = softAt(behind, x - 1, y + 1, width, height);
    if (!known) known = softAt(behind, x + 1, y + 1, width, height);
    setInt(room, k, known);
  }
  for (let k = 0; k < length; k++) if (intAt(room, k)) setInt(behind, intAt(ring, k), intAt(room, k));
}

// @ts-ignore: decorator
@inline function softAt(behind: usize, x: i32, y: i32, width: i32, height: i32): i32 {
  return x < 0 || y < 0 || x >= width || y >= height ? 0 : intAt(behind, y * width + x);
}
