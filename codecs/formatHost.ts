import type { EncodeOptions, FormatHost, PixelKind } from '../core/formats/format';
import type { Raster } from '../core/raster/raster';
import { fromRaw } from './decodePicture';
import { encodePng } from './encodePng';

const MM_PER_INCH = 25.4;
const NO_PPI = 72;

/** What core's formats write with on Node. */
export const formatHost: FormatHost = {
  async encode(kind, raster, options) {
    if (kind !== 'png') return encodeOther(kind, raster, options);
    const { ppi, isOpaque, isGrey, palette, profile } = options;
    return encodePng(raster, ppi, { isOpaque, isGrey, palette: palette === true, hasProfile: profile === 'embedded' });
  },
};

function encodeOther(kind: Exclude<PixelKind, 'png'>, raster: Raster, options: EncodeOptions): Promise<Buffer> {
  const { ppi, isOpaque, isGrey } = options;
  let picture = fromRaw(raster);
  if (isOpaque || isGrey) picture = picture.removeAlpha();
  picture = isGrey ? picture.toColourspace('b-w') : picture.withIccProfile('srgb');
  if (kind === 'webp') return picture.webp({ lossless: true, exact: true, effort: 4 }).toBuffer();
  if (kind === 'avif') return picture.avif({ quality: Number(options.quality), chromaSubsampling: '4:4:4' }).toBuffer();
  if (kind === 'jpeg') {
    const sized = ppi === null ? picture : picture.withMetadata({ density: ppi });
    return sized.jpeg({ quality: Number(options.quality), chromaSubsampling: '4:4:4' }).toBuffer();
  }
  const isBits = options.depth === '1';
  if (isBits) picture = picture.toColourspace('b-w').threshold(128);
  // The format must tell one: without a size on paper what programs take for none.
  const perMm = (ppi ?? NO_PPI) / MM_PER_INCH;
  return picture
    .tiff({
      compression: options.compression === 'lzw' ? 'lzw' : 'none',
      resolutionUnit: 'inch',
      ...(isBits ? { bitdepth: 1 } : {}),
      xres: perMm,
      yres: perMm,
    })
    .toBuffer();
}
