import type { Plane } from '../raster/raster';

/** Fewer edge pixels than this tell nothing. */
const LEAST_PIXELS = 120;
/** Sixteen samples to a pixel give multiples of so much, by rounding one more or less; finer edges one in five. */
const LEVEL = 16;
const SHARE = 0.93;
/** Such samples lie so far apart across a row, px: edges nearly level run in steps of it. */
const STEP_PX = 0.25;

/**
 * In what steps edges of a coverage map run, px: renderers that take sixteen samples of every pixel know no others.
 * @returns 0 where coverage is finer than that
 */
export function grainOf({ data }: Plane): number {
  let [all, onLevel] = [0, 0];
  for (let p = 0; p < data.length; p++) {
    const v = data[p];
    if (v === 0 || v === 255) continue;
    all++;
    const rest = v % LEVEL;
    if (rest <= 1 || rest === LEVEL - 1) onLevel++;
  }
  return all >= LEAST_PIXELS && onLevel >= SHARE * all ? STEP_PX : 0;
}
