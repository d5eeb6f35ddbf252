import type { RectPx } from '../params';
import type { Length, Place } from '../placements/placement';
import { placeBox } from '../placements/placement';
import { type Extent, type Grid, anywhere, wholePixels } from '../sizes/size';
import { MM_PER_INCH } from '../units';
import { type Framed, type Mat, frameSheet } from './mat';
import { pixelsOf } from './paper';

export interface SheetOrder {
  /** mm. */
  readonly paper: Extent;
  readonly ppi: number;
  readonly mat: Mat | null;
  readonly at: Place['at'];
  readonly inset: Length;
  /** A share is one of the width that is seen. */
  readonly size: Length;
}

/** A mark alone on a sheet is so large, and keeps so far from what frames it. */
export const usualSheet = {
  at: 'centre',
  inset: { value: 8, unit: 'pct' },
  size: { value: 60, unit: 'pct' },
} as const satisfies Pick<SheetOrder, 'at' | 'inset' | 'size'>;

export interface SheetLayout extends Extent {
  readonly ppi: number;
  /** Where the mark lies, px of the sheet. */
  readonly mark: RectPx;
  /** What is seen of the sheet, px; all of it without a mat. */
  readonly seen: RectPx;
  readonly framed: Framed | null;
}

/**
 * A print sheet in pixels, with the mark in what its mat leaves to be seen.
 * @param mark  its extents, in any unit
 * @throws CoreError as `frameSheet`
 */
export function layOutSheet(mark: Extent, order: SheetOrder, hasPaths: boolean): SheetLayout {
  const { paper, ppi, mat } = order;
  const grid: Grid = hasPaths ? anywhere : wholePixels;
  const page = pixelsOf(paper, ppi, grid);
  const framed = mat ? frameSheet(paper, mat) : null;
  const perMm = ppi / MM_PER_INCH;
  const seen = framed ? inside(framed.opening, perMm, page, grid) : { x: 0, y: 0, ...page };
  // What is given as a place is one of the sheet, whatever covers it.
  if (typeof order.at === 'object') {
    const box = placeBox({ ...seen, ppi }, mark, order, grid);
    return { ...page, ppi, seen, framed, mark: box };
  }
  const box = placeBox({ width: seen.width, height: seen.height, ppi }, mark, order, grid);
  return { ...page, ppi, seen, framed, mark: { ...box, x: box.x + seen.x, y: box.y + seen.y } };
}

/** Pixels that lie in the opening entirely. */
function inside(opening: RectPx, perMm: number, page: Extent, grid: Grid): RectPx {
  const up = (v: number) => (grid === wholePixels ? Math.ceil(v - 1e-6) : v);
  const [x, y] = [up(opening.x * perMm), up(opening.y * perMm)];
  return { x, y, width: page.width - 2 * x, height: page.height - 2 * y };
}

/** A mark's own pixels to the inch on its sheet. @param enlargement  pixels of the sheet per pixel of the mark */
export const effectivePpi = ({ ppi }: SheetLayout, enlargement: number): number => Math.round(ppi / enlargement);
