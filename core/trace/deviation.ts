import { scaling } from '../geometry/matrix';
import { flattenPath } from '../vector/flattenPath';
import { type Path, ringsOf } from '../vector/path';
import type { EdgeRing } from './edgePoints';

/** How far outlines are from where the border was measured, px. */
export interface Deviation {
  readonly meanPx: number;
  readonly largestPx: number;
  /** Where it is largest; null where nothing was measured. */
  readonly place: { readonly x: number; readonly y: number } | null;
  /** Places farther off than TROUBLE_PX. */
  readonly trouble: readonly { readonly x: number; readonly y: number; readonly offPx: number }[];
}

export const TROUBLE_PX = 0.5;
/** Nearer to a corner the grid has rounded what was measured: it tells nothing of the corner. */
const CORNER_PX = 1.6;
/** How many sides ahead of the last one the next place may be. */
const AHEAD = 24;
const BEHIND = 6;
/** Farther off than this the right side was not among those looked at. */
const LOST_PX = 0.4;
const MOST_TROUBLE = 200;
const TROUBLE_APART_PX = 3;

/**
 * Distances of measured places from a path's rings, each ring from its own.
 * @param rings  in the order of the path's rings
 */
export function measureDeviation(path: Path, rings: readonly EdgeRing[]): Deviation {
  let [sum, count, largest] = [0, 0, 0];
  let place: Deviation['place'] = null;
  const trouble: { x: number; y: number; offPx: number }[] = [];
  ringsOf(path).forEach((ring, k) => {
    const lines = flattenPath(ring, scaling(1));
    const measured = rings[k];
    if (!measured || lines.length === 0) return;
    const corners = sharpEnds(lines);
    let at = nearestLine(lines, measured.xs[0], measured.ys[0], 0, lines.length / 4).at;
    for (let p = 0; p < measured.xs.length; p++) {
      const [x, y] = [measured.xs[p], measured.ys[p]];
      let found = nearestLine(lines, x, y, at - BEHIND, AHEAD + BEHIND);
      // Where curves were left out the next side may be farther ahead.
      if (found.off > LOST_PX) found = nearestLine(lines, x, y, 0, lines.length / 4);
      at = found.at;
      if (corners.some(([cx, cy]) => Math.abs(cx - x) < CORNER_PX && Math.abs(cy - y) < CORNER_PX)) continue;
      sum += found.off;
      count++;
      if (found.off > largest) {
        largest = found.off;
        place = { x, y };
      }
      if (found.off <= TROUBLE_PX || trouble.length >= MOST_TROUBLE) continue;
      const last = trouble[trouble.length - 1];
      if (!last || Math.hypot(last.x - x, last.y - y) > TROUBLE_APART_PX) trouble.push({ x, y, offPx: found.off });
    }
  });
  return { meanPx: count > 0 ? sum / count : 0, largestPx: largest, place, trouble };
}

function nearestLine(lines: readonly number[], x: number, y: number, from: number, count: number) {
  const n = lines.length / 4;
  let [best, off] = [((from % n) + n) % n, Infinity];
  for (let j = 0; j < Math.min(count, n); j++) {
    const at = (((from + j) % n) + n) % n;
    const k = at * 4;
    const [dx, dy] = [lines[k + 2] - lines[k], lines[k + 3] - lines[k + 1]];
    const square = dx * dx + dy * dy;
    const t = square === 0 ? 0 : ((x - lines[k]) * dx + (y - lines[k + 1]) * dy) / square;
    const s = Math.max(0, Math.min(1, t));
    const d = Math.hypot(x - lines[k] - s * dx, y - lines[k + 1] - s * dy);
    if (d < off) [best, off] = [at, d];
  }
  return { at: best, off };
}

const SHARP = Math.cos(0.35);

/** Where a ring's chords turn sharply. */
function sharpEnds(lines: readonly number[]): [number, number][] {
  const out: [number, number][] = [];
  const n = lines.length / 4;
  for (let j = 0; j < n; j++) {
    const [a, b] = [((j + n - 1) % n) * 4, j * 4];
    const [ax, ay] = [lines[a + 2] - lines[a], lines[a + 3] - lines[a + 1]];
    const [bx, by] = [lines[b + 2] - lines[b], lines[b + 3] - lines[b + 1]];
    const length = Math.hypot(ax, ay) * Math.hypot(bx, by);
    if (length > 0 && (ax * bx + ay * by) / length < SHARP) out.push([lines[b], lines[b + 1]]);
  }
  return out;
}
