import { apart, apartBytes, byteAt, channelAt, intAt, realAt, setByte, setReal } from './memory';

// The ground of the picture at hand: one colour, a surface of six coefficients a channel, or a plane of R, G, B.
const ONE_COLOUR: i32 = 0;
const SURFACE: i32 = 1;
let kind: i32 = ONE_COLOUR;
let plane: usize = 0;
let planeStride: i32 = 0;
let frameX: f64 = 0;
let frameY: f64 = 0;
let frameWidth: f64 = 1;
let frameHeight: f64 = 1;
const surface: usize = memory.data(18 * 8);

/** What `groundAt` found last. */
export let B0: f64 = 0;
export let B1: f64 = 0;
export let B2: f64 = 0;

export function setGroundColour(r: f64, g: f64, b: f64): void {
  kind = ONE_COLOUR;
  B0 = r;
  B1 = g;
  B2 = b;
}

export function setGroundPlane(at: usize, stride: i32): void {
  kind = 2;
  plane = at;
  planeStride = stride;
}

@unmanaged
class SetGroundSurface {
  channel: i32;
  k0: f64;
  k1: f64;
  k2: f64;
  k3: f64;
  k4: f64;
  k5: f64;
}

/** To be called for each channel, then once with the frame. */
export function setGroundSurface(args: SetGroundSurface): void {
  const channel = args.channel;
  const k0 = args.k0;
  const k1 = args.k1;
  const k2 = args.k2;
  const k3 = args.k3;
  const k4 = args.k4;
  const k5 = args.k5;
  kind = SURFACE;
  setReal(surface, channel * 6, k0);
  setReal(surface, channel * 6 + 1, k1);
  setReal(surface, channel * 6 + 2, k2);
  setReal(surface, channel * 6 + 3, k3);
  setReal(surface, channel * 6 + 4, k4);
  setReal(surface, channel * 6 + 5, k5);
}

export function setGroundFrame(x: f64, y: f64, width: f64, height: f64): void {
  frameX = x;
  frameY = y;
  frameWidth = width;
  frameHeight = height;
}

/** Whether the ground is one colour, the same under each pixel. */
export function isOneColour(): bool {
  return kind == ONE_COLOUR;
}

function surfaceAt(channel: i32, u: f64, v: f64): f64 {
  const k = channel * 6;
  const z =
    realAt(surface, k) +
    realAt(surface, k + 1) * u +
    realAt(surface, k + 2) * v +
    realAt(surface, k + 3) * u * u +
    realAt(surface, k + 4) * u * v +
    realAt(surface, k + 5) * v * v;
  return Math.min(255, Math.max(0, z));
}

/** Leaves the ground's colour at a pixel in `B0`, `B1`, `B2`. */
export function groundAt(x: i32, y: i32): void {
  if (kind == ONE_COLOUR) return;
  if (kind == SURFACE) {
    const u = (<f64>x + frameX) / frameWidth - 0.5;
    const v = (<f64>y + frameY) / frameHeight - 0.5;
    B0 = surfaceAt(0, u, v);
    B1 = surfaceAt(1, u, v);
    B2 = surfaceAt(2, u, v);
    return;
  }
  const s = (y * planeStride + x) * 3;
  B0 = <f64>byteAt(plane, s);
  B1 = <f64>byteAt(plane, s + 1);
  B2 = <f64>byteAt(plane, s + 2);
}

// Of four pixels the largest difference of red, green and blue, each in a word of its own.
// @ts-ignore: decorator
@inline function largest(pixels: v128, ground: v128): v128 {
  const d = apartBytes(pixels, ground);
  const byte = i32x4.splat(255);
  return v128.and(i8x16.max_u(d, i8x16.max_u(i32x4.shr_u(d, 8), i32x4.shr_u(d, 16))), byte);
}

/** Ground distance of `count` pixels from one colour: the largest difference of a channel. `out` must be all 0. */
export function distanceFromColour(picture: usize, count: i32, r: i32, g: i32, b: i32, out: usize): void {
  const same = (255 << 24) | (b << 16) | (g << 8) | r;
  const many = i32x4.splat(same);
  let i = 0;
  for (; i + 16 <= count; i += 16) {
    const at = picture + ((<usize>i) << 2);
    const p = v128.load(at),
      q = v128.load(at, 16),
      s = v128.load(at, 32),
      t = v128.load(at, 48);
    // Most of a picture is its ground, and the plane holds 0 already.
    if (
      !v128.any_true(
        v128.or(v128.or(v128.xor(p, many), v128.xor(q, many)), v128.or(v128.xor(s, many), v128.xor(t, many))),
      )
    )
      continue;
    const first = i16x8.narrow_i32x4_u(largest(p, many), largest(q, many));
    const second = i16x8.narrow_i32x4_u(largest(s, many), largest(t, many));
    v128.store(out + <usize>i, i8x16.narrow_i16x8_u(first, second));
  }
  for (; i < count; i++) {
    const v = intAt(picture, i);
    if (v != same) setByte(out, i, max(apart(v & 255, r), max(apart((v >> 8) & 255, g), apart((v >> 16) & 255, b))));
  }
}

/** The same from a ground that drifts: evaluated every 16 pixels, and interpolated along each row. */
export function distanceFromSurface(picture: usize, width: i32, height: i32, out: usize): void {
  const STEP: i32 = 16;
  for (let y = 0; y < height; y++) {
    for (let x0 = 0; x0 < width; x0 += STEP) {
      groundAt(x0, y);
      const a0 = B0,
        a1 = B1,
        a2 = B2;
      groundAt(x0 + STEP, y);
      const i = y * width + x0;
      const count = min(STEP, width - x0);
      let k = 0;
      for (; k + 2 <= count; k += 2) {
        const t = f64x2.mul(f64x2.add(f64x2.splat(<f64>k), f64x2(0, 1)), f64x2.splat(1 / <f64>STEP));
        const two = v128.load64_zero(picture + ((<usize>(i + k)) << 2));
        const most = f64x2.max(
          f64x2.max(offAt(two, 0, a0, B0 - a0, t), offAt(two, 8, a1, B1 - a1, t)),
          offAt(two, 16, a2, B2 - a2, t),
        );
        const whole = i32x4.trunc_sat_f64x2_s_zero(f64x2.add(most, f64x2.splat(0.5)));
        setByte(out, i + k, i32x4.extract_lane(whole, 0));
        setByte(out, i + k + 1, i32x4.extract_lane(whole, 1));
      }
      if (k < count) {
        const t = <f64>k / <f64>STEP;
        const dr = Math.abs(<f64>channelAt(picture, i + k, 0) - a0 - (B0 - a0) * t);
        const dg = Math.abs(<f64>channelAt(picture, i + k, 1) - a1 - (B1 - a1) * t);
        const db = Math.abs(<f64>channelAt(picture, i + k, 2) - a2 - (B2 - a2) * t);
        setByte(out, i + k, <i32>(Math.max(dr, Math.max(dg, db)) + 0.5));
      }
    }
  }
}

// How far a channel of two pixels is from the ground that goes from `a` on by `slope`.
// @ts-ignore: decorator
@inline function offAt(two: v128, shift: i32, a: f64, slope: f64, t: v128): v128 {
  const v = f64x2.convert_low_i32x4_s(v128.and(i32x4.shr_u(two, shift), i32x4.splat(255)));
  return f64x2.abs(f64x2.sub(f64x2.sub(v, f64x2.splat(a)), f64x2.mul(f64x2.splat(slope), t)));
}

/** The same from a plane of R, G, B under each pixel. */
export function distanceFromPlane(picture: usize, count: i32, under: usize, out: usize): void {
  for (let i = 0; i < count; i++) {
    const s = i * 3;
    setByte(
      out,
      i,
      max(
        apart(channelAt(picture, i, 0), byteAt(under, s)),
        max(
          apart(channelAt(picture, i, 1), byteAt(under, s + 1)),
          apart(channelAt(picture, i, 2), byteAt(under, s + 2)),
        ),
      ),
    );
  }
}
