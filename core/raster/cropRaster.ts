import { CoreError } from '../errors';
import type { RectPx } from '../params';
import { type Raster, createRaster } from './raster';

/** The whole-pixel part of a region that lies inside a picture; width or height 0 when nothing does. */
export function clampRect(rect: RectPx, width: number, height: number): RectPx {
  const x0 = Math.max(0, Math.min(width, Math.round(rect.x)));
  const y0 = Math.max(0, Math.min(height, Math.round(rect.y)));
  const x1 = Math.max(x0, Math.min(width, Math.round(rect.x + rect.width)));
  const y1 = Math.max(y0, Math.min(height, Math.round(rect.y + rect.height)));
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

/**
 * The pixels of a region as a picture of its own.
 * @throws CoreError 'crop/empty' when the region holds no pixel of the picture
 */
export function cropRaster(raster: Raster, rect: RectPx): Raster {
  const r = clampRect(rect, raster.width, raster.height);
  if (r.width === 0 || r.height === 0)
    throw new CoreError('crop/empty', 'The crop region holds no pixel of the picture.', { rect });
  if (r.width === raster.width && r.height === raster.height) return raster;
  const out = createRaster(r.width, r.height);
  for (let y = 0; y < r.height; y++) {
    const from = ((r.y + y) * raster.width + r.x) * 4;
    out.data.set(raster.data.subarray(from, from + r.width * 4), y * r.width * 4);
  }
  return out;
}

/**
 * A picture placed on a larger transparent one. `left` and `top` are whole pixels, not negative.
 * @param memory  bytes for the larger one, whatever they hold, where there are some to spare
 */
export function placeOnCanvas(
  raster: Raster,
  width: number,
  height: number,
  left: number,
  top: number,
  memory?: Uint8Array,
): Raster {
  const out = memory ? { width, height, data: memory.fill(0) } : createRaster(width, height);
  for (let y = 0; y < raster.height; y++) {
    out.data.set(
      raster.data.subarray(y * raster.width * 4, (y + 1) * raster.width * 4),
      ((top + y) * width + left) * 4,
    );
  }
  return out;
}
