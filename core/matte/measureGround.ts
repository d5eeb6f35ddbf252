import { DEVIATION_OF_MEDIAN } from '../statistics';
import type { Raster } from '../raster/raster';
import type { Rgb } from '../colour/hex';
import { type GroundPlane, planeOfChecker, planeOfColours } from './groundPlane';
import { type Checker, measureChecker } from './measureChecker';

/** Border pixels further off the surface than this many deviations belong to the mark. */
const DEVIATIONS = 3.5;
/** The border that is looked at, as a share of the shorter side. */
const BAND_SHARE = 0.012;

/**
 * The flat ground of a picture as measured at its border.
 * `surface` holds six coefficients a channel for 1, u, v, u², uv, v² with u, v in −0.5..0.5 across the picture,
 * or null where the ground is one colour throughout.
 */
export interface Ground {
  readonly colour: Rgb;
  /** Robust standard deviation of the ground's own pixels, code values. */
  readonly noise: number;
  /** How far the ground's colour drifts across the picture, code values. */
  readonly drift: number;
  /** Share of the border that is ground, 0..1. */
  readonly share: number;
  readonly surface: readonly Float64Array[] | null;
  /** Set where the ground is no one colour: a baked-in checker, or several colours picked by a person. */
  readonly plane?: GroundPlane;
  readonly checker?: Checker;
  /** Set when coordinates are those of a region: where the region lies, and the size that the surface spans. */
  readonly frame?: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

const MAX_SAMPLES = 6000;
/** Border samples within this many code values of the commonest colour may belong to the ground. */
const CAPTURE = 40;
/**
 * Further than this from the ground's colour, code values, a pixel has strayed; so large a share of strays asks for a
 * surface.
 */
const STRAY = 1.5;
const MOST_STRAYS = 0.02;
/** What counts as ground lies within four deviations, and at least within so many code values. */
const LEAST_BOUND = 6;
/** A drift below this cannot be told from compression, so one colour serves. */
const LEAST_DRIFT = 2.5;

/**
 * Measures the ground from a band along the border: commonest colour, slow drift, noise and share.
 * Never fails: a picture without a flat ground comes back with a small `share` or a large `noise`.
 * @param raster  opaque picture, at least 1 px each way; not changed
 */
export function measureGround(raster: Raster): Ground {
  const known = measured.get(raster);
  if (known) return known;
  const ground = measureBorder(raster);
  measured.set(raster, ground);
  return ground;
}

// A picture at rest is not changed, and is asked about by more than one step.
const measured = new WeakMap<Raster, Ground>();

function measureBorder(raster: Raster): Ground {
  const { width, height, data } = raster;
  const at = borderSamples(width, height);
  const clean = measureClean(raster, at);
  if (clean) return clean;
  const mode = commonestColour(data, at);
  const near = at.filter((i) => distance(data, i, mode) <= CAPTURE);
  const centre = [0, 1, 2].map((c) => median(near.map((i) => data[i * 4 + c])));
  let kept = near;
  let surface: Float64Array[] | null = null;
  // A border in one colour but for a few pixels of the mark needs no surface: most clean files end here.
  const strays = near.filter((i) => distance(data, i, centre) > STRAY).length;
  const isPlain = strays <= near.length * MOST_STRAYS;
  for (let round = 0; round < 3 && !isPlain; round++) {
    surface = fitSurfaces(kept, width, height, data);
    const off = residuals(near, data, width, height, surface);
    const limit = Math.max(3, DEVIATIONS * DEVIATION_OF_MEDIAN * median(off));
    const next = near.filter((_, k) => off[k] <= limit);
    if (next.length < 24) break;
    kept = next;
  }
  const drift = surface ? surfaceRange(surface) : 0;
  const isFlat = drift < LEAST_DRIFT || kept.length < 200;
  const model = isFlat ? null : surface;
  const off = model ? residuals(near, data, width, height, model) : near.map((i) => distance(data, i, centre));
  const noise = DEVIATION_OF_MEDIAN * median(off);
  const bound = Math.max(LEAST_BOUND, 4 * noise);
  const share = off.filter((d) => d <= bound).length / at.length;
  const plain: Ground = { colour: centre.map(Math.round) as unknown as Rgb, noise, drift, share, surface: model };
  const checker = share < CHECKER_BELOW || noise > CHECKER_FROM_NOISE ? measureChecker(raster, at) : null;
  return checker ? groundOfChecker(raster, checker, at) : plain;
}

/** A border in one colour by this much holds no checker. */
const CHECKER_BELOW = 0.8;
const CHECKER_FROM_NOISE = 6;

function groundOfChecker(raster: Raster, checker: Checker, at: number[]): Ground {
  const plane = planeOfChecker(checker, raster.width, raster.height);
  const off = at.map((i) => distance(raster.data, i, plane.data.subarray(i * 3, i * 3 + 3)));
  const noise = DEVIATION_OF_MEDIAN * median(off);
  return {
    colour: checker.colours[0],
    noise,
    drift: 0,
    share: off.filter((d) => d <= Math.max(8, 4 * noise)).length / at.length,
    surface: null,
    plane,
    checker,
  };
}

/** Several grounds picked by a person. @param colours  two or more */
export function groundOfColours(raster: Raster, colours: readonly Rgb[], measured: Ground): Ground {
  return {
    colour: colours[0],
    noise: measured.noise,
    drift: 0,
    share: measured.share,
    surface: null,
    plane: planeOfColours(raster, colours),
  };
}

/** A ground given by a person as one colour: no drift, and the noise that the border shows about it. */
export function groundOfColour(colour: Rgb, measured: Ground): Ground {
  const isSame = Math.max(...colour.map((v, c) => Math.abs(v - measured.colour[c]))) <= 6;
  return isSame ? measured : { colour, noise: measured.noise, drift: 0, share: measured.share, surface: null };
}

/** The ground's colour at one pixel, not rounded. */
export function groundAt(
  ground: Ground,
  x: number,
  y: number,
  width: number,
  height: number,
): [number, number, number] {
  const { surface, colour, frame, plane } = ground;
  if (plane) {
    const s = ((frame ? y + frame.y : y) * plane.width + (frame ? x + frame.x : x)) * 3;
    return [plane.data[s], plane.data[s + 1], plane.data[s + 2]];
  }
  if (!surface) return [colour[0], colour[1], colour[2]];
  const u = (frame ? (x + frame.x) / frame.width : x / width) - 0.5;
  const v = (frame ? (y + frame.y) / frame.height : y / height) - 0.5;
  const value = (k: Float64Array) =>
    Math.min(255, Math.max(0, k[0] + k[1] * u + k[2] * v + k[3] * u * u + k[4] * u * v + k[5] * v * v));
  return [value(surface[0]), value(surface[1]), value(surface[2])];
}

const distance = (data: Uint8Array, i: number, c: ArrayLike<number>): number =>
  Math.max(Math.abs(data[i * 4] - c[0]), Math.abs(data[i * 4 + 1] - c[1]), Math.abs(data[i * 4 + 2] - c[2]));

// Every so many pixels of the band, row by row.
function borderSamples(width: number, height: number): number[] {
  const band = Math.max(1, Math.min(12, Math.round(Math.min(width, height) * BAND_SHARE)));
  const total = 2 * band * (width + height);
  const stride = Math.max(1, Math.floor(total / MAX_SAMPLES));
  const out: number[] = [];
  let skip = 0;
  for (let y = 0; y < height; y++) {
    const isWhole = y < band || y >= height - band || width <= 2 * band;
    const length = isWhole ? width : 2 * band;
    let k = skip;
    for (; k < length; k += stride) out.push(y * width + (isWhole || k < band ? k : width - length + k));
    skip = k - length;
  }
  return out;
}

/** Of the border's pixels all but so many are of one colour exactly in a clean file. */
const CLEAN_SHARE = 0.98;

/** What the whole measurement comes to where hardly a pixel of the border strays, or null where more do. */
function measureClean({ width, height, data }: Raster, at: readonly number[]): Ground | null {
  const px = new Int32Array(data.buffer, data.byteOffset, width * height);
  const value = px[at[at.length >> 1]];
  const colour = [value & 255, (value >> 8) & 255, (value >> 16) & 255] as const;
  let same = 0;
  let near = 0;
  let ground = 0;
  let strays = 0;
  for (const i of at) {
    if (px[i] === value) same++;
    else {
      const d = distance(data, i, colour);
      if (d > CAPTURE) continue;
      near++;
      if (d <= LEAST_BOUND) ground++;
      if (d > STRAY) strays++;
    }
  }
  if (same < at.length * CLEAN_SHARE || strays > (same + near) * MOST_STRAYS) return null;
  return { colour, noise: 0, drift: 0, share: (same + ground) / at.length, surface: null };
}

function commonestColour(data: Uint8Array, at: number[]): [number, number, number] {
  const count = new Uint32Array(4096);
  const key = (i: number) => ((data[i * 4] >> 4) << 8) | ((data[i * 4 + 1] >> 4) << 4) | (data[i * 4 + 2] >> 4);
  for (const i of at) count[key(i)]++;
  // A ground may straddle two bins in each channel, so a bin is judged together with its neighbours.
  let best = 0;
  let bestSum = -1;
  for (let k = 0; k < 4096; k++) {
    if (count[k] === 0) continue;
    let sum = count[k] * 2;
    for (const step of [1, -1, 16, -16, 256, -256]) if (k + step >= 0 && k + step < 4096) sum += count[k + step];
    if (sum > bestSum) [best, bestSum] = [k, sum];
  }
  const inBin = at.filter((i) => key(i) === best);
  return [0, 1, 2].map((c) => median(inBin.map((i) => data[i * 4 + c]))) as [number, number, number];
}

export function median(values: number[]): number {
  if (values.length === 0) return 0;
  const sorted = Float64Array.from(values).sort();
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
}

// Least squares by the normal equations; six unknowns, well scaled by u, v in −0.5..0.5. The products are the same for
// all channels.
function fitSurfaces(at: readonly number[], width: number, height: number, data: Uint8Array): Float64Array[] {
  const UNKNOWNS = 6;
  const products = new Float64Array(UNKNOWNS * UNKNOWNS);
  const values = new Float64Array(UNKNOWNS * 3);
  const basis = new Float64Array(UNKNOWNS).fill(1);
  for (let k = 0; k < at.length; k++) {
    const i = at[k];
    const u = (i % width) / width - 0.5;
    const v = Math.floor(i / width) / height - 0.5;
    basis[1] = u;
    basis[2] = v;
    basis[3] = u * u;
    basis[4] = u * v;
    basis[5] = v * v;
    for (let r = 0; r < UNKNOWNS; r++) {
      for (let c = 0; c < UNKNOWNS; c++) products[r * UNKNOWNS + c] += basis[r] * basis[c];
      for (let c = 0; c < 3; c++) values[c * UNKNOWNS + r] += basis[r] * data[i * 4 + c];
    }
  }
  return [0, 1, 2].map((channel) =>
    solve(
      Array.from({ length: UNKNOWNS }, (_, r) => {
        const row = Float64Array.of(
          ...products.subarray(r * UNKNOWNS, (r + 1) * UNKNOWNS),
          values[channel * UNKNOWNS + r],
        );
        row[r] += 1e-9 * at.length + 1e-12; // a border all in one row leaves some terms free
        return row;
      }),
    ),
  );
}

function solve(A: Float64Array[]): Float64Array {
  const n = A.length;
  for (let p = 0; p < n; p++) {
    let pivot = p;
    for (let r = p + 1; r < n; r++) if (Math.abs(A[r][p]) > Math.abs(A[pivot][p])) pivot = r;
    [A[p], A[pivot]] = [A[pivot], A[p]];
    for (let r = 0; r < n; r++) {
      if (r === p) continue;
      const f = A[r][p] / A[p][p];
      for (let c = p; c <= n; c++) A[r][c] -= f * A[p][c];
    }
  }
  return Float64Array.from({ length: n }, (_, r) => A[r][n] / A[r][r]);
}

function residuals(
  at: number[],
  data: Uint8Array,
  width: number,
  height: number,
  surface: readonly Float64Array[],
): number[] {
  const model = { colour: [0, 0, 0] as const, noise: 0, drift: 0, share: 0, surface };
  return at.map((i) => distance(data, i, groundAt(model, i % width, Math.floor(i / width), width, height)));
}

function surfaceRange(surface: readonly Float64Array[]): number {
  let range = 0;
  for (const k of surface) {
    let lo = Infinity;
    let hi = -Infinity;
    for (let a = 0; a <= 8; a++) {
      for (let b = 0; b <= 8; b++) {
        if (a > 0 && a < 8 && b > 0 && b < 8) continue; // the border is all that was measured
        const u = a / 8 - 0.5;
        const v = b / 8 - 0.5;
        const z = k[0] + k[1] * u + k[2] * v + k[3] * u * u + k[4] * u * v + k[5] * v * v;
        lo = Math.min(lo, z);
        hi = Math.max(hi, z);
      }
    }
    range = Math.max(range, hi - lo);
  }
  return range;
}
