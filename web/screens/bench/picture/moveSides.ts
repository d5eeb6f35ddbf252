import type { RectPx } from '../../../../core/params';

const LEAST_PX = 4;
const clamp = (v: number, lo: number, hi: number) => Math.min(hi, Math.max(lo, Math.round(v)));

/** A movement on the picture, px. */
export interface Movement {
  readonly dx: number;
  readonly dy: number;
}

/** What a region lies on, and how it is turned there. */
export interface Sheet {
  readonly width: number;
  readonly height: number;
  readonly turnDeg?: number;
}

/**
 * A region with some of its sides moved: left, top, right, bottom, 1 for those that move. An upright one keeps to whole
 * pixels inside the picture; of a turned one the sides that do not move stay where they are on the picture.
 */
export function moveSides(from: RectPx, sides: readonly number[], by: Movement, on: Sheet): RectPx {
  const { dx, dy } = by;
  const { width, height, turnDeg = 0 } = on;
  const isWhole = sides.every((s) => s === 1);
  if (turnDeg !== 0) return moveTurned(from, sides, isWhole, by, turnDeg);
  if (isWhole)
    return { ...from, x: clamp(from.x + dx, 0, width - from.width), y: clamp(from.y + dy, 0, height - from.height) };
  const right = from.x + from.width;
  const bottom = from.y + from.height;
  const x0 = sides[0] ? clamp(from.x + dx, 0, right - LEAST_PX) : from.x;
  const y0 = sides[1] ? clamp(from.y + dy, 0, bottom - LEAST_PX) : from.y;
  const x1 = sides[2] ? clamp(right + dx, x0 + LEAST_PX, width) : right;
  const y1 = sides[3] ? clamp(bottom + dy, y0 + LEAST_PX, height) : bottom;
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

function moveTurned(
  from: RectPx,
  sides: readonly number[],
  isWhole: boolean,
  { dx, dy }: Movement,
  turnDeg: number,
): RectPx {
  if (isWhole) return { ...from, x: Math.round(from.x + dx), y: Math.round(from.y + dy) };
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const [u, v] = [dx * cos + dy * sin, -dx * sin + dy * cos];
  const width = Math.max(LEAST_PX, Math.round(from.width + (sides[2] - sides[0]) * u));
  const height = Math.max(LEAST_PX, Math.round(from.height + (sides[3] - sides[1]) * v));
  // Half of what a side grows by moves the centre, along the region's own directions.
  const [cu, cv] = [
    ((sides[2] - sides[0]) * (width - from.width)) / 2,
    ((sides[3] - sides[1]) * (height - from.height)) / 2,
  ];
  const [cx, cy] = [from.x + from.width / 2 + cu * cos - cv * sin, from.y + from.height / 2 + cu * sin + cv * cos];
  return { x: cx - width / 2, y: cy - height / 2, width, height };
}
