import { call, roomFor } from '../kernels/heap';
import type { EdgeBand } from './edgeBand';

/** A bin of colours may hold this much of a colour's least share: the rest lies in the bins beside it. */
const BIN_SHARE = 0.4;
/** From a bin's first value to its middle: bins are eight values wide. */
const BIN_MIDDLE = 3.5;

/** At most so many flat colours are told apart; a mark with more is a picture. */
const MOST = 24;
const MOST_SAMPLES = 60_000;
/** Bins of eight levels a channel. */
const SHIFT = 3;
const BINS = 32768;
/** A colour is flat when this share of all that lies near it lies close to it. */
const LEAST_PEAK = 0.65;
const CLOSE = 8;
/** Times that. */
const NEAR = 2.8;
const LEAST_SHARE = 0.004;

/**
 * The flat colours that a mark is painted in, commonest first, as means of its inner pixels; empty where it holds none,
 * as in a gradient or a photo: there the pixels near a colour spread over its neighbours too.
 * @param out  the picture in which the mark's own pixels are opaque
 * @param soiled  how far compression moves a colour, code values
 */
export function flatColours(
  data: Uint8Array,
  out: Uint8Array,
  band: EdgeBand,
  total: number,
  soiled: number,
): Float64Array[] {
  const { depth } = band;
  const close = CLOSE + 0.5 * soiled;
  const step = Math.max(1, Math.floor(total / (MOST_SAMPLES * 4)));
  const room = Math.ceil(total / step) * 4;
  return call([data, out, depth], [], roomFor(room, BINS * 4, 32), ({ k, at, scratch, intsAt, realsAt }) => {
    const samples = scratch(room, false);
    const length = k.sampleMark(at(data), at(out), at(depth), total, step, samples);
    if (length < 12) return [];
    const counts = scratch(BINS * 4);
    k.countColours(samples, length, counts);
    const order: [number, number][] = [];
    const inBin = intsAt(counts, BINS);
    const least = length * LEAST_SHARE * BIN_SHARE;
    for (let bin = 0; bin < BINS; bin++) if (inBin[bin] >= least) order.push([bin, inBin[bin]]);
    order.sort((a, b) => b[1] - a[1] || a[0] - b[0]);
    const sums = scratch(32);
    const meanWithin = ([r, g, b]: ArrayLike<number> & Iterable<number>, reach: number) => {
      const count = k.sumWithin({ samples, length, r, g, b, reach, sums });
      return count ? { mean: Float64Array.from(realsAt(sums, 3), (v) => v / count), count } : null;
    };
    const found: Float64Array[] = [];
    for (const [bin] of order.slice(0, MOST * 4)) {
      if (found.length >= MOST) break;
      const middle = [(bin >> 10) & 31, (bin >> 5) & 31, bin & 31].map((v) => (v << SHIFT) + BIN_MIDDLE);
      if (found.some((f) => f.every((v, c) => Math.abs(v - middle[c]) <= close + 4))) continue;
      const first = meanWithin(middle, close);
      if (!first) continue;
      const peak = meanWithin(first.mean, close);
      const near = peak && meanWithin(peak.mean, close * NEAR);
      if (peak && near && peak.count >= length * LEAST_SHARE && peak.count >= LEAST_PEAK * near.count)
        found.push(peak.mean);
    }
    return found;
  });
}
