import { crc32 } from 'node:zlib';
import { CoreError, isCoreError } from '../core/errors';
import type { Raster } from '../core/raster/raster';
import { unpackInSteps } from './unpackInSteps';

/** What was read back from a PNG after writing it, by a decoder that shares no code with the encoder. */
export interface PngReceipt {
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  readonly hasAlpha: boolean;
  readonly isInterlaced: boolean;
  readonly isSrgb: boolean;
  /** Pixels per inch where it claims a physical size. */
  readonly ppi: number | null;
  /** Chunk types in order, so that metadata cannot hide. */
  readonly chunks: readonly string[];
}

const ALLOWED = new Set(['IHDR', 'sRGB', 'pHYs', 'IDAT', 'IEND']);

type Fail = (what: string) => never;

/**
 * Reads a PNG back and compares it with what was meant.
 * @throws CoreError 'file/read-back' saying what differs
 */
export function readBackPng(bytes: Uint8Array, meant: Raster, name: string): PngReceipt {
  const fail: Fail = (what) => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name });
  };
  const chunks = chunkTypes(bytes);
  const strange = chunks.find((c) => !ALLOWED.has(c));
  if (strange) fail(`it holds a ${strange} chunk`);
  const isInterlaced = bytes[28] !== 0;
  if (isInterlaced) fail('it is interlaced');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const [width, height] = [view.getUint32(16), view.getUint32(20)];
  if (width !== meant.width || height !== meant.height)
    fail(`${width} × ${height} px instead of ${meant.width} × ${meant.height}`);
  if (bytes[24] !== 8 || bytes[25] !== RGBA)
    fail(`colour type ${bytes[25]} of ${bytes[24]} bits instead of ${RGBA} of 8`);
  comparePixels(bytes, meant, fail);
  return {
    width,
    height,
    bytes: bytes.length,
    hasAlpha: true,
    isInterlaced,
    isSrgb: chunks.includes('sRGB'),
    ppi: physicalSize(view),
    chunks: [...new Set(chunks)],
  };
}

// pHYs: pixels per metre across and down, and a unit that must be the metre.
function physicalSize(view: DataView): number | null {
  for (let at = 8; at + 12 <= view.byteLength; at += 12 + view.getUint32(at)) {
    if (view.getUint32(at + 4) === 0x70485973) return view.getUint32(at + 8) * METRES_PER_INCH;
  }
  return null;
}
const METRES_PER_INCH = 0.0254;

const RGBA = 6;

/** So many bytes of rows are looked at at a time. */
const STEP_BYTES = 1 << 20;

/**
 * Compares the pixels of a PNG of 8-bit RGBA with what was meant. Reads every chunk's check sum.
 * Written from PNG specification, third edition, 9.2 (filter types) and 10; shares nothing with the encoder.
 */
function comparePixels(bytes: Uint8Array, { width, height, data }: Raster, fail: Fail): void {
  const packed = compressedPixels(bytes, fail);
  const stride = width * 4;
  const total = (stride + 1) * height;
  const meant = Buffer.from(data.buffer, data.byteOffset, data.length);
  const row = Buffer.alloc(stride + 1);
  let at = 0;
  const compareRow = (y: number) => {
    const pixels = row.subarray(1);
    unfilter(row[0], pixels, y > 0 ? meant.subarray((y - 1) * stride, y * stride) : null, fail);
    if (meant.compare(pixels, 0, stride, y * stride, (y + 1) * stride) === 0) return;
    for (let x = 0; x < stride; x++) if (pixels[x] !== meant[y * stride + x]) fail(`pixel ${x >> 2}, ${y} differs`);
  };
  const take = (part: Uint8Array) => {
    if (at + part.length > total) fail(`it holds more than ${total} bytes of pixels`);
    for (let k = 0; k < part.length;) {
      const y = Math.floor(at / (stride + 1));
      const x = at - y * (stride + 1);
      const length = Math.min(stride + 1 - x, part.length - k);
      // A whole row that is not filtered is compared where it lies.
      if (
        length <= stride ||
        part[k] !== 0 ||
        meant.compare(part, k + 1, k + 1 + stride, y * stride, (y + 1) * stride) !== 0
      ) {
        row.set(part.subarray(k, k + length), x);
        if (x + length > stride) compareRow(y);
      }
      k += length;
      at += length;
    }
  };
  try {
    unpackInSteps(packed, Math.min(STEP_BYTES, total + 1), total + 1, take);
  } catch (cause) {
    if (isCoreError(cause)) throw cause;
    fail(`its pixels cannot be unpacked (${(cause as Error).message})`);
  }
  if (at !== total) fail(`it holds ${at} bytes of pixels instead of ${total}`);
}

function compressedPixels(bytes: Uint8Array, fail: Fail): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const parts: Uint8Array[] = [];
  for (let at = 8; at + 12 <= bytes.length; at += 12 + view.getUint32(at)) {
    const end = at + 8 + view.getUint32(at);
    if (end + 4 > bytes.length) fail('it ends early');
    if (crc32(bytes.subarray(at + 4, end)) !== view.getUint32(end)) fail('a check sum is wrong');
    if (view.getUint32(at + 4) === 0x49444154) parts.push(bytes.subarray(at + 8, end));
  }
  return parts.length === 1 ? parts[0] : Buffer.concat(parts);
}

// The row above is known to be right by the time it is needed, so it is taken from what was meant.
function unfilter(type: number, row: Uint8Array, above: Uint8Array | null, fail: Fail): void {
  if (type === 0) return;
  if (type > 4) fail(`it has a row of unknown filter type ${type}`);
  for (let x = 0; x < row.length; x++) {
    const a = x >= 4 ? row[x - 4] : 0;
    const b = above ? above[x] : 0;
    if (type === 1) row[x] += a;
    else if (type === 2) row[x] += b;
    else if (type === 3) row[x] += (a + b) >> 1;
    else {
      const c = x >= 4 && above ? above[x - 4] : 0;
      const p = a + b - c;
      const [pa, pb, pc] = [Math.abs(p - a), Math.abs(p - b), Math.abs(p - c)];
      row[x] += pa <= pb && pa <= pc ? a : pb <= pc ? b : c;
    }
  }
}

/** The chunk types of a PNG in order (PNG specification, third edition, 5.3). */
export function chunkTypes(bytes: Uint8Array): string[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const found: string[] = [];
  for (let at = 8; at + 12 <= bytes.length;) {
    found.push(String.fromCharCode(...bytes.subarray(at + 4, at + 8)));
    at += 12 + view.getUint32(at);
  }
  return found;
}

/** Share of a picture that is fully see-through, 0..1. */
export function clearShare({ data, width, height }: Raster): number {
  const px = new Int32Array(data.buffer, data.byteOffset, width * height);
  let clear = 0;
  for (let i = 0; i < px.length; i++) if (px[i] >>> 24 === 0) clear++;
  return clear / px.length;
}
