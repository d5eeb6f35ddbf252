import { CoreError } from '../errors';
import { LINEAR_MAX, linearFromSrgb, srgbFromLinear } from '../colour/srgb';
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
  first: Int32Array;
  count: Int32Array;
  weights: Int32Array;
  most: number;
}

// 16 fractional bits: the sum of one output's weights is exactly 65536, so a flat colour stays what it is.
const ONE = 65536;

/** Which source samples make one output sample, with integer weights that sum to exactly `ONE`. */
export function filterTaps(from: number, to: number): Taps {
  const scale = from / to;
  const stretch = Math.max(1, scale);
  const reach = 3 * stretch;
  const most = Math.ceil(reach) * 2 + 2;
  const first = new Int32Array(to);
  const count = new Int32Array(to);
  const weights = new Int32Array(to * most);
  const raw = new Float64Array(most);
  for (let o = 0; o < to; o++) {
    const centre = (o + 0.5) * scale - 0.5;
    const lo = Math.max(0, Math.ceil(centre - reach));
    const hi = Math.min(from - 1, Math.floor(centre + reach));
    let sum = 0;
    for (let s = lo; s <= hi; s++) sum += raw[s - lo] = lanczos3((s - centre) / stretch);
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
  }
  return { first, count, weights, most };
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
 * Straight sRGB in, straight sRGB out. Flat areas keep their exact colour; alpha never overshoots its range.
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
  const { first, count, weights, most } = filterTaps(raster.height, height);
  const rows = rowMaker(raster, width, most);
  const sum = new Float64Array(width * 4);
  const row = new Float32Array(width * 4);
  for (let y = 0; y < height; y++) {
    const at = ((page.top + y) * page.width + page.left) * 4;
    if (raster.height === height) {
      fromLinear(rows(y), out.data, at);
      continue;
    }
    sum.fill(0);
    for (let k = 0; k < count[y]; k++) {
      const weight = weights[y * most + k];
      const source = rows(first[y] + k);
      for (let x = 0; x < sum.length; x++) sum[x] += source[x] * weight;
    }
    for (let x = 0; x < sum.length; x++) row[x] = sum[x] / ONE;
    fromLinear(row, out.data, at);
  }
  return out;
}

/**
 * Rows of a picture in linear light at another width. Asked for in order, each is made once.
 * @param most  how many rows back the caller may still ask for
 */
function rowMaker(raster: Raster, width: number, most: number): (y: number) => Float32Array {
  const across = filterTaps(raster.width, width);
  const ring = Array.from({ length: Math.min(most, raster.height) }, () => new Float32Array(width * 4));
  const held = new Int32Array(ring.length).fill(-1);
  const linear = new Float32Array(raster.width * 4);
  return (y) => {
    const place = y % ring.length;
    const row = ring[place];
    if (held[place] === y) return row;
    toLinear(raster, y, linear);
    if (raster.width === width) row.set(linear);
    else resampleRow(linear, across, row);
    held[place] = y;
    return row;
  };
}

// Four floats a pixel: premultiplied linear R, G, B in 0..65535, alpha in 0..65535.
function toLinear({ width, data }: Raster, y: number, out: Float32Array): void {
  for (let i = 0, s = y * width * 4; i < out.length; i += 4, s += 4) {
    const alpha = data[s + 3];
    const share = alpha / 255;
    out[i] = linearFromSrgb[data[s]] * share;
    out[i + 1] = linearFromSrgb[data[s + 1]] * share;
    out[i + 2] = linearFromSrgb[data[s + 2]] * share;
    out[i + 3] = alpha * 257;
  }
}

function resampleRow(src: Float32Array, { first, count, weights, most }: Taps, out: Float32Array): void {
  for (let x = 0, o = 0; o < out.length; x++, o += 4) {
    let r = 0,
      g = 0,
      b = 0,
      a = 0;
    for (let k = 0, s = first[x] * 4, n = count[x]; k < n; k++, s += 4) {
      const weight = weights[x * most + k];
      r += src[s] * weight;
      g += src[s + 1] * weight;
      b += src[s + 2] * weight;
      a += src[s + 3] * weight;
    }
    out[o] = r / ONE;
    out[o + 1] = g / ONE;
    out[o + 2] = b / ONE;
    out[o + 3] = a / ONE;
  }
}

function fromLinear(src: Float32Array, data: Uint8Array, at: number): void {
  for (let i = 0; i < src.length; i += 4) {
    const a = src[i + 3];
    const alpha = Math.round((a < 0 ? 0 : a > LINEAR_MAX ? LINEAR_MAX : a) / 257);
    if (alpha === 0) continue;
    const unmultiply = LINEAR_MAX / a;
    for (let c = 0; c < 3; c++) {
      const v = Math.round(src[i + c] * unmultiply);
      data[at + i + c] = srgbFromLinear[v < 0 ? 0 : v > LINEAR_MAX ? LINEAR_MAX : v];
    }
    data[at + i + 3] = alpha;
  }
}
