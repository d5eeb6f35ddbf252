import { decode } from 'fast-png';
import type { Raster } from '../core/raster/raster';

const ALPHA_COLOUR_TYPES = [4, 6];

/**
 * The exact pixels of a working picture. Reading a canvas back premultiplies, which is harmless only without alpha:
 * such pictures take the browser's own fast decoder, the others a decoder in script.
 */
export async function decodePng(bytes: Uint8Array<ArrayBuffer>): Promise<Raster> {
  const colourType = bytes[25]; // the tenth byte of IHDR's data: 8 signature + 8 length and type + 9
  if (ALPHA_COLOUR_TYPES.includes(colourType)) return decodeWithAlpha(bytes);
  const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/png' }), {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  });
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', {
    willReadFrequently: true,
    colorSpace: 'srgb',
  }) as OffscreenCanvasRenderingContext2D;
  context.drawImage(bitmap, 0, 0);
  const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  bitmap.close();
  return { width, height, data: new Uint8Array(data.buffer) };
}

function decodeWithAlpha(bytes: Uint8Array): Raster {
  const { width, height, data, channels } = decode(bytes);
  if (channels === 4) return { width, height, data: new Uint8Array(data) };
  const out = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    out[i * 4] = out[i * 4 + 1] = out[i * 4 + 2] = data[i * 2];
    out[i * 4 + 3] = data[i * 2 + 1];
  }
  return { width, height, data: out };
}
