import { hexFromRgb } from '../colour/hex';
import { call } from '../kernels/heap';
import { LEAST_SHARE } from '../matte/cutOutFlat';
import { measureGround } from '../matte/measureGround';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import { eachStrip } from '../raster/strips';
import { isOneInk } from './isOneInk';

/** `opaque` is a picture of one colour: a plate or a strip, which has no ground to be taken off. */
export type Way = 'flat' | 'paper' | 'transparent' | 'vector' | 'opaque';

export interface Inspection {
  readonly width: number;
  readonly height: number;
  /** Share of pixels that are fully see-through, and that are partly so. */
  readonly clearShare: number;
  readonly partShare: number;
  readonly way: Way;
  readonly groundHex: string | null;
  readonly noise: number;
  readonly drift: number;
  readonly share: number;
}

/** A camera or a sheet's texture leaves more noise than this, and light that falls off more drift. */
const GRAIN = 1.5;
const FALL_OFF = 14;
/** A drawn ground has less noise than this; a clean scan has more. */
const SCANNED = 0.6;
/** Less transparency than this is taken for stray pixels of an otherwise solid picture. */
const LEAST_CLEAR = 0.002;

/**
 * What a picture is, and the way to cut it out.
 * Paper differs from a flat ground by its texture, its light falling off, or both, and writing is of one ink.
 * @param hasAlpha  whether any pixel may be less than opaque
 */
export function inspectPicture(raster: Raster, hasAlpha = true): Inspection {
  const { width, height } = raster;
  const { clear, part } = hasAlpha ? countTransparent(raster) : { clear: 0, part: 0 };
  const total = width * height;
  const seen = { width, height, clearShare: clear / total, partShare: part / total };
  if ((clear + part) / total >= LEAST_CLEAR && findExtents(raster)) {
    return { ...seen, way: 'transparent', groundHex: null, noise: 0, drift: 0, share: 0 };
  }
  const ground = measureGround(raster);
  const isPlate = ground.share === 1 && isOneColour(raster, ground.colour);
  const isRestless = ground.share < LEAST_SHARE || ground.noise > GRAIN || ground.drift > FALL_OFF;
  const isScanned = ground.noise > SCANNED;
  const isPaper = !ground.checker && (isRestless ? isOneInk(raster) : isScanned && isOneInk(raster, ground.colour));
  return {
    ...seen,
    way: isPlate ? 'opaque' : isPaper ? 'paper' : 'flat',
    groundHex: hexFromRgb(ground.colour),
    noise: ground.noise,
    drift: ground.drift,
    share: ground.share,
  };
}

/** Compression moves no channel of a level picture by more than this. */
const ONE_COLOUR = 6;

/** Whether every pixel has the same colour. */
export function isOneColour({ data }: Raster, [r, g, b]: ArrayLike<number> & Iterable<number>): boolean {
  for (let i = 0; i < data.length; i += 4) {
    const most = Math.max(Math.abs(data[i] - r), Math.abs(data[i + 1] - g), Math.abs(data[i + 2] - b));
    if (most > ONE_COLOUR) return false;
  }
  return true;
}

function countTransparent(raster: Raster): { clear: number; part: number } {
  const { width, height } = raster;
  call([], [], 0, ({ k }) => k.startTransparent());
  eachStrip(raster, { x: 0, y: 0, width, height }, (k, at, rows) => {
    k.countTransparent(at, width * rows);
  });
  return call([], [], 0, ({ k }) => ({ clear: k.clearCount(), part: k.partCount() }));
}
