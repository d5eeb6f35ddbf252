import { apart, byteAt, intAt, setInt, signedAt } from './memory';

/** Pixels of a ring that hold one colour unmixed become their own nearest solid pixel; see core/matte/nearestSolid.ts. */
export function findSolid(picture: usize, width: i32, height: i32, ring: usize, length: i32, distance: usize, leastDistance: f64, depth: usize, flat: f64, nearest: usize): void {
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    if (<f64>byteAt(distance, i) < leastDistance) continue;
    const y = i / width;
    const x = i - y * width;
    if (x == 0 || y == 0 || x == width - 1 || y == height - 1) continue;
    if (signedAt(depth, i - 1) < 0 || signedAt(depth, i + 1) < 0 || signedAt(depth, i - width) < 0 || signedAt(depth, i + width) < 0) continue;
    if (isAlike(picture, i, i - 1, flat) && isAlike(picture, i, i + 1, flat) && isAlike(picture, i, i - width, flat) && isAlike(picture, i, i + width, flat)) setInt(nearest, i, ((y << 16) | x) + 1);
  }
}

function isAlike(picture: usize, a: i32, b: i32, flat: f64): bool {
  const s = a << 2;
  const n = b << 2;
  return <f64>apart(byteAt(picture, n), byteAt(picture, s)) <= flat && <f64>apart(byteAt(picture, n + 1), byteAt(picture, s + 1)) <= flat && <f64>apart(byteAt(picture, n + 2), byteAt(picture, s + 2)) <= flat;
}

/** Each pixel of a ring takes the nearest of the places that its neighbours know, there and back again. */
export function handOn(ring: usize, length: i32, nearest: usize, width: i32, total: i32): void {
  for (let k = 0; k < length; k++) takeNearest(intAt(ring, k), nearest, width, total);
  for (let k = length - 1; k >= 0; k--) takeNearest(intAt(ring, k), nearest, width, total);
}

function takeNearest(i: i32, nearest: usize, width: i32, total: i32): void {
  const y = i / width;
  const x = i - y * width;
  let best = intAt(nearest, i);
  let reach = 0x7fffffff;
  if (best > 0) {
    const dx = ((best - 1) & 0xffff) - x;
    const dy = ((best - 1) >>> 16) - y;
    reach = dx * dx + dy * dy;
    if (reach <= 1) return;
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
