import { pixelsOnly } from '../layers/layers';
import { numberField, wholeField } from '../params';
import { createRaster } from '../raster/raster';
import { defineSurround } from './surround';

const MOST_SEED = 9999;
/** At full amount colours go up and down by so much, code values. */
const SWING = 110;

/** A fine unevenness laid over everything that stands there, as ink on rough paper has it. */
export const grain = defineSurround({
  id: 'grain',
  title: 'Grain',
  endsPaths: 'grain is made of pixels',
  params: {
    amount: numberField({ label: 'Amount', initial: 0.25, min: 0, max: 1, step: 0.05 }),
    scale: numberField({ label: 'Size', hint: 'Of a grain.', initial: 2, min: 0.5, max: 200, step: 0.5, unit: 'px' }),
    seed: wholeField({
      label: 'Seed',
      hint: 'Another number, another grain.',
      initial: 1,
      min: 1,
      max: MOST_SEED,
      step: 1,
    }),
  },
  describe: (p) => `with a grain of ${Math.round(p.amount * 100)} %`,
  apply(artwork, p, ctx) {
    const { raster, reduction } = artwork;
    const { width, height, data } = raster;
    const out = createRaster(width, height);
    // Grains lie on full-size pixels, so that a reduced picture shows the same ones.
    const step = reduction / (p.scale * ctx.pxLength);
    for (let y = 0, k = 0; y < height; y++) {
      for (let x = 0; x < width; x++, k += 4) {
        const alpha = data[k + 3];
        if (alpha === 0) continue;
        const off = (noiseAt((x + 0.5) * step, (y + 0.5) * step, p.seed) - 0.5) * 2 * SWING * p.amount;
        for (let c = 0; c < 3; c++) out.data[k + c] = Math.min(255, Math.max(0, Math.round(data[k + c] + off)));
        out.data[k + 3] = alpha;
      }
    }
    return pixelsOnly(artwork, out);
  },
});

/** Smooth between random numbers on a lattice, 0..1. */
function noiseAt(x: number, y: number, seed: number): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)];
  const ease = (t: number) => t * t * (3 - 2 * t);
  const [u, v] = [ease(x - ix), ease(y - iy)];
  const top = hashed(ix, iy, seed) * (1 - u) + hashed(ix + 1, iy, seed) * u;
  const bottom = hashed(ix, iy + 1, seed) * (1 - u) + hashed(ix + 1, iy + 1, seed) * u;
  return top * (1 - v) + bottom * v;
}

/** A number 0..1 for a place, the same on every engine. @see B. Jenkins, integer mixing */
function hashed(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(seed, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 0xffffffff;
}
