import { linearFromSrgb, LINEAR_MAX } from './srgb';
import type { Raster } from '../raster/raster';

/** Relative luminance 0..1 of an sRGB colour (WCAG 2.2, "relative luminance"; ITU-R BT.709 weights). */
export const luminance = (r: number, g: number, b: number): number =>
  (0.2126 * linearFromSrgb[r] + 0.7152 * linearFromSrgb[g] + 0.0722 * linearFromSrgb[b]) / LINEAR_MAX;

/** Contrast ratio 1..21 of two luminances (WCAG 2.2, "contrast ratio"). */
export const contrastRatio = (a: number, b: number): number => (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);

/**
 * How well a mark stands out on a flat ground: the contrast ratio that half of the mark's visible area reaches.
 * The median, not the mean: a mark half white and half black has no middle that anybody sees.
 * @returns 1..21, or 1 when nothing is visible
 */
export function contrastOnColour(mark: Raster, ground: readonly [number, number, number]): number {
  const BINS = 400;
  const weight = new Float64Array(BINS);
  const under = luminance(ground[0], ground[1], ground[2]);
  let total = 0;
  const { data } = mark;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3];
    if (alpha < 128) continue; // edges and soft shadows do not carry the reading of a mark
    const ratio = contrastRatio(luminance(data[i], data[i + 1], data[i + 2]), under);
    weight[Math.min(BINS - 1, Math.floor(((ratio - 1) / 20) * BINS))] += alpha;
    total += alpha;
  }
  if (total === 0) return 1;
  let sum = 0;
  let bin = 0;
  while (bin < BINS - 1 && sum + weight[bin] < total / 2) sum += weight[bin++];
  return 1 + ((bin + 0.5) / BINS) * 20;
}
