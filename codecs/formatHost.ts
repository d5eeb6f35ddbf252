import { MM_PER_INCH } from '../core/units';
import type { EncodeOptions, FormatHost, PixelKind } from '../core/formats/format';
import type { Raster } from '../core/raster/raster';
import { fromRaw } from './decodePicture';
import { encodePng } from './encodePng';

const NO_PPI = 72;

/** What core's formats write with on Node. */
export const formatHost: FormatHost = {
  async encode(kind, raster, options) {
    if (kind !== 'png') return encodeOther(kind, raster, options);
    const { ppi, isOpaque, isGrey, palette, profile } = options;
    return encodePng(raster, ppi, { isOpaque, isGrey, palette: palette === true, hasProfile: profile === 'embedded' });
  },
};

const JFIF_BYTES = 18;

/**
 * A JPEG that tells its resolution in its head. The library would add EXIF data for it.
 * @see ITU-T T.871, 10.1: the JFIF segment, version 1.02, its unit dots per inch
 */
function withDensity(bytes: Buffer, ppi: number): Buffer {
  const head = Buffer.from([0xff, 0xe0, 0, JFIF_BYTES - 2, 0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 1, 0, 0, 0, 0, 0, 0]);
  head.writeUInt16BE(Math.round(ppi), 12);
  head.writeUInt16BE(Math.round(ppi), 14);
  const hasOwn = bytes[3] === 0xe0 && bytes.toString('latin1', 6, 10) === 'JFIF';
  const rest = hasOwn ? 4 + bytes.readUInt16BE(4) : 2;
  return Buffer.concat([bytes.subarray(0, 2), head, bytes.subarray(rest)]);
}

function encodeOther(kind: Exclude<PixelKind, 'png'>, raster: Raster, options: EncodeOptions): Promise<Buffer> {
  const { ppi, isOpaque, isGrey } = options;
  let picture = fromRaw(raster);
  if (isOpaque || isGrey) picture = picture.removeAlpha();
  picture = isGrey ? picture.toColourspace('b-w') : picture.withIccProfile('srgb');
  if (kind === 'webp') return picture.webp({ lossless: true, exact: true, effort: 4 }).toBuffer();
  if (kind === 'avif') return picture.avif({ quality: Number(options.quality), chromaSubsampling: '4:4:4' }).toBuffer();
  if (kind === 'jpeg') {
    const bytes = picture.jpeg({ quality: Number(options.quality), chromaSubsampling: '4:4:4' }).toBuffer();
    return ppi === null ? bytes : bytes.then((b) => withDensity(b, ppi));
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
