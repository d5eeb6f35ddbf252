import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { CoreError } from '../../core/errors';
import type { RectPx } from '../../core/params';
import type { GroundView } from '../../core/placements/placeItem';
import { type Laying, layOnGround } from '../../core/placements/layOnGround';
import { clampRect } from '../../core/raster/cropRaster';
import { type Raster, createRaster } from '../../core/raster/raster';
import { MOST_PIXELS, checkFile, decodePicture, fromRaw, isPlainSrgb } from '../decodePicture';
import { chunk } from '../encodePng';

/**
 * A photo in its own colours, upright, as few bytes a pixel as it needs: a mark is laid on the part beneath it, and the
 * rest stays what it was.
 */
export interface Photo extends GroundView {
  readonly kind: string;
  readonly channels: 3 | 4;
  readonly data: Buffer;
  /** Null where it is sRGB. */
  readonly profile: Buffer | null;
  /** The file's own, for what goes on with it beside its pixels; null once the picture is another one. */
  readonly bytes: Buffer | null;
  /** Whether the bytes' profile still tells what the pixels mean. */
  readonly keepsProfile: boolean;
  /** How much less its colours are sampled, such as "4:2:0". */
  readonly subsampling: string | null;
}

/** @throws CoreError 'intake/…' naming the file, what is wrong and what to do */
export async function openPhoto(given: Uint8Array, name: string): Promise<Photo> {
  const bytes = Buffer.from(given.buffer, given.byteOffset, given.byteLength);
  const kind = checkFile(bytes, name);
  const meta = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => null);
  const isPlain =
    meta && kind.id !== 'svg' && meta.depth === 'uchar' && (meta.space === 'srgb' || meta.space === 'b-w');
  if (!meta || !isPlain || meta.width * meta.height > MOST_PIXELS) return ofPicture(bytes, name);
  // A profile of greys says nothing of three colours; greys become sRGB.
  const profile = meta.icc && meta.space === 'srgb' && !isPlainSrgb(meta.icc) ? meta.icc : null;
  const isGreyTone = meta.space === 'b-w' && meta.icc !== undefined;
  if (isGreyTone) return ofPicture(bytes, name);
  const read = sharp(bytes, { limitInputPixels: MOST_PIXELS, ignoreIcc: true, failOn: 'warning' });
  const upright = (meta.orientation ?? 1) > 1 ? read.autoOrient() : read;
  const raw = await (meta.space === 'b-w' ? upright.toColourspace('srgb') : upright)
    .raw()
    .toBuffer({ resolveWithObject: true })
    .catch(() => null);
  // What is wrong with it is told by the reader that knows the words.
  if (!raw || (raw.info.channels !== 3 && raw.info.channels !== 4)) return ofPicture(bytes, name);
  const { width, height, channels } = raw.info;
  return photoOf({
    ...{ width, height, channels: channels as 3 | 4, data: raw.data, kind: kind.id, profile, bytes },
    keepsProfile: meta.space === 'srgb',
    subsampling: meta.chromaSubsampling ?? null,
  });
}

/** Through sRGB, for what is no plain picture of three colours: CMYK, 16 bits, damaged files with their reasons. */
async function ofPicture(bytes: Buffer, name: string): Promise<Photo> {
  const { raster, kind, hasAlphaChannel } = await decodePicture(bytes, name);
  const data = hasAlphaChannel ? Buffer.from(raster.data.buffer, raster.data.byteOffset, raster.data.length) : null;
  const { width, height } = raster;
  return photoOf({
    ...{ width, height, kind: kind.id, profile: null, bytes, keepsProfile: false, subsampling: null },
    channels: data ? 4 : 3,
    data: data ?? (await fromRaw(raster).removeAlpha().raw().toBuffer()),
  });
}

/** A picture of ours as a photo, sRGB. */
export const photoOfRaster = (raster: Raster, isClear = false): Photo => ({
  ...photoOf({
    ...{ width: raster.width, height: raster.height, kind: 'png', profile: null, bytes: null, keepsProfile: false },
    ...{ channels: 4, subsampling: null },
    data: Buffer.from(raster.data.buffer, raster.data.byteOffset, raster.data.length),
  }),
  isClear,
});

export function photoOf(own: Omit<Photo, 'look' | 'isClear'>): Photo {
  return {
    ...own,
    isClear: false,
    look: async (rect) => {
      const r = clampRect(rect, own.width, own.height);
      const part = partOf(own, r);
      const isEmpty = r.width === 0 || r.height === 0;
      return { raster: own.profile && !isEmpty ? await fromProfile(part, own.profile) : part, at: { x: r.x, y: r.y } };
    },
  };
}

/** The pixels of a part, in the photo's own colours. */
function partOf({ width, channels, data }: Pick<Photo, 'width' | 'channels' | 'data'>, r: RectPx): Raster {
  const out = createRaster(r.width, r.height);
  for (let y = 0, o = 0; y < r.height; y++) {
    let p = ((r.y + y) * width + r.x) * channels;
    for (let x = 0; x < r.width; x++, p += channels, o += 4) {
      out.data[o] = data[p];
      out.data[o + 1] = data[p + 1];
      out.data[o + 2] = data[p + 2];
      out.data[o + 3] = channels === 4 ? data[p + 3] : 255;
    }
  }
  return out;
}

/** Lays a picture, sRGB, on a photo in the photo's own colours, in place. Only what lies beneath it is touched. */
export async function layOnPhoto(photo: Photo, picture: Raster, at: { x: number; y: number }, laying: Laying) {
  const r = clampRect({ ...at, width: picture.width, height: picture.height }, photo.width, photo.height);
  if (r.width === 0 || r.height === 0) return;
  const own = photo.profile ? await intoProfile(picture, photo.profile) : picture;
  const part = partOf(photo, r);
  layOnGround(part, own, { x: at.x - r.x, y: at.y - r.y }, laying);
  const { width, channels, data } = photo;
  for (let y = 0, s = 0; y < r.height; y++) {
    let p = ((r.y + y) * width + r.x) * channels;
    for (let x = 0; x < r.width; x++, p += channels, s += 4) {
      data[p] = part.data[s];
      data[p + 1] = part.data[s + 1];
      data[p + 2] = part.data[s + 2];
      if (channels === 4) data[p + 3] = part.data[s + 3];
    }
  }
}

let folder: string | null = null;

/** The library reads profiles from files alone: one of ours for each that there is. */
function profileFile(profile: Buffer): string {
  folder ??= mkdtempSync(join(tmpdir(), 'tassel-profiles-'));
  mkdirSync(folder, { recursive: true });
  const path = join(folder, `${createHash('sha256').update(profile).digest('hex')}.icc`);
  if (!existsSync(path)) writeFileSync(path, profile);
  return path;
}

/** sRGB colours as another profile has them; alpha stays. */
async function intoProfile(raster: Raster, profile: Buffer): Promise<Raster> {
  const { width, height } = raster;
  const data = await fromRaw(raster).withIccProfile(profileFile(profile)).raw().toBuffer();
  return { width, height, data: Uint8Array.from(data) };
}

/** Signature and header of a PNG file, bytes. */
const HEADED = 8 + 25;

/** Colours of a profile as sRGB. @throws CoreError 'file/read-back' where the profile cannot be used */
export async function fromProfile(raster: Raster, profile: Buffer): Promise<Raster> {
  const plain = await fromRaw(raster).png({ compressionLevel: 0, adaptiveFiltering: false }).toBuffer();
  // Right after the header, as it must. @see PNG specification, third edition, 11.3.2.3
  const iccp = chunk('iCCP', Buffer.concat([Buffer.from('photo\0\0', 'latin1'), deflateSync(profile)]));
  const { data, info } = await sharp(Buffer.concat([plain.subarray(0, HEADED), iccp, plain.subarray(HEADED)]))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== 4) throw new CoreError('file/read-back', 'A colour profile cannot be used.');
  return { width: raster.width, height: raster.height, data: Uint8Array.from(data) };
}
