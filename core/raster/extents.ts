import type { RectPx } from '../params';
import type { Raster } from './raster';

/**
 * The smallest rectangle holding all that is visible, or null when nothing is.
 * @param leastAlpha  pixels below this count as invisible; the default 3 (about 1%) cannot be seen on any ground
 */
export function findExtents(raster: Raster, leastAlpha = 3): RectPx | null {
  const { width, height, data } = raster;
  let top = -1;
  let bottom = -1;
  let left = width;
  let right = -1;
  for (let y = 0; y < height; y++) {
    const row = y * width * 4 + 3;
    let x = 0;
    while (x < width && data[row + x * 4] < leastAlpha) x++;
    if (x === width) continue;
    if (top < 0) top = y;
    bottom = y;
    if (x < left) left = x;
    let last = width - 1;
    while (last > right && data[row + last * 4] < leastAlpha) last--;
    if (last > right) right = last;
  }
  return top < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
