import { Clipper, EndType, FillRule, JoinType } from 'clipper2-ts';
import { flattenPath } from '../../core/vector/flattenPath';
import { type Path, PathBuilder } from '../../core/vector/path';

/** A line as it is stroked: places, and whether its end joins its start. */
export interface Polyline {
  readonly points: readonly (readonly [number, number])[];
  readonly isClosed: boolean;
}

export interface StrokeStyle {
  readonly width: number;
  readonly cap: string;
  readonly join: string;
  readonly miterLimit: number;
  /** Lengths of dashes and gaps in turns; empty for a whole line. */
  readonly dashes: readonly number[];
  readonly dashOffset: number;
}

/** Whole numbers stand for so many parts of a unit: the library counts in whole numbers. */
const PARTS = 4096;
/** A line of more dashes than this is drawn whole: nobody would see them. */
const MOST_DASHES = 4000;

/**
 * The outline of stroked lines: what a round, flat or square pen covers, as one shape.
 * @param near  how far the outline may be from a true round, in the lines' own unit
 */
export function strokeOutline(lines: readonly Polyline[], style: StrokeStyle, near: number): Path {
  const all = style.dashes.length > 0 ? lines.flatMap((line) => dashed(line, style)) : lines;
  const join = style.join === 'round' ? JoinType.Round : style.join === 'bevel' ? JoinType.Bevel : JoinType.Miter;
  const cap = style.cap === 'round' ? EndType.Round : style.cap === 'square' ? EndType.Square : EndType.Butt;
  const whole = ({ points }: Polyline) =>
    points.map(([x, y]) => ({ x: Math.round(x * PARTS), y: Math.round(y * PARTS) }));
  const offset = (list: readonly Polyline[], end: EndType) =>
    list.length === 0
      ? []
      : Clipper.inflatePaths(
          list.map(whole),
          (style.width * PARTS) / 2,
          join,
          end,
          Math.max(1, style.miterLimit),
          Math.max(1, near * PARTS),
        );
  const open = offset(
    all.filter((l) => !l.isClosed),
    cap,
  );
  const closed = offset(
    all.filter((l) => l.isClosed && l.points.length > 2),
    EndType.Joined,
  );
  const out = new PathBuilder();
  for (const ring of Clipper.union([...open, ...closed], [], FillRule.NonZero)) {
    ring.forEach(({ x, y }, k) => (k === 0 ? out.moveTo(x / PARTS, y / PARTS) : out.lineTo(x / PARTS, y / PARTS)));
    out.close();
  }
  return out.done();
}

function dashed({ points, isClosed }: Polyline, { dashes, dashOffset }: StrokeStyle): Polyline[] {
  const lengths = dashes.length % 2 === 0 ? dashes : [...dashes, ...dashes];
  const whole = lengths.reduce((a, b) => a + b, 0);
  if (!(whole > 0) || lengths.some((v) => v < 0)) return [{ points, isClosed }];
  const all = isClosed ? [...points, points[0]] : points;
  let length = 0;
  for (let k = 1; k < all.length; k++) length += Math.hypot(all[k][0] - all[k - 1][0], all[k][1] - all[k - 1][1]);
  if ((length / whole) * (lengths.length / 2) > MOST_DASHES) return [{ points, isClosed }];
  const out: Polyline[] = [];
  let [k, left] = [0, ((dashOffset % whole) + whole) % whole];
  while (left >= lengths[k % lengths.length] && lengths[k % lengths.length] >= 0) {
    left -= lengths[k % lengths.length];
    k++;
    if (k > lengths.length * 2) break;
  }
  left = lengths[k % lengths.length] - left;
  let own: [number, number][] = k % 2 === 0 ? [[...all[0]] as [number, number]] : [];
  for (let p = 1; p < all.length; p++) {
    let [x, y] = all[p - 1];
    const [tx, ty] = all[p];
    let rest = Math.hypot(tx - x, ty - y);
    while (rest > left) {
      const share = left / rest;
      [x, y] = [x + (tx - x) * share, y + (ty - y) * share];
      rest -= left;
      if (k % 2 === 0) {
        out.push({ points: [...own, [x, y]], isClosed: false });
        own = [];
      } else own = [[x, y]];
      k++;
      left = lengths[k % lengths.length];
    }
    left -= rest;
    if (k % 2 === 0) own.push([tx, ty]);
  }
  if (own.length > 1) out.push({ points: own, isClosed: false });
  return out;
}

/** One ring of a path as a line to be stroked. @param near  how near to a curve its chords are, in the path's unit */
export function polylineOf(path: Path, isClosed: boolean, near: number): Polyline {
  // Finer than asked for: flattening is near to two thousandths of the unit it works in.
  const grown = Math.max(1e-6, 0.002 / near);
  // A closing side is no part of an open line.
  const lines = flattenPath({ ...path, verbs: path.verbs.replace(/Z$/, '') }, [grown, 0, 0, grown, 0, 0]);
  const count = isClosed ? lines.length / 4 : Math.max(0, lines.length / 4 - (endsAtStart(path) ? 0 : 1));
  const points: [number, number][] = [];
  for (let k = 0; k < count; k++) {
    if (k === 0) points.push([lines[0] / grown, lines[1] / grown]);
    points.push([lines[4 * k + 2] / grown, lines[4 * k + 3] / grown]);
  }
  if (points.length === 0 && path.coords.length >= 2) points.push([path.coords[0], path.coords[1]]);
  if (isClosed && points.length > 1) {
    const [[ax, ay], [bx, by]] = [points[0], points[points.length - 1]];
    if (Math.hypot(ax - bx, ay - by) < 1e-9) points.pop();
  }
  return { points, isClosed };
}

const endsAtStart = ({ coords }: Path) =>
  coords.length < 4 || (coords[0] === coords[coords.length - 2] && coords[1] === coords[coords.length - 1]);
