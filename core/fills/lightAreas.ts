import type { Drawing, Shape } from '../artwork/drawing';
import { type Rgb, rgbFromHex } from '../colour/hex';
import { oklabFromSrgb } from '../colour/oklab';
import { cutFrom } from '../layers/cutFrom';
import type { Raster } from '../raster/raster';
import { colourCoverage } from '../trace/colourCoverage';
import { findPalette } from '../trace/findPalette';

/** A colour this light and this grey is that of paper, OKLab. */
const LIGHT_L = 0.86;
const LIGHT_CHROMA = 0.07;
/** It is a gap where the rest of the mark is darker than this, and there is so much of both. */
const DARK_L = 0.8;
const DARK_SHARE = 0.1;
const LIGHT_SHARE = 0.0005;
const LIGHT_CODE = 185;

const lightness = (rgb: Rgb) => oklabFromSrgb(...(rgb.map(Math.round) as [number, number, number]));
const isPaper = (rgb: Rgb) => {
  const [l, a, b] = lightness(rgb);
  return l > LIGHT_L && Math.hypot(a, b) < LIGHT_CHROMA;
};
const isDark = (rgb: Rgb) => lightness(rgb)[0] < DARK_L;

/**
 * A mark's alpha with what is drawn in the colour of paper taken out: in one colour it would vanish in what it lies on.
 * @returns null where there is none of it, or nothing else
 */
export function alphaWithoutLight(raster: Raster): Uint8Array | null {
  const { data } = raster;
  const n = data.length / 4;
  let [light, all] = [0, 0];
  for (let p = 0; p < data.length; p += 4) {
    if (data[p + 3] < 128) continue;
    all++;
    if (data[p] > LIGHT_CODE && data[p + 1] > LIGHT_CODE && data[p + 2] > LIGHT_CODE) light++;
  }
  if (light < all * LIGHT_SHARE || light > all * (1 - DARK_SHARE)) return null;
  const palette = findPalette(raster, null);
  const { planes } = colourCoverage(raster, palette);
  const paper = palette.colours.flatMap(({ rgb }, k) => (isPaper(rgb) ? [planes[k]] : []));
  const dark = palette.colours.flatMap(({ rgb }, k) => (isDark(rgb) ? [planes[k]] : []));
  const share = (some: readonly Uint8Array[]) =>
    some.reduce((sum, plane) => sum + plane.reduce((s, v) => s + v, 0), 0) / 255 / Math.max(1, all);
  if (paper.length === 0 || share(dark) < DARK_SHARE) return null;
  const alpha = new Uint8Array(n);
  for (let k = 0; k < n; k++) {
    let left = data[k * 4 + 3];
    for (const plane of paper) left -= plane[k];
    alpha[k] = Math.max(0, left);
  }
  return alpha;
}

/** The same of paths: shapes in the colour of paper are cut out of what lies beneath them. */
export function shapesWithoutLight({ shapes }: Drawing): Shape[] | null {
  const colourOf = ({ paint }: Shape) => (paint.kind === 'colour' ? rgbFromHex(paint.hex) : null);
  const isLight = (shape: Shape) => {
    const rgb = colourOf(shape);
    return rgb !== null && isPaper(rgb);
  };
  if (!shapes.some(isLight) || !shapes.some((s) => !isLight(s))) return null;
  let left: Shape[] = [];
  for (const shape of shapes) {
    if (isLight(shape)) left = cutFrom(left, shape);
    else left.push(shape);
  }
  return left.filter((s) => s.path.verbs !== '');
}
