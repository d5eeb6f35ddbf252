const MOST = 24;

/**
 * The commonest solid colours along the edges of a mark, commonest first.
 * @param nearest  per pixel the place of its nearest solid pixel as `nearestSolid` packs it, or 0
 * @param rings    positions to look at
 */
export function dominantColours(data: Uint8Array, width: number, nearest: Int32Array, rings: readonly Int32Array[]): Float64Array[] {
  const bins = new Map<number, [number, number, number, number]>();
  for (const ring of rings) {
    for (let k = 0; k < ring.length; k += 3) {
      const place = nearest[ring[k]] - 1;
      if (place < 0) continue;
      const s = ((place >>> 16) * width + (place & 0xffff)) * 4;
      const key = ((data[s] >> 4) << 8) | ((data[s + 1] >> 4) << 4) | (data[s + 2] >> 4);
      const bin = bins.get(key);
      if (!bin) bins.set(key, [data[s], data[s + 1], data[s + 2], 1]);
      else {
        bin[0] += data[s];
        bin[1] += data[s + 1];
        bin[2] += data[s + 2];
        bin[3]++;
      }
    }
  }
  return [...bins.values()].sort((a, b) => b[3] - a[3]).slice(0, MOST).map((b) => Float64Array.of(b[0] / b[3], b[1] / b[3], b[2] / b[3]));
}

/**
 * The dominant colour on whose line from the ground a mixed colour lies, or null.
 * Of several, the one nearest to the mixed colour: it asks for the least transparency.
 * @param v0 v1 v2  the mixed colour less the ground's
 */
export function matchColour(palette: readonly Float64Array[], B: readonly number[], v0: number, v1: number, v2: number): Float64Array | null {
  const length = Math.sqrt(v0 * v0 + v1 * v1 + v2 * v2);
  if (length < 1) return null;
  let best: Float64Array | null = null;
  let bestLength = Infinity;
  for (const colour of palette) {
    const f0 = colour[0] - B[0];
    const f1 = colour[1] - B[1];
    const f2 = colour[2] - B[2];
    const reach = Math.sqrt(f0 * f0 + f1 * f1 + f2 * f2);
    if (reach < length * 0.96 || reach >= bestLength) continue;
    const along = (v0 * f0 + v1 * f1 + v2 * f2) / reach;
    // Off the line by no more than a tenth of the way, or by what compression does to a weak colour.
    const off = Math.sqrt(Math.max(0, length * length - along * along));
    if (along > 0 && off <= Math.max(8, 0.1 * length)) {
      best = colour;
      bestLength = reach;
    }
  }
  return best;
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
    const v = [0, 1, 2].map((c) => data[i * 4 + c] - B[c]);
    const length = Math.hypot(v[0], v[1], v[2]);
    if (length < 12) continue;
    const key = v.reduce((n, d) => n * 32 + Math.round((d / length) * DIRECTION_BINS) + DIRECTION_BINS, 0);
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
