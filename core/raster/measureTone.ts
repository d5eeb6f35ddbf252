import { oklabFromSrgb } from '../colour/oklab';
import type { Raster } from './raster';

export type Tone = 'light' | 'mid' | 'dark';

/** Lightness, OKLab, from which on a ground is light, and up to which it is dark. */
const LIGHT_L = 0.72;
const DARK_L = 0.45;
const MOST_SAMPLES = 60_000;

/** How light a ground is as a whole: the mean lightness of its pixels. */
export function measureTone({ data }: Pick<Raster, 'data'>): Tone {
  const step = 4 * Math.max(1, Math.floor(data.length / 4 / MOST_SAMPLES));
  let [sum, count] = [0, 0];
  for (let p = 0; p < data.length; p += step, count++) sum += oklabFromSrgb(data[p], data[p + 1], data[p + 2])[0];
  const mean = sum / Math.max(1, count);
  return mean >= LIGHT_L ? 'light' : mean <= DARK_L ? 'dark' : 'mid';
}
