import { extname } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { CoreError } from '../../core/errors';
import { COMPRESSION } from '../encodePng';
import type { Photo } from './photo';
import { passOn } from './passOn';
import { partsOfJpeg, tellsPlace, withJpegParts } from './jpegParts';

/** How photos are written. */
export interface PhotoOptions {
  /** Of JPEG files, 40 to 100. */
  readonly quality: number;
  /** "4:4:4" or "4:2:0"; as the photo itself has it where nothing is said. */
  readonly subsampling?: string;
  readonly isProgressive?: boolean;
  /** The place where it was taken goes along with what else the photo says of itself. */
  readonly keepsLocation?: boolean;
  /** Reduced so that its longer side is at most so many pixels. */
  readonly longEdgePx?: number;
}

export const PHOTO_ENDINGS = ['.png', '.jpg', '.jpeg', '.webp', '.tif', '.tiff'];
export const USUAL_QUALITY = 92;

/**
 * A photo with what was laid on it, in the format that its name ends in, with its own profile and what it says of
 * itself; read back before it is given out.
 * @throws CoreError 'file/read-back'
 */
export async function writePhoto(photo: Photo, name: string, options: PhotoOptions): Promise<Buffer> {
  const ending = extname(name).toLowerCase();
  const isJpeg = ending === '.jpg' || ending === '.jpeg';
  const isFlat = photo.channels === 3 || isOpaque(photo.data);
  const { width, height, channels } = photo;
  let picture: Sharp = sharp(photo.data, { raw: { width, height, channels }, limitInputPixels: false });
  if (isJpeg && !isFlat) picture = picture.flatten({ background: '#ffffff' });
  else if (channels === 4 && isFlat) picture = picture.removeAlpha();
  const size = sizeOf(photo, options.longEdgePx);
  if (size) picture = picture.resize({ ...size, fit: 'fill', kernel: 'lanczos3' });
  const isJpegThroughout = isJpeg && (!photo.bytes || photo.kind === 'jpeg');
  const bytes = await (isJpegThroughout ? jpegOf(picture, photo, options) : otherOf(picture, photo, ending, options));
  const back = await sharp(bytes).metadata();
  const wanted = size ?? photo;
  if (back.width !== wanted.width || back.height !== wanted.height)
    throw new CoreError('file/read-back', `${name} did not read back as written.`, { file: name });
  return bytes;
}

function isOpaque(data: Uint8Array): boolean {
  for (let p = 3; p < data.length; p += 4) if (data[p] < 255) return false;
  return true;
}

function sizeOf({ width, height }: Photo, most?: number): { width: number; height: number } | null {
  if (most === undefined || Math.max(width, height) <= most) return null;
  const scale = most / Math.max(width, height);
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** A photo that came as JPEG and leaves as one: what it says of itself goes along as it stood there. */
async function jpegOf(picture: Sharp, photo: Photo, options: PhotoOptions): Promise<Buffer> {
  const bytes = await picture.jpeg(jpegSettings(photo, options)).toBuffer();
  if (!photo.bytes) return bytes;
  const keeps = { profile: photo.keepsProfile, location: options.keepsLocation ?? false };
  return withJpegParts(bytes, partsOfJpeg(photo.bytes, keeps));
}

const jpegSettings = ({ subsampling }: Photo, { quality, isProgressive, subsampling: asked }: PhotoOptions) => ({
  quality,
  chromaSubsampling: asked ?? (subsampling?.startsWith('4:2:0') ? '4:2:0' : '4:4:4'),
  progressive: isProgressive ?? false,
});

/** Between formats the library carries profile and Exif: the new picture is laid over the old one, whole. */
async function otherOf(picture: Sharp, photo: Photo, ending: string, options: PhotoOptions): Promise<Buffer> {
  const { data, info } = await picture.raw().toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const raw = { width, height, channels: info.channels as 3 | 4 };
  let whole = sharp(data, { raw, limitInputPixels: false });
  if (photo.bytes) {
    const before = await sharp(photo.bytes).metadata();
    whole = sharp(photo.bytes, { limitInputPixels: false })
      .autoOrient()
      .resize({ width, height, fit: 'fill', kernel: 'nearest' })
      .keepExif()
      .composite([{ input: data, raw, blend: 'source' }]);
    if (photo.keepsProfile) whole = whole.keepIccProfile();
    if (before.xmp && (options.keepsLocation || !tellsPlace(before.xmp.toString('latin1')))) whole = whole.keepXmp();
    if (info.channels === 3) whole = whole.removeAlpha();
  }
  if (ending === '.png') whole = whole.png({ compressionLevel: COMPRESSION, palette: false });
  else if (ending === '.webp') whole = whole.webp({ lossless: photo.kind !== 'jpeg', quality: options.quality });
  else if (ending.startsWith('.tif')) whole = whole.tiff({ compression: 'lzw', predictor: 'horizontal' });
  else whole = whole.jpeg(jpegSettings(photo, options));
  return passOn(await whole.toBuffer(), options.keepsLocation ?? false);
}
