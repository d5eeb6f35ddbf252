import { ACROSS, DOWN, alongSide } from '../sizes/alongSide';
import { type Extent, type Grid, wholePixels } from '../sizes/size';
import type { RectPx } from '../params';
import { type Length, distancePx, widthPx } from './lengths';

export type { Length };

export const ANCHORS = [
  ...['upper-left', 'upper', 'upper-right', 'left', 'centre', 'right'],
  ...['lower-left', 'lower', 'lower-right'],
] as const;
export type Anchor = (typeof ANCHORS)[number];

/** Where a mark stands on a ground, and how large. */
export interface Place {
  /** A corner, a side or the middle; or the middle of the mark, px. */
  readonly at: Anchor | { readonly x: number; readonly y: number };
  /** From the mark's extents to the edges; a share is one of the ground's shorter side. No matter for a point. */
  readonly inset: Length;
  /** Width of the mark's extents before it is turned; a share is one of the ground's width. */
  readonly size: Length;
}

/** A mark as it is to lie: its extents before it is turned and after, in any unit. */
export interface Turned {
  readonly own: Extent;
  readonly turned: Extent;
}

/** A mark is never less wide. */
const LEAST_PX = 1;

/**
 * Where a mark comes to lie, whole pixels of the ground. It keeps its proportions, and is made smaller where it would
 * not lie within the inset; at a point it may reach beyond the ground.
 * @param mark  its extents, in any unit
 */
export function placeBox(
  ground: Extent & { readonly ppi?: number },
  mark: Extent | Turned,
  { at, inset, size }: Place,
  grid: Grid = wholePixels,
): RectPx {
  const { own, turned } = 'own' in mark ? mark : { own: mark, turned: mark };
  const edge = distancePx(inset, ground, ground.ppi);
  const wanted = widthPx(size, ground, own, ground.ppi) * (turned.width / own.width);
  const isPoint = typeof at === 'object';
  const most = isPoint
    ? Infinity
    : Math.min(ground.width - 2 * edge, ((ground.height - 2 * edge) * turned.width) / turned.height);
  const width = Math.max(LEAST_PX, grid.round(Math.max(LEAST_PX, Math.min(wanted, most))));
  const height = Math.max(LEAST_PX, grid.round((width * turned.height) / turned.width));
  if (isPoint) return { x: grid.round(at.x - width / 2), y: grid.round(at.y - height / 2), width, height };
  const room = (whole: number) => ({ from: grid.round(edge), length: whole - 2 * grid.round(edge) });
  return {
    x: alongSide(at, ACROSS, room(ground.width), width, grid),
    y: alongSide(at, DOWN, room(ground.height), height, grid),
    width,
    height,
  };
}

/** Pixels of a page that nothing covers whole, and the rectangle round them; null where all is covered. */
export function findGaps(page: {
  width: number;
  height: number;
  data: Uint8Array;
}): { px: number; box: RectPx } | null {
  const { width, height, data } = page;
  let [px, left, top, right, bottom] = [0, width, height, 0, 0];
  for (let y = 0, p = 3; y < height; y++) {
    for (let x = 0; x < width; x++, p += 4) {
      if (data[p] === 255) continue;
      px++;
      if (x < left) left = x;
      if (x >= right) right = x + 1;
      if (y < top) top = y;
      bottom = y + 1;
    }
  }
  return px === 0 ? null : { px, box: { x: left, y: top, width: right - left, height: bottom - top } };
}
