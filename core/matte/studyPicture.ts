import type { Rgb } from '../colour/hex';
import type { RectPx } from '../params';
import { clampRect, cropRaster } from '../raster/cropRaster';
import type { Raster } from '../raster/raster';
import { groundDistance } from './groundDistance';
import { type Ground, groundOfColour, groundOfColours, measureGround } from './measureGround';
import { forgiveRipple, sampleRipple, strongSegments } from './ripple';
import { type ToleranceStudy, studyTolerance } from './steadyRange';

/** Everything about a picture and its ground that no other setting changes. Planes and raster are those of the region. */
export interface PictureStudy {
  /** Knows where the region lies. */
  readonly ground: Ground;
  /** What surely holds the mark: outside of it the picture is nothing but ground. */
  readonly region: RectPx;
  readonly raster: Raster;
  readonly distance: Uint8Array;
  /** The distance with compression's ripples forgiven. */
  readonly calm: Uint8Array;
  readonly ripple: number;
  readonly tolerance: ToleranceStudy;
}

// Remembered by the picture itself, so that a moving tolerance repeats none of it; gone when the picture is.
const remembered = new WeakMap<Raster, { key: string; study: PictureStudy }>();
/** Room round the mark: the longest tail of a shadow, and the reach of every step that looks at neighbours. */
const ROOM = 60;

/** Measures ground, distances, ripples and steady range, or remembers them from the last time. Not to be changed by the caller. */
export function studyPicture(raster: Raster, given: readonly Rgb[], cleanUp: number, onStep: (name: string) => void): PictureStudy {
  const key = `${given.join('|')} ${cleanUp}`;
  const known = remembered.get(raster);
  if (known?.key === key) return known.study;
  onStep('ground');
  const measured = measureGround(raster);
  const whole = given.length > 1 ? groundOfColours(raster, given, measured) : given.length ? groundOfColour(given[0], measured) : measured;
  onStep('distance');
  const all = groundDistance(raster, whole);
  const region = findRegion(all, raster.width, raster.height, Math.max(3, Math.ceil(whole.noise * 3)));
  const { width, height } = region;
  const isWhole = width * height === raster.width * raster.height;
  const ground = isWhole ? whole : { ...whole, frame: { x: region.x, y: region.y, width: raster.width, height: raster.height } };
  const distance = isWhole ? all : cropPlane(all, raster.width, region);
  onStep('tolerance');
  const segments = strongSegments(distance, width, height);
  const ripple = sampleRipple(distance, segments, width, height) * cleanUp;
  const calm = forgiveRipple(distance, segments, width, height, ripple);
  const tolerance = studyTolerance(calm, width, height, ground.noise, raster.width * raster.height);
  const study = { ground, region, raster: isWhole ? raster : cropRaster(raster, region), distance, calm, ripple, tolerance };
  remembered.set(raster, { key, study });
  return study;
}

/** The region that holds everything above a level, with room; the whole when there is nothing or it is nearly all. */
export function findRegion(plane: Uint8Array, width: number, height: number, above: number): RectPx {
  let left = width;
  let right = -1;
  let top = -1;
  let bottom = -1;
  const words = width % 4 === 0 && plane.byteOffset % 4 === 0 ? new Int32Array(plane.buffer, plane.byteOffset, plane.length >> 2) : null;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let x = 0;
    while (x < width) {
      if (words) while (x < width && words[(row + x) >> 2] === 0) x += 4;
      const end = Math.min(width, words ? x + 4 : width);
      while (x < end && plane[row + x] <= above) x++;
      if (x < end) break;
    }
    if (x === width) continue;
    if (top < 0) top = y;
    bottom = y;
    if (x < left) left = x;
    let last = width - 1;
    while (last > right && plane[row + last] <= above) last--;
    if (last > right) right = last;
  }
  const whole = { x: 0, y: 0, width, height };
  if (top < 0) return whole;
  const box = clampRect({ x: left - ROOM, y: top - ROOM, width: right - left + 1 + 2 * ROOM, height: bottom - top + 1 + 2 * ROOM }, width, height);
  return box.width * box.height < 0.85 * width * height ? box : whole;
}

export function cropPlane(plane: Uint8Array, stride: number, box: RectPx): Uint8Array {
  const out = new Uint8Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) out.set(plane.subarray((box.y + y) * stride + box.x, (box.y + y) * stride + box.x + box.width), y * box.width);
  return out;
}
