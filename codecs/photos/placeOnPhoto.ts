import type { RectPx } from '../../core/params';
import { fitPhoto } from '../../core/placements/fitPhoto';
import { type LaidVariant, type Placed, flatRaster, placeItem, stripOn } from '../../core/placements/placeItem';
import { findGaps } from '../../core/placements/placement';
import { type Fit, type Frame, type Item, isStrip } from '../../core/placements/readPlacement';
import { cropRaster } from '../../core/raster/cropRaster';
import { layOnGround } from '../../core/placements/layOnGround';
import { type Raster, createRaster } from '../../core/raster/raster';
import { resizeRaster } from '../../core/raster/resize';
import { type Photo, layOnPhoto, photoOfRaster } from './photo';

/** An item with its mark's variants, drawn once for every ground. */
export interface LaidItem {
  readonly item: Item;
  /** Empty for a strip. */
  readonly choices: readonly LaidVariant[];
}

export interface PlacedItem {
  readonly variant: string | null;
  readonly box: RectPx;
  readonly standing: Placed['standing'];
  readonly tried: Placed['tried'];
}

/** Lays all items on a photo, in place, the first lowest; each is measured against what already lies there. */
export async function layItems(photo: Photo, items: readonly LaidItem[]): Promise<PlacedItem[]> {
  const placed: PlacedItem[] = [];
  for (const { item, choices } of items) {
    const laying = { opacity: item.opacity, mode: item.blend };
    if (isStrip(item)) {
      const { raster, box } = stripOn(photo, item);
      await layOnPhoto(photo, raster, box, laying);
      placed.push({ variant: null, box, standing: null, tried: [] });
      continue;
    }
    const { raster, ...found } = await placeItem(photo, item, choices);
    await layOnPhoto(photo, raster, found.box, laying);
    placed.push(found);
  }
  return placed;
}

/** An exact frame with a photo, sRGB, fitted into it, or with nothing but its colour. */
export function framePhoto(frame: Frame, photo: Raster | null, fit: Fit): Photo {
  const { width, height, colour } = frame;
  const page = colour ? flatRaster(width, height, colour) : createRaster(width, height);
  if (photo) {
    const { from, to } = fitPhoto(photo, frame, fit);
    const fitted = resizeRaster(cropRaster(photo, from), to.width, to.height);
    layOnGround(page, fitted, to, { opacity: 1, mode: 'normal' });
  }
  return photoOfRaster(page, !photo && !colour);
}

/** What nothing covers of a photo with all its items. */
export const gapsOf = ({ channels, data, width, height }: Photo): ReturnType<typeof findGaps> =>
  channels === 3 ? null : findGaps({ data, width, height });
