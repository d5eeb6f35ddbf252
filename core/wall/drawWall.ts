import type { Rgb } from '../colour/hex';
import { layOnGround } from '../placements/layOnGround';
import { placeOnCanvas } from '../raster/cropRaster';
import { layOn } from '../raster/flatten';
import { type Raster, createRaster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import type { Slot, SlotPlace } from './levelWall';

/**
 * A mark in its slot, clear all round.
 * @param factor  pixels for each of the slot's: 2 for twice the size
 */
export function drawSlot(mark: Raster, at: SlotPlace, slot: Slot, factor: number): Raster {
  const side = (px: number) => Math.max(1, Math.round(px * at.scale * factor));
  const sized = resizeRaster(mark, side(mark.width), side(mark.height));
  const [width, height] = [slot.width * factor, slot.height * factor];
  const x = Math.min(width - sized.width, Math.max(0, Math.round(at.x * factor)));
  const y = Math.min(height - sized.height, Math.max(0, Math.round(at.y * factor)));
  return placeOnCanvas(sized, width, height, x, y);
}

/** Slots side by side on a wall. */
const COLUMNS = 4;

/** The extent of a wall of so many slots, px. */
export function wallExtent(count: number, slot: Slot): { width: number; height: number; columns: number } {
  const columns = Math.min(COLUMNS, count);
  return { width: slot.width * columns, height: slot.height * Math.ceil(count / columns), columns };
}

/** All slots as one picture on the wall's ground: opaque. */
export function drawWall(pictures: readonly Raster[], slot: Slot, ground: Rgb): Raster {
  const { width, height, columns } = wallExtent(pictures.length, slot);
  const wall = layOn(createRaster(width, height), ground);
  for (const [k, picture] of pictures.entries()) {
    const at = { x: (k % columns) * slot.width, y: Math.floor(k / columns) * slot.height };
    layOnGround(wall, picture, at, { opacity: 1, mode: 'normal' });
  }
  return wall;
}
