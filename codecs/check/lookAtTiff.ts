import UTIF from 'utif2';
import type { Raster } from '../../core/raster/raster';
import { type Look, ofPixels, profileName } from './look';

// TIFF 6.0, section 8 and after: tags by number.
const TAG = {
  bits: 't258',
  samples: 't277',
  photometric: 't262',
  x: 't282',
  unit: 't296',
  extra: 't338',
  icc: 't34675',
};
const CM_PER_INCH = 2.54;
/** Messages of somebody: description, maker, model, software, date, artist, copyright, XMP, IPTC, EXIF, GPS. */
const NOISY: Record<string, string> = {
  ...{ t270: 'a description', t271: 'a camera’s maker', t272: 'a camera’s model', t305: 'a program’s name' },
  ...{ t306: 'a date', t315: 'an author', t33432: 'a copyright note', t700: 'XMP data', t33723: 'IPTC data' },
  ...{ t34665: 'EXIF data', t34853: 'a location' },
};

/** A TIFF, by a decoder in script. @throws Error when it cannot be decoded */
export function lookAtTiff(bytes: Uint8Array): Look {
  const buffer = Uint8Array.from(bytes).buffer;
  const pages = UTIF.decode(buffer);
  if (pages.length === 0) throw new Error('it holds no page');
  const page = pages[0] as unknown as Record<string, ArrayLike<number> & { 0: number }>;
  UTIF.decodeImage(buffer, pages[0]);
  const { width, height } = pages[0] as unknown as { width: number; height: number };
  if (!(width > 0 && height > 0)) throw new Error('it tells no size');
  const samples = page[TAG.samples]?.[0] ?? 1;
  const bits = page[TAG.bits]?.[0] ?? 1;
  const photometric = page[TAG.photometric]?.[0] ?? 1;
  const hasAlpha = page[TAG.extra] !== undefined && (samples === 4 || samples === 2);
  const raw = (pages[0] as unknown as { data: Uint8Array }).data;
  const isSimple = bits === 8 && photometric <= 2;
  const pixels: Raster = isSimple
    ? { width, height, data: straight(raw, width * height, { samples, hasAlpha, isInverted: photometric === 0 }) }
    : { width, height, data: UTIF.toRGBA8(pages[0]) };
  const density = page[TAG.x]?.[0];
  const perInch = page[TAG.unit]?.[0] === 3 ? CM_PER_INCH : 1;
  const problems = Object.entries(NOISY).flatMap(([tag, words]) => (page[tag] === undefined ? [] : [`holds ${words}`]));
  if (pages.length > 1) problems.push(`holds ${pages.length} pages`);
  if (hasAlpha && page[TAG.extra]?.[0] === 1) problems.push('its colours are multiplied by their alpha');
  return {
    ...ofPixels(pixels),
    format: 'tiff',
    ppi: density === undefined ? null : ratioOf(density) * perInch,
    hasAlpha,
    profile: page[TAG.icc] ? profileName(Uint8Array.from(page[TAG.icc] as ArrayLike<number>)) : null,
    problems,
  };
}

/** A rational, as the decoder hands it over: one number, or two that are divided. */
const ratioOf = (value: unknown): number =>
  Array.isArray(value) ? Number(value[0]) / Number(value[1]) : Number(value);

interface Samples {
  readonly samples: number;
  readonly hasAlpha: boolean;
  readonly isInverted: boolean;
}

/** Samples of 8 bits as RGBA. The decoder's own conversion lays alpha on white for some layouts. */
function straight(raw: Uint8Array, count: number, { samples, hasAlpha, isInverted }: Samples): Uint8Array {
  if (samples === 4 && hasAlpha) return new Uint8Array(raw.subarray(0, count * 4));
  const out = new Uint8Array(count * 4);
  for (let i = 0; i < count; i++) {
    for (let c = 0; c < 3; c++) {
      const v = raw[i * samples + (samples >= 3 ? c : 0)];
      out[i * 4 + c] = isInverted ? 255 - v : v;
    }
    out[i * 4 + 3] = hasAlpha ? raw[i * samples + samples - 1] : 255;
  }
  return out;
}
