import { crc32, deflateSync } from 'node:zlib';
import { type Raster, hasTransparency } from '../core/raster/raster';
import { fromRaw } from './decodePicture';

export interface PngOptions {
  /** No alpha is written. */
  readonly isOpaque?: boolean;
  readonly isGrey?: boolean;
  /** At most 256 colours are written as a palette where that is smaller. */
  readonly palette?: boolean;
  /** A whole sRGB profile in place of the one word. */
  readonly hasProfile?: boolean;
}

/**
 * The one way in which a PNG leaves: 8 bits, not interlaced, its colour space, a physical size only where one was asked
 * for, nothing else in it.
 * @param ppi  pixels per inch, or null for none
 */
export async function encodePng(raster: Raster, ppi: number | null = null, options: PngOptions = {}): Promise<Buffer> {
  const space = options.hasProfile ? await sRgbProfile() : sRgb();
  const chunks = [space, ...(ppi === null ? [] : [physicalSize(ppi)])];
  const { width, height } = raster;
  const isSmall = width * height < SMALL_PIXELS;
  const indexed = options.palette && !options.isGrey ? encodeIndexed(raster, chunks) : null;
  if (indexed && !isSmall) return indexed;
  let picture = fromRaw(raster);
  if (options.isOpaque || options.isGrey) picture = picture.removeAlpha();
  if (options.isGrey) picture = picture.toColourspace('b-w');
  const bytes = await picture.png({ compressionLevel: COMPRESSION, progressive: false }).toBuffer();
  const plain = withChunks(bytes, chunks);
  return indexed && indexed.length < plain.length ? indexed : plain;
}

/** Of smaller pictures a palette may be larger than what it saves. */
const SMALL_PIXELS = 40_000;
const MOST_COLOURS = 256;

/** A picture of few colours by numbers of a palette; null where there are more. */
function encodeIndexed(raster: Raster, chunks: readonly Buffer[]): Buffer | null {
  const found = indexColours(raster);
  if (!found) return null;
  const { width, height } = raster;
  const { colours, indices } = found;
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header[8] = 8;
  header[9] = 3;
  const palette = Buffer.from(colours.flatMap((c) => [c & 255, (c >> 8) & 255, (c >> 16) & 255]));
  // Colours that are see-through come first: the others are opaque without being told.
  const clear = colours.filter((c) => c >>> 24 < 255).map((c) => c >>> 24);
  const rows = Buffer.alloc((width + 1) * height);
  for (let y = 0; y < height; y++) rows.set(indices.subarray(y * width, (y + 1) * width), y * (width + 1) + 1);
  return Buffer.concat([
    SIGNATURE,
    chunk('IHDR', header),
    ...chunks,
    chunk('PLTE', palette),
    ...(clear.length > 0 ? [chunk('tRNS', Buffer.from(clear))] : []),
    chunk('IDAT', deflateSync(rows, { level: COMPRESSION })),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

const SLOTS = 2048;

/** Every pixel as the number of its colour, the faint ones first; null where there are more than 256 colours. */
function indexColours({ width, height, data }: Raster): { colours: number[]; indices: Uint8Array } | null {
  const count = width * height;
  const px = new Uint32Array(data.buffer, data.byteOffset, count);
  // An open table by colour: [colour, number + 1 …]
  const keys = new Uint32Array(SLOTS);
  const numbers = new Uint16Array(SLOTS);
  const colours: number[] = [];
  const indices = new Uint8Array(count);
  let last = px[0] ^ 1;
  for (let i = 0; i < count; i++) {
    const c = px[i];
    if (c === last) {
      indices[i] = indices[i - 1];
      continue;
    }
    last = c;
    let slot = Math.imul(c, 0x9e3779b1) >>> (32 - 11);
    while (numbers[slot] !== 0 && keys[slot] !== c) slot = (slot + 1) & (SLOTS - 1);
    if (numbers[slot] === 0) {
      if (colours.length === MOST_COLOURS) return null;
      keys[slot] = c;
      colours.push(c);
      numbers[slot] = colours.length;
    }
    indices[i] = numbers[slot] - 1;
  }
  const order = colours.map((_, k) => k).sort((a, b) => (colours[a] >>> 24) - (colours[b] >>> 24));
  const rank = new Uint8Array(MOST_COLOURS);
  order.forEach((k, n) => (rank[k] = n));
  for (let i = 0; i < count; i++) indices[i] = rank[indices[i]];
  return { colours: order.map((k) => colours[k]), indices };
}

let profile: Promise<Buffer> | null = null;
/** The sRGB profile as a chunk, as the library writes it. */
function sRgbProfile(): Promise<Buffer> {
  profile ??= fromRaw({ width: 1, height: 1, data: new Uint8Array(4) })
    .withIccProfile('srgb')
    .png()
    .toBuffer()
    .then((bytes) => {
      for (let at = 8; at + 12 <= bytes.length; at += 12 + bytes.readUInt32BE(at))
        if (bytes.toString('latin1', at + 4, at + 8) === 'iCCP')
          return Buffer.from(bytes.subarray(at, at + 12 + bytes.readUInt32BE(at)));
      throw new Error('The library wrote no profile');
    });
  return profile;
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

const SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
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

export function chunk(type: string, data: Buffer): Buffer {
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
