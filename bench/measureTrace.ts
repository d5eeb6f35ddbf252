import { scaling } from '../core/geometry/matrix';
import { AreaCoverage, type FillRule } from '../core/vector/areaCoverage';
import { flattenPath } from '../core/vector/flattenPath';
import { type Path, coordsOf, eachSide } from '../core/vector/path';

/** How near a traced outline is to the true one. */
export interface TraceScore {
  /** Area of the exclusive-or over the true area. */
  readonly areaDifference: number;
  /** Distances of the traced outline from the true one, px. */
  readonly meanPx: number;
  readonly p95Px: number;
  readonly nodeRatio: number;
  /** Share of the true corners with a corner of the trace near them. */
  readonly cornersKept: number;
}

interface Outline {
  readonly path: Path;
  readonly rule: FillRule;
}

const FINE = 6;
const CORNER_NEAR_PX = 0.6;
const CORNER_RAD = 0.4;

export function measureTrace(traced: Outline, truth: Outline, width: number, height: number): TraceScore {
  const far = distances(traced.path, truth.path);
  const corners = cornersOf(truth.path);
  const found = cornersOf(traced.path);
  const kept = corners.filter(([x, y]) => found.some(([u, v]) => Math.hypot(u - x, v - y) < CORNER_NEAR_PX));
  return {
    areaDifference: areaDifference(traced, truth, width, height),
    meanPx: far.reduce((a, b) => a + b, 0) / far.length,
    p95Px: [...far].sort((a, b) => a - b)[Math.floor(far.length * 0.95)],
    nodeRatio: nodesOf(traced.path) / nodesOf(truth.path),
    cornersKept: corners.length === 0 ? 1 : kept.length / corners.length,
  };
}

/** From coverage at several times the size, where hardly a pixel holds both kinds of difference. */
function areaDifference(a: Outline, b: Outline, width: number, height: number): number {
  const [w, h] = [width * FINE, height * FINE];
  const of = ({ path, rule }: Outline) => new AreaCoverage(flattenPath(path, scaling(FINE)), rule, w, h);
  const [ca, cb] = [of(a), of(b)];
  const [ra, rb] = [new Float64Array(w), new Float64Array(w)];
  let [differs, whole] = [0, 0];
  for (let y = 0; y < h; y++) {
    ra.fill(0);
    rb.fill(0);
    if (y >= ca.top && y < ca.bottom) ca.row(y, ra);
    if (y >= cb.top && y < cb.bottom) cb.row(y, rb);
    for (let x = 0; x < w; x++) {
      differs += Math.abs(ra[x] - rb[x]);
      whole += rb[x];
    }
  }
  return differs / whole;
}

/** Distances of places along one outline from another. */
function distances(from: Path, to: Path): number[] {
  const lines = flattenPath(to, scaling(1));
  const cell = 8;
  const grid = new Map<string, number[]>();
  for (let k = 0; k < lines.length; k += 4) {
    const n = Math.max(1, Math.ceil(Math.hypot(lines[k + 2] - lines[k], lines[k + 3] - lines[k + 1]) / 4));
    for (let s = 0; s <= n; s++) {
      const x = Math.floor((lines[k] + ((lines[k + 2] - lines[k]) * s) / n) / cell);
      const y = Math.floor((lines[k + 1] + ((lines[k + 3] - lines[k + 1]) * s) / n) / cell);
      const key = `${x},${y}`;
      const list = grid.get(key) ?? [];
      if (list.at(-1) !== k) list.push(k);
      grid.set(key, list);
    }
  }
  const out: number[] = [];
  const own = flattenPath(from, scaling(1));
  for (let k = 0; k < own.length; k += 4) {
    const length = Math.hypot(own[k + 2] - own[k], own[k + 3] - own[k + 1]);
    const n = Math.max(1, Math.round(length));
    for (let s = 0; s < n; s++) {
      const x = own[k] + ((own[k + 2] - own[k]) * (s + 0.5)) / n;
      const y = own[k + 1] + ((own[k + 3] - own[k + 1]) * (s + 0.5)) / n;
      // Short chords of a finely flattened curve would count for too much.
      if (length < 0.5 && (k / 4) % Math.ceil(0.5 / Math.max(length, 0.01)) !== 0) continue;
      let least = cell;
      for (let cy = -1; cy <= 1; cy++)
        for (let cx = -1; cx <= 1; cx++)
          for (const j of grid.get(`${Math.floor(x / cell) + cx},${Math.floor(y / cell) + cy}`) ?? [])
            least = Math.min(least, toLine(x, y, lines, j));
      out.push(least);
    }
  }
  return out;
}

function toLine(x: number, y: number, l: readonly number[], k: number): number {
  const [dx, dy] = [l[k + 2] - l[k], l[k + 3] - l[k + 1]];
  const d2 = dx * dx + dy * dy;
  const t = d2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - l[k]) * dx + (y - l[k + 1]) * dy) / d2));
  return Math.hypot(x - l[k] - t * dx, y - l[k + 1] - t * dy);
}

/** Lines and curves; a ring's closing side counts where it is one. */
export function nodesOf(path: Path): number {
  let nodes = 0;
  eachSide(
    path,
    () => nodes++,
    () => nodes++,
  );
  return nodes;
}

/** Where the direction turns by more than a bend does. */
export function cornersOf(path: Path): [number, number][] {
  const corners: [number, number][] = [];
  let sides: { from: [number, number]; out: [number, number]; into: [number, number] }[] = [];
  const close = () => {
    sides.forEach((side, k) => {
      const before = sides[(k + sides.length - 1) % sides.length];
      const turn = Math.acos(Math.max(-1, Math.min(1, before.into[0] * side.out[0] + before.into[1] * side.out[1])));
      if (turn > CORNER_RAD) corners.push(side.from);
    });
    sides = [];
  };
  const unit = (dx: number, dy: number): [number, number] => {
    const length = Math.hypot(dx, dy) || 1;
    return [dx / length, dy / length];
  };
  // One ring at a time: sides of two rings have nothing to do with one another.
  let verbsFrom = 0;
  let coordsFrom = 0;
  for (let v = 0, k = 0; v < path.verbs.length; v++) {
    k += coordsOf(path.verbs[v]);
    if (path.verbs[v] !== 'Z' && v + 1 < path.verbs.length && path.verbs[v + 1] !== 'M') continue;
    const ring = { verbs: path.verbs.slice(verbsFrom, v + 1), coords: path.coords.slice(coordsFrom, k) };
    [verbsFrom, coordsFrom] = [v + 1, k];
    const { coords } = ring;
    eachSide(
      ring,
      (x0, y0, x1, y1) => {
        if (Math.hypot(x1 - x0, y1 - y0) > 1e-6)
          sides.push({ from: [x0, y0], out: unit(x1 - x0, y1 - y0), into: unit(x1 - x0, y1 - y0) });
      },
      (x0, y0, c) => {
        const p = [x0, y0, ...coords.slice(c, c + 6)];
        const first = [2, 4, 6].find((i) => Math.hypot(p[i] - p[0], p[i + 1] - p[1]) > 1e-6) ?? 6;
        const last = [4, 2, 0].find((i) => Math.hypot(p[6] - p[i], p[7] - p[i + 1]) > 1e-6) ?? 0;
        sides.push({
          from: [x0, y0],
          out: unit(p[first] - p[0], p[first + 1] - p[1]),
          into: unit(p[6] - p[last], p[7] - p[last + 1]),
        });
      },
    );
    close();
  }
  return corners;
}
