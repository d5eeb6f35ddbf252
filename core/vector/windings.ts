import { scaling } from '../geometry/matrix';
import { flattenPath } from './flattenPath';
import { type Path, coordsOf } from './path';

/** A path's area by its sides, in its own unit squared: positive where it runs clockwise on the screen. */
export function signedAreaOf(path: Path): number {
  const lines = flattenPath(path, scaling(1));
  let twice = 0;
  for (let k = 0; k < lines.length; k += 4) twice += lines[k] * lines[k + 3] - lines[k + 2] * lines[k + 1];
  return twice / 2;
}

/** The same outline the other way round. */
export function reversePath({ verbs, coords }: Path): Path {
  const out = { verbs: '', coords: [] as number[] };
  let ring: { verb: string; c: number[] }[] = [];
  const end = () => {
    if (ring.length === 0) return;
    const isClosed = ring[ring.length - 1].verb === 'Z';
    const sides = isClosed ? ring.slice(0, -1) : ring;
    const last = sides[sides.length - 1].c.slice(-2);
    out.verbs += 'M';
    out.coords.push(...last);
    for (let k = sides.length - 1; k > 0; k--) {
      const { verb, c } = sides[k];
      const to = sides[k - 1].c.slice(-2);
      out.verbs += verb;
      if (verb === 'C') out.coords.push(c[2], c[3], c[0], c[1], ...to);
      else out.coords.push(...to);
    }
    if (isClosed) out.verbs += 'Z';
    ring = [];
  };
  for (let v = 0, k = 0; v < verbs.length; v++) {
    if (verbs[v] === 'M') end();
    const n = coordsOf(verbs[v]);
    ring.push({ verb: verbs[v], c: coords.slice(k, k + n) });
    k += n;
  }
  end();
  return out;
}

/**
 * How often an outline runs round a point, clockwise on the screen counting up.
 * @param lines  as `flattenPath` gives
 */
export function windingAt(lines: readonly number[], x: number, y: number): number {
  let winding = 0;
  for (let k = 0; k < lines.length; k += 4) {
    const [x0, y0, x1, y1] = [lines[k], lines[k + 1], lines[k + 2], lines[k + 3]];
    if (y0 <= y === y1 <= y) continue;
    if (x0 + ((y - y0) / (y1 - y0)) * (x1 - x0) > x) winding += y1 > y0 ? 1 : -1;
  }
  return winding;
}

/** Close enough to a side to be next to nothing else, as a share of its length. */
const BESIDE = 1e-3;
/** So many sides are looked at; an outline of more is looked at here and there. */
const MOST_PROBES = 400;

/** Whether an outline runs at most once round anything, and never the wrong way round. */
export function isSimple(path: Path): boolean {
  const lines = flattenPath(path, scaling(1));
  const step = Math.max(1, Math.floor(lines.length / 4 / MOST_PROBES)) * 4;
  for (let k = 0; k < lines.length; k += step) {
    const [dx, dy] = [lines[k + 2] - lines[k], lines[k + 3] - lines[k + 1]];
    const [x, y] = [lines[k] + dx / 2, lines[k + 1] + dy / 2];
    for (const side of [BESIDE, -BESIDE]) {
      const winding = windingAt(lines, x - dy * side, y + dx * side);
      if (winding !== 0 && winding !== 1) return false;
    }
  }
  return true;
}
