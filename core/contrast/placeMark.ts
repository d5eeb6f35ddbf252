import type { Artwork } from '../artwork/artwork';
import type { Raster } from '../raster/raster';
import { prepareFile } from '../recipe/makeFile';

/**
 * What is visible of artwork, so many pixels wide, as a file of that width shows it.
 * @throws CoreError 'cutout/nothing-left' where nothing is visible, 'size/impossible' where it would be too large
 */
export function markAtWidth(artwork: Artwork, widthPx: number): Raster {
  const size = { id: 'width', params: { widthPx: Math.max(1, Math.round(widthPx)), paddingPct: 0 } };
  return prepareFile(artwork, { size, format: { id: 'png', params: {} } }).content.raster as Raster;
}
