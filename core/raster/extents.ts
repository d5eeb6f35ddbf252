import { call } from '../kernels/heap';
import type { RectPx } from '../params';
import type { Raster } from './raster';
import { boxFound, eachStrip } from './strips';

/**
 * The smallest rectangle holding all that is visible, or null when nothing is.
 * @param leastAlpha  pixels below this count as invisible; the default 3 (about 1%) cannot be seen on any ground
 * @param within  where alone anything can be visible, in whole pixels, when that is known
 */
export function findExtents(raster: Raster, leastAlpha = 3, within?: RectPx): RectPx | null {
  const area = within ?? { x: 0, y: 0, width: raster.width, height: raster.height };
  call([], [], 0, ({ k }) => k.startBox(area.width));
  eachStrip(raster, area, (k, at, rows, y) => k.boxVisible(at, area.width, rows, y, leastAlpha));
  return call([], [], 0, ({ k }) => boxFound(k, area.x));
}
