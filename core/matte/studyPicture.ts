import type { Rgb } from '../colour/hex';
import type { RectPx } from '../params';
import { call, copyPartIn, roomFor, withHeap } from '../kernels/heap';
import { clampRect } from '../raster/cropRaster';
import type { Raster } from '../raster/raster';
import { boxFound, eachStrip } from '../raster/strips';
import { groundDistance } from './groundDistance';
import { type Ground, groundOfColour, groundOfColours, measureGround } from './measureGround';
import { segmentsRoom } from './rowSegments';
import { forgiveRipple, sampleRipple, strongSegments } from './ripple';
import { type ToleranceStudy, studyTolerance } from './steadyRange';

/** A box that leaves out less than this saves nothing. */
const WORTH_SHARE = 0.85;

/** Everything about a picture and its ground that no other setting changes. Planes are those of the region. */
export interface PictureStudy {
  /** Knows where the region lies. */
  readonly ground: Ground;
  /** What surely holds the mark: outside of it the picture is nothing but ground. */
  readonly region: RectPx;
  readonly distance: Uint8Array;
  /** The distance with compression's ripples forgiven. */
  readonly calm: Uint8Array;
  readonly ripple: number;
  readonly tolerance: ToleranceStudy;
}

// Remembered by the picture itself, so that a moving tolerance repeats none of it; gone when the picture is.
const remembered = new WeakMap<Raster, { key: string; study: PictureStudy }>();
/** Room round the mark: the longest tail of a shadow, and the reach of every step that looks at neighbours. */
const ROOM = 60;

/**
 * Measures ground, distances, ripples and steady range, or remembers them from the last time. Not to be changed by the
 * caller.
 */
export function studyPicture(
  raster: Raster,
  given: readonly Rgb[],
  cleanUp: number,
  onStep: (name: string) => void,
): PictureStudy {
  const key = `${given.join('|')} ${cleanUp}`;
  const known = remembered.get(raster);
  if (known?.key === key) return known.study;
  onStep('ground');
  const measured = measureGround(raster);
  const whole =
    given.length > 1
      ? groundOfColours(raster, given, measured)
      : given.length
        ? groundOfColour(given[0], measured)
        : measured;
  onStep('distance');
  const level = Math.max(3, Math.ceil(whole.noise * 3));
  // Where the ground is one colour the region comes first, and distances are measured in it alone.
  const isPlain = !whole.plane && !whole.surface;
  const all = isPlain ? null : groundDistance(raster, whole);
  const region = all ? findRegion(all, raster.width, raster.height, level) : findStrays(raster, whole.colour, level);
  const { width, height } = region;
  const isWhole = width * height === raster.width * raster.height;
  const ground = isWhole
    ? whole
    : { ...whole, frame: { x: region.x, y: region.y, width: raster.width, height: raster.height } };
  const pixels = width * height;
  const study = withHeap(
    roomFor(pixels * 4, pixels, pixels) + segmentsRoom(width, height) + pixels * 3 + STUDY_ROOM,
    () => {
      const distance = all
        ? copyPartIn(all, raster.width, region)
        : groundDistance(
            {
              width,
              height,
              data: copyPartIn(raster.data, raster.width * 4, { ...region, x: region.x * 4, width: width * 4 }),
            },
            whole,
          );
      onStep('tolerance');
      const segments = strongSegments(distance, width, height);
      const ripple = sampleRipple(distance, segments, width, height) * cleanUp;
      const calm = forgiveRipple(distance, segments, width, height, ripple);
      const tolerance = studyTolerance(calm, width, height, ground.noise, raster.width * raster.height);
      return { ground, region, distance: distance.slice(), calm: calm.slice(), ripple, tolerance };
    },
  );
  remembered.set(raster, { key, study });
  return study;
}

/** What the small copy that tolerances are studied on takes up, at most. */
const STUDY_ROOM = 4_000_000;

/** The region that holds everything above a level, with room; the whole when there is nothing or it is nearly all. */
export function findRegion(plane: Uint8Array, width: number, height: number, above: number): RectPx {
  return call([plane], [], 0, ({ k, at }) => {
    k.startBox(width);
    k.boxAbove(at(plane), width, height, 0, above);
    return withRoom(boxFound(k), width, height);
  });
}

/** The same for a picture on a ground of one colour: what lies further than a level from it. */
export function findStrays(raster: Raster, [r, g, b]: Rgb, above: number): RectPx {
  const { width, height } = raster;
  call([], [], 0, ({ k }) => k.startBox(width));
  eachStrip(raster, { x: 0, y: 0, width, height }, (k, at, rows, y) => {
    k.boxStrays({ picture: at, width, rows, y0: y, r, g, b, above });
  });
  return call([], [], 0, ({ k }) => withRoom(boxFound(k), width, height));
}

function withRoom(found: RectPx | null, width: number, height: number): RectPx {
  const whole = { x: 0, y: 0, width, height };
  if (!found) return whole;
  const box = clampRect(
    { x: found.x - ROOM, y: found.y - ROOM, width: found.width + 2 * ROOM, height: found.height + 2 * ROOM },
    width,
    height,
  );
  return box.width * box.height < WORTH_SHARE * width * height ? box : whole;
}
