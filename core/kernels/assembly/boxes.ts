import { apart, byteAt, intAt } from './memory';

// The box of all that was found since `startBox`, over as many strips of rows as there are.
let left: i32 = 0;
let right: i32 = 0;
let top: i32 = 0;
let bottom: i32 = 0;

export function startBox(width: i32): void {
  left = width;
  right = -1;
  top = -1;
  bottom = -1;
}
export function boxLeft(): i32 {
  return left;
}
export function boxRight(): i32 {
  return right;
}
export function boxTop(): i32 {
  return top;
}
export function boxBottom(): i32 {
  return bottom;
}

function take(y: i32, first: i32): void {
  if (top < 0) top = y;
  bottom = y;
  if (first < left) left = first;
}

// @ts-ignore: decorator
@inline function isNear(v: i32, same: i32, r: i32, g: i32, b: i32, above: i32): bool {
  return (
    v == same || (apart(v & 255, r) <= above && apart((v >> 8) & 255, g) <= above && apart((v >> 16) & 255, b) <= above)
  );
}

@unmanaged
class BoxStrays {
  picture: usize;
  width: i32;
  rows: i32;
  y0: i32;
  r: i32;
  g: i32;
  b: i32;
  above: i32;
}

/** Rows of a picture, the first of them number `y0`: what lies further than `above` from a colour. */
export function boxStrays(args: BoxStrays): void {
  const picture = args.picture;
  const width = args.width;
  const rows = args.rows;
  const y0 = args.y0;
  const r = args.r;
  const g = args.g;
  const b = args.b;
  const above = args.above;
  const same = (255 << 24) | (b << 16) | (g << 8) | r;
  const many = i32x4.splat(same);
  for (let y = 0; y < rows; y++) {
    const row = picture + ((<usize>(y * width)) << 2);
    let x = 0;
    while (x < width) {
      while (x + 4 <= width && i32x4.all_true(i32x4.eq(v128.load(row + ((<usize>x) << 2)), many))) x += 4;
      if (x < width && !isNear(intAt(row, x), same, r, g, b, above)) break;
      x++;
    }
    if (x >= width) continue;
    take(y0 + y, x);
    let last = width - 1;
    while (last > right && isNear(intAt(row, last), same, r, g, b, above)) last--;
    if (last > right) right = last;
  }
}

/** Rows of a plane of bytes: what is larger than `above`. */
export function boxAbove(plane: usize, width: i32, rows: i32, y0: i32, above: i32): void {
  for (let y = 0; y < rows; y++) {
    const row = plane + <usize>(y * width);
    let x = 0;
    while (x < width) {
      while (x + 8 <= width && load<i64>(row + <usize>x) == 0) x += 8;
      if (x < width && byteAt(row, x) > above) break;
      x++;
    }
    if (x >= width) continue;
    take(y0 + y, x);
    let last = width - 1;
    while (last > right && byteAt(row, last) <= above) last--;
    if (last > right) right = last;
  }
}

/** Rows of a picture: what has at least so much alpha. */
export function boxVisible(picture: usize, width: i32, rows: i32, y0: i32, leastAlpha: i32): void {
  const alphas = i32x4.splat(0xff000000);
  for (let y = 0; y < rows; y++) {
    const row = picture + ((<usize>(y * width)) << 2);
    let x = 0;
    while (x < width) {
      while (x + 4 <= width && !v128.any_true(v128.and(v128.load(row + ((<usize>x) << 2)), alphas))) x += 4;
      if (x < width && intAt(row, x) >>> 24 >= leastAlpha) break;
      x++;
    }
    if (x >= width) continue;
    take(y0 + y, x);
    let last = width - 1;
    while (last > right && intAt(row, last) >>> 24 < leastAlpha) last--;
    if (last > right) right = last;
  }
}

let clear: i32 = 0;
let part: i32 = 0;

export function startTransparent(): void {
  clear = 0;
  part = 0;
}
export function clearCount(): i32 {
  return clear;
}
export function partCount(): i32 {
  return part;
}

/** Adds to the two counts how many of so many pixels are wholly see-through, and how many partly. */
export function countTransparent(picture: usize, count: i32): void {
  const alphas = i32x4.splat(0xff000000);
  for (let i = 0; i < count; i++) {
    for (; i + 16 <= count; i += 16) {
      const at = picture + ((<usize>i) << 2);
      const all = v128.and(v128.and(v128.load(at), v128.load(at, 16)), v128.and(v128.load(at, 32), v128.load(at, 48)));
      if (!i32x4.all_true(i32x4.eq(v128.and(all, alphas), alphas))) break;
    }
    if (i >= count) return;
    const alpha = intAt(picture, i) >>> 24;
    if (alpha == 0) clear++;
    else if (alpha < 255) part++;
  }
}
