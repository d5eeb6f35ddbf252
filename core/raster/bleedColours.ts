import { call, copyPartIn, roomFor, withHeap } from '../kernels/heap';
import type { RectPx } from '../params';
import { findExtents } from './extents';
import type { Raster } from './raster';
import { boxFound } from './strips';

/**
 * Gives every fully transparent pixel the colour of a near visible pixel, in place.
 * Programs that scale without regard to alpha then find the mark's own colour past its edge, not black.
 * Beside the mark two sweeps carry the position of the nearest visible pixel from neighbour to neighbour: exact for
 * almost all pixels, and never farther off than the sweeps' usual small error. Farther off, where only a very coarse
 * reduction looks, eight by eight pixels share one colour, found in the same way. Outside of the extents their rim
 * hands its colour on.
 * @param within  where alone anything is visible, in whole pixels, when that is known
 * @see P.-E. Danielsson, "Euclidean Distance Mapping", 1980 (sequential mapping with four neighbours)
 */
export function bleedColours(raster: Raster, within?: RectPx): Raster {
  const area = within ?? findExtents(raster, FAINTEST);
  const extents = area && bleedInside(raster, area);
  if (!extents) return raster;
  const { width: w, height: h, data } = raster;
  // Only colour is copied: the alpha byte stays 0. Little-endian layout, as on every host we run on.
  const px = new Int32Array(data.buffer, data.byteOffset, w * h);
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

/** The faintest pixel is visible here: its alpha must stay. */
const FAINTEST = 1;
/** Far from the mark so many pixels each way share a colour. */
const CELL = 8;

/** Bytes for the places that colours come from, and for runs of clear pixels. */
const bleedRooms = ({ width, height }: RectPx) => [
  width * height * 4 + Math.ceil(width / CELL) * Math.ceil(height / CELL) * 7,
  (Math.floor(width / 2) + 1) * height * 12,
];

/** Does so between the extents of what is visible in an area, and returns them, or null when nothing is. */
function bleedInside({ width: w, data }: Raster, area: RectPx): RectPx | null {
  return withHeap(roomFor(area.width * area.height * 4, ...bleedRooms(area)), () => {
    const part = copyPartIn(data, w * 4, { x: area.x * 4, y: area.y, width: area.width * 4, height: area.height });
    return call([part], [], roomFor(...bleedRooms(area)), ({ k, at, scratch }) => {
      k.startBox(area.width);
      k.boxVisible(at(part), area.width, area.height, 0, FAINTEST);
      const found = boxFound(k);
      if (!found) return null;
      const { x, y, width, height } = found;
      k.moveRows(at(part), area.width * 4, x * 4, y, width * 4, height);
      const [places, runs] = bleedRooms(found);
      k.bleed(at(part), width, height, scratch(places), scratch(runs, false));
      for (let row = 0; row < height; row++)
        data.set(part.subarray(row * width * 4, (row + 1) * width * 4), ((area.y + y + row) * w + area.x + x) * 4);
      return { ...found, x: area.x + x, y: area.y + y };
    });
  });
}
