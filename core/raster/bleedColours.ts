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

function sweep(raster: Raster, { x: x0, y: y0, width, height }: RectPx): void {
  const { width: w, data } = raster;
  const px = new Uint32Array(data.buffer, data.byteOffset, w * raster.height);
  // Per pixel of the extents: how far the nearest visible pixel is in x and in y, and its colour (0: none yet).
  const offX = new Int16Array(width * height);
  const offY = new Int16Array(width * height);
  const colour = new Uint32Array(width * height);
  const OWN = 1;
  const state = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0, s = (y0 + y) * w + x0; x < width; x++, i++, s++) {
      if (px[s] >>> 24 === 0) continue;
      colour[i] = px[s] & 0x00ffffff;
      state[i] = OWN;
    }
  }
  const HANDED = 2;
  const relax = (i: number, n: number, dx: number, dy: number) => {
    if (state[n] === 0) return;
    const ox = offX[n] + dx;
    const oy = offY[n] + dy;
    if (state[i] === HANDED && ox * ox + oy * oy >= offX[i] * offX[i] + offY[i] * offY[i]) return;
    offX[i] = ox;
    offY[i] = oy;
    colour[i] = colour[n];
    state[i] = HANDED;
  };
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0, i = row; x < width; x++, i++) {
      if (state[i] === OWN) continue;
      if (y > 0) relax(i, i - width, 0, 1);
      if (x > 0) relax(i, i - 1, 1, 0);
    }
    for (let x = width - 2, i = row + width - 2; x >= 0; x--, i--) if (state[i] !== OWN) relax(i, i + 1, -1, 0);
  }
  for (let y = height - 1; y >= 0; y--) {
    const row = y * width;
    for (let x = width - 1, i = row + width - 1; x >= 0; x--, i--) {
      if (state[i] === OWN) continue;
      if (y < height - 1) relax(i, i + width, 0, -1);
      if (x < width - 1) relax(i, i + 1, -1, 0);
    }
    for (let x = 1, i = row + 1; x < width; x++, i++) if (state[i] !== OWN) relax(i, i - 1, 1, 0);
  }
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0, s = (y0 + y) * w + x0; x < width; x++, i++, s++) if (state[i] === HANDED) px[s] = colour[i];
  }
}
