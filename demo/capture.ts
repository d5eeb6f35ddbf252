import sharp from 'sharp';
import type { Raster } from '../core/raster/raster';

const input = (r: Raster) => sharp(r.data, { raw: { width: r.width, height: r.height, channels: 4 } });

/** Bytes of a PNG; `keepAlpha` false drops an alpha channel that holds nothing. */
export const toPng = (r: Raster, keepAlpha: boolean): Promise<Buffer> =>
  (keepAlpha ? input(r) : input(r).removeAlpha()).png({ compressionLevel: 8 }).toBuffer();

/** Bytes of a JPEG; colour at half resolution below quality 90, as cameras and programs write it. */
export const toJpeg = (r: Raster, quality: number): Promise<Buffer> =>
  input(r).removeAlpha().jpeg({ quality, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' }).toBuffer();

/** Saved once more by somebody on the way. */
export const again = (jpeg: Buffer, quality: number): Promise<Buffer> => sharp(jpeg).jpeg({ quality, chromaSubsampling: '4:2:0' }).toBuffer();

/** Turned by a quarter, as a telephone held upright stores it. */
export const lyingOnItsSide = (jpeg: Buffer): Promise<Buffer> => sharp(jpeg).rotate(-90).jpeg({ quality: 95, chromaSubsampling: '4:4:4' }).toBuffer();

/** A JPEG with an orientation tag and a place of capture, as a telephone writes it. */
export const withCameraTags = (jpeg: Buffer, orientation: number): Promise<Buffer> =>
  sharp(jpeg)
    .withExif({ IFD0: { Make: 'Harrowmere', Model: 'Stand-in' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '10/1 11/1 12/1', GPSLongitudeRef: 'E', GPSLongitude: '20/1 21/1 22/1' } })
    .withMetadata({ orientation })
    .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
    .toBuffer();
