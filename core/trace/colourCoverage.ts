import type { Raster } from '../raster/raster';
import type { FlatColour, Palette } from './findPalette';

/** How much of every pixel each colour of a palette covers, 0 to 255, row-major; together the pixel's alpha. */
export interface ColourCoverage {
  readonly planes: readonly Uint8Array[];
  /** The colour that covers most of each pixel; 255 for hardly any. */
  readonly labels: Uint8Array;
  /** 1 for pixels of flat insides. */
  readonly flat: Uint8Array;
  /** The commonest colour of opaque pixels that no mixture of the palette's explains; null where there are too few. */
  readonly missing: FlatColour | null;
  /** Code values by which colours waver where but one is about. */
  readonly noise: number;
}

/** How far round a pixel the flat colours lie that may meet in it. */
const REACH = 2;
/** A mixture this near to what is seen, code values, explains it; compression adds its noise. */
const NEAR = 10;
const NOISES = 1.5;
const NONE = 255;
/** The label of a pixel that no colour covers enough to take part in pieces. */
export const NO_COLOUR = NONE;
/** Covered at least so much, of 255, a pixel takes part in pieces. */
const SEEN = 48;

/**
 * Every edge pixel unmixed between the flat colours beside it; where these do not explain it, between one of them and
 * any other of the palette, as for strokes too thin to be flat anywhere.
 */
export function colourCoverage(raster: Raster, palette: Palette): ColourCoverage {
  const { colours, noise: flatNoise } = palette;
  const { width, height, data } = raster;
  const n = width * height;
  const planes = colours.map(() => new Uint8Array(n));
  const flat = labelFlat(raster, palette);
  const labels = flat.slice();
  const rgb = colours.map((c) => c.rgb);
  const noise = Math.max(flatNoise, measureRinging(raster, palette.flat, flat, rgb));
  const limit = (NEAR + NOISES * noise) ** 2;
  const strange = new Map<number, Bin>();
  // The bin of every strange pixel, and one more; 0 for the others.
  const binOf = new Uint16Array(n);
  const beside: number[] = [];
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      const alpha = data[p * 4 + 3];
      if (alpha === 0) continue;
      if (flat[p] !== NONE) {
        planes[flat[p]][p] = alpha;
        continue;
      }
      beside.length = 0;
      for (let dy = -REACH; dy <= REACH; dy++) {
        for (let dx = -REACH; dx <= REACH; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const label = flat[ny * width + nx];
          if (label !== NONE && !beside.includes(label)) beside.push(label);
        }
      }
      const seen: Rgb = [data[p * 4], data[p * 4 + 1], data[p * 4 + 2]];
      let best = mix(seen, rgb, beside, beside);
      if (!best || best.off > limit) {
        const all = rgb.map((_, k) => k);
        const other = mix(seen, rgb, beside.length > 0 ? beside : all, all);
        if (other && (!best || other.off < best.off)) best = other;
        if (best && best.off > limit * STRANGE && alpha === 255) gather(strange, seen, { binOf, p, width });
      }
      if (!best) continue;
      const first = Math.round(alpha * snapped(best, rgb, noise));
      if (alpha >= SEEN) labels[p] = first * 2 >= alpha ? best.a : best.b;
      planes[best.a][p] = first;
      if (best.b !== best.a) planes[best.b][p] = alpha - first;
    }
  }
  return { planes, missing: commonest(strange), noise, labels, flat: palette.flat };
}

/** Squared so many times farther off than noise takes a colour, it is one of its own. */
const STRANGE = 4;
/** Fewer pixels of a colour that lie together, two by two, are an edge's, whose colours compression has mixed. */
const LEAST_MISSING = 14;
const BITS = 3;

interface Bin {
  count: number;
  /** Pixels whose neighbours to the left, above and between are of the bin too. */
  together: number;
  readonly sum: [number, number, number];
}

interface Strange {
  readonly binOf: Uint16Array;
  readonly p: number;
  readonly width: number;
}

function gather(bins: Map<number, Bin>, [r, g, b]: Rgb, { binOf, p, width }: Strange): void {
  const shift = 8 - BITS;
  const key = ((r >> shift) << (2 * BITS)) | ((g >> shift) << BITS) | (b >> shift);
  let bin = bins.get(key);
  if (!bin) bins.set(key, (bin = { count: 0, together: 0, sum: [0, 0, 0] }));
  bin.count++;
  const own = (binOf[p] = key + 1);
  if (p > width && binOf[p - 1] === own && binOf[p - width] === own && binOf[p - width - 1] === own) bin.together++;
  bin.sum[0] += r;
  bin.sum[1] += g;
  bin.sum[2] += b;
}

function commonest(bins: ReadonlyMap<number, Bin>): FlatColour | null {
  let best: Bin | null = null;
  for (const bin of bins.values()) if (!best || bin.together > best.together) best = bin;
  if (!best || best.together < LEAST_MISSING) return null;
  const { sum, count } = best;
  return { count, rgb: [sum[0] / count, sum[1] / count, sum[2] / count] };
}

/** A share of one of two colours, whole where the rest is within the noise. */
function snapped({ a, b, share }: Mixture, rgb: readonly Rgb[], noise: number): number {
  const apart = Math.hypot(rgb[a][0] - rgb[b][0], rgb[a][1] - rgb[b][1], rgb[a][2] - rgb[b][2]);
  const slack = Math.min(0.4, (SNAP_NOISES * noise) / Math.max(1, apart));
  return share < slack ? 0 : share > 1 - slack ? 1 : share;
}
const SNAP_NOISES = 1.5;

type Rgb = readonly [number, number, number];

/** Of every so many pixels one is looked at. */
const RINGING_STRIDE = 3;
const RINGING_SHARE = 0.9;
const MOST_RINGING = 48;

/**
 * How far colours waver where only one flat colour and nothing clear is near: beside an edge of a compressed picture,
 * where flat areas themselves tell of no noise.
 */
function measureRinging(
  { width, height, data }: Raster,
  isFlat: Uint8Array,
  flat: Uint8Array,
  rgb: readonly Rgb[],
): number {
  const counts = new Uint32Array(MOST_RINGING + 1);
  let total = 0;
  for (let y = REACH; y + REACH < height; y += RINGING_STRIDE) {
    for (let x = REACH; x + REACH < width; x += RINGING_STRIDE) {
      const p = y * width + x;
      // What is flat and of no colour of the palette is on the way of a gradient.
      if (data[p * 4 + 3] < 255 || isFlat[p] === 1) continue;
      let label = NONE;
      let isAlone = true;
      for (let dy = -REACH; dy <= REACH && isAlone; dy++) {
        for (let dx = -REACH; dx <= REACH; dx++) {
          const q = p + dy * width + dx;
          if (data[q * 4 + 3] < 255 || (flat[q] !== NONE && label !== NONE && flat[q] !== label)) isAlone = false;
          if (flat[q] !== NONE) label = flat[q];
        }
      }
      if (!isAlone || label === NONE) continue;
      const off = Math.max(...rgb[label].map((v, c) => Math.abs(v - data[p * 4 + c])));
      if (off > MOST_RINGING) continue;
      counts[Math.floor(off)]++;
      total++;
    }
  }
  let seen = 0;
  for (let v = 0; v <= MOST_RINGING; v++) if ((seen += counts[v]) >= total * RINGING_SHARE) return total > 20 ? v : 0;
  return 0;
}

/** Flat pixels near a colour of the palette: its number, else 255. */
export function labelFlat({ width, height, data }: Raster, { flat, colours, noise }: Palette): Uint8Array {
  const labels = new Uint8Array(width * height).fill(NONE);
  const words = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const limit = (NEAR + NOISES * noise + 6) ** 2;
  // A flat area is one colour, pixel after pixel.
  let last = 0;
  let label = NONE;
  for (let p = 0; p < labels.length; p++) {
    if (flat[p] === 0) continue;
    if (words[p] !== last) {
      last = words[p];
      label = NONE;
      let least = limit;
      for (let k = 0; k < colours.length; k++) {
        const [r, g, b] = colours[k].rgb;
        const off = (data[p * 4] - r) ** 2 + (data[p * 4 + 1] - g) ** 2 + (data[p * 4 + 2] - b) ** 2;
        if (off < least) [label, least] = [k, off];
      }
    }
    labels[p] = label;
  }
  return labels;
}

interface Mixture {
  readonly a: number;
  readonly b: number;
  /** Of a; the rest is b. */
  readonly share: number;
  /** Squared distance from what is seen. */
  readonly off: number;
}

/** The pair, one of each list, whose mixture is nearest to a colour; mixed in sRGB code values, as programs do. */
function mix(seen: Rgb, rgb: readonly Rgb[], firsts: readonly number[], seconds: readonly number[]): Mixture | null {
  let best: Mixture | null = null;
  for (const a of firsts) {
    for (const b of seconds) {
      if (seconds === firsts && b < a) continue;
      const [pa, pb] = [rgb[a], rgb[b]];
      const [dx, dy, dz] = [pa[0] - pb[0], pa[1] - pb[1], pa[2] - pb[2]];
      const square = dx * dx + dy * dy + dz * dz;
      const along = (seen[0] - pb[0]) * dx + (seen[1] - pb[1]) * dy + (seen[2] - pb[2]) * dz;
      const share = square === 0 ? 1 : Math.max(0, Math.min(1, along / square));
      const off =
        (seen[0] - pb[0] - share * dx) ** 2 + (seen[1] - pb[1] - share * dy) ** 2 + (seen[2] - pb[2] - share * dz) ** 2;
      if (!best || off < best.off) best = { a, b, share, off };
    }
  }
  return best;
}
