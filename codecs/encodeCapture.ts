import sharp from 'sharp';
import type { Raster } from '../core/raster/raster';
import { fromRaw } from './decodePicture';

/** Made-up: a camera and a place that do not exist. */
const CAMERA = { Make: 'Harrowmere', Model: 'Stand-in' };
const PLACE = {
  GPSLatitudeRef: 'N',
  GPSLatitude: '10/1 11/1 12/1',
  GPSLongitudeRef: 'E',
  GPSLongitude: '20/1 21/1 22/1',
};

/**
 * A simulated photograph as a telephone writes it: JPEG with a camera's tags, and a place of capture where asked for.
 */
export const encodeCaptureJpeg = (picture: Raster, quality: number, hasPlace: boolean): Promise<Buffer> =>
  fromRaw(picture)
    .removeAlpha()
    .withExif(hasPlace ? { IFD0: CAMERA, IFD3: PLACE } : { IFD0: CAMERA })
    .jpeg({ quality, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' })
    .toBuffer();

/** A JPEG with a place of capture and an orientation tag, as a telephone writes it. */
export const withCameraTags = (jpeg: Buffer, orientation: number): Promise<Buffer> =>
  sharp(jpeg)
    .withExif({ IFD0: CAMERA, IFD3: PLACE })
    .withMetadata({ orientation })
    .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
    .toBuffer();

/** A photograph lying on its side, with the orientation tag that says so. */
export const layOnItsSide = async (jpeg: Buffer): Promise<Buffer> =>
  withCameraTags(await sharp(jpeg).rotate(-90).jpeg({ quality: 95, chromaSubsampling: '4:4:4' }).toBuffer(), 6);
