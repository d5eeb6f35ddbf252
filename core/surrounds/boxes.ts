import type { RectPx } from '../params';
import { type Path, PathBuilder } from '../vector/path';

export const grownBox = ({ x, y, width, height }: RectPx, by: number): RectPx => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

/** A quarter of a circle as a cubic: handles of this share of its radius. @see A. Riškus, 2006 */
const QUARTER = 0.5522847498;

/** A box with rounded corners, clockwise on the screen; `inwards` the other way round, for a hole. */
export function boxPath({ x, y, width, height }: RectPx, radius = 0, inwards = false): Path {
  const r = Math.max(0, Math.min(radius, width / 2, height / 2));
  const [right, bottom] = [x + width, y + height];
  const out = new PathBuilder();
  if (r === 0) {
    const corners: [number, number][] = [
      [x, y],
      [right, y],
      [right, bottom],
      [x, bottom],
    ];
    const row = inwards ? [corners[0], corners[3], corners[2], corners[1]] : corners;
    row.forEach(([u, v], k) => (k === 0 ? out.moveTo(u, v) : out.lineTo(u, v)));
    return out.close().done();
  }
  const h = r * (1 - QUARTER);
  if (inwards) {
    out
      .moveTo(x, y + r)
      .lineTo(x, bottom - r)
      .curveTo(x, bottom - h, x + h, bottom, x + r, bottom);
    out.lineTo(right - r, bottom).curveTo(right - h, bottom, right, bottom - h, right, bottom - r);
    out.lineTo(right, y + r).curveTo(right, y + h, right - h, y, right - r, y);
    out.lineTo(x + r, y).curveTo(x + h, y, x, y + h, x, y + r);
  } else {
    out
      .moveTo(x + r, y)
      .lineTo(right - r, y)
      .curveTo(right - h, y, right, y + h, right, y + r);
    out.lineTo(right, bottom - r).curveTo(right, bottom - h, right - h, bottom, right - r, bottom);
    out.lineTo(x + r, bottom).curveTo(x + h, bottom, x, bottom - h, x, bottom - r);
    out.lineTo(x, y + r).curveTo(x, y + h, x + h, y, x + r, y);
  }
  return out.close().done();
}
