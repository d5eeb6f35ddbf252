import { linearFromSrgb, LINEAR_MAX } from './srgb';

/**
 * OKLab of an sRGB colour, L 0..1.
 * @see B. Ottosson, "A perceptual color space for image processing", 2020 (matrices to 10 digits)
 */
export function oklabFromSrgb(r: number, g: number, b: number): [number, number, number] {
  const R = linearFromSrgb[r] / LINEAR_MAX;
  const G = linearFromSrgb[g] / LINEAR_MAX;
  const B = linearFromSrgb[b] / LINEAR_MAX;
  const l = Math.cbrt(0.4122214708 * R + 0.5363325363 * G + 0.0514459929 * B);
  const m = Math.cbrt(0.2119034982 * R + 0.6806995451 * G + 0.1073969566 * B);
  const s = Math.cbrt(0.0883024619 * R + 0.2817188376 * G + 0.6299787005 * B);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** Colour difference: OKLab distance × 100; about 2 is just visible side by side. */
export function deltaE(a: readonly [number, number, number], b: readonly [number, number, number]): number {
  return 100 * Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}
