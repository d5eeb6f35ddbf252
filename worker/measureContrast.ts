import { rgbFromHex } from '../core/colour/hex';
import { type Standing, measureStanding, outlineMark } from '../core/contrast/standing';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import type { Raster } from '../core/raster/raster';
import { resizeRaster } from '../core/raster/resize';
import type { GroundSource } from './protocol';

const photos = new Map<string, Promise<Raster>>();

/** A photo is looked at so wide; a mark stands in its middle, so much of that at most, and fits its height. */
const PHOTO_PX = 640;
const MARK_PX = 256;
const HEIGHT_SHARE = 0.8;

/** How well a mark can be seen on each ground, by the ground's id; on a photo in its middle. */
export async function measureContrast(
  mark: Raster,
  grounds: readonly GroundSource[],
): Promise<Record<string, Standing>> {
  const found: Record<string, Standing> = {};
  const extents = findExtents(mark);
  if (!extents || grounds.length === 0) return found;
  const shown = cropRaster(mark, extents);
  const small = outlineMark(fitted(shown, MARK_PX, MARK_PX));
  for (const g of grounds) {
    if (g.hex) {
      const colour = rgbFromHex(g.hex);
      found[g.id] = measureStanding(small, colour, { x: 0, y: 0 });
    } else if (g.url) {
      const photo = await photoOf(g.url);
      const room = photo.height * HEIGHT_SHARE;
      const own = small.raster.height <= room ? small : outlineMark(fitted(shown, MARK_PX, room));
      const { width, height } = own.raster;
      const at = { x: Math.round((photo.width - width) / 2), y: Math.round((photo.height - height) / 2) };
      found[g.id] = measureStanding(own, photo, at);
    }
  }
  return found;
}

function fitted(mark: Raster, mostWidth: number, mostHeight: number): Raster {
  const scale = Math.min(1, mostWidth / mark.width, mostHeight / mark.height);
  if (scale === 1) return mark;
  const side = (px: number) => Math.max(1, Math.round(px * scale));
  return resizeRaster(mark, side(mark.width), side(mark.height));
}

function photoOf(url: string): Promise<Raster> {
  let found = photos.get(url);
  if (!found) {
    found = loadPhoto(url);
    photos.set(url, found);
    found.catch(() => photos.delete(url));
  }
  return found;
}

async function loadPhoto(url: string): Promise<Raster> {
  const bitmap = await createImageBitmap(await (await fetch(url)).blob());
  const [width, height] = [PHOTO_PX, Math.max(1, Math.round((PHOTO_PX * bitmap.height) / bitmap.width))];
  const context = new OffscreenCanvas(width, height).getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, width, height);
  const { data } = context.getImageData(0, 0, width, height);
  return { width, height, data: new Uint8Array(data.buffer) };
}
