import { call } from '../kernels/heap';

const MOST = 24;

/**
 * The commonest solid colours along the edges of a mark, commonest first.
 * @param nearest  per pixel the place of its nearest solid pixel as `nearestSolid` packs it, or 0
 * @param rings    positions to look at
 */
export function dominantColours(data: Uint8Array, width: number, nearest: Int32Array, rings: readonly Int32Array[]): Float64Array[] {
  return call([data, nearest, ...rings], [], BINS * BIN * 8, ({ k, at, scratch, realsAt }) => {
    const place = scratch(BINS * BIN * 8);
    let seen = 0;
    for (const ring of rings) seen = k.binColours(at(data), width, at(nearest), at(ring), ring.length, place, seen);
    const bins = realsAt(place, BINS * BIN);
    const found: { colour: Float64Array; count: number; order: number }[] = [];
    for (let b = 0; b < bins.length; b += BIN) {
      const count = bins[b + 3];
      if (count > 0) found.push({ colour: Float64Array.of(bins[b] / count, bins[b + 1] / count, bins[b + 2] / count), count, order: bins[b + 4] });
    }
    return found.sort((p, q) => q.count - p.count || p.order - q.order).slice(0, MOST).map((f) => f.colour);
  });
}

/** Sixteen levels a channel; sums of red, green and blue, number, order of appearance. */
const BINS = 4096;
const BIN = 5;

/**
 * The dominant colour on whose line from the ground a mixed colour lies, or null.
 * Of several, the one nearest to the mixed colour: it asks for the least transparency.
 * @param v0 v1 v2  the mixed colour less the ground's
 */
export function matchColour(palette: readonly Float64Array[], B: readonly number[], v0: number, v1: number, v2: number): Float64Array | null {
  const packed = packColours(palette);
  return call([packed], [], 0, ({ k, at }) => {
    k.setGroundColour(B[0], B[1], B[2]);
    k.setColours(at(packed), palette.length, 0, 0);
    const found = k.matchColour(v0, v1, v2);
    return found ? palette[(found - at(packed)) / 24] : null;
  });
}

/** Colours as kernels take them: three reals each. */
export function packColours(colours: readonly Float64Array[]): Float64Array {
  const packed = new Float64Array(colours.length * 3);
  colours.forEach((c, k) => packed.set(c, k * 3));
  return packed;
}

/** Directions from the ground, in bins of about six degrees, told apart for thin strokes. */
const DIRECTION_BINS = 9;

/**
 * The strongest colours of strokes too thin to hold a solid pixel, one for each direction from the ground: what the
 * least mixed tenth of them look like, strongest first, each with the ground it was seen on.
 * @param at        positions of the strongest pixel near each edge pixel; may repeat
 * @param groundOf  the ground's colour at a position
 */
export function strongestColours(data: Uint8Array, at: ArrayLike<number>, groundOf: (i: number) => readonly number[]): { colour: Float64Array; from: readonly number[] }[] {
  const bins = new Map<number, { i: number; length: number }[]>();
  const step = Math.max(1, Math.floor(at.length / 6000));
  for (let k = 0; k < at.length; k += step) {
    const i = at[k];
    const B = groundOf(i);
    const [r, g, b] = [data[i * 4] - B[0], data[i * 4 + 1] - B[1], data[i * 4 + 2] - B[2]];
    const length = Math.hypot(r, g, b);
    if (length < 12) continue;
    const scale = DIRECTION_BINS / length;
    const key = ((Math.round(r * scale) + DIRECTION_BINS) * 32 + Math.round(g * scale) + DIRECTION_BINS) * 32 + Math.round(b * scale) + DIRECTION_BINS;
    const bin = bins.get(key);
    if (bin) bin.push({ i, length });
    else bins.set(key, [{ i, length }]);
  }
  const tops = [...bins.values()].filter((b) => b.length >= 8).sort((a, b) => b.length - a.length).slice(0, 12).map((bin) => {
    bin.sort((a, b) => b.length - a.length || a.i - b.i);
    const top = bin.slice(0, Math.max(1, Math.ceil(bin.length / 10)));
    const colour = Float64Array.from([0, 1, 2], (c) => top.reduce((sum, t) => sum + data[t.i * 4 + c], 0) / top.length);
    return { colour, from: groundOf(top[0].i), length: top[0].length };
  });
  return tops.sort((a, b) => b.length - a.length);
}
