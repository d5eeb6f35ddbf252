import type { Artwork } from '../artwork/artwork';
import { extentsOf } from '../artwork/extentsOf';
import { renderDrawing } from '../artwork/renderDrawing';
import { CoreError } from '../errors';
import { cropRaster } from '../raster/cropRaster';
import type { Raster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';

/**
 * What is visible of artwork, so many pixels wide: paths are drawn at that size, pixels resized.
 * @throws CoreError 'cutout/nothing-left' where nothing is visible
 */
export function markAtWidth(artwork: Artwork, widthPx: number): Raster {
  const extents = extentsOf(artwork);
  if (!extents || extents.width <= 0 || extents.height <= 0) throw new CoreError('cutout/nothing-left');
  const width = Math.max(1, Math.round(widthPx));
  const height = Math.max(1, Math.round((width * extents.height) / extents.width));
  const [sx, sy] = [width / extents.width, height / extents.height];
  if (artwork.drawing)
    return renderDrawing(artwork.drawing, {
      width,
      height,
      matrix: [sx, 0, 0, sy, -extents.x * sx, -extents.y * sy],
    });
  const r = artwork.reduction;
  const shown = { x: extents.x / r, y: extents.y / r, width: extents.width / r, height: extents.height / r };
  return resizeRaster(cropRaster(artwork.raster, shown), width, height);
}
