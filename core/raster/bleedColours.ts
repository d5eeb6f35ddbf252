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
  // The faintest pixel is visible here: its alpha must stay.
  const extents = findExtents(raster, 1);
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

// Places travel packed as y·65536 + x + 1 within the extents; 0 is none yet. Only see-through runs are swept.
function sweep(raster: Raster, { x: x0, y: y0, width, height }: RectPx): void {
  const { width: w, data } = raster;
  const px = new Int32Array(data.buffer, data.byteOffset, w * raster.height);
  const from = new Int32Array(width * height);
  const runs: number[] = [];
  for (let y = 0; y < height; y++) {
    const row = (y0 + y) * w + x0;
    const start = y * width;
    for (let x = 0; x < width; x++) {
      if (px[row + x] >>> 24 !== 0) {
        from[start + x] = ((y << 16) | x) + 1;
        continue;
      }
      const first = x;
      let last = x > 0 ? from[start + x - 1] : 0;
      for (; x < width && px[row + x] >>> 24 === 0; x++) from[start + x] = last = nearer(y > 0 ? from[start + x - width] : 0, last, x, y);
      runs.push(y, first, x);
      if (x < width) from[start + x] = last = ((y << 16) | x) + 1;
      for (let k = x - 1; k >= first; k--) from[start + k] = last = nearer(from[start + k], last, k, y);
    }
  }
  for (let r = runs.length - 3; r >= 0; r -= 3) {
    const y = runs[r];
    const [first, end] = [runs[r + 1], runs[r + 2]];
    const row = (y0 + y) * w + x0;
    const start = y * width;
    let last = end < width ? from[start + end] : 0;
    for (let x = end - 1; x >= first; x--) from[start + x] = last = nearer(nearer(from[start + x], y < height - 1 ? from[start + x + width] : 0, x, y), last, x, y);
    last = first > 0 ? from[start + first - 1] : 0;
    for (let x = first; x < end; x++) {
      from[start + x] = last = nearer(from[start + x], last, x, y);
      // The rows above still ask for this row's places, never for its pixels.
      if (last > 0) px[row + x] = px[(y0 + ((last - 1) >>> 16)) * w + x0 + ((last - 1) & 0xffff)] & 0x00ffffff;
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
