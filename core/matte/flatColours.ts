import type { EdgeBand } from './edgeBand';

/** At most so many flat colours are told apart; a mark with more is a picture. */
const MOST = 24;
const MOST_SAMPLES = 60_000;
/** Bins of eight levels a channel. */
const SHIFT = 3;
/** A colour is flat when this share of all that lies near it lies close to it. */
const LEAST_PEAK = 0.65;
const CLOSE = 8;
/** Times that. */
const NEAR = 2.8;
const LEAST_SHARE = 0.004;

/**
 * The flat colours that a mark is painted in, commonest first, as means of its inner pixels; empty where it holds none,
 * as in a gradient or a photo: there the pixels near a colour spread over its neighbours too.
 * @param isMark  per pixel, whether it belongs to the mark
 * @param soiled  how far compression moves a colour, code values
 */
export function flatColours(data: Uint8Array, isMark: (i: number) => boolean, band: EdgeBand, total: number, soiled: number): Float64Array[] {
  const { depth } = band;
  const close = CLOSE + 0.5 * soiled;
  const samples: number[] = [];
  const step = Math.max(1, Math.floor(total / (MOST_SAMPLES * 4)));
  for (let i = 0; i < total; i += step) if ((depth[i] === 0 || depth[i] >= 3) && isMark(i)) samples.push(i * 4);
  if (samples.length < 12) return [];
  const bins = new Map<number, number>();
  const key = (s: number) => ((data[s] >> SHIFT) << 10) | ((data[s + 1] >> SHIFT) << 5) | (data[s + 2] >> SHIFT);
  for (const s of samples) bins.set(key(s), (bins.get(key(s)) ?? 0) + 1);
  const order = [...bins].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  const found: Float64Array[] = [];
  for (const [bin, count] of order.slice(0, MOST * 4)) {
    if (count < samples.length * LEAST_SHARE * 0.4 || found.length >= MOST) break;
    const middle = [(bin >> 10) & 31, (bin >> 5) & 31, bin & 31].map((v) => (v << SHIFT) + 3.5);
    if (found.some((f) => f.every((v, c) => Math.abs(v - middle[c]) <= close + 4))) continue;
    const first = meanWithin(data, samples, middle, close);
    if (!first) continue;
    const peak = meanWithin(data, samples, [...first.mean], close);
    const near = peak && meanWithin(data, samples, [...peak.mean], close * NEAR);
    if (peak && near && peak.count >= samples.length * LEAST_SHARE && peak.count >= LEAST_PEAK * near.count) found.push(peak.mean);
  }
  return found;
}

function meanWithin(data: Uint8Array, samples: readonly number[], centre: readonly number[], reach: number): { mean: Float64Array; count: number } | null {
  const sum = [0, 0, 0];
  let count = 0;
  const [r, g, b] = centre;
  for (const s of samples) {
    if (Math.abs(data[s] - r) > reach || Math.abs(data[s + 1] - g) > reach || Math.abs(data[s + 2] - b) > reach) continue;
    sum[0] += data[s];
    sum[1] += data[s + 1];
    sum[2] += data[s + 2];
    count++;
  }
  return count ? { mean: Float64Array.from(sum, (v) => v / count), count } : null;
}

/**
 * The flat colour that compression has probably moved a colour away from, or null when none is near enough.
 * Lightness is held closer than hue: compression keeps colour at half the resolution, so hue strays further.
 * @param reach  how far lightness may have strayed, code values
 */
export function nearestFlat(palette: readonly Float64Array[], r: number, g: number, b: number, reach: number): Float64Array | null {
  let best: Float64Array | null = null;
  let least = reach * 2.4;
  for (const p of palette) {
    const dr = r - p[0];
    const dg = g - p[1];
    const db = b - p[2];
    const most = Math.max(Math.abs(dr), Math.abs(dg), Math.abs(db));
    if (most >= least || Math.abs(0.299 * dr + 0.587 * dg + 0.114 * db) > reach) continue;
    least = most;
    best = p;
  }
  return best;
}
