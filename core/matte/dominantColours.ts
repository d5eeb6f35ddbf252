import { call, roomFor } from '../kernels/heap';
import type { Raster } from '../raster/raster';
import { setGround, viewsOf } from './groundDistance';
import { type Ground, groundAt } from './measureGround';

const MOST = 24;

/**
 * The commonest solid colours along the edges of a mark, commonest first.
 * @param nearest  per pixel the place of its nearest solid pixel as `nearestSolid` packs it, or 0
 * @param rings    positions to look at
 */
export function dominantColours(
  data: Uint8Array,
  width: number,
  nearest: Int32Array,
  rings: readonly Int32Array[],
): Float64Array[] {
  return call([data, nearest, ...rings], [], BINS * BIN * 8, ({ k, at, scratch, realsAt }) => {
    const place = scratch(BINS * BIN * 8);
    let seen = 0;
    for (const ring of rings)
      seen = k.binColours({
        picture: at(data),
        w: width,
        nearest: at(nearest),
        ring: at(ring),
        length: ring.length,
        bins: place,
        seen,
      });
    const bins = realsAt(place, BINS * BIN);
    const found: { colour: Float64Array; count: number; order: number }[] = [];
    for (let b = 0; b < bins.length; b += BIN) {
      const count = bins[b + 3];
      if (count > 0)
        found.push({
          colour: Float64Array.of(bins[b] / count, bins[b + 1] / count, bins[b + 2] / count),
          count,
          order: bins[b + 4],
        });
    }
    return found
      .sort((p, q) => q.count - p.count || p.order - q.order)
      .slice(0, MOST)
      .map((f) => f.colour);
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
export function matchColour(
  palette: readonly Float64Array[],
  B: readonly number[],
  v0: number,
  v1: number,
  v2: number,
): Float64Array | null {
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
const DIRECTIONS = 32768;
/** So many pixels are looked at, or up to twice as many. */
const LOOKED_AT = 6000;
/** A direction counts with at least so many pixels, and so many directions at most. */
const LEAST_PIXELS = 8;
const MOST_DIRECTIONS = 12;

/**
 * The strongest colours of strokes too thin to hold a solid pixel, one for each direction from the ground: what the
 * least mixed tenth of them look like, strongest first, each with the ground it was seen on.
 * @param at  positions of the strongest pixel near each edge pixel; may repeat
 */
export function strongestColours(
  { data, width, height }: Raster,
  ground: Ground,
  at: Int32Array,
): { colour: Float64Array; from: readonly number[] }[] {
  const step = Math.max(1, Math.floor(at.length / LOOKED_AT));
  const most = Math.ceil(at.length / step);
  return call(
    [data, at, ...viewsOf(ground)],
    [],
    roomFor(most * 4, most * 4, most * 8, most * 4, most * 8, DIRECTIONS * 4),
    (c) => {
      const { k, scratch, intsAt, realsAt } = c;
      const list = (bytes: number) => scratch(bytes * most, false);
      const [pixels, keys, lengths, ownPixels, ownLengths, counts] = [
        list(4),
        list(4),
        list(8),
        list(4),
        list(8),
        scratch(DIRECTIONS * 4),
      ];
      setGround(c, ground, width, height);
      const count = k.binDirections({
        picture: c.at(data),
        width,
        list: c.at(at),
        count: at.length,
        step,
        pixels,
        keys,
        lengths,
        counts,
      });
      const sizes = intsAt(counts, DIRECTIONS);
      const largest = [...new Set(intsAt(keys, count))]
        .filter((key) => sizes[key] >= LEAST_PIXELS)
        .sort((p, q) => sizes[q] - sizes[p])
        .slice(0, MOST_DIRECTIONS);
      return largest
        .map((key) => {
          const size = k.ofDirection({
            key,
            count,
            pixels,
            keys,
            lengths,
            outPixels: ownPixels,
            outLengths: ownLengths,
          });
          const [place, length] = [intsAt(ownPixels, size), realsAt(ownLengths, size)];
          const wanted = Math.max(1, Math.ceil(size / 10));
          const least = length.slice().sort()[size - wanted];
          const top = [...place.keys()]
            .filter((n) => length[n] >= least)
            .sort((p, q) => length[q] - length[p] || place[p] - place[q])
            .slice(0, wanted);
          const colour = Float64Array.from(
            [0, 1, 2],
            (channel) => top.reduce((sum, n) => sum + data[place[n] * 4 + channel], 0) / top.length,
          );
          const first = place[top[0]];
          return {
            colour,
            from: groundAt(ground, first % width, Math.floor(first / width), width, height),
            length: length[top[0]],
          };
        })
        .sort((p, q) => q.length - p.length);
    },
  );
}
