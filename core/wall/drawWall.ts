import type { Rgb } from '../colour/hex';
import { layOnGround } from '../placements/layOnGround';
import { cropRaster } from '../raster/cropRaster';
import { layOn } from '../raster/flatten';
import { type Raster, createRaster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import type { Slot } from './wallRule';

/** Slots side by side on a wall. */
const COLUMNS = 4;

/** The extent of a wall of so many slots, px. */
export function wallExtent(count: number, slot: Slot): { width: number; height: number; columns: number } {
  const columns = Math.max(1, Math.min(COLUMNS, count));
  return { width: slot.width * columns, height: slot.height * Math.ceil(count / columns), columns };
}

/** The upper left corner of a slot on its wall, px. */
export const slotCorner = (k: number, columns: number, slot: Slot) => ({
  x: (k % columns) * slot.width,
  y: Math.floor(k / columns) * slot.height,
});

/** A photo that fills a box, its middle in the middle. */
export function coverBox(photo: Raster, { width, height }: { width: number; height: number }): Raster {
  const scale = Math.max(width / photo.width, height / photo.height);
  const [w, h] = [Math.min(photo.width, Math.round(width / scale)), Math.min(photo.height, Math.round(height / scale))];
  const shown = { x: Math.floor((photo.width - w) / 2), y: Math.floor((photo.height - h) / 2), width: w, height: h };
  return resizeRaster(cropRaster(photo, shown), width, height);
}

/** All slots as one opaque picture. @param ground  a colour, or a photo that lies under each slot */
export function drawWall(pictures: readonly Raster[], slot: Slot, ground: Rgb | Raster): Raster {
  const { width, height, columns } = wallExtent(pictures.length, slot);
  const isPhoto = 'data' in ground;
  const wall = layOn(createRaster(width, height), isPhoto ? [255, 255, 255] : ground);
  const under = isPhoto ? coverBox(ground, slot) : null;
  const laying = { opacity: 1, mode: 'normal' } as const;
  for (const [k, picture] of pictures.entries()) {
    const at = slotCorner(k, columns, slot);
    if (under) layOnGround(wall, under, at, laying);
    layOnGround(wall, picture, at, laying);
  }
  return wall;
}
