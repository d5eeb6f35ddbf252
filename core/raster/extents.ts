import type { RectPx } from '../params';
import type { Raster } from './raster';

/**
 * The smallest rectangle holding all that is visible, or null when nothing is.
 * @param leastAlpha  pixels below this count as invisible; the default 3 (about 1%) cannot be seen on any ground
 * @param within  where alone anything can be visible, in whole pixels, when that is known
 */
export function findExtents(raster: Raster, leastAlpha = 3, within?: RectPx): RectPx | null {
  const { width, height, data } = raster;
  const area = within ?? { x: 0, y: 0, width, height };
  let top = -1;
  let bottom = -1;
  let left = width;
  let right = -1;
  // One word a pixel: the alpha byte is the highest on every host we run on.
  const px = new Int32Array(data.buffer, data.byteOffset, width * height);
  for (let y = area.y; y < area.y + area.height; y++) {
    const row = y * width;
    const end = row + area.x + area.width;
    let i = row + area.x;
    while (i + 4 <= end && (px[i] | px[i + 1] | px[i + 2] | px[i + 3]) >>> 24 === 0) i += 4;
    while (i < end && px[i] >>> 24 < leastAlpha) i++;
    if (i === end) continue;
    if (top < 0) top = y;
    bottom = y;
    if (i - row < left) left = i - row;
    let k = end - 1;
    while (k - row > right && px[k] >>> 24 < leastAlpha) k--;
    if (k - row > right) right = k - row;
  }
  return top < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
