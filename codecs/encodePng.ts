import { crc32 } from 'node:zlib';
import { type Raster, hasTransparency } from '../core/raster/raster';
import { fromRaw } from './decodePicture';

/**
 * The one way in which a PNG leaves: RGBA of 8 bits, not interlaced, an sRGB chunk, a physical size only where one was
 * asked for, nothing else in it.
 * @param ppi  pixels per inch, or null for none
 */
export async function encodePng(raster: Raster, ppi: number | null = null): Promise<Buffer> {
  const bytes = await fromRaw(raster).png({ compressionLevel: COMPRESSION, progressive: false }).toBuffer();
  return withChunks(bytes, [sRgb(), ...(ppi === null ? [] : [physicalSize(ppi)])]);
}

/**
 * Of zlib's levels the one before they become slow: half the size of level 6 on flat marks, at most a quarter more than
 * 9 (docs/adr/0014).
 */
export const COMPRESSION = 7;

/** A working picture: lossless, fast to write; the alpha channel only where it holds something. */
export function encodeWorkingPng(raster: Raster): Promise<Buffer> {
  const picture = fromRaw(raster);
  return (hasTransparency(raster) ? picture : picture.removeAlpha())
    .png({ compressionLevel: 1, adaptiveFiltering: false, progressive: false })
    .toBuffer();
}

const INCHES_PER_METRE = 1 / 0.0254;
const SIGNATURE_AND_HEADER = 8 + 12 + 13;

// PNG specification, third edition, 11.3.2.5: rendering intent 0, perceptual.
const sRgb = () => chunk('sRGB', Buffer.from([0]));

// 11.3.4.3: pixels per metre across and down, and that the unit is the metre.
function physicalSize(ppi: number): Buffer {
  const data = Buffer.alloc(9);
  const perMetre = Math.round(ppi * INCHES_PER_METRE);
  data.writeUInt32BE(perMetre, 0);
  data.writeUInt32BE(perMetre, 4);
  data[8] = 1;
  return chunk('pHYs', data);
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length, 0);
  body.copy(out, 4);
  out.writeUInt32BE(crc32(body), body.length + 4);
  return out;
}

// The encoder adds a physical size of its own that nobody asked for: only what makes the picture is taken over.
function withChunks(bytes: Buffer, chunks: readonly Buffer[]): Buffer {
  const parts = [bytes.subarray(0, SIGNATURE_AND_HEADER), ...chunks];
  for (let at = SIGNATURE_AND_HEADER; at + 12 <= bytes.length;) {
    const end = at + 12 + bytes.readUInt32BE(at);
    const type = bytes.toString('latin1', at + 4, at + 8);
    if (type === 'IDAT' || type === 'IEND') parts.push(bytes.subarray(at, end));
    at = end;
  }
  return Buffer.concat(parts);
}
