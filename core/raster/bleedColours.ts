import { call, copyPartIn, roomFor, withHeap } from '../kernels/heap';
import type { RectPx } from '../params';
import { findExtents } from './extents';
import type { Raster } from './raster';

/**
 * Gives every fully transparent pixel the colour of a near visible pixel, in place.
 * Programs that scale without regard to alpha then find the mark's own colour past its edge, not black.
 * Beside the mark two sweeps carry the position of the nearest visible pixel from neighbour to neighbour: exact for almost
 * all pixels, and never farther off than the sweeps' usual small error. Farther off, where only a very coarse reduction
 * looks, eight by eight pixels share one colour, found in the same way. Outside of the extents their rim hands its colour on.
 * @param within  where alone anything is visible, in whole pixels, when that is known
 * @see P.-E. Danielsson, "Euclidean Distance Mapping", 1980 (sequential mapping with four neighbours)
 */
export function bleedColours(raster: Raster, within?: RectPx): Raster {
  // The faintest pixel is visible here: its alpha must stay.
  const extents = findExtents(raster, 1, within);
  if (!extents) return raster;
  const { width: w, height: h, data } = raster;
  // Only colour is copied: the alpha byte stays 0. Little-endian layout, as on every host we run on.
  const px = new Int32Array(data.buffer, data.byteOffset, w * h);
  bleedInside(raster, extents);
  const right = extents.x + extents.width;
  const bottom = extents.y + extents.height;
  for (let y = extents.y; y < bottom; y++) {
    px.fill(px[y * w + extents.x] & 0x00ffffff, y * w, y * w + extents.x);
    px.fill(px[y * w + right - 1] & 0x00ffffff, y * w + right, (y + 1) * w);
  }
  const rowOf = (y: number) => {
    const row = px.slice(y * w, (y + 1) * w);
    for (let x = 0; x < w; x++) row[x] &= 0x00ffffff;
    return row;
  };
  if (extents.y > 0) px.set(rowOf(extents.y), 0);
  for (let y = 1; y < extents.y; y++) px.copyWithin(y * w, 0, w);
  if (bottom < h) px.set(rowOf(bottom - 1), bottom * w);
  for (let y = bottom + 1; y < h; y++) px.copyWithin(y * w, bottom * w, (bottom + 1) * w);
  return raster;
}

/** Far from the mark so many pixels each way share a colour. */
const CELL = 8;

function bleedInside({ width: w, data }: Raster, { x, y, width, height }: RectPx): void {
  const pixels = width * height;
  const cells = Math.ceil(width / CELL) * Math.ceil(height / CELL);
  const [room, runs] = [pixels * 4 + cells * 7, (Math.floor(width / 2) + 1) * height * 12];
  withHeap(roomFor(pixels * 4, room, runs), () => {
    const part = copyPartIn(data, w * 4, { x: x * 4, y, width: width * 4, height });
    call([part], [], roomFor(room, runs), ({ k, at, scratch }) => k.bleed(at(part), width, height, scratch(room), scratch(runs, false)));
    for (let row = 0; row < height; row++) data.set(part.subarray(row * width * 4, (row + 1) * width * 4), ((y + row) * w + x) * 4);
  });
}
