import type { EncodeOptions, FormatHost } from '../core/formats/format';
import type { Raster } from '../core/raster/raster';
import { fromRaw } from './decodePicture';
import { encodePng } from './encodePng';

const PER_MM = 25.4;

/** What core's formats write with on Node. */
export const formatHost: FormatHost = {
  async encode(kind, raster, options) {
    if (kind === 'png') return encodePng(raster, options.ppi);
    return encodeOther(kind, raster, options);
  },
};

function encodeOther(
  kind: 'webp' | 'avif' | 'tiff' | 'jpeg',
  raster: Raster,
  { ppi, ...settings }: EncodeOptions,
): Promise<Buffer> {
  const picture = fromRaw(raster).withIccProfile('srgb');
  if (kind === 'webp') return picture.webp(settings).toBuffer();
  if (kind === 'avif') return picture.avif(settings).toBuffer();
  if (kind === 'jpeg') return picture.jpeg(settings).toBuffer();
  return picture.tiff({ ...settings, ...(ppi === null ? {} : { xres: ppi / PER_MM, yres: ppi / PER_MM }) }).toBuffer();
}
