import { deltaE, oklabFromSrgb } from '../colour/oklab';
import type { Raster } from '../raster/raster';

type Lab = readonly [number, number, number];

/** A colour that a picture has flat areas of. */
export interface FlatColour {
  readonly rgb: readonly [number, number, number];
  /** Flat pixels of it. */
  readonly count: number;
}

export interface Palette {
  readonly colours: readonly FlatColour[];
  /** How many colours there are when those closer than so much are one, OKLab × 100: for a chart. */
  readonly counts: readonly { readonly at: number; readonly count: number }[];
  /** The merging distances between which the number proposed stays the same. */
  readonly steady: { readonly from: number; readonly to: number };
  /** Code values by which neighbours in flat areas differ. */
  readonly noise: number;
  /** All that are told apart at all: of a gradient its many bands. */
  readonly fine: readonly FlatColour[];
  /** 1 for every pixel of a flat inside, row-major. */
  readonly flat: Uint8Array;
}

export const MOST_COLOURS = 32;
const MOST_FINE = 64;
/** Opaque enough for its colour to be the mark's own. */
const OPAQUE = 250;
/** Neighbours in a flat area differ by no more, and by so many times the noise. */
const FLAT_STEP = 5;
const FLAT_NOISES = 3.5;
/** Colours with fewer flat pixels than this, and than this share of all, are edges of something. */
const LEAST_PIXELS = 12;
const LEAST_SHARE = 0.0001;
const LEAST_SHARE_BY_NOISE = 0.0002;
/** Colours closer than this are one in any mark; farther apart than this they are two in any. */
const LEAST_APART = 2.5;
const MOST_APART = 24;
const BITS = 4;

/**
 * The colours of a mark, from flat insides only, so that none is made up from the mixtures at edges.
 * @param wanted  so many at most; null for the number that stays the same over the widest range of merging
 */
export function findPalette(raster: Raster, wanted: number | null): Palette {
  const noise = measureNoise(raster);
  const flat = findFlat(raster, Math.max(FLAT_STEP, noise * FLAT_NOISES));
  const bins = flatBins(raster, flat);
  let total = 0;
  for (const bin of bins.values()) total += bin.count;
  const seeds = [...bins.values()]
    .map((b) => ({ count: b.count, rgb: [b.r / b.count, b.g / b.count, b.b / b.count] as const }))
    .sort((a, b) => b.count - a.count);
  const merged = mergeSeeds(seeds, LEAST_APART + noise * 0.35);
  const enough = Math.max(LEAST_PIXELS, total * (LEAST_SHARE + LEAST_SHARE_BY_NOISE * Math.min(noise, 4)));
  const large = merged.filter((c) => c.count >= enough);
  const steps = mergeDown(large.length > 0 ? large : merged.slice(0, 1));
  const most = Math.min(MOST_COLOURS, wanted ?? MOST_COLOURS);
  const proposed = wanted === null ? steadiest(steps) : null;
  const chosen = proposed ?? steps.find((s) => s.colours.length <= most) ?? steps[steps.length - 1];
  const counts = steps.map((s) => ({ at: s.from, count: s.colours.length }));
  return {
    colours: chosen.colours,
    counts,
    steady: { from: chosen.from, to: chosen.to },
    noise,
    fine: large.slice(0, MOST_FINE),
    flat,
  };
}

interface Bin {
  count: number;
  r: number;
  g: number;
  b: number;
}

/** Most neighbours in a mark are flat; of a compressed one so many are no more than noisy. */
const NOISE_SHARE = 0.85;

/**
 * The step between opaque neighbours whose colours are near that most keep to: what compression leaves in flat
 * areas.
 */
function measureNoise({ width, height, data }: Raster): number {
  const steps = new Uint32Array(64);
  let count = 0;
  for (let y = 0; y < height; y += 2) {
    for (let x = 1; x < width; x += 2) {
      const i = (y * width + x) * 4;
      if (data[i + 3] < OPAQUE || data[i - 1] < OPAQUE) continue;
      const step = Math.max(
        Math.abs(data[i] - data[i - 4]),
        Math.abs(data[i + 1] - data[i - 3]),
        Math.abs(data[i + 2] - data[i - 2]),
      );
      if (step >= 64) continue;
      steps[step]++;
      count++;
    }
  }
  let seen = 0;
  for (let s = 0; s < 64; s++) if ((seen += steps[s]) >= count * NOISE_SHARE) return s;
  return 0;
}

/** Flat pixels gathered by colour: those whose eight neighbours are opaque and of nearly the same colour. */
function flatBins({ width, height, data }: Raster, flat: Uint8Array): Map<number, Bin> {
  const bins = new Map<number, Bin>();
  const words = new Uint32Array(data.buffer, data.byteOffset, width * height);
  // A flat area is one colour, pixel after pixel.
  let last = 0;
  let bin: Bin | undefined;
  for (let p = 0, i = 0; p < width * height; p++, i += 4) {
    if (flat[p] === 0) continue;
    const r = data[i];
    const g = data[i + 1];
    const b = data[i + 2];
    if (!bin || words[p] !== last) {
      last = words[p];
      const key = ((r >> (8 - BITS)) << (2 * BITS)) | ((g >> (8 - BITS)) << BITS) | (b >> (8 - BITS));
      bin = bins.get(key);
      if (!bin) bins.set(key, (bin = { count: 0, r: 0, g: 0, b: 0 }));
    }
    bin.count++;
    bin.r += r;
    bin.g += g;
    bin.b += b;
  }
  return bins;
}

/** 1 for every pixel whose eight neighbours are opaque and nearly of its colour. */
function findFlat({ width, height, data }: Raster, step: number): Uint8Array {
  const flat = new Uint8Array(width * height);
  const words = new Uint32Array(data.buffer, data.byteOffset, width * height);
  for (let y = 1; y + 1 < height; y++) {
    for (let x = 1, p = y * width + 1; x + 1 < width; x++, p++) {
      if (data[p * 4 + 3] < OPAQUE) continue;
      const w = words[p];
      // In most of a flat area all nine are the very same.
      const isSame =
        words[p - 1] === w &&
        words[p + 1] === w &&
        words[p - width] === w &&
        words[p + width] === w &&
        words[p - width - 1] === w &&
        words[p - width + 1] === w &&
        words[p + width - 1] === w &&
        words[p + width + 1] === w;
      if (isSame || isFlat(data, p * 4, width, step)) flat[p] = 1;
    }
  }
  return flat;
}

/** Whether a pixel's eight neighbours are opaque and nearly of its colour. @param i  where its bytes begin */
function isFlat(data: Uint8Array, i: number, width: number, step: number): boolean {
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const j = i + (dy * width + dx) * 4;
      if (data[j + 3] < OPAQUE) return false;
      if (Math.abs(data[j] - data[i]) > step) return false;
      if (Math.abs(data[j + 1] - data[i + 1]) > step) return false;
      if (Math.abs(data[j + 2] - data[i + 2]) > step) return false;
    }
  }
  return true;
}

const labOf = (rgb: readonly number[]): Lab =>
  oklabFromSrgb(Math.round(rgb[0]), Math.round(rgb[1]), Math.round(rgb[2]));

/** Puts every seed to the largest one near it. */
function mergeSeeds(seeds: readonly FlatColour[], apart: number): FlatColour[] {
  const out: { lab: Lab; count: number; sum: [number, number, number] }[] = [];
  for (const seed of seeds) {
    const lab = labOf(seed.rgb);
    const near = out.find((o) => deltaE(o.lab, lab) < apart);
    const add = (c: 0 | 1 | 2) => seed.rgb[c] * seed.count;
    if (near) {
      near.count += seed.count;
      for (const c of [0, 1, 2] as const) near.sum[c] += add(c);
    } else out.push({ lab, count: seed.count, sum: [add(0), add(1), add(2)] });
  }
  return out.map(({ count, sum }) => ({ count, rgb: [sum[0] / count, sum[1] / count, sum[2] / count] }));
}

interface Step {
  readonly colours: readonly FlatColour[];
  /** The merging distances at which these are the colours. */
  readonly from: number;
  readonly to: number;
}

/** Merges the two nearest colours again and again: which colours there are at every merging distance. */
function mergeDown(start: readonly FlatColour[]): Step[] {
  const steps: Step[] = [];
  let colours = [...start];
  let from = 0;
  for (;;) {
    const labs = colours.map((c) => labOf(c.rgb));
    let [a, b, least] = [0, 0, Infinity];
    for (let i = 0; i < colours.length; i++) {
      for (let j = i + 1; j < colours.length; j++) {
        const d = deltaE(labs[i], labs[j]);
        if (d < least) [a, b, least] = [i, j, d];
      }
    }
    steps.push({ colours, from, to: Math.max(from, least) });
    if (colours.length < 2) return steps;
    from = Math.max(from, least);
    // The smaller one goes into the larger: a mean of both would be a colour that is nowhere.
    const [large, small] = colours[a].count >= colours[b].count ? [a, b] : [b, a];
    const count = colours[a].count + colours[b].count;
    colours = colours.map((c, k) => (k === large ? { ...c, count } : c)).filter((_, k) => k !== small);
  }
}

/** The number of colours that stays over the widest range of distances, by ratio. */
function steadiest(steps: readonly Step[]): Step {
  let [best, widest] = [steps[0], 0];
  for (const step of steps) {
    const from = Math.max(LEAST_APART, step.from);
    const to = Math.min(MOST_APART, step.to);
    if (step.colours.length > MOST_COLOURS || to <= from) continue;
    const width = Math.log(to / from);
    if (width > widest) [best, widest] = [step, width];
  }
  return best;
}
