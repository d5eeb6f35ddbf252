import type { RectPx } from '../params';
import { findExtents } from '../raster/extents';
import type { Artwork } from './artwork';
import { boundsOfDrawing } from './drawing';

/** The visible part of a variant at its own full size: exact for paths. Null where nothing is visible. */
export function extentsOf(variant: Artwork): RectPx | null {
  if (variant.drawing) return boundsOfDrawing(variant.drawing);
  const found = findExtents(variant.raster, undefined, variant.within);
  const r = variant.reduction;
  return found && { x: found.x * r, y: found.y * r, width: found.width * r, height: found.height * r };
}
