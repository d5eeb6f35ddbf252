import { strongestNear } from './edges';
import { B0, B1, B2, groundAt } from './ground';
import {
  apartBytes,
  byteAt,
  fourAt,
  intAt,
  realAt,
  roundOf,
  rowOf,
  rowScale,
  setByte,
  setInt,
  signedAt,
  sixteenAt,
} from './memory';

// See core/matte/unmixEdges.ts for what is done and where it comes from.
let picture: usize = 0;
let out: usize = 0;
let distance: usize = 0;
let depth: usize = 0;
let nearest: usize = 0;
let width: i32 = 0;
let height: i32 = 0;
let noiseFloor: f64 = 0;
let ripple: f64 = 0;
let flat: f64 = 0;
let soiled: f64 = 0;
let palette: usize = 0;
let paletteCount: i32 = 0;
let flats: usize = 0;
let flatCount: i32 = 0;
let behind: usize = 0;
let F0: f64 = 0;
let F1: f64 = 0;
let F2: f64 = 0;

@unmanaged
class SetUnmix {
  ofPicture: usize;
  toOut: usize;
  ofDistance: usize;
  ofDepth: usize;
  ofNearest: usize;
  w: i32;
  h: i32;
  floor: f64;
  rippleBy: f64;
  flatBy: f64;
  soiledBy: f64;
}

export function setUnmix(args: SetUnmix): void {
  const ofPicture = args.ofPicture;
  const toOut = args.toOut;
  const ofDistance = args.ofDistance;
  const ofDepth = args.ofDepth;
  const ofNearest = args.ofNearest;
  const w = args.w;
  const h = args.h;
  const floor = args.floor;
  const rippleBy = args.rippleBy;
  const flatBy = args.flatBy;
  const soiledBy = args.soiledBy;
  picture = ofPicture;
  out = toOut;
  distance = ofDistance;
  depth = ofDepth;
  nearest = ofNearest;
  width = w;
  height = h;
  noiseFloor = floor;
  ripple = rippleBy;
  flat = flatBy;
  soiled = soiledBy;
}

/** Lists of colours, three reals each. */
export function setColours(ofPalette: usize, colours: i32, ofFlats: usize, flatColours: i32): void {
  palette = ofPalette;
  paletteCount = colours;
  flats = ofFlats;
  flatCount = flatColours;
}

/** The soft pixel behind each band pixel, counted from 1; 0 without any. Soft pixels stand in `out` already. */
export function setBehind(softBehind: usize): void {
  behind = softBehind;
}

/** Works out the pixels of a ring outside the mark. */
export function unmixOuter(ring: usize, length: i32): void {
  const scale = rowScale(width);
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    const y = rowOf(i, scale);
    solve(i, i - y * width, y);
  }
}

/** Added to the depth of an inner pixel that continues a ramp from outside. */
const IN_RAMP: i32 = 64;
/** Below this alpha a pixel of the mark is part of a ramp. */
const WHOLE: i32 = 240;

/**
 * Works out those of the ring of depth `own` that continue a ramp from outside; all of the first. The others are whole.
 * Rings come in order, from the outermost in; depths of pixels that continue a ramp change.
 */
export function unmixInner(ring: usize, length: i32, own: i32): void {
  const scale = rowScale(width);
  if (own == 1) memory.fill(lately, 0, 1024 * 8);
  for (let k = 0; k < length; k++) {
    const i = intAt(ring, k);
    if (own > 1 && signedAt(depth, i) == own) {
      const whole = intAt(out, i) | OPAQUE;
      setInt(out, i, flatCount > 0 ? snapped(whole) : whole);
      continue;
    }
    const y = rowOf(i, scale);
    const x = i - y * width;
    solve(i, x, y);
    const alpha = byteAt(out, (i << 2) + 3);
    if (alpha < WHOLE) passRampOn(i, x, own + 1);
    if (flatCount > 0 && alpha == 255) setInt(out, i, snapped(intAt(out, i)));
  }
}

function passRampOn(i: i32, x: i32, next: i32): void {
  const end = i + width < width * height ? i + width : i;
  for (let row = i >= width ? i - width : i; row <= end; row += width) {
    for (let n = x > 0 ? row - 1 : row; n <= (x < width - 1 ? row + 1 : row); n++)
      if (signedAt(depth, n) == next) setByte(depth, n, next + IN_RAMP);
  }
}

const OPAQUE: i32 = 0xff000000;
/** Pairs of an opaque colour met lately, and what `snapped` made of it: neighbours are mostly alike. */
const lately: usize = memory.data(1024 * 8);

// What a whole pixel's colour was before compression.
function snapped(colour: i32): i32 {
  const at = lately + ((<usize>((colour * 0x9e3779b1) >>> 22)) << 3);
  if (load<i32>(at) == colour) return load<i32>(at, 4);
  const clean = nearestFlat(<f64>(colour & 255), <f64>((colour >> 8) & 255), <f64>((colour >> 16) & 255), soiled);
  const result = clean
    ? OPAQUE | (codeOf(realAt(clean, 2)) << 16) | (codeOf(realAt(clean, 1)) << 8) | codeOf(realAt(clean, 0))
    : colour;
  store<i32>(at, colour);
  store<i32>(at, result, 4);
  return result;
}

function solve(i: i32, x: i32, y: i32): void {
  const s = i << 2;
  if (behind && intAt(behind, i) > 0 && overSoft(i, intAt(behind, i) - 1)) return;
  groundAt(x, y);
  const c0 = <f64>byteAt(picture, s) - B0;
  const c1 = <f64>byteAt(picture, s + 1) - B1;
  const c2 = <f64>byteAt(picture, s + 2) - B2;
  // So near the ground that it is ground, whatever the mark's colour is: the share of a colour is never longer than the
  // whole.
  if (c0 * c0 + c1 * c1 + c2 * c2 < 0.99 * noiseFloor * noiseFloor) {
    setByte(out, s + 3, 0);
    return;
  }
  foreground(i, x, y, c0, c1, c2);
  const f0 = F0 - B0;
  const f1 = F1 - B1;
  const f2 = F2 - B2;
  const length = f0 * f0 + f1 * f1 + f2 * f2;
  const hasSolid = intAt(nearest, i) > 0;
  let alpha = length < 1 ? 1.0 : (c0 * f0 + c1 * f1 + c2 * f2) / length;
  // A contribution no larger than the ground's own noise is ground.
  if (alpha * Math.sqrt(length) < noiseFloor) alpha = 0;
  else if (hasSolid && ripple > 2) {
    const contrast = Math.max(Math.abs(f0), Math.max(Math.abs(f1), Math.abs(f2)));
    const swing = Math.min(0.22, (1.3 * ripple) / contrast);
    // Weak, and nothing strong close by: a ripple of the compression, not the foot of an edge.
    if (alpha < swing) {
      if (!hasStrongNear(x, y, 0.5 * contrast, 1)) alpha = 0;
    } else if (alpha < 0.3 && !hasStrongNear(x, y, 0.2 * contrast, 2)) alpha = 0;
    // Nearly whole, and not at the very edge: the same ripple on the inside.
    else if (alpha > 1 - swing && signedAt(depth, i) >= 2) alpha = 1;
  }
  if (alpha > 1) alpha = 1;
  const a8 = roundOf(alpha * 255);
  setByte(out, s + 3, a8);
  if (a8 == 0) return;
  const clean: usize = soiled > 0 && hasSolid ? nearestFlat(F0, F1, F2, soiled) : 0;
  if (clean) {
    F0 = realAt(clean, 0);
    F1 = realAt(clean, 1);
    F2 = realAt(clean, 2);
  }
  const u0 = B0 + c0 / alpha;
  const u1 = B1 + c1 / alpha;
  const u2 = B2 + c2 / alpha;
  // The unmixed colour keeps gradients; at low alpha it multiplies noise, so the solid colour takes over.
  let trust = a8 >= 250 ? 1.0 : Math.min(1, Math.max(0, (alpha - 0.35) / 0.5));
  if (clean && isFlat(clean, u0, u1, u2, (1.4 * soiled) / Math.max(0.3, alpha))) trust = 0;
  write(s, F0 + trust * (u0 - F0));
  write(s + 1, F1 + trust * (u1 - F1));
  write(s + 2, F2 + trust * (u2 - F2));
}

// An edge over its own shadow: the pixel mixes the mark with what the shadow looks like beside it.
function overSoft(i: i32, r: i32): bool {
  // A soft pixel itself, as it was written.
  if (r == i) return true;
  const solid = intAt(nearest, i);
  if (solid == 0) return false;
  meanOfSolid(solid);
  const s = i << 2;
  const t = r << 2;
  let dot: f64 = 0;
  let square: f64 = 0;
  for (let c = 0; c < 3; c++) {
    const f = c == 0 ? F0 : c == 1 ? F1 : F2;
    const under = <f64>byteAt(picture, t + c);
    dot += (<f64>byteAt(picture, s + c) - under) * (f - under);
    square += (f - under) * (f - under);
  }
  const share = square < 1 ? 1.0 : Math.min(1, Math.max(0, dot / square));
  const under = (<f64>byteAt(out, t + 3) / 255) * (1 - share);
  const alpha = share + under;
  setByte(out, s + 3, roundOf(alpha * 255));
  if (alpha > 0) {
    write(s, (F0 * share + <f64>byteAt(out, t) * under) / alpha);
    write(s + 1, (F1 * share + <f64>byteAt(out, t + 1) * under) / alpha);
    write(s + 2, (F2 * share + <f64>byteAt(out, t + 2) * under) / alpha);
  }
  return true;
}

function write(at: i32, v: f64): void {
  setByte(out, at, codeOf(v));
}

// @ts-ignore: decorator
@inline function codeOf(v: f64): i32 {
  return v <= 0 ? 0 : v >= 255 ? 255 : <i32>(v + 0.5);
}

// Leaves the mark's own colour at a pixel in F0, F1, F2.
function foreground(i: i32, x: i32, y: i32, c0: f64, c1: f64, c2: f64): void {
  const place = intAt(nearest, i);
  if (place > 0) {
    meanOfSolid(place);
    return;
  }
  const strongest = strongestNear(distance, x, y, width, height);
  const t = strongest << 2;
  const found = matchColour(
    <f64>byteAt(picture, t) - B0,
    <f64>byteAt(picture, t + 1) - B1,
    <f64>byteAt(picture, t + 2) - B2,
  );
  if (found) {
    F0 = realAt(found, 0);
    F1 = realAt(found, 1);
    F2 = realAt(found, 2);
  } else if (byteAt(distance, strongest) > byteAt(distance, i)) {
    F0 = <f64>byteAt(picture, t);
    F1 = <f64>byteAt(picture, t + 1);
    F2 = <f64>byteAt(picture, t + 2);
  } else {
    F0 = B0 + c0;
    F1 = B1 + c1;
    F2 = B2 + c2;
  }
}

// The mean of the solid pixel and those of its eight neighbours that share its colour: halves the noise.
function meanOfSolid(place: i32): void {
  const s = ((place - 1) >>> 16) * width + ((place - 1) & 0xffff);
  const own = i32x4.splat(intAt(picture, s));
  const most = i8x16.splat(<i8>(<i32>Math.min(flat, 255)));
  let sums = i16x8.splat(0);
  let counts = i32x4.splat(0);
  // Three pixels a row; the fourth lane is left out. Alpha is opaque throughout, so it differs nowhere.
  for (let row = s - width - 1; row <= s + width; row += width) {
    const pixels = fourAt(picture, row);
    const isFar = i8x16.gt_u(apartBytes(pixels, own), most);
    const isNear = v128.and(i32x4.eq(isFar, i32x4.splat(0)), i32x4(-1, -1, -1, 0));
    const kept = v128.and(pixels, isNear);
    sums = i16x8.add(sums, i16x8.add(i16x8.extend_low_i8x16_u(kept), i16x8.extend_high_i8x16_u(kept)));
    counts = i32x4.sub(counts, isNear);
  }
  const n = <f64>(i32x4.extract_lane(counts, 0) + i32x4.extract_lane(counts, 1) + i32x4.extract_lane(counts, 2));
  F0 = <f64>(i16x8.extract_lane_u(sums, 0) + i16x8.extract_lane_u(sums, 4)) / n;
  F1 = <f64>(i16x8.extract_lane_u(sums, 1) + i16x8.extract_lane_u(sums, 5)) / n;
  F2 = <f64>(i16x8.extract_lane_u(sums, 2) + i16x8.extract_lane_u(sums, 6)) / n;
}

// Whether any pixel up to `reach`, 1 or 2, away lies so far from the ground.
function hasStrongNear(x: i32, y: i32, strong: f64, reach: i32): bool {
  const least = max(0, <i32>Math.ceil(strong));
  if (least > 255) return false;
  if (x >= reach && y >= reach && x < width - 16 && y < height - reach) {
    const many = i8x16.splat(<i8>least);
    let most = i8x16.splat(0);
    const first = (y - reach) * width + x - reach;
    for (let row = 0; row <= 2 * reach; row++) most = i8x16.max_u(most, sixteenAt(distance, first + row * width));
    return (i8x16.bitmask(i8x16.ge_u(most, many)) & (reach == 1 ? 7 : 31)) != 0;
  }
  for (let py = max(0, y - reach); py <= min(height - 1, y + reach); py++) {
    for (let px = max(0, x - reach); px <= min(width - 1, x + reach); px++)
      if (byteAt(distance, py * width + px) >= least) return true;
  }
  return false;
}

/**
 * The palette's colour on whose line from the ground (where `groundAt` was asked last) a mixed colour lies: where it
 * stands, or 0. Of several, the one nearest to the mixed colour: it asks for the least transparency.
 */
export function matchColour(v0: f64, v1: f64, v2: f64): usize {
  const length = Math.sqrt(v0 * v0 + v1 * v1 + v2 * v2);
  if (length < 1) return 0;
  let best: usize = 0;
  let bestLength = f64.MAX_VALUE;
  for (let k = 0; k < paletteCount; k++) {
    const colour = palette + <usize>(k * 24);
    const f0 = realAt(colour, 0) - B0;
    const f1 = realAt(colour, 1) - B1;
    const f2 = realAt(colour, 2) - B2;
    const reach = Math.sqrt(f0 * f0 + f1 * f1 + f2 * f2);
    if (reach < length * 0.96 || reach >= bestLength) continue;
    const along = (v0 * f0 + v1 * f1 + v2 * f2) / reach;
    // Off the line by no more than a tenth of the way, or by what compression does to a weak colour.
    const off = Math.sqrt(Math.max(0, length * length - along * along));
    if (along > 0 && off <= Math.max(8, 0.1 * length)) {
      best = colour;
      bestLength = reach;
    }
  }
  return best;
}

/**
 * The flat colour that compression has probably moved a colour away from: where it stands, or 0 when none is near
 * enough. Lightness is held closer than hue: compression keeps colour at half the resolution, so hue strays further.
 * `reach` is how far lightness may have strayed, code values.
 */
export function nearestFlat(r: f64, g: f64, b: f64, reach: f64): usize {
  let best: usize = 0;
  let least = reach * 2.4;
  for (let k = 0; k < flatCount; k++) {
    const colour = flats + <usize>(k * 24);
    const most = farFrom(colour, r, g, b, reach);
    if (most < 0 || most >= least) continue;
    least = most;
    best = colour;
  }
  return best;
}

function isFlat(colour: usize, r: f64, g: f64, b: f64, reach: f64): bool {
  const most = farFrom(colour, r, g, b, reach);
  return most >= 0 && most < reach * 2.4;
}

// The largest difference of a channel, or −1 where lightness alone is too far off.
function farFrom(colour: usize, r: f64, g: f64, b: f64, reach: f64): f64 {
  const dr = r - realAt(colour, 0);
  const dg = g - realAt(colour, 1);
  const db = b - realAt(colour, 2);
  if (Math.abs(0.299 * dr + 0.587 * dg + 0.114 * db) > reach) return -1;
  return Math.max(Math.abs(dr), Math.max(Math.abs(dg), Math.abs(db)));
}
