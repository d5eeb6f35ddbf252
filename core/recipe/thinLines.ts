import { POINTS_PER_INCH } from '../units';
import type { Artwork } from '../artwork/artwork';
import { type Raster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import type { Extent, FileLayout } from '../sizes/size';
import { colourStrokes, outlineOf } from '../trace/colourStrokes';
import { findPalette } from '../trace/findPalette';
import { type StrokeWidths, measureStrokes } from '../trace/strokeWidths';
import { plainTrace } from '../trace/traceCoverage';
import { traceMaster } from '../trace/traceMaster';

/** Thinner lines break up: on a screen, and in print. */
export const LEAST_LINE_PX = 1.5;
export const LEAST_LINE_PT = 0.25;

/** Colours are told apart on no more pixels: a line keeps its width to a tenth of a pixel. */
const MOST_PIXELS = 2e6;

/** Widths of a mark's strokes and of the gaps between them, in its own full-size pixels. */
export interface MarkWidths extends StrokeWidths {
  /** The narrowest gap; null where there is none. */
  readonly gapPx: number | null;
}

/** How wide a mark's strokes are, of its outline and of each colour's, and its gaps; null of nothing. */
export function masterStrokes({ raster, reduction }: Artwork): MarkWidths | null {
  const share = Math.min(1, Math.sqrt(MOST_PIXELS / (raster.width * raster.height)));
  const small = share < 1 ? resizedBy(raster, share) : raster;
  const outline = outlineOf(raster);
  const isOfColours = findPalette(small, null).colours.length > 1;
  const byColour = () => {
    const { layers } = traceMaster(small, { ...plainTrace, colours: null });
    return scaled(colourStrokes(small, layers, small === raster ? outline : null), 1 / share);
  };
  const found = isOfColours ? byColour() : measureStrokes(outline);
  const gap = measureStrokes(outline, 'gaps');
  const strokes = scaled(found, reduction);
  return strokes && { ...strokes, gapPx: gap && gap.thinnestPx * reduction };
}

const resizedBy = (raster: Raster, share: number): Raster =>
  resizeRaster(raster, Math.round(raster.width * share), Math.round(raster.height * share));

const scaled = (found: StrokeWidths | null, times: number): StrokeWidths | null =>
  found && {
    medianPx: found.medianPx * times,
    thinnestPx: found.thinnestPx * times,
    place: { x: found.place.x * times, y: found.place.y * times },
  };

/** A file's thinnest line, where that is too thin for it. */
export interface ThinLine {
  readonly width: number;
  readonly unit: 'px' | 'pt';
  /** Of the size asked for: at so many times it the line is wide enough. */
  readonly times: number;
}

/**
 * Whether a mark's thinnest line is too thin at a file's size. Files of paths are judged in print alone: on a screen
 * they are shown at any size.
 * @param extents  the mark's, in its own full-size pixels
 * @returns null where it is wide enough
 */
export function thinLineOf(
  thinnestPx: number,
  extents: Extent,
  layout: FileLayout,
  isOfPaths: boolean,
): ThinLine | null {
  const px = (thinnestPx * layout.mark.width) / extents.width;
  if (layout.ppi !== null) {
    const pt = (px / layout.ppi) * POINTS_PER_INCH;
    if (pt < LEAST_LINE_PT) return { width: pt, unit: 'pt', times: LEAST_LINE_PT / pt };
  }
  return !isOfPaths && px < LEAST_LINE_PX ? { width: px, unit: 'px', times: LEAST_LINE_PX / px } : null;
}
