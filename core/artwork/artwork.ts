import { scaling } from '../geometry/matrix';
import { type Projective, fromMatrix } from '../geometry/projective';
import type { RectPx } from '../params';
import type { Raster } from '../raster/raster';
import type { Drawing } from './drawing';
import { renderDrawing } from './renderDrawing';

/** Ink on paper as two quantities, each a byte a pixel of the raster that they belong to. */
export interface InkPlanes {
  /** How much of a pixel the pen covered: alpha where ink is to be solid. */
  readonly coverage: Uint8Array;
  /** Ink at the nearest core of the pixel's stroke, of full ink. */
  readonly density: Uint8Array;
}

/** What stages, fills, surrounds and casts take and give: pixels, and paths where there are any. */
export interface Artwork {
  /** Always there, at the size in hand; when there is a drawing, its rendering. */
  readonly raster: Raster;
  /** In full-size pixels of this artwork: `raster` shows it smaller by `reduction`. */
  readonly drawing: Drawing | null;
  /** Outlines of artwork of pixels, for vector files alone; same size and pixels as a drawing's. */
  readonly outlines?: Drawing;
  /** Of ink on paper, where the pen went and how much ink it left: `raster` shows both in one. */
  readonly ink?: InkPlanes;
  /** From pixels of `raster` to working-picture pixels. */
  readonly toWorking: Projective;
  /** Pixels of this artwork at full size per pixel of `raster`: 1, or more for a reduced one. */
  readonly reduction: number;
  /** Where alone anything can be visible, whole pixels of `raster`; all of it where nobody knows better. */
  readonly within: RectPx;
}

export const wholeOf = ({ width, height }: { width: number; height: number }): RectPx => ({
  x: 0,
  y: 0,
  width,
  height,
});

/** A picture as artwork. @param reduction  full size over this picture's size */
export const artworkOfRaster = (raster: Raster, reduction = 1): Artwork => ({
  raster,
  drawing: null,
  toWorking: fromMatrix(scaling(reduction)),
  reduction,
  within: wholeOf(raster),
});

/** A drawing as artwork, rendered smaller by a reduction. */
export const artworkOfDrawing = (drawing: Drawing, reduction = 1): Artwork => {
  const raster = renderReduced(drawing, reduction);
  return { raster, drawing, toWorking: fromMatrix(scaling(reduction)), reduction, within: wholeOf(raster) };
};

/** The same artwork with another drawing, its pixels made anew. The grid stays unless the drawing's size changed. */
export function withDrawing(artwork: Artwork, drawing: Drawing, toWorking = artwork.toWorking): Artwork {
  const raster = renderReduced(drawing, artwork.reduction);
  return { ...artwork, raster, drawing, toWorking, within: wholeOf(raster) };
}

function renderReduced(drawing: Drawing, reduction: number): Raster {
  const width = Math.max(1, Math.ceil(roundOff(drawing.widthPx / reduction)));
  const height = Math.max(1, Math.ceil(roundOff(drawing.heightPx / reduction)));
  return renderDrawing(drawing, { width, height, matrix: scaling(1 / reduction) });
}

// A hair above a whole pixel is the rounding of a division, and asks for no pixel more.
const roundOff = (v: number) => (Math.abs(v - Math.round(v)) < 1e-6 ? Math.round(v) : v);
