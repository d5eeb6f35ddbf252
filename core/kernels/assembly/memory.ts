// Reading and writing planes by position. Every plane is row-major and named by the address of its first element.

// @ts-ignore: decorator
@inline export function byteAt(plane: usize, i: i32): i32 {
  return <i32>load<u8>(plane + <usize>i);
}
// @ts-ignore: decorator
@inline export function setByte(plane: usize, i: i32, v: i32): void {
  store<u8>(plane + <usize>i, <u8>v);
}
// @ts-ignore: decorator
@inline export function signedAt(plane: usize, i: i32): i32 {
  return <i32>load<i8>(plane + <usize>i);
}
// @ts-ignore: decorator
@inline export function intAt(plane: usize, i: i32): i32 {
  return load<i32>(plane + ((<usize>i) << 2));
}
// @ts-ignore: decorator
@inline export function setInt(plane: usize, i: i32, v: i32): void {
  store<i32>(plane + ((<usize>i) << 2), v);
}
// @ts-ignore: decorator
@inline export function realAt(plane: usize, i: i32): f64 {
  return load<f64>(plane + ((<usize>i) << 3));
}
// @ts-ignore: decorator
@inline export function setReal(plane: usize, i: i32, v: f64): void {
  store<f64>(plane + ((<usize>i) << 3), v);
}
/** One channel of a picture of four bytes a pixel. */
// @ts-ignore: decorator
@inline export function channelAt(picture: usize, i: i32, c: i32): i32 {
  return <i32>load<u8>(picture + ((<usize>i) << 2) + <usize>c);
}

/** Four numbers of a plane, or sixteen bytes, from a position on. */
// @ts-ignore: decorator
@inline export function fourAt(plane: usize, i: i32): v128 {
  return v128.load(plane + ((<usize>i) << 2));
}
// @ts-ignore: decorator
@inline export function sixteenAt(plane: usize, i: i32): v128 {
  return v128.load(plane + <usize>i);
}
/** By how much sixteen bytes differ. */
// @ts-ignore: decorator
@inline export function apartBytes(a: v128, b: v128): v128 {
  return v128.or(i8x16.sub_sat_u(a, b), i8x16.sub_sat_u(b, a));
}

// @ts-ignore: decorator
@inline export function apart(a: i32, b: i32): i32 {
  return a < b ? b - a : a - b;
}
/** The nearest whole number; halves go up. */
// @ts-ignore: decorator
@inline export function roundOf(v: f64): i32 {
  return <i32>Math.floor(v + 0.5);
}

export function copyBytes(from: usize, to: usize, count: i32): void {
  memory.copy(to, from, <usize>count);
}
/** Brings together, at the beginning of a plane, a rectangle of it: `x`, `width` and `stride` in bytes. */
export function moveRows(plane: usize, stride: i32, x: i32, y: i32, width: i32, height: i32): void {
  for (let row = 0; row < height; row++)
    memory.copy(plane + <usize>(row * width), plane + <usize>((y + row) * stride + x), <usize>width);
}
export function fillBytes(at: usize, value: i32, count: i32): void {
  memory.fill(at, <u8>value, <usize>count);
}

/** What `rowOf` takes for a width, so that it need not divide. */
// @ts-ignore: decorator
@inline export function rowScale(width: i32): f64 {
  return 1 / <f64>width;
}
/** The row of a place. Exact: half a pixel lies between it and the next row, far more than a product is off. */
// @ts-ignore: decorator
@inline export function rowOf(i: i32, scale: f64): i32 {
  return <i32>((<f64>i + 0.5) * scale);
}
