import sharp from 'sharp';
import type { Raster } from '../core/raster/raster';

const input = (r: Raster) => sharp(r.data, { raw: { width: r.width, height: r.height, channels: 4 } });

/** Bytes of a PNG; `keepAlpha` false drops an alpha channel that holds nothing. */
export const toPng = (r: Raster, keepAlpha: boolean): Promise<Buffer> =>
  (keepAlpha ? input(r) : input(r).removeAlpha()).png({ compressionLevel: 8 }).toBuffer();

/** Bytes of a JPEG; colour at half resolution below quality 90, as cameras and programs write it. */
export const toJpeg = (r: Raster, quality: number): Promise<Buffer> =>
  input(r)
    .removeAlpha()
    .jpeg({ quality, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' })
    .toBuffer();

/** Saved once more by somebody on the way. */
export const again = (jpeg: Buffer, quality: number): Promise<Buffer> =>
  sharp(jpeg).jpeg({ quality, chromaSubsampling: '4:2:0' }).toBuffer();
