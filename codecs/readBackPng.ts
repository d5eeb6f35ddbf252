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

const ALLOWED = new Set(['IHDR', 'sRGB', 'iCCP', 'pHYs', 'PLTE', 'tRNS', 'IDAT', 'IEND']);

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
  const type = bytes[25];
  if (bytes[24] !== 8 || !(type in CHANNELS)) fail(`colour type ${type} of ${bytes[24]} bits instead of ${RGBA} of 8`);
  comparePixels(bytes, meant, fail);
  return {
    width,
    height,
    bytes: bytes.length,
    hasAlpha: type === RGBA || chunks.includes('tRNS'),
    isInterlaced,
    isSrgb: chunks.includes('sRGB') || chunks.includes('iCCP'),
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
const INDEXED = 3;
const GREY = 0;
/** Samples a pixel by colour type. */
const CHANNELS: Record<number, number> = { [GREY]: 1, 2: 3, [INDEXED]: 1, [RGBA]: 4 };

/** So many bytes of rows are looked at at a time. */
const STEP_BYTES = 1 << 20;

/**
 * Compares the pixels of a PNG of 8 bits with what was meant. Reads every chunk's check sum.
 * Written from PNG specification, third edition, 9.2 (filter types) and 10; shares nothing with the encoder.
 */
function comparePixels(bytes: Uint8Array, { width, height, data }: Raster, fail: Fail): void {
  const packed = compressedPixels(bytes, fail);
  const type = bytes[25];
  const bpp = CHANNELS[type];
  const stride = width * bpp;
  const total = (stride + 1) * height;
  const meant = Buffer.from(data.buffer, data.byteOffset, data.length);
  const row = Buffer.alloc(stride + 1);
  const isPlain = type === RGBA;
  const above = Buffer.alloc(stride);
  const expand = isPlain ? null : expander(bytes, type, width, fail);
  let at = 0;
  const compareRow = (y: number) => {
    const pixels = row.subarray(1);
    // Of plain rows the one above is known to be right by now, so it is taken from what was meant.
    const before = isPlain ? meant.subarray((y - 1) * stride, y * stride) : above;
    unfilter(row[0], pixels, { above: y > 0 ? before : null, bpp }, fail);
    if (!isPlain) above.set(pixels);
    const whole = expand ? expand(pixels) : pixels;
    const [from, to] = [y * width * 4, (y + 1) * width * 4];
    if (meant.compare(whole, 0, width * 4, from, to) === 0) return;
    for (let x = 0; x < width * 4; x++) if (whole[x] !== meant[from + x]) fail(`pixel ${x >> 2}, ${y} differs`);
  };
  const take = (part: Uint8Array) => {
    if (at + part.length > total) fail(`it holds more than ${total} bytes of pixels`);
    for (let k = 0; k < part.length;) {
      const y = Math.floor(at / (stride + 1));
      const x = at - y * (stride + 1);
      const length = Math.min(stride + 1 - x, part.length - k);
      // A whole row that is not filtered is compared where it lies.
      if (
        !isPlain ||
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

/** A row of grey, of colours without alpha, or of numbers of a palette, as RGBA. */
function expander(bytes: Uint8Array, type: number, width: number, fail: Fail): (row: Uint8Array) => Uint8Array {
  const out = new Uint8Array(width * 4).fill(255);
  const palette = chunkOf(bytes, 'PLTE');
  const alpha = chunkOf(bytes, 'tRNS');
  if (type === INDEXED && !palette) fail('it has no palette');
  if (type === INDEXED && palette) {
    const pixels = new Uint32Array(out.buffer);
    const count = palette.length / 3;
    const colours = Uint32Array.from({ length: count }, (_, k) => {
      const opacity = alpha && k < alpha.length ? alpha[k] : 255;
      return (palette[k * 3] | (palette[k * 3 + 1] << 8) | (palette[k * 3 + 2] << 16) | (opacity << 24)) >>> 0;
    });
    return (row) => {
      for (let x = 0; x < width; x++) {
        if (row[x] >= count) fail('it names a colour that its palette lacks');
        pixels[x] = colours[row[x]];
      }
      return out;
    };
  }
  return (row) => {
    for (let x = 0; x < width; x++) {
      if (type === GREY) out.fill(row[x], x * 4, x * 4 + 3);
      else for (let c = 0; c < 3; c++) out[x * 4 + c] = row[x * 3 + c];
    }
    return out;
  };
}

function chunkOf(bytes: Uint8Array, type: string): Uint8Array | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  for (let at = 8; at + 12 <= bytes.length; at += 12 + view.getUint32(at))
    if (String.fromCharCode(...bytes.subarray(at + 4, at + 8)) === type)
      return bytes.subarray(at + 8, at + 8 + view.getUint32(at));
  return null;
}

interface RowBefore {
  readonly above: Uint8Array | null;
  /** Bytes a pixel. */
  readonly bpp: number;
}

function unfilter(type: number, row: Uint8Array, { above, bpp }: RowBefore, fail: Fail): void {
  if (type === 0) return;
  if (type > 4) fail(`it has a row of unknown filter type ${type}`);
  for (let x = 0; x < row.length; x++) {
    const a = x >= bpp ? row[x - bpp] : 0;
    const b = above ? above[x] : 0;
    if (type === 1) row[x] += a;
    else if (type === 2) row[x] += b;
    else if (type === 3) row[x] += (a + b) >> 1;
    else {
      const c = x >= bpp && above ? above[x - bpp] : 0;
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
