import type { Raster } from '../../core/raster/raster';

/**
 * A picture's pixels by sharp, for kinds that no other reader is at hand for.
 * @throws Error when it cannot be decoded
 */
export async function pixelsByLibrary(bytes: Uint8Array): Promise<Raster> {
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
}
