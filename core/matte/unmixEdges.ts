import { call } from '../kernels/heap';
import type { Raster } from '../raster/raster';
import type { EdgeBand } from './edgeBand';
import type { Ground } from './measureGround';
import { nearestSolid } from './nearestSolid';
import { dominantColours, matchColour, packColours, strongestColours } from './dominantColours';
import { flatColours } from './flatColours';
import { setGround, viewsOf } from './groundDistance';
import { nearestSoft } from './nearestSoft';

/** The ripple beside edges is that of nine tenths of the ground there. */
const RIPPLE_RANK = 0.9;
/** Ripples below this soil no colour; above it, by about their own strength. */
const LEAST_SOIL = 1.5;
const SOIL_PER_RIPPLE = 0.9;
/** Mixtures closer to the ground than this are the ground. */
const LEAST_FLOOR = 1.5;
const FLOOR_PER_NOISE = 2.5;

export interface UnmixOptions {
  /** Code values by which the ground's own pixels stray. */
  readonly noise: number;
  /** What compression does to the ground near edges, code values. */
  readonly ripple: number;
  /** Largest difference between neighbours inside one colour. */
  readonly flat: number;
  /** The label plane when it holds SOFT pixels, whose colour and alpha stand in `out` already. */
  readonly soft: Int32Array | null;
}

/**
 * How far the ground strays three to five pixels from the mark, shadows and glows left out: the 90th percentile, code
 * values.
 */
export function measureRipple(distance: Uint8Array, labels: Int32Array, band: EdgeBand): number {
  const count = new Int32Array(256);
  const rings = band.outer.slice(2);
  call([distance, labels, ...rings], [count], 0, ({ k, at }) =>
    rings.forEach((ring) => k.countDistances(at(ring), ring.length, at(distance), at(labels), at(count))),
  );
  const total = count.reduce((sum, n) => sum + n, 0);
  let sum = 0;
  for (let d = 0; d < 256; d++) if ((sum += count[d]) >= total * RIPPLE_RANK) return Math.min(d, 40);
  return 0;
}

/**
 * Works out, for every pixel of the edge band, how much of the mark it holds and the mark's own colour in it.
 * The ground's colour is known, the mark's is taken from the nearest solid pixel inside, and the pixel is
 * C = αF + (1−α)B in sRGB code values, so α is the projection of C−B on F−B. Where a stroke is too thin to have a
 * solid pixel, the colour comes from the mark's dominant colours on the same line from the ground, else from the
 * strongest pixel near by. Writes colour and alpha of band pixels into `out`.
 * @see A. Smith, J. Blinn, "Blue Screen Matting", 1996 (known ground, foreground on a known line)
 */
export function unmixEdges(
  raster: Raster,
  ground: Ground,
  band: EdgeBand,
  distance: Uint8Array,
  out: Raster,
  options: UnmixOptions,
): void {
  const { width, height, data } = raster;
  const { depth, rings, outer } = band;
  // Beyond the foot of an edge only what casts a shadow is asked about.
  const asked = outer.slice(0, options.soft ? outer.length : 3);
  const nearest = nearestSolid(raster, band, distance, options.flat, Math.max(10, options.noise * 4), asked.length);
  const palette = dominantColours(data, width, nearest, rings);
  // One that lies on the way to a colour already known is that colour, mixed.
  for (const { colour, from } of strongestColours(raster, ground, findThin(band, nearest, distance, width, height))) {
    if (!matchColour(palette, from, colour[0] - from[0], colour[1] - from[1], colour[2] - from[2]))
      palette.push(colour);
  }
  // Compression soils what it leaves near edges; where the mark is painted in flat colours, what they were is known.
  const soiled = options.ripple > LEAST_SOIL ? Math.min(26, 5 + options.ripple * SOIL_PER_RIPPLE) : 0;
  const flats = soiled > 0 ? flatColours(data, out.data, band, width * height, soiled) : [];
  const floor = Math.max(LEAST_FLOOR, options.noise * FLOOR_PER_NOISE);
  const behind = options.soft ? nearestSoft(band, options.soft, width, height) : null;
  const [packedPalette, packedFlats] = [packColours(palette), packColours(flats)];
  const reads = [
    data,
    distance,
    depth,
    nearest,
    packedPalette,
    packedFlats,
    ...viewsOf(ground),
    ...rings,
    ...asked,
    ...(behind ? [behind] : []),
  ];
  call(reads, [out.data], 0, (c) => {
    const { k, at } = c;
    setGround(c, ground, width, height);
    k.setUnmix({
      ofPicture: at(data),
      toOut: at(out.data),
      ofDistance: at(distance),
      ofDepth: at(depth),
      ofNearest: at(nearest),
      w: width,
      h: height,
      floor,
      rippleBy: options.ripple,
      flatBy: options.flat,
      soiledBy: soiled,
    });
    k.setColours(at(packedPalette), palette.length, at(packedFlats), flats.length);
    k.setBehind(behind ? at(behind) : 0);
    // From the ground inwards: a pixel lies in the ramp only while its outer neighbours do.
    for (const ring of asked) k.unmixOuter(at(ring), ring.length);
    for (const [depthIn, ring] of rings.entries()) k.unmixInner(at(ring), ring.length, depthIn + 1);
  });
}

/**
 * For each outermost pixel of the mark without a solid one near, the strongest pixel near it: strokes too thin to hold
 * a colour unmixed.
 */
function findThin(
  { rings: [first] }: EdgeBand,
  nearest: Int32Array,
  distance: Uint8Array,
  width: number,
  height: number,
): Int32Array {
  const room = first.length * 4;
  return call([first, nearest, distance], [], room, ({ k, at, scratch, intsAt }) => {
    const out = scratch(room, false);
    return intsAt(
      out,
      k.strongestOfThin({
        ring: at(first),
        length: first.length,
        nearest: at(nearest),
        distance: at(distance),
        w: width,
        h: height,
        out,
      }),
    ).slice();
  });
}
