import { rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import type { Raster } from '../raster/raster';

/** Closer to the key than this a colour goes with it when the key is taken out, OKLab × 100. */
const CLOSE = 24;
/** So many pixels are looked at. */
const MOST_LOOKED_AT = 200_000;

/** Share of a mark's visible pixels that a key colour would take out as well, 0..1. */
export function keyClash({ data }: Raster, key: string): number {
  const lab = (r: number, g: number, b: number) => oklabFromSrgb(r, g, b);
  const [r, g, b] = rgbFromHex(key);
  const own = lab(r, g, b);
  const step = Math.max(1, Math.floor(data.length / 4 / MOST_LOOKED_AT)) * 4;
  let [visible, close] = [0, 0];
  for (let p = 0; p < data.length; p += step) {
    if (data[p + 3] < 128) continue;
    visible++;
    if (deltaE(own, lab(data[p], data[p + 1], data[p + 2])) < CLOSE) close++;
  }
  return visible === 0 ? 0 : close / visible;
}
