import type { Paint, Stop } from '../artwork/drawing';
import { hexFromRgb } from '../colour/hex';
import type { Raster } from '../raster/raster';

/** Colours of a palette that are bands of one smooth gradient. */
export interface GradientGroup {
  readonly members: readonly number[];
  /** 1 for the pixels of the connected part that it fills, and those just beside. */
  readonly mask: Uint8Array;
  readonly paint: Exclude<Paint, { kind: 'colour' }>;
}

/** So many places where flat pixels of two colours touch: between colours that are two, an edge's pixels lie. */
const LEAST_TOUCHES = 12;
const MOST_SAMPLES = 20_000;
const LEAST_SAMPLES = 200;
/** Places along the way at which the colour is looked at, and how far it may be off between them, code values. */
const STEPS = 12;
const NEAR = 2.5;
const NOISES = 1.5;
/** A stop this near to the way between its neighbours says nothing. */
const SAME = 2;

/**
 * Groups of colours that are one linear gradient: their flat areas touch without an edge between, and a line of colours
 * along one direction is within the noise of all of them.
 * @param labels  the colour of each pixel
 * @param flat  1 for pixels of flat insides
 */
export function findGradients(
  { width, height, data }: Raster,
  { labels, flat, noise, count }: { labels: Uint8Array; flat: Uint8Array; noise: number; count: number },
): GradientGroup[] {
  const touches = new Uint32Array(count * count);
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      if (flat[p] === 0 || labels[p] >= count) continue;
      for (const q of [p - 1, p - width]) {
        if (q < 0 || flat[q] === 0 || labels[q] === labels[p] || labels[q] >= count) continue;
        touches[labels[p] * count + labels[q]]++;
        touches[labels[q] * count + labels[p]]++;
      }
    }
  }
  const groups: GradientGroup[] = [];
  const isUsed = new Uint8Array(count);
  for (let first = 0; first < count; first++) {
    if (isUsed[first]) continue;
    const members = [first];
    isUsed[first] = 1;
    for (let at = 0; at < members.length; at++) {
      for (let other = 0; other < count; other++) {
        if (isUsed[other] || touches[members[at] * count + other] < LEAST_TOUCHES) continue;
        isUsed[other] = 1;
        members.push(other);
      }
    }
    if (members.length < 2) continue;
    for (const part of partsOf({ labels, flat, width }, members)) {
      const paint = fitLinear(collect({ width, height, data }, part, flat), NEAR + NOISES * noise);
      if (paint) groups.push({ members, paint, mask: grown(part, width) });
    }
  }
  return groups;
}

interface Labelled {
  readonly labels: Uint8Array;
  readonly flat: Uint8Array;
  readonly width: number;
}

/** Connected parts in which at least two of some colours have flat areas; 1 for their pixels. */
function partsOf({ labels, flat, width }: Labelled, members: readonly number[]): Uint8Array[] {
  const isMember = new Uint8Array(256);
  for (const m of members) isMember[m] = 1;
  const seen = new Uint8Array(labels.length);
  const stack = new Int32Array(labels.length);
  const parts: Uint8Array[] = [];
  for (let start = 0; start < labels.length; start++) {
    if (seen[start] || !isMember[labels[start]]) continue;
    const part: number[] = [];
    const counts = new Uint32Array(256);
    let open = 0;
    stack[open++] = start;
    seen[start] = 1;
    while (open > 0) {
      const p = stack[--open];
      part.push(p);
      if (flat[p] === 1) counts[labels[p]]++;
      const x = p % width;
      for (let way = 0; way < 4; way++) {
        const q = way === 0 ? p - 1 : way === 1 ? p + 1 : way === 2 ? p - width : p + width;
        if ((way === 0 && x === 0) || (way === 1 && x === width - 1) || q < 0 || q >= labels.length) continue;
        if (seen[q] || !isMember[labels[q]]) continue;
        seen[q] = 1;
        stack[open++] = q;
      }
    }
    if (counts.filter((n) => n >= LEAST_TOUCHES).length < 2) continue;
    const mask = new Uint8Array(labels.length);
    for (const p of part) mask[p] = 1;
    parts.push(mask);
  }
  return parts;
}

/** A part and two pixels round it: its edge pixels may be another's for the most part. */
function grown(part: Uint8Array, width: number): Uint8Array {
  let mask = part;
  for (let round = 0; round < 2; round++) {
    const next = mask.slice();
    for (let p = 0; p < mask.length; p++) {
      if (mask[p] === 0) continue;
      const x = p % width;
      if (x > 0) next[p - 1] = 1;
      if (x + 1 < width) next[p + 1] = 1;
      if (p >= width) next[p - width] = 1;
      if (p + width < mask.length) next[p + width] = 1;
    }
    mask = next;
  }
  return mask;
}

/** x, y, r, g, b of flat pixels of a part, one after another. */
function collect({ width, height, data }: Raster, part: Uint8Array, flat: Uint8Array): Float64Array {
  let total = 0;
  for (let p = 0; p < part.length; p++) if (flat[p] === 1 && part[p] === 1) total++;
  const stride = Math.max(1, Math.floor(total / MOST_SAMPLES));
  const out: number[] = [];
  let seen = 0;
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++)
      if (flat[p] === 1 && part[p] === 1 && seen++ % stride === 0)
        out.push(x + 0.5, y + 0.5, data[p * 4], data[p * 4 + 1], data[p * 4 + 2]);
  return Float64Array.from(out);
}

function fitLinear(samples: Float64Array, near: number): GradientGroup['paint'] | null {
  const n = samples.length / 5;
  if (n < LEAST_SAMPLES) return null;
  const mean = [0, 0, 0, 0, 0];
  for (let k = 0; k < samples.length; k++) mean[k % 5] += samples[k] / n;
  let [xx, xy, yy] = [0, 0, 0];
  const [cx, cy] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (let k = 0; k < samples.length; k += 5) {
    const [dx, dy] = [samples[k] - mean[0], samples[k + 1] - mean[1]];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
    for (let c = 0; c < 3; c++) {
      const dc = samples[k + 2 + c] - mean[2 + c];
      cx[c] += dx * dc;
      cy[c] += dy * dc;
    }
  }
  const det = xx * yy - xy * xy;
  if (det <= 1e-6) return null;
  // The slope of the channel that changes most gives the direction.
  const slopes = [0, 1, 2].map((c) => [(cx[c] * yy - cy[c] * xy) / det, (cy[c] * xx - cx[c] * xy) / det] as const);
  const [gx, gy] = slopes.reduce((a, b) => (Math.hypot(...b) > Math.hypot(...a) ? b : a));
  const steep = Math.hypot(gx, gy);
  if (steep === 0) return null;
  const [ux, uy] = [gx / steep, gy / steep];
  let [from, to] = [Infinity, -Infinity];
  for (let k = 0; k < samples.length; k += 5) {
    const t = samples[k] * ux + samples[k + 1] * uy;
    from = Math.min(from, t);
    to = Math.max(to, t);
  }
  if (to - from < 4) return null;
  const stops = meanStops(samples, { ux, uy, from, to });
  if (!stops || offStops(samples, { ux, uy, from, to }, stops) > near) return null;
  const [mx, my] = [mean[0], mean[1]];
  const middle = mx * ux + my * uy;
  const at = (t: number) => ({ x: mx + (t - middle) * ux, y: my + (t - middle) * uy });
  const [a, b] = [at(from), at(to)];
  return { kind: 'linear', geometry: { x1: a.x, y1: a.y, x2: b.x, y2: b.y }, stops: fewest(stops) };
}

interface Way {
  readonly ux: number;
  readonly uy: number;
  readonly from: number;
  readonly to: number;
}

/** Colours at even steps along the way: places share in both steps beside them. */
function meanStops(samples: Float64Array, { ux, uy, from, to }: Way): number[][] | null {
  const sums = Array.from({ length: STEPS + 1 }, () => [0, 0, 0, 0]);
  for (let k = 0; k < samples.length; k += 5) {
    const s = ((samples[k] * ux + samples[k + 1] * uy - from) / (to - from)) * STEPS;
    const nearest = Math.min(STEPS, Math.max(0, Math.round(s)));
    // Only what is near to a step tells its colour.
    const weight = 1 - 2 * Math.abs(s - nearest);
    if (weight <= 0) continue;
    for (let c = 0; c < 3; c++) sums[nearest][c] += weight * samples[k + 2 + c];
    sums[nearest][3] += weight;
  }
  if (sums.some((s) => s[3] === 0)) return null;
  return sums.map(([r, g, b, w]) => [r / w, g / w, b / w]);
}

/** How far samples are off the colours between stops, in the mean square, code values. */
function offStops(samples: Float64Array, { ux, uy, from, to }: Way, stops: readonly number[][]): number {
  let sum = 0;
  for (let k = 0; k < samples.length; k += 5) {
    const s = ((samples[k] * ux + samples[k + 1] * uy - from) / (to - from)) * STEPS;
    const low = Math.min(STEPS - 1, Math.max(0, Math.floor(s)));
    for (let c = 0; c < 3; c++) {
      const v = stops[low][c] + (stops[low + 1][c] - stops[low][c]) * (s - low);
      sum += (samples[k + 2 + c] - v) ** 2;
    }
  }
  return Math.sqrt(sum / ((samples.length / 5) * 3));
}

function fewest(stops: readonly number[][]): Stop[] {
  const kept = [0];
  let last = 0;
  for (let k = 2; k <= STEPS; k++) {
    // Whether all between the last stop kept and this one lie on the way.
    for (let j = last + 1; j < k; j++) {
      const t = (j - last) / (k - last);
      if (stops[j].every((v, c) => Math.abs(stops[last][c] + (stops[k][c] - stops[last][c]) * t - v) <= SAME)) continue;
      last = k - 1;
      kept.push(last);
      break;
    }
  }
  return [...kept, STEPS].map((k) => ({
    at: k / STEPS,
    hex: hexFromRgb(stops[k].map((v) => Math.max(0, Math.min(255, v)))),
  }));
}
