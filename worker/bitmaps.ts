import type { Artwork } from '../core/artwork/artwork';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { type Raster, matteOf } from '../core/raster/raster';

const toImageData = (raster: Raster): ImageData =>
  new ImageData(
    new Uint8ClampedArray(raster.data.buffer as ArrayBuffer, raster.data.byteOffset, raster.data.length),
    raster.width,
    raster.height,
  );

export const toBitmap = (raster: Raster): Promise<ImageBitmap> => createImageBitmap(toImageData(raster));

/** Large enough for a bead at twice the usual pixel density. */
const BEAD_PX = 132;

/**
 * The artwork after a stage as its bead shows it: what is visible, small, its proportions kept; null where nothing is.
 */
export async function toBead({ raster, within }: Artwork): Promise<ImageBitmap | null> {
  const visible = findExtents(raster, undefined, within);
  if (!visible) return null;
  const shown = cropRaster(raster, visible);
  const scale = Math.min(1, BEAD_PX / Math.max(shown.width, shown.height));
  if (scale === 1) return toBitmap(shown);
  const side = (px: number) => Math.max(1, Math.round(px * scale));
  return createImageBitmap(toImageData(shown), {
    resizeWidth: side(shown.width),
    resizeHeight: side(shown.height),
    resizeQuality: 'high',
  });
}

/** A picture's matte as an opaque grey one. */
export function greyFrom(raster: Raster): Raster {
  const { width, height, data } = matteOf(raster);
  const out = new Uint8Array(width * height * 4);
  for (let i = 0, s = 0; i < data.length; i++, s += 4) {
    out[s] = out[s + 1] = out[s + 2] = data[i];
    out[s + 3] = 255;
  }
  return { width, height, data: out };
}
