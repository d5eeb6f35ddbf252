import { IDENTITY } from '../geometry/matrix';
import { flattenPath } from '../vector/flattenPath';
import { type Path, PathBuilder, ringsOf } from '../vector/path';
import { type Section, fitSection } from './fitSection';

/** A refitted path is usually this near to the true one, full-size px. */
export const REFIT_NEAR_PX = 0.3;

/** A polygon of chords turns by less at each of them: what turns more is a corner. */
const CORNER_RAD = 0.3;
/** Places so far apart stand for a polygon while curves are fitted to it, px. */
const STEP_PX = 1.2;
const LEAST_PLACES = 5;
/** Rings of less area are what rounding left over, px². */
const LEAST_AREA = 0.05;

/**
 * A path of many chords as few curves and lines within a tolerance; its corners, where two chords turn sharply, stay
 * where they are.
 * @param tolerancePx  how far it may be off
 */
export function refitPath(path: Path, tolerancePx = REFIT_NEAR_PX): Path {
  const out = new PathBuilder();
  for (const ring of ringsOf(path)) {
    const points = pointsOf(ring);
    if (points.length < 3 || Math.abs(areaOf(points)) < LEAST_AREA) continue;
    addRing(out, points, tolerancePx);
  }
  return out.done();
}

type Place = readonly [number, number];

function pointsOf(ring: Path): Place[] {
  const lines = flattenPath(ring, IDENTITY);
  const points: Place[] = [];
  for (let k = 0; k < lines.length; k += 4) {
    const last = points[points.length - 1];
    if (!last || last[0] !== lines[k] || last[1] !== lines[k + 1]) points.push([lines[k], lines[k + 1]]);
  }
  return points;
}

const areaOf = (points: readonly Place[]) =>
  points.reduce((sum, [x, y], k) => {
    const [u, v] = points[(k + 1) % points.length];
    return sum + (x * v - u * y) / 2;
  }, 0);

function addRing(out: PathBuilder, points: readonly Place[], tolerancePx: number): void {
  const n = points.length;
  const corners = points.flatMap((_, k) => (turnAt(points, k) > CORNER_RAD ? [k] : []));
  const sections: Section[] =
    corners.length === 0
      ? [sectionOf([...points, points[0]], null)]
      : corners.map((from, c) => {
          const to = corners[(c + 1) % corners.length];
          const count = (to - from + n) % n || n;
          return sectionOf(
            Array.from({ length: count + 1 }, (_, k) => points[(from + k) % n]),
            true,
          );
        });
  const fitted = sections.map((section) => fitSection(section, tolerancePx));
  out.moveTo(fitted[0].start[0], fitted[0].start[1]);
  fitted.forEach(({ pieces }, s) =>
    pieces.forEach((piece, p) => {
      const isLast = s === fitted.length - 1 && p === pieces.length - 1;
      if (piece.kind === 'curve') out.curveTo(...(piece.curve as [number, number, number, number, number, number]));
      else if (!isLast) out.lineTo(...(piece.to as [number, number]));
    }),
  );
  out.close();
}

function turnAt(points: readonly Place[], k: number): number {
  const n = points.length;
  const [[ax, ay], [bx, by], [cx, cy]] = [points[(k + n - 1) % n], points[k], points[(k + 1) % n]];
  const turn = Math.abs(Math.atan2(cy - by, cx - bx) - Math.atan2(by - ay, bx - ax));
  return Math.min(turn, 2 * Math.PI - turn);
}

/** A row of places, evenly apart, with the directions at its ends where it has any. */
function sectionOf(row: readonly Place[], hasEnds: true | null): Section {
  const ways = [0];
  for (let k = 1; k < row.length; k++)
    ways.push(ways[k - 1] + Math.hypot(row[k][0] - row[k - 1][0], row[k][1] - row[k - 1][1]));
  const whole = ways[ways.length - 1];
  const count = Math.max(LEAST_PLACES, Math.ceil(whole / STEP_PX));
  const [xs, ys] = [new Float64Array(count + 1), new Float64Array(count + 1)];
  for (let i = 0, k = 0; i <= count; i++) {
    const at = (whole * i) / count;
    while (k + 2 < ways.length && ways[k + 1] < at) k++;
    const span = ways[k + 1] - ways[k];
    const t = span > 0 ? Math.min(1, (at - ways[k]) / span) : 0;
    xs[i] = row[k][0] + (row[k + 1][0] - row[k][0]) * t;
    ys[i] = row[k][1] + (row[k + 1][1] - row[k][1]) * t;
  }
  if (!hasEnds) return { xs, ys, out: null, into: null };
  const direction = ([ax, ay]: Place, [bx, by]: Place): Place => {
    const length = Math.hypot(bx - ax, by - ay) || 1;
    return [(bx - ax) / length, (by - ay) / length];
  };
  const last = row.length - 1;
  return { xs, ys, out: direction(row[0], row[1]), into: direction(row[last - 1], row[last]) };
}
