import type { Artwork } from '../artwork/artwork';
import { type Drawing, boundsOfDrawing, placeDrawing } from '../artwork/drawing';
import { extentsOf } from '../artwork/extentsOf';
import { renderDrawing } from '../artwork/renderDrawing';
import { CoreError } from '../errors';
import { IDENTITY, type Matrix } from '../geometry/matrix';
import { bleedColours } from '../raster/bleedColours';
import { cropRaster, placeOnCanvas } from '../raster/cropRaster';
import type { Raster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import type { Slot } from './wallRule';

/** Where the visible part of a mark stands in its slot, px of the slot, not always in the mark's own proportions. */
export interface SlotBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What stands in a slot: the visible part of artwork, or the whole of it where a file stays as it came. */
export interface SlotMark {
  readonly artwork: Artwork;
  readonly isWhole?: boolean;
}

/** A mark in its slot, clear all round. @param factor  pixels for each of the slot's: 2 for twice the size */
export function drawSlot(mark: SlotMark, box: SlotBox, slot: Slot, factor: number): Raster {
  const [width, height] = [slot.width * factor, slot.height * factor];
  const drawing = slotDrawing(mark, box, slot);
  if (drawing) return bleedColours(renderDrawing(drawing, { width, height, matrix: [factor, 0, 0, factor, 0, 0] }));
  const side = (px: number) => Math.max(1, Math.round(px * factor));
  const own = mark.isWhole ? mark.artwork.raster : visibleOf(mark.artwork);
  const sized = resizeRaster(own, side(box.width), side(box.height));
  const inside = (whole: number, part: number, at: number) =>
    Math.min(whole - part, Math.max(0, Math.round(at * factor)));
  const at = { x: inside(width, sized.width, box.x), y: inside(height, sized.height, box.y) };
  return bleedColours(placeOnCanvas(sized, width, height, at.x, at.y));
}

/** Its paths in the slot; null where it has none. */
export function slotDrawing({ artwork: { drawing }, isWhole }: SlotMark, box: SlotBox, slot: Slot): Drawing | null {
  const page = drawing && { x: 0, y: 0, width: drawing.widthPx, height: drawing.heightPx };
  const part = isWhole ? page : drawing && boundsOfDrawing(drawing);
  if (!drawing || !part) return null;
  const [sx, sy] = [box.width / part.width, box.height / part.height];
  const matrix: Matrix = [sx, 0, 0, sy, box.x - part.x * sx, box.y - part.y * sy];
  return placeDrawing(drawing, matrix, slot.width, slot.height);
}

/**
 * The visible part of artwork as pixels, cut to it.
 * @param leastSide  paths are rendered so large at least, px of the longer side
 * @throws CoreError 'cutout/nothing-left' where nothing is visible
 */
export function visibleOf(artwork: Artwork, leastSide = 0): Raster {
  const extents = extentsOf(artwork);
  if (!extents) throw new CoreError('cutout/nothing-left', 'Nothing of the mark is visible.');
  const r = artwork.reduction;
  const scale = leastSide / Math.max(extents.width, extents.height);
  if (artwork.drawing && scale * r > 1) {
    const [width, height] = [Math.ceil(extents.width * scale), Math.ceil(extents.height * scale)];
    const slot = { width, height, padding: 0 };
    const placed = slotDrawing({ artwork }, { x: 0, y: 0, width, height }, slot) as Drawing;
    return renderDrawing(placed, { width, height, matrix: IDENTITY });
  }
  return cropRaster(artwork.raster, {
    x: Math.floor(extents.x / r),
    y: Math.floor(extents.y / r),
    width: Math.ceil(extents.width / r),
    height: Math.ceil(extents.height / r),
  });
}
