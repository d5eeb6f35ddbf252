import sharp from 'sharp';
import { CoreError } from '../core/errors';
import type { Raster } from '../core/raster/raster';
import { type FileKind, isPdf, kindByName, sniffKind } from './sniffKind';

export const MOST_BYTES = 80 * 1024 * 1024;
export const MOST_PIXELS = 120_000_000;
/** Places in a picture travel as two numbers of fifteen bits. */
export const MOST_SIDE = 32_000;
const LEAST_SIDE = 4;

export interface DecodedPicture {
  readonly kind: FileKind;
  /** Orientation applied, sRGB, 8 bits, straight alpha; in memory of its own. */
  readonly raster: Raster;
  readonly hasAlphaChannel: boolean;
  /** Plain facts worth telling, such as "turned upright by its orientation tag". */
  readonly notes: readonly string[];
}

/**
 * Checks a file from its first bytes on, without decoding its pixels.
 * @throws CoreError 'intake/…' naming the file, what is wrong and what to do
 */
export function checkFile(bytes: Uint8Array, name: string): FileKind {
  const details = { file: name };
  if (bytes.length === 0)
    throw new CoreError('intake/empty', `${name} is empty (0 bytes). Export or download it again.`, details);
  if (bytes.length > MOST_BYTES) {
    throw new CoreError(
      'intake/too-large',
      `${name} has ${Math.ceil(bytes.length / 1048576)} MB; the most is 80 MB. Save it smaller, or as JPEG.`,
      details,
    );
  }
  const kind = sniffKind(bytes);
  const claimed = kindByName(name);
  if (!kind && isPdf(bytes))
    throw new CoreError(
      'intake/unsupported',
      `${name} is a PDF file: a mark is picked from one of its pages. Drop it among the marks to choose.`,
      details,
    );
  if (!kind && claimed)
    throw new CoreError(
      'intake/mislabelled',
      `${name} is named as ${claimed.title} but does not hold one. Open it where it came from and export it as PNG.`,
      details,
    );
  if (!kind)
    throw new CoreError(
      'intake/unsupported',
      `${name} is not a PNG, JPEG, WebP, TIFF or SVG file. Export it as one of these and drop it again.`,
      details,
    );
  if (claimed && claimed.id !== kind.id) {
    throw new CoreError(
      'intake/mislabelled',
      `${name} is named as ${claimed.title} but holds a ${kind.title} picture. Rename it to ` +
        `end in .${kind.endings[0]} and drop it again.`,
      details,
    );
  }
  return kind;
}

/**
 * The working picture of a file: orientation applied, embedded profile converted to sRGB, 8 bits, straight alpha.
 * @param mostPixels  a larger picture is reduced to so many while it is decoded, and a note says so
 * @throws CoreError 'intake/…' naming the file, what is wrong and what to do
 */
export async function decodePicture(
  bytes: Uint8Array,
  name: string,
  mostPixels = MOST_PIXELS,
): Promise<DecodedPicture> {
  const kind = checkFile(bytes, name);
  const details = { file: name };
  if (kind.id === 'svg') throw new Error('An SVG file is read as paths');
  const damaged = (cause: unknown) =>
    new CoreError(
      'intake/damaged',
      `${name} is damaged: ${whatIsWrong(cause)}. Ask for the file again, or open it where it came from and ` +
        'export it anew as PNG.',
      details,
      { cause },
    );
  // TIFF readers warn of every odd tag, such as a date that is none; missing pixels are an error there all the same.
  const failOn = kind.id === 'tiff' ? 'error' : 'warning';
  const decode = (smaller: { width: number; height: number } | null) => {
    // The decoder refuses too many pixels of itself, before it makes room for them.
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn }).autoOrient().toColourspace('srgb');
    return (smaller ? picture.resize({ ...smaller, fit: 'fill', kernel: 'cubic' }) : picture)
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
  };
  // Both at once where no picture is too large.
  let decoding = mostPixels === MOST_PIXELS ? decode(null) : null;
  decoding?.catch(() => {});
  const meta = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch((cause) => Promise.reject(damaged(cause)));
  const { width, height } = meta;
  if (width * height > MOST_PIXELS) {
    throw new CoreError(
      'intake/too-many-pixels',
      `${name} has ${width} × ${height} = ${Math.round((width * height) / 1e6)} megapixels; ` +
        'the most is 120. Save it smaller and drop it again.',
      details,
    );
  }
  if (Math.max(width, height) > MOST_SIDE) {
    throw new CoreError(
      'intake/too-many-pixels',
      `${name} is ${width} × ${height} px; the most is ${MOST_SIDE} px a side. Save it ` +
        'smaller, or cut it into parts, and drop it again.',
      details,
    );
  }
  if (width < LEAST_SIDE || height < LEAST_SIDE)
    throw new CoreError(
      'intake/too-small',
      `${name} is ${width} × ${height} px, too small to hold a mark; the least is ${LEAST_SIDE} × ${LEAST_SIDE} px. ` +
        'Ask for the largest version there is, or take a sharp photograph of it.',
      details,
    );
  const smaller = width * height > mostPixels ? reducedTo(meta.autoOrient ?? meta, mostPixels) : null;
  if (smaller || !decoding) decoding = decode(smaller);
  const pixels = await decoding.catch((cause) => Promise.reject(damaged(cause)));
  const { info } = pixels;
  if (info.channels !== 4) throw damaged(new Error(`${info.channels} channels after conversion`));
  const notes: string[] = [];
  if (smaller) {
    const millions = (n: number) => `${Math.round(n / 1e6)}`;
    notes.push(`worked on at ${millions(info.width * info.height)} of its ${millions(width * height)} megapixels`);
  }
  if ((meta.orientation ?? 1) > 1) notes.push('turned upright by its orientation tag');
  if (meta.icc && !isPlainSrgb(meta.icc)) notes.push('converted to sRGB from its own colour profile');
  if (meta.space === 'cmyk') notes.push('converted to sRGB from CMYK');
  if ((meta.pages ?? 1) > 1) notes.push(`first of ${meta.pages} pages`);
  if (meta.depth === 'ushort') notes.push('reduced from 16 to 8 bits a channel');
  return {
    kind,
    raster: { width: info.width, height: info.height, data: ownMemory(pixels.data) },
    hasAlphaChannel: meta.hasAlpha,
    notes,
  };
}

/**
 * A reduction of a picture to at most so many pixels, for the fast preview; the picture itself when it is small enough.
 */
export async function reducePicture(raster: Raster, mostPixels: number): Promise<Raster> {
  const { width, height } = raster;
  if (width * height <= mostPixels) return raster;
  const scale = Math.sqrt(mostPixels / (width * height));
  const size = { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
  const { data } = await fromRaw(raster)
    .resize({ ...size, fit: 'fill', kernel: 'cubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { ...size, data: ownMemory(data) };
}

export const fromRaw = (raster: Raster) =>
  sharp(raster.data, { raw: { width: raster.width, height: raster.height, channels: 4 }, limitInputPixels: false });

// Buffers from a pool may start at any byte, which a 32-bit view does not accept.
function ownMemory(buffer: Buffer): Uint8Array {
  return buffer.byteOffset % 4 === 0
    ? new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.length)
    : Uint8Array.from(buffer);
}

function reducedTo({ width, height }: { width: number; height: number }, mostPixels: number) {
  const scale = Math.sqrt(mostPixels / (width * height));
  return { width: Math.max(1, Math.floor(width * scale)), height: Math.max(1, Math.floor(height * scale)) };
}

/** What a decoder's words mean to somebody who has only the file. */
const meanings: readonly [RegExp, string][] = [
  [
    /premature|truncat|unexpected end|read error|end of|too short|not enough|insufficient|fill strip|fill tile/i,
    'a part of it is missing',
  ],
  [/unsupported|not supported|unknown compression|not configured/i, 'it is packed in a way that Tassel does not know'],
  [/memory|too large|too big|limit/i, 'it claims to hold far more than it does'],
];

function whatIsWrong(cause: unknown): string {
  const words = cause instanceof Error ? cause.message : String(cause);
  return meanings.find(([pattern]) => pattern.test(words))?.[1] ?? 'its picture data is broken';
}

// "sRGB" stands in the description of every common sRGB profile, in Latin or in two-byte letters.
export function isPlainSrgb(icc: Buffer): boolean {
  const text = icc.toString('latin1').replace(/\0/g, '');
  return text.includes('sRGB');
}
