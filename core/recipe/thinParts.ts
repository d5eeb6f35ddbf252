import { MM_PER_INCH, POINTS_PER_INCH } from '../units';
import { PX_PER_MM } from '../decoration';
import { lengthPx } from '../layers/lengths';
import type { Variant } from './recipe';
import { LEAST_LINE_PT, LEAST_LINE_PX } from './thinLines';

/** A line of a variant, and from which width of the mark on it is wide enough. */
export interface ThinPart {
  readonly name: string;
  readonly widthPx: number;
  /** Width of the mark at which the line is as thin as may be on a screen, px. */
  readonly leastMarkPx: number;
  /** The same in print, mm. */
  readonly leastMarkMm: number;
}

interface Measured {
  /** The mark's own thinnest line, px at its full size; null where that is not known. */
  readonly thinnestPx: number | null;
  /** Its narrowest gap; null where there is none, or that is not known. */
  readonly gapPx: number | null;
  readonly width: number;
  readonly height: number;
}

/** The thinnest lines of a variant: the mark's own, and those that stand round it; the most delicate first. */
export function thinParts({ surrounds }: Pick<Variant, 'surrounds'>, mark: Measured): ThinPart[] {
  const ctx = { reduction: 1, palette: [], pxLength: 1, mmLength: PX_PER_MM, markHeightPx: mark.height };
  const lines: { name: string; widthPx: number }[] = [];
  if (mark.thinnestPx !== null) lines.push({ name: 'Thinnest line', widthPx: mark.thinnestPx });
  if (mark.gapPx !== null) lines.push({ name: 'Narrowest gap', widthPx: mark.gapPx });
  for (const { id, params } of surrounds) {
    const { width, weight, unit } = params as { width?: number; weight?: number; unit?: string };
    if (id === 'rim') lines.push({ name: 'Rim', widthPx: lengthPx(width ?? 0, unit ?? 'px', ctx) });
    if (id === 'frameLine') lines.push({ name: 'Frame line', widthPx: lengthPx(weight ?? 0, unit ?? 'px', ctx) });
  }
  return lines
    .filter((line) => line.widthPx > 0)
    .map((line) => ({
      ...line,
      leastMarkPx: Math.ceil((mark.width * LEAST_LINE_PX) / line.widthPx),
      leastMarkMm: ((mark.width / line.widthPx) * LEAST_LINE_PT * MM_PER_INCH) / POINTS_PER_INCH,
    }))
    .sort((a, b) => b.leastMarkPx - a.leastMarkPx);
}
