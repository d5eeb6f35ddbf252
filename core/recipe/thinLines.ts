import type { Artwork } from '../artwork/artwork';
import type { RectPx } from '../params';
import { matteOf } from '../raster/raster';
import type { FileLayout } from '../sizes/size';
import { type StrokeWidths, measureStrokes } from '../trace/strokeWidths';
import { plainTrace, traceCoverage } from '../trace/traceCoverage';

/** Thinner lines break up: on a screen, and in print. */
export const LEAST_LINE_PX = 1.5;
export const LEAST_LINE_PT = 0.25;
const PT_PER_INCH = 72;

/** How wide a mark's strokes are, on its outline, in its own full-size pixels; null where nothing is visible. */
export function masterStrokes({ raster, reduction }: Artwork): StrokeWidths | null {
  const found = measureStrokes(traceCoverage(matteOf(raster), plainTrace).path);
  return (
    found && {
      medianPx: found.medianPx * reduction,
      thinnestPx: found.thinnestPx * reduction,
      place: { x: found.place.x * reduction, y: found.place.y * reduction },
    }
  );
}

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
  extents: RectPx,
  layout: FileLayout,
  isOfPaths: boolean,
): ThinLine | null {
  const px = (thinnestPx * layout.mark.width) / extents.width;
  if (layout.ppi !== null) {
    const pt = (px / layout.ppi) * PT_PER_INCH;
    if (pt < LEAST_LINE_PT) return { width: pt, unit: 'pt', times: LEAST_LINE_PT / pt };
  }
  return !isOfPaths && px < LEAST_LINE_PX ? { width: px, unit: 'px', times: LEAST_LINE_PX / px } : null;
}
