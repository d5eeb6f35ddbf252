import type { RectPx } from '../params';
import { findExtents } from './extents';
import type { Raster } from './raster';

/**
 * Gives every fully transparent pixel the colour of a nearest visible pixel, in place.
 * Programs that scale without regard to alpha then find the mark's own colour past its edge, not black.
 * Within the extents two sweeps carry the position of the nearest visible pixel from neighbour to neighbour; the answer is exact
 * for almost all pixels and never farther off than the sweeps' usual small error; outside of them the nearest pixel
 * of the extents' rim hands its colour on.
 * @see P.-E. Danielsson, "Euclidean Distance Mapping", 1980 (sequential mapping with four neighbours)
 */
export function bleedColours(raster: Raster): Raster {
  const extents = findExtents(raster);
  if (!extents) return raster;
  sweep(raster, extents);
  const { width: w, height: h, data } = raster;
  // Only colour is copied: the alpha byte stays 0. Little-endian layout, as on every host we run on.
  const px = new Uint32Array(data.buffer, data.byteOffset, w * h);
  const right = extents.x + extents.width;
  const bottom = extents.y + extents.height;
  for (let y = extents.y; y < bottom; y++) {
    px.fill(px[y * w + extents.x] & 0x00ffffff, y * w, y * w + extents.x);
    px.fill(px[y * w + right - 1] & 0x00ffffff, y * w + right, (y + 1) * w);
  }
  const rowOf = (y: number) => Uint32Array.from(px.subarray(y * w, (y + 1) * w), (v) => v & 0x00ffffff);
  const above = rowOf(extents.y);
  for (let y = 0; y < extents.y; y++) px.set(above, y * w);
  const below = rowOf(bottom - 1);
  for (let y = bottom; y < h; y++) px.set(below, y * w);
  return raster;
}

// Places travel packed as y·65536 + x + 1 within the extents; 0 is none yet.
function sweep(raster: Raster, { x: x0, y: y0, width, height }: RectPx): void {
  const { width: w, data } = raster;
  const px = new Int32Array(data.buffer, data.byteOffset, w * raster.height);
  const from = new Int32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y0 + y) * w + x0;
    const end = i + width;
    for (let x = 0; x < width; x++, i++) {
      if (px[row + x] >>> 24 !== 0) from[i] = ((y << 16) | x) + 1;
      else from[i] = nearer(y > 0 ? from[i - width] : 0, x > 0 ? from[i - 1] : 0, x, y);
    }
    for (let x = width - 2, k = end - 2; x >= 0; x--, k--) if (px[row + x] >>> 24 === 0) from[k] = nearer(from[k], from[k + 1], x, y);
  }
  for (let y = height - 1; y >= 0; y--) {
    const row = (y0 + y) * w + x0;
    const start = y * width;
    for (let x = width - 1; x >= 0; x--) {
      if (px[row + x] >>> 24 !== 0) continue;
      const i = start + x;
      let best = from[i];
      if (y < height - 1) best = nearer(best, from[i + width], x, y);
      if (x < width - 1) best = nearer(best, from[i + 1], x, y);
      from[i] = best;
    }
    for (let x = 0; x < width; x++) {
      if (px[row + x] >>> 24 !== 0) continue;
      const i = start + x;
      const best = x > 0 ? nearer(from[i], from[i - 1], x, y) : from[i];
      from[i] = best;
      // The rows above still ask for this row's places, never for its pixels.
      if (best > 0) px[row + x] = px[(y0 + ((best - 1) >>> 16)) * w + x0 + ((best - 1) & 0xffff)] & 0x00ffffff;
    }
  }
}

function nearer(a: number, b: number, x: number, y: number): number {
  if (a === b || b === 0) return a;
  if (a === 0) return b;
  const ax = ((a - 1) & 0xffff) - x;
  const ay = ((a - 1) >>> 16) - y;
  const bx = ((b - 1) & 0xffff) - x;
  const by = ((b - 1) >>> 16) - y;
  return bx * bx + by * by < ax * ax + ay * ay ? b : a;
}
