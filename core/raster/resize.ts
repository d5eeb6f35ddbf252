import { CoreError } from '../errors';
import { linearFromSrgb, srgbFromLinear } from '../colour/srgb';
import { bytes, call, copyIn, ints, reals, roomFor, withHeap } from '../kernels/heap';
import { placeOnCanvas } from './cropRaster';
import { type Raster, checkRaster, createRaster } from './raster';

export const MAX_SIDE_PX = 16384;

/** Lanczos window of three lobes. @see C. Duchon, "Lanczos Filtering in One and Two Dimensions", 1979 */
const lanczos3 = (x: number): number => {
  if (x === 0) return 1;
  if (x <= -3 || x >= 3) return 0;
  const p = Math.PI * x;
  return (3 * Math.sin(p) * Math.sin(p / 3)) / (p * p);
};

interface Taps {
  readonly first: Int32Array;
  readonly count: Int32Array;
  readonly weights: Int32Array;
  readonly most: number;
  /** Of each output sample's taps the main lobe: from and to, counted from its first. */
  readonly lobes: Int32Array;
  /** Whether a result is kept between the least and the most of its main lobe: no rings beside an edge. */
  readonly isClamped: boolean;
}

// 16 fractional bits: the sum of one output's weights is exactly 65536, so a flat colour stays what it is.
const ONE = 65536;

/** From so many source samples for one on an average over the very area is as sharp as anything, and rings nowhere. */
const AREA_FROM = 3;

/**
 * Which source samples make one output sample, with integer weights that sum to exactly `ONE`: a windowed sinc, or, for
 * reductions to a third and less, the average over the area that the output sample covers.
 */
export function filterTaps(from: number, to: number): Taps {
  const scale = from / to;
  const stretch = Math.max(1, scale);
  const isArea = scale >= AREA_FROM;
  const reach = isArea ? scale / 2 + 1.5 : 3 * stretch;
  const most = Math.ceil(reach) * 2 + 2;
  const first = new Int32Array(to);
  const count = new Int32Array(to);
  const lobes = new Int32Array(to * 2);
  const weights = new Int32Array(to * most);
  const raw = new Float64Array(most);
  for (let o = 0; o < to; o++) {
    const centre = (o + 0.5) * scale - 0.5;
    const lo = Math.max(0, Math.ceil(centre - reach));
    const hi = Math.min(from - 1, Math.floor(centre + reach));
    let sum = 0;
    if (isArea) areaWeights(raw, { lo, hi, from: centre - scale / 2, to: centre + scale / 2 });
    else for (let s = lo; s <= hi; s++) raw[s - lo] = lanczos3((s - centre) / stretch);
    for (let s = lo; s <= hi; s++) sum += raw[s - lo];
    let given = 0;
    let largest = 0;
    const n = hi - lo + 1;
    for (let k = 0; k < n; k++) {
      const weight = Math.round((raw[k] / sum) * ONE);
      weights[o * most + k] = weight;
      given += weight;
      if (raw[k] > raw[largest]) largest = k;
    }
    weights[o * most + largest] += ONE - given;
    first[o] = lo;
    count[o] = n;
    const lobe = isArea ? reach : stretch;
    lobes[o * 2] = Math.max(0, Math.ceil(centre - lobe) - lo);
    lobes[o * 2 + 1] = Math.min(n, Math.floor(centre + lobe) - lo + 1);
  }
  return { first, count, weights, most, lobes, isClamped: true };
}

/**
 * Weights of the average over an interval. A sample that lies in it with a part of itself alone is not taken for flat:
 * it goes up or down as its neighbours do, so that an edge within it falls to the side on which it is.
 */
function areaWeights(raw: Float64Array, area: { lo: number; hi: number; from: number; to: number }): void {
  const { lo, hi } = area;
  raw.fill(0);
  for (let s = lo; s <= hi; s++) {
    // The part of the sample within the interval, from its own middle.
    const a = Math.max(-0.5, area.from - s);
    const b = Math.min(0.5, area.to - s);
    if (b <= a) continue;
    raw[s - lo] += b - a;
    const lean = (b * b - a * a) / 4;
    if (s > lo && s < hi) {
      raw[s + 1 - lo] += lean;
      raw[s - 1 - lo] -= lean;
    }
  }
}

/** Where a resized picture goes: into a transparent larger one, at whole pixels. */
export interface Canvas {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly top: number;
}

/**
 * A picture at another size, resampled premultiplied and in linear light.
 * Straight sRGB in, straight sRGB out. Flat areas keep their exact colour; nothing overshoots what lies beside it.
 * Works row by row: beside the result it takes up no more than the rows that one row of it is made of.
 * @param canvas  the page that it lies on, where it is to be larger than the picture
 * @throws CoreError 'size/impossible' for a side under 1 or over 16384 px
 */
export function resizeRaster(raster: Raster, width: number, height: number, canvas?: Canvas): Raster {
  checkRaster(raster);
  if (![width, height].every((v) => Number.isInteger(v) && v >= 1 && v <= MAX_SIDE_PX)) {
    throw new CoreError(
      'size/impossible',
      `A picture of ${width} × ${height} px cannot be made; each side must be 1 to ${MAX_SIDE_PX} px.`,
      { width, height },
    );
  }
  const page = canvas ?? { width, height, left: 0, top: 0 };
  if (width === raster.width && height === raster.height)
    return canvas
      ? placeOnCanvas(raster, page.width, page.height, page.left, page.top)
      : { width, height, data: raster.data.slice() };
  const out = createRaster(page.width, page.height);
  const across = filterTaps(raster.width, width);
  const down = filterTaps(raster.height, height);
  const rows = Math.min(down.most, raster.height);
  const wide = width * CHANNELS;
  const room = roomFor(
    ...[raster.width * 4, raster.width * CHANNELS * 4, rows * wide * 4, down.most * 4, width * 4],
    ...[raster.width * 4, width * 4],
    ...[planBytes(across), across.weights.length * 4, planBytes(down), down.weights.length * 4],
    ...[linearFromSrgb.length * 4, srgbFromLinear.length],
  );
  withHeap(room, () => {
    const pixels = bytes(raster.width * 4);
    const linear = reals(raster.width * CHANNELS);
    const ring = reals(rows * wide);
    const places = ints(down.most);
    const line = bytes(width * 4);
    const runs = ints(raster.width);
    const since = ints(width);
    const [plan, weights] = placed(across);
    const [planDown, weightsDown] = placed(down);
    const table = reals(linearFromSrgb.length);
    table.set(linearFromSrgb);
    const codes = copyIn(srgbFromLinear);
    const all = [pixels, linear, ring, places, line, runs, since, plan, weights, planDown, weightsDown, table, codes];
    call(all, [], 0, ({ k, at }) => {
      const row = {
        ...{
          pixels: at(pixels),
          width: raster.width,
          table: at(table),
          linear: at(linear),
          runs: at(runs),
          since: at(since),
        },
        ...{ plan: at(plan), weights: at(weights), most: across.most, isClamped: across.isClamped, outWidth: width },
      };
      const blend = {
        ...{ ring: at(ring), rows, width, plan: at(planDown), weights: at(weightsDown), most: down.most },
        ...{ isClamped: down.isClamped, codes: at(codes), since: at(since), places: at(places), out: at(line) },
      };
      let next = 0;
      for (let y = 0; y < height; y++) {
        for (const end = down.first[y] + down.count[y]; next < end; next++) {
          pixels.set(raster.data.subarray(next * raster.width * 4, (next + 1) * raster.width * 4));
          const placeOf = (y: number) => at(ring) + (y % rows) * wide * 4;
          k.resampleRow({ ...row, y: next, out: placeOf(next), before: next > 0 ? placeOf(next - 1) : 0 });
        }
        k.blendRows({ ...blend, row: y });
        out.data.set(line, ((page.top + y) * page.width + page.left) * 4);
      }
    });
  });
  return out;
}

/** Premultiplied linear R, G, B and alpha. */
const CHANNELS = 4;
const PLAN_FIELDS = 4;
const planBytes = ({ first }: Taps) => first.length * PLAN_FIELDS * 4;

/** Taps as the kernels read them, in their memory. */
function placed({ first, count, lobes, weights }: Taps): [plan: Int32Array, weights: Float32Array] {
  const plan = ints(first.length * PLAN_FIELDS);
  for (let o = 0; o < first.length; o++)
    plan.set([first[o], count[o], lobes[o * 2], lobes[o * 2 + 1]], o * PLAN_FIELDS);
  const own = reals(weights.length);
  for (let k = 0; k < weights.length; k++) own[k] = weights[k] / ONE;
  return [plan, own];
}
