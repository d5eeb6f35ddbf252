import { call } from '../kernels/heap';
import type { RectPx } from '../params';
import type { Raster } from './raster';
import { boxFound, eachStrip } from './strips';

/** Fainter than about 1% cannot be seen on any ground. */
const LEAST_ALPHA = 3;

/**
 * The smallest rectangle holding all that is visible, or null when nothing is.
 * @param leastAlpha  pixels below this count as invisible
 * @param within  where alone anything can be visible, in whole pixels, when that is known
 */
export function findExtents(raster: Raster, leastAlpha = LEAST_ALPHA, within?: RectPx): RectPx | null {
  const area = within ?? wholeOf(raster);
  call([], [], 0, ({ k }) => k.startBox(area.width));
  eachStrip(raster, area, (k, at, rows, y) => {
    k.boxVisible(at, area.width, rows, y, leastAlpha);
  });
  return call([], [], 0, ({ k }) => boxFound(k, area.x));
}

/** Whether there are such extents; looks no further than the first visible pixels. */
export function isVisible(raster: Raster, leastAlpha = LEAST_ALPHA, within: RectPx = wholeOf(raster)): boolean {
  let isFound = false;
  call([], [], 0, ({ k }) => k.startBox(within.width));
  eachStrip(raster, within, (k, at, rows, y) => {
    k.boxVisible(at, within.width, rows, y, leastAlpha);
    return (isFound = boxFound(k) !== null);
  });
  return isFound;
}

const wholeOf = ({ width, height }: Raster): RectPx => ({ x: 0, y: 0, width, height });
