import { EMPTY_PATH, type Path, PathBuilder, eachSide, turningPoints, ringsOf } from './path';

/** What lies where nx·x + ny·y + d is 0 or more. */
export interface HalfPlane {
  readonly nx: number;
  readonly ny: number;
  readonly d: number;
}

/** The half planes whose common part is a rectangle from (0, 0) on. */
export const insideOf = (width: number, height: number): HalfPlane[] => [
  { nx: 1, ny: 0, d: 0 },
  { nx: -1, ny: 0, d: width },
  { nx: 0, ny: 1, d: 0 },
  { nx: 0, ny: -1, d: height },
];

/**
 * The part of a filled path inside half planes. Curves are split where they cross a border, and what was outside
 * becomes a straight way along it, which encloses nothing under either filling rule.
 * @see I. Sutherland, G. Hodgman, "Reentrant Polygon Clipping", 1974, here with curves for sides
 */
export const clipPath = (path: Path, planes: readonly HalfPlane[]): Path => planes.reduce(clipToHalf, path);

function clipToHalf(path: Path, { nx, ny, d }: HalfPlane): Path {
  const side = (x: number, y: number) => nx * x + ny * y + d;
  const { coords } = path;
  let isCrossed = false;
  let isAnyInside = false;
  for (let k = 0; k < coords.length; k += 2) {
    if (side(coords[k], coords[k + 1]) >= 0) isAnyInside = true;
    else isCrossed = true;
  }
  if (!isCrossed) return path;
  if (!isAnyInside) return EMPTY_PATH;
  const out = new PathBuilder();
  let hasBegun = false;
  const enter = (x: number, y: number) => {
    const [px, py] = out.point;
    if (!hasBegun) out.moveTo(x, y);
    else if (px !== x || py !== y) out.lineTo(x, y);
    hasBegun = true;
  };
  for (const ring of ringsOf(path)) {
    hasBegun = false;
    eachSide(
      ring,
      (x0, y0, x1, y1) => {
        const [a, b] = [side(x0, y0), side(x1, y1)];
        const t = a / (a - b);
        if (a >= 0) enter(x0, y0);
        if (a >= 0 !== b >= 0) enter(x0 + (x1 - x0) * t, y0 + (y1 - y0) * t);
        if (b >= 0) enter(x1, y1);
      },
      (x0, y0, k) => {
        const c = ring.coords;
        const curve: Cubic = [x0, y0, c[k], c[k + 1], c[k + 2], c[k + 3], c[k + 4], c[k + 5]];
        const values = [0, 2, 4, 6].map((n) => side(curve[n], curve[n + 1])) as [number, number, number, number];
        const cuts = [0, ...rootsOf(values), 1];
        for (let n = 0; n + 1 < cuts.length; n++) {
          const part = partOf(curve, cuts[n], cuts[n + 1]);
          const [mx, my] = middleOf(part);
          if (side(mx, my) < 0) continue;
          enter(part[0], part[1]);
          out.curveTo(part[2], part[3], part[4], part[5], part[6], part[7]);
        }
      },
    );
    out.close();
  }
  return out.done();
}

type Cubic = readonly [number, number, number, number, number, number, number, number];

const STEPS = 60;

/** Where inside it a cubic of given Bézier values is 0: halving between its turning points, as far as doubles go. */
function rootsOf([a, b, c, d]: readonly [number, number, number, number]): number[] {
  const at = (t: number) => {
    const s = 1 - t;
    return s * s * s * a + 3 * s * s * t * b + 3 * s * t * t * c + t * t * t * d;
  };
  const ends = [0, ...turningPoints(a, b, c, d).sort((p, q) => p - q), 1];
  const roots: number[] = [];
  for (let n = 0; n + 1 < ends.length; n++) {
    let [low, high] = [ends[n], ends[n + 1]];
    if (at(low) >= 0 === at(high) >= 0) continue;
    const isRising = at(high) >= 0;
    for (let step = 0; step < STEPS; step++) {
      const middle = (low + high) / 2;
      if (at(middle) >= 0 === isRising) high = middle;
      else low = middle;
    }
    roots.push((low + high) / 2);
  }
  return roots.filter((t) => t > 0 && t < 1);
}

/** The part of a cubic between two places on it. @see P. de Casteljau's subdivision, here as blossoms */
function partOf(p: Cubic, from: number, to: number): Cubic {
  if (from === 0 && to === 1) return p;
  const blossom = (axis: number, u: number, v: number, w: number) => {
    const mix = (a: number, b: number, t: number) => a + (b - a) * t;
    const [a, b, c, d] = [p[axis], p[2 + axis], p[4 + axis], p[6 + axis]];
    const [ab, bc, cd] = [mix(a, b, u), mix(b, c, u), mix(c, d, u)];
    return mix(mix(ab, bc, v), mix(bc, cd, v), w);
  };
  const point = (u: number, v: number, w: number) => [blossom(0, u, v, w), blossom(1, u, v, w)];
  const parts = [point(from, from, from), point(from, from, to), point(from, to, to), point(to, to, to)];
  return parts.flat() as unknown as Cubic;
}

const middleOf = (p: Cubic): [number, number] => [
  (p[0] + 3 * p[2] + 3 * p[4] + p[6]) / 8,
  (p[1] + 3 * p[3] + 3 * p[5] + p[7]) / 8,
];
