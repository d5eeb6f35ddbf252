import { type Extent, type Grid, wholePixels } from '../sizes/size';
import { ACROSS, DOWN, alongSide } from '../sizes/alongSide';
import type { RectPx } from '../params';

/** A length on a ground: a share of one of its sides, or pixels of it. */
export interface Length {
  readonly value: number;
  readonly unit: 'pct' | 'px';
}

export const ANCHORS = [
  ...['upper-left', 'upper', 'upper-right', 'left', 'centre', 'right'],
  ...['lower-left', 'lower', 'lower-right'],
] as const;
export type Anchor = (typeof ANCHORS)[number];

/** Where a mark stands on a ground, and how large. */
export interface Place {
  /** A corner, a side or the middle; or the middle of the mark, px. */
  readonly at: Anchor | { readonly x: number; readonly y: number };
  /** From the mark's extents to the edges; a share of the ground's shorter side. No matter for a point. */
  readonly inset: Length;
  /** Width of the mark's extents; a share of the ground's width. */
  readonly size: Length;
}

/** A mark is never less wide. */
const LEAST_PX = 1;

/**
 * Where a mark comes to lie, whole pixels of the ground. It keeps its proportions, and is made smaller where it would
 * not lie within the inset; at a point it may reach beyond the ground.
 * @param mark  its extents, in any unit
 */
export function placeBox(ground: Extent, mark: Extent, { at, inset, size }: Place, grid: Grid = wholePixels): RectPx {
  const short = Math.min(ground.width, ground.height);
  const edge = inset.unit === 'pct' ? (inset.value / 100) * short : inset.value;
  const wanted = size.unit === 'pct' ? (size.value / 100) * ground.width : size.value;
  const isPoint = typeof at === 'object';
  const most = isPoint
    ? Infinity
    : Math.min(ground.width - 2 * edge, ((ground.height - 2 * edge) * mark.width) / mark.height);
  const width = Math.max(LEAST_PX, grid.round(Math.max(LEAST_PX, Math.min(wanted, most))));
  const height = Math.max(LEAST_PX, grid.round((width * mark.height) / mark.width));
  if (isPoint) return { x: grid.round(at.x - width / 2), y: grid.round(at.y - height / 2), width, height };
  const room = (whole: number) => ({ from: grid.round(edge), length: whole - 2 * grid.round(edge) });
  return {
    x: alongSide(at, ACROSS, room(ground.width), width, grid),
    y: alongSide(at, DOWN, room(ground.height), height, grid),
    width,
    height,
  };
}

/** Pixels of a page that nothing covers whole: what stays see-through. */
export function countGaps({ data }: { readonly data: Uint8Array }): number {
  let gaps = 0;
  for (let p = 3; p < data.length; p += 4) if (data[p] < 255) gaps++;
  return gaps;
}
