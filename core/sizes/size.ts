import { CoreError } from '../errors';
import { type Fields, type Values, choiceField, numberField } from '../params';
import type { RectPx } from '../params';
import { MAX_SIDE_PX } from '../raster/resize';
import type { WithParams } from '../registry';

/** How numbers of a layout come to lie: on whole pixels for pictures, where they are for paths. */
export interface Grid {
  round(v: number): number;
  floor(v: number): number;
  /** The smallest side that anything has. */
  readonly least: number;
}
export const wholePixels: Grid = { round: Math.round, floor: Math.floor, least: 1 };
export const anywhere: Grid = { round: (v) => v, floor: (v) => v, least: Number.MIN_VALUE };

export interface Extent {
  readonly width: number;
  readonly height: number;
}

export interface FileLayout extends Extent {
  /** Where the mark itself comes to lie, px of the file. */
  readonly mark: RectPx;
  /** Pixels of the file per pixel of the source: above 1 the mark is enlarged. */
  readonly enlargement: number;
  /** Pixels per inch where the file has a physical size. */
  readonly ppi: number | null;
}

export interface SizeDefinition<F extends Fields = Fields> extends WithParams<F> {
  readonly hint: string;
  /** The size in words, such as "1200 px wide". */
  describe(params: Values<F>): string;
  /** @param mark  the visible part of the mark at its own full size */
  layOut(mark: Extent, params: Values<F>, grid: Grid): FileLayout;
}

export const defineSize = <F extends Fields>(d: SizeDefinition<F>): SizeDefinition => d as unknown as SizeDefinition;

/** @throws CoreError 'size/impossible' when a side would be over 16384 px */
export function checkLayout(layout: FileLayout): FileLayout {
  const { width, height } = layout;
  if (Math.max(width, height) > MAX_SIDE_PX) {
    const [w, h] = [Math.round(width), Math.round(height)];
    throw new CoreError(
      'size/impossible',
      `A file ${w} px wide would be ${h} px high; the most is ${MAX_SIDE_PX} px. Ask for a smaller size.`,
      { width: w, height: h },
    );
  }
  return layout;
}

export const paddingField = numberField({
  label: 'Clear space',
  hint: 'On all four sides, as a share of the longer side of the file.',
  option: 'padding',
  initial: 0,
  min: 0,
  max: 40,
  step: 1,
  unit: '%',
});

export const LEAST_SIDE_PX = 8;

/** Where a mark stands in a box larger than itself, by name. */
export const alignField = choiceField({
  label: 'Place',
  initial: 'centre',
  choices: [
    { value: 'upper-left', label: 'Upper left' },
    { value: 'upper', label: 'Upper' },
    { value: 'upper-right', label: 'Upper right' },
    { value: 'left', label: 'Left' },
    { value: 'centre', label: 'Centre' },
    { value: 'right', label: 'Right' },
    { value: 'lower-left', label: 'Lower left' },
    { value: 'lower', label: 'Lower' },
    { value: 'lower-right', label: 'Lower right' },
  ],
});

/**
 * A file as wide as asked, its height by the mark's own proportions, the same clear space in pixels on all four sides.
 */
export function layOutByWidth(mark: Extent, width: number, paddingPct: number, grid: Grid): FileLayout {
  const aspect = mark.height / mark.width;
  const share = paddingPct / 100;
  let pad = grid.round(share * width);
  let markWidth = Math.max(grid.least, width - 2 * pad);
  if (aspect > 1 && share > 0) {
    // width = w + 2·p and p = share·(w·aspect + 2·p): solved for w, so that the longer side's share holds.
    markWidth = Math.max(grid.least, grid.round((width * (1 - 2 * share)) / (1 - 2 * share + 2 * share * aspect)));
    pad = grid.round((width - markWidth) / 2);
    markWidth = width - 2 * pad;
  }
  const markHeight = Math.max(grid.least, grid.round(markWidth * aspect));
  const height = markHeight + 2 * pad;
  const place = { x: grid.floor((width - markWidth) / 2), y: grid.floor((height - markHeight) / 2) };
  return {
    width,
    height,
    mark: { ...place, width: markWidth, height: markHeight },
    enlargement: markWidth / mark.width,
    ppi: null,
  };
}

/** The same by height. */
export function layOutByHeight(mark: Extent, height: number, paddingPct: number, grid: Grid): FileLayout {
  const turned = layOutByWidth({ width: mark.height, height: mark.width }, height, paddingPct, grid);
  const { x, y, width: w, height: h } = turned.mark;
  return { ...turned, width: turned.height, height: turned.width, mark: { x: y, y: x, width: h, height: w } };
}
