import { type Raster, hasTransparency } from '../core/raster/raster';
import { fromRaw } from './decodePicture';

/** A delivered file: RGBA, 8 bits, sRGB profile embedded, not interlaced, nothing else in it. */
export const encodeDeliveryPng = (raster: Raster): Promise<Buffer> =>
  fromRaw(raster)
    .withIccProfile('srgb')
    .png({ compressionLevel: 9, adaptiveFiltering: true, progressive: false })
    .toBuffer();

/** A result on a working picture's grid, written fast. */
export const encodeMasterPng = (raster: Raster): Promise<Buffer> =>
  fromRaw(raster).png({ compressionLevel: 3, adaptiveFiltering: false, progressive: false }).toBuffer();

/** A working picture: lossless, fast to write; the alpha channel only where it holds something. */
export function encodeWorkingPng(raster: Raster): Promise<Buffer> {
  const picture = fromRaw(raster);
  return (hasTransparency(raster) ? picture : picture.removeAlpha())
    .png({ compressionLevel: 1, adaptiveFiltering: false, progressive: false })
    .toBuffer();
}
