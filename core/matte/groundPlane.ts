import type { Rgb } from '../colour/hex';
import type { Raster } from '../raster/raster';
import { type Checker, shareOfFirst } from './measureChecker';

/** A mixture of two grounds lies closer to the line between them than a ground to itself. */
const MIXED_SHARE = 0.7;

/** The colour of the ground at each pixel, where no single colour or surface tells it: R, G, B, row-major. */
export interface GroundPlane {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A checker as it lies under the whole picture. */
export function planeOfChecker(checker: Checker, width: number, height: number): GroundPlane {
  const [a, b] = checker.colours;
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, s = 0; y < height; y++) {
    for (let x = 0; x < width; x++, s += 3) {
      const share = shareOfFirst(checker, x, y);
      for (let c = 0; c < 3; c++) data[s + c] = Math.round(a[c] * share + b[c] * (1 - share));
    }
  }
  return { width, height, data };
}

/** Within this many code values of a colour, a pixel surely belongs to that ground. */
const SURE = 24;
/** A pixel that mixes two grounds lies this near to both. */
const MIX_REACH = 3;

/**
 * Several grounds by their colours: each pixel has the one it matches, or the one of the nearest pixel that does.
 * A pixel between two grounds that mixes just those two is ground itself.
 * @param colours  two or more
 */
export function planeOfColours({ width, height, data }: Raster, colours: readonly Rgb[]): GroundPlane {
  const total = width * height;
  const own = new Int8Array(total).fill(-1);
  for (let i = 0; i < total; i++) {
    let least = SURE + 1;
    for (const [k, c] of colours.entries()) {
      const d = Math.max(
        Math.abs(data[i * 4] - c[0]),
        Math.abs(data[i * 4 + 1] - c[1]),
        Math.abs(data[i * 4 + 2] - c[2]),
      );
      if (d < least) {
        least = d;
        own[i] = k;
      }
    }
  }
  const nearest = spreadNearest(own, width, height);
  const out = new Uint8Array(total * 3);
  for (let i = 0; i < total; i++) {
    const k = nearest[i] < 0 ? 0 : nearest[i];
    const mixed = own[i] < 0 ? mixOfTwo(data, i, own, colours, width, height) : null;
    for (let c = 0; c < 3; c++) out[i * 3 + c] = mixed ? mixed[c] : colours[k][c];
  }
  return { width, height, data: out };
}

// Two sweeps in city-block distance: near enough, since grounds are large.
function spreadNearest(own: Int8Array, width: number, height: number): Int8Array {
  const out = own.slice();
  const far = new Int32Array(own.length).fill(1 << 20);
  for (let i = 0; i < own.length; i++) if (own[i] >= 0) far[i] = 0;
  const take = (i: number, n: number) => {
    if (far[n] + 1 >= far[i]) return;
    far[i] = far[n] + 1;
    out[i] = out[n];
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (x > 0) take(i, i - 1);
      if (y > 0) take(i, i - width);
    }
  for (let y = height - 1, i = own.length - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--, i--) {
      if (x < width - 1) take(i, i + 1);
      if (y < height - 1) take(i, i + width);
    }
  return out;
}

function mixOfTwo(
  data: Uint8Array,
  i: number,
  own: Int8Array,
  colours: readonly Rgb[],
  width: number,
  height: number,
): Rgb | null {
  const x = i % width;
  const y = (i / width) | 0;
  let first = -1;
  let second = -1;
  for (let py = Math.max(0, y - MIX_REACH); py <= Math.min(height - 1, y + MIX_REACH); py++) {
    for (let px = Math.max(0, x - MIX_REACH); px <= Math.min(width - 1, x + MIX_REACH); px++) {
      const k = own[py * width + px];
      if (k < 0) continue;
      if (first < 0) first = k;
      else if (k !== first) second = k;
    }
  }
  if (second < 0) return null;
  const [a, b] = [colours[first], colours[second]];
  const v = [0, 1, 2].map((c) => data[i * 4 + c]);
  let dot = 0;
  let square = 0;
  for (let c = 0; c < 3; c++) {
    dot += (v[c] - a[c]) * (b[c] - a[c]);
    square += (b[c] - a[c]) ** 2;
  }
  const t = dot / Math.max(1, square);
  if (t < 0 || t > 1) return null;
  const on = a.map((value, c) => value + t * (b[c] - value));
  return Math.max(...on.map((value, c) => Math.abs(value - v[c]))) <= SURE * MIXED_SHARE
    ? (on.map(Math.round) as unknown as Rgb)
    : null;
}
