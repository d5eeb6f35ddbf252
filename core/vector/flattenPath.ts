import type { Matrix } from '../geometry/matrix';
import { type Path, eachSide, transformPath } from './path';

/** Curves become chords that stay this close, px: far less than what an eighth-bit alpha can tell. */
const CLOSE_PX = 0.002;
const MOST_CHORDS = 4096;

/**
 * A path's sides as straight lines in pixels.
 * @returns `[x0, y0, x1, y1]` for every line, one after another
 * @see a cubic is off its chord by at most √3/18 of its second difference; n chords by 1/n² of that. T. Sederberg,
 *   "Computer Aided Geometric Design", section 10.6
 */
export function flattenPath(path: Path, matrix: Matrix): number[] {
  const placed = transformPath(path, matrix);
  const { coords } = placed;
  const lines: number[] = [];
  const add = (x0: number, y0: number, x1: number, y1: number) => void lines.push(x0, y0, x1, y1);
  eachSide(placed, add, (x0, y0, k) => {
    const [x1, y1, x2, y2, x3, y3] = [
      coords[k],
      coords[k + 1],
      coords[k + 2],
      coords[k + 3],
      coords[k + 4],
      coords[k + 5],
    ];
    const bend = Math.max(
      Math.hypot(x0 - 2 * x1 + x2, y0 - 2 * y1 + y2),
      Math.hypot(x1 - 2 * x2 + x3, y1 - 2 * y2 + y3),
    );
    const n = Math.min(MOST_CHORDS, Math.max(1, Math.ceil(Math.sqrt((SECOND_DIFFERENCE * bend) / CLOSE_PX))));
    let [px, py] = [x0, y0];
    for (let i = 1; i <= n; i++) {
      const t = i / n;
      const s = 1 - t;
      const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
      const [x, y] = i === n ? [x3, y3] : [a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3];
      add(px, py, x, y);
      [px, py] = [x, y];
    }
  });
  return lines;
}

/** Of a cubic's largest second difference, how far one chord is off at most: 6/8. */
const SECOND_DIFFERENCE = 0.75;
