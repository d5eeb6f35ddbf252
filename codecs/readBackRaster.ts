import { CoreError } from '../core/errors';
import type { Raster } from '../core/raster/raster';
import type { ReadBack } from '../core/formats/receipt';
import { clearShare } from './readBackPng';

/** Reads a picture of another format than PNG back by a plain decode. @throws CoreError 'file/read-back' */
export async function readBackRaster(
  bytes: Uint8Array,
  meant: Raster,
  format: string,
  name: string,
): Promise<ReadBack> {
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(bytes)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
    .catch((cause) => {
      throw new CoreError(
        'file/read-back',
        `${name} did not read back: it cannot be decoded.`,
        { file: name },
        { cause },
      );
    });
  const { density, icc, hasAlpha, isProgressive } = await sharp(bytes).metadata();
  if (info.width !== meant.width || info.height !== meant.height) {
    const got = `${info.width} × ${info.height} px instead of ${meant.width} × ${meant.height}`;
    throw new CoreError('file/read-back', `${name} did not read back as written: ${got}.`, { file: name });
  }
  return {
    ...{ format, width: info.width, height: info.height, unit: 'px', bytes: bytes.length, ppi: density ?? null },
    ...{
      hasAlpha,
      isInterlaced: isProgressive,
      isSrgb: icc !== undefined,
      chunks: [],
      paths: null,
      pictures: 1,
      fonts: 0,
    },
    clearShare: clearShare({ width: info.width, height: info.height, data }),
  };
}
