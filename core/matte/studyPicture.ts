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
  const level = Math.max(3, Math.ceil(whole.noise * 3));
  // Where the ground is one colour the region comes first, and distances are measured in it alone.
  const isPlain = !whole.plane && !whole.surface;
  const all = isPlain ? null : groundDistance(raster, whole);
  const region = all ? findRegion(all, raster.width, raster.height, level) : findStrays(raster, whole.colour, level);
  const { width, height } = region;
  const isWhole = width * height === raster.width * raster.height;
  const ground = isWhole ? whole : { ...whole, frame: { x: region.x, y: region.y, width: raster.width, height: raster.height } };
  const part = isWhole ? raster : cropRaster(raster, region);
  const distance = !all ? groundDistance(part, whole) : isWhole ? all : cropPlane(all, raster.width, region);
  onStep('tolerance');
  const segments = strongSegments(distance, width, height);
  const ripple = sampleRipple(distance, segments, width, height) * cleanUp;
  const calm = forgiveRipple(distance, segments, width, height, ripple);
  const tolerance = studyTolerance(calm, width, height, ground.noise, raster.width * raster.height);
  const study = { ground, region, raster: part, distance, calm, ripple, tolerance };
  remembered.set(raster, { key, study });
  return study;
}

/** The region that holds everything above a level, with room; the whole when there is nothing or it is nearly all. */
export function findRegion(plane: Uint8Array, width: number, height: number, above: number): RectPx {
  const words = width % 4 === 0 && plane.byteOffset % 4 === 0 ? new Int32Array(plane.buffer, plane.byteOffset, plane.length >> 2) : null;
  const first = (from: number, to: number) => {
    let i = from;
    while (i < to) {
      if (words) while (i < to && words[i >> 2] === 0) i += 4;
      const end = Math.min(to, words ? i + 4 : to);
      while (i < end && plane[i] <= above) i++;
      if (i < end) break;
    }
    return i;
  };
  const last = (from: number, to: number) => {
    let i = to;
    while (i > from && plane[i - 1] <= above) i--;
    return i;
  };
  return findBox(width, height, first, last);
}

/** The same for a picture on a ground of one colour: what lies further than a level from it. */
export function findStrays({ width, height, data }: Raster, [r, g, b]: Rgb, above: number): RectPx {
  const px = new Int32Array(data.buffer, data.byteOffset, width * height);
  const same = (255 << 24) | (b << 16) | (g << 8) | r;
  const isGround = (v: number) => v === same || (near((v & 255) - r, above) && near(((v >> 8) & 255) - g, above) && near(((v >> 16) & 255) - b, above));
  const first = (from: number, to: number) => {
    let i = from;
    while (i < to) {
      while (i + 4 <= to && px[i] === same && px[i + 1] === same && px[i + 2] === same && px[i + 3] === same) i += 4;
      if (i < to && !isGround(px[i])) break;
      i++;
    }
    return Math.min(i, to);
  };
  const last = (from: number, to: number) => {
    let i = to;
    while (i > from && isGround(px[i - 1])) i--;
    return i;
  };
  return findBox(width, height, first, last);
}

const near = (d: number, reach: number) => d <= reach && d >= -reach;

/**
 * The box of all that two searches find along rows, with room.
 * @param first  the first position found in a stretch, or its end
 * @param last  the position after the last found in a stretch, or its beginning
 */
function findBox(width: number, height: number, first: (from: number, to: number) => number, last: (from: number, to: number) => number): RectPx {
  let [left, right, top, bottom] = [width, -1, -1, -1];
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const x = first(row, row + width) - row;
    if (x === width) continue;
    if (top < 0) top = y;
    bottom = y;
    if (x < left) left = x;
    right = Math.max(right, last(row + Math.max(right + 1, x), row + width) - row - 1);
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
