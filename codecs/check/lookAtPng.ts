import { inflateSync } from 'node:zlib';
import { convertIndexedToRgb, decode } from 'fast-png';
import { createRaster } from '../../core/raster/raster';
import type { Raster } from '../../core/raster/raster';
import { type Look, ofPixels, profileName } from './look';

const METRES_PER_INCH = 0.0254;
/** What makes the picture, its colours and its size; anything else is a message of somebody. */
const PLAIN = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND', 'sRGB', 'gAMA', 'cHRM', 'iCCP', 'pHYs', 'sBIT', 'bKGD']);

/** A PNG, by a decoder in script and a walk along its chunks. @throws Error when it cannot be decoded */
export function lookAtPng(bytes: Uint8Array): Look {
  const pixels = pixelsOfPng(bytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const problems: string[] = [];
  let [ppi, profile, hasAlpha]: [number | null, string | null, boolean] = [null, null, [4, 6].includes(bytes[25])];
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const type = new TextDecoder('latin1').decode(bytes.subarray(at + 4, at + 8));
    const data = bytes.subarray(at + 8, at + 8 + length);
    if (!PLAIN.has(type)) problems.push(`holds a ${type} chunk`);
    if (type === 'tRNS') hasAlpha = true;
    if (type === 'sRGB') profile ??= 'sRGB';
    if (type === 'iCCP') {
      const end = data.indexOf(0);
      profile = profileName(inflateSync(data.subarray(end + 2)));
    }
    if (type === 'pHYs' && data[8] === 1) ppi = view.getUint32(at + 8) * METRES_PER_INCH;
    at += 12 + length;
    if (type === 'IEND' && at < bytes.length) problems.push(`${bytes.length - at} bytes follow its end`);
  }
  return { ...ofPixels(pixels), format: 'png', ppi, hasAlpha, profile, isInterlaced: bytes[28] !== 0, problems };
}

/** A PNG's pixels at 8 bits, straight alpha. @throws Error when it cannot be decoded */
export function pixelsOfPng(bytes: Uint8Array): Raster {
  const image = decode(bytes, { checkCrc: true });
  const { width, height, depth, transparency } = image;
  const isIndexed = image.palette !== undefined;
  const data = isIndexed ? convertIndexedToRgb(image) : image.data;
  const channels = isIndexed ? (image.palette?.[0].length ?? 3) : image.channels;
  const out = createRaster(width, height);
  const to8 = depth === 16 ? (v: number) => Math.round(v / 257) : (v: number) => v;
  for (let i = 0; i < width * height; i++) {
    const s = i * channels;
    const grey = channels < 3;
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = to8(data[s + (grey ? 0 : c)]);
    const alpha = channels === 2 ? data[s + 1] : channels === 4 ? data[s + 3] : null;
    const isKey = !isIndexed && transparency !== undefined && isTransparent(data, s, transparency);
    out.data[i * 4 + 3] = isKey ? 0 : alpha === null ? 255 : to8(alpha);
  }
  return out;
}

const isTransparent = (data: ArrayLike<number>, at: number, key: ArrayLike<number>) =>
  Array.from(key).every((v, c) => data[at + c] === v);
