import type { Rgb } from '../colour/hex';
import type { Raster } from '../raster/raster';
import { groundDistance } from './groundDistance';
import { type Ground, groundOfColour, measureGround } from './measureGround';
import { forgiveRipple, sampleRipple } from './ripple';
import { type ToleranceStudy, studyTolerance } from './steadyRange';

/** Everything about a picture and its ground that no other setting changes. */
export interface PictureStudy {
  readonly ground: Ground;
  readonly distance: Uint8Array;
  /** The distance with compression's ripples forgiven. */
  readonly calm: Uint8Array;
  readonly ripple: number;
  readonly tolerance: ToleranceStudy;
}

// Remembered by the picture itself, so that a moving tolerance repeats none of it; gone when the picture is.
const remembered = new WeakMap<Raster, { key: string; study: PictureStudy }>();

/** Measures ground, distances, ripples and steady range, or remembers them from the last time. Not to be changed by the caller. */
export function studyPicture(raster: Raster, given: Rgb | null, onStep: (name: string) => void): PictureStudy {
  const key = String(given);
  const known = remembered.get(raster);
  if (known?.key === key) return known.study;
  onStep('ground');
  const measured = measureGround(raster);
  const ground = given ? groundOfColour(given, measured) : measured;
  onStep('distance');
  const distance = groundDistance(raster, ground);
  onStep('tolerance');
  const ripple = sampleRipple(distance, raster.width, raster.height);
  const calm = forgiveRipple(distance, raster.width, raster.height, ripple);
  const tolerance = studyTolerance(calm, raster.width, raster.height, ground.noise);
  const study = { ground, distance, calm, ripple, tolerance };
  remembered.set(raster, { key, study });
  return study;
}
