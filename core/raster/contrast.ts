import { linearFromSrgb, LINEAR_MAX } from '../colour/srgb';
import type { Raster } from './raster';

/** Relative luminance 0..1 of an sRGB colour (WCAG 2.2, "relative luminance"; ITU-R BT.709 weights). */
export const luminance = (r: number, g: number, b: number): number =>
  (0.2126 * linearFromSrgb[r] + 0.7152 * linearFromSrgb[g] + 0.0722 * linearFromSrgb[b]) / LINEAR_MAX;

/** Contrast ratio 1..21 of two luminances (WCAG 2.2, "contrast ratio"). */
export const contrastRatio = (a: number, b: number): number => (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);

/**
 * How much of a mark's visible area has which luminance, and the sum of luminances of each bin: the basis of its
 * contrast on any ground.
 */
export type LuminanceProfile = Float64Array;
const BINS = 1024;

/**
 * The luminance profile of a mark, measured once for all grounds. On a large picture a regular sample of about half a
 * million pixels stands for all: contrast is a median, which that settles to far below what anyone can see.
 */
export function measureLuminance(mark: Raster): LuminanceProfile {
  const profile = new Float64Array(2 * BINS);
  const { data } = mark;
  const step = 4 * Math.max(1, Math.floor(data.length / 4 / 500_000));
  for (let i = 0; i < data.length; i += step) {
    const alpha = data[i + 3];
    if (alpha < 128) continue; // edges and soft shadows do not carry the reading of a mark
    // Square root: even steps for the eye, so that dark marks are told apart too.
    const own = luminance(data[i], data[i + 1], data[i + 2]);
    const bin = Math.min(BINS - 1, Math.floor(Math.sqrt(own) * BINS));
    profile[bin] += alpha;
    profile[BINS + bin] += alpha * own;
  }
  return profile;
}

/**
 * How well a mark stands out on a flat ground: the contrast ratio that half of the mark's visible area reaches.
 * The median, not the mean: a mark half white and half black has no middle that anybody sees.
 * @returns 1..21, or 1 when nothing is visible
 */
export function contrastOnColour(profile: LuminanceProfile, ground: readonly [number, number, number]): number {
  const under = luminance(ground[0], ground[1], ground[2]);
  const entries: [number, number][] = [];
  let total = 0;
  for (let k = 0; k < BINS; k++) {
    if (profile[k] === 0) continue;
    entries.push([contrastRatio(profile[BINS + k] / profile[k], under), profile[k]]);
    total += profile[k];
  }
  entries.sort((a, b) => a[0] - b[0]);
  let sum = 0;
  for (const [ratio, weight] of entries) if ((sum += weight) >= total / 2) return ratio;
  return 1;
}
