import { CoreError } from '../core/errors';
import { type Tone, measureTone } from '../core/raster/measureTone';
import { checkFile, decodePicture, fromRaw } from '../codecs/decodePicture';
import { keepBlob } from './store/blobs';
import type { Db } from './store/db';

/** A ground photo is kept so large: enough for proofs, and it is looked at often. */
const MOST_PIXELS = 4_000_000;
const QUALITY = 90;

export interface PreparedGround {
  readonly blobSha: string;
  readonly width: number;
  readonly height: number;
  readonly tone: Tone;
}

/**
 * Keeps a photo for a ground: upright, sRGB, without anything that its file said beside its pixels; its tone is
 * measured.
 * @throws CoreError 'intake/…' naming the file
 */
export async function prepareGround(db: Db, bytes: Uint8Array, name: string): Promise<PreparedGround> {
  if (checkFile(bytes, name).id === 'svg')
    throw new CoreError('intake/unsupported', `${name} is a drawing. A ground is a photo: PNG, JPEG, WebP or TIFF.`, {
      file: name,
    });
  const { raster } = await decodePicture(bytes, name, MOST_PIXELS);
  const jpeg = await fromRaw(raster).flatten({ background: '#ffffff' }).jpeg({ quality: QUALITY }).toBuffer();
  const { width, height } = raster;
  return { blobSha: await keepBlob(db, jpeg, 'image/jpeg'), width, height, tone: measureTone(raster) };
}
