import { linearFromSrgb, LINEAR_MAX } from '../colour/srgb';

/** Relative luminance 0..1 of an sRGB colour (WCAG 2.2, "relative luminance"; ITU-R BT.709 weights). */
export const luminance = (r: number, g: number, b: number): number =>
  (0.2126 * linearFromSrgb[r] + 0.7152 * linearFromSrgb[g] + 0.0722 * linearFromSrgb[b]) / LINEAR_MAX;

/** Contrast ratio 1..21 of two luminances (WCAG 2.2, "contrast ratio"). */
export const contrastRatio = (a: number, b: number): number => (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
