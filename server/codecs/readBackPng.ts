import { decode } from 'fast-png';
import { CoreError } from '../../core/errors';
import type { Raster } from '../../core/raster/raster';

/** What was read back from a PNG after writing it, by a decoder that shares no code with the encoder. */
export interface PngReceipt {
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  readonly hasAlpha: boolean;
  readonly isInterlaced: boolean;
  readonly isSrgb: boolean;
  /** Chunk types in order, so that metadata cannot hide. */
  readonly chunks: readonly string[];
  readonly clearShare: number;
}

const ALLOWED = new Set(['IHDR', 'iCCP', 'sRGB', 'gAMA', 'cHRM', 'pHYs', 'IDAT', 'IEND', 'sBIT', 'PLTE', 'tRNS', 'bKGD']);

/**
 * Reads a PNG back and compares it with what was meant.
 * @throws CoreError 'file/read-back' saying what differs
 */
export function readBackPng(bytes: Uint8Array, meant: Raster, name: string): PngReceipt {
  const fail = (what: string): never => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name });
  };
  const chunks = chunkTypes(bytes);
  const strange = chunks.find((c) => !ALLOWED.has(c));
  if (strange) fail(`it holds a ${strange} chunk`);
  const isInterlaced = bytes[28] !== 0;
  if (isInterlaced) fail('it is interlaced');
  const read = decode(bytes);
  if (read.width !== meant.width || read.height !== meant.height) fail(`${read.width} × ${read.height} px instead of ${meant.width} × ${meant.height}`);
  if (read.channels !== 4 || read.depth !== 8) fail(`${read.channels} channels of ${read.depth} bits instead of 4 of 8`);
  let clear = 0;
  for (let i = 0; i < meant.data.length; i++) {
    if (read.data[i] !== meant.data[i]) fail(`pixel ${(i >> 2) % meant.width}, ${Math.floor((i >> 2) / meant.width)} differs`);
    if ((i & 3) === 3 && meant.data[i] === 0) clear++;
  }
  return {
    width: read.width, height: read.height, bytes: bytes.length, hasAlpha: true, isInterlaced,
    isSrgb: chunks.includes('iCCP') || chunks.includes('sRGB'), chunks: [...new Set(chunks)], clearShare: clear / (read.width * read.height),
  };
}

/** The chunk types of a PNG in order (PNG specification, third edition, 5.3). */
export function chunkTypes(bytes: Uint8Array): string[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const found: string[] = [];
  for (let at = 8; at + 12 <= bytes.length; ) {
    found.push(String.fromCharCode(...bytes.subarray(at + 4, at + 8)));
    at += 12 + view.getUint32(at);
  }
  return found;
}
