import { type Projective, project } from '../geometry/projective';
import { type Path, PathBuilder, coordsOf, transformPath } from './path';

/** A curve is mapped in so many pieces: the error goes with the fourth power of their length. */
const PIECES = 8;

export const isAffine = (m: Projective): boolean => m[6] === 0 && m[7] === 0;

/**
 * A path through a projective mapping. An affine one keeps every curve; of another each piece of a curve keeps its ends
 * and its directions there.
 */
export function projectPath(path: Path, m: Projective): Path {
  if (isAffine(m))
    return transformPath(path, [m[0] / m[8], m[3] / m[8], m[1] / m[8], m[4] / m[8], m[2] / m[8], m[5] / m[8]]);
  const out = new PathBuilder();
  const { verbs, coords } = path;
  const at = (x: number, y: number) => project(m, x, y);
  let [x, y] = [0, 0];
  for (let v = 0, k = 0; v < verbs.length; v++) {
    const verb = verbs[v];
    if (verb === 'Z') out.close();
    else if (verb === 'C') mapCurve([x, y, ...coords.slice(k, k + 6)], m, out);
    else {
      const to = at(coords[k], coords[k + 1]);
      if (verb === 'M') out.moveTo(to.x, to.y);
      else out.lineTo(to.x, to.y);
    }
    k += coordsOf(verb);
    if (verb !== 'Z') [x, y] = [coords[k - 2], coords[k - 1]];
  }
  return out.done();
}

function mapCurve(c: readonly number[], m: Projective, out: PathBuilder): void {
  const point = (t: number) => {
    const s = 1 - t;
    const at = (k: number) =>
      s * s * s * c[k] + 3 * s * s * t * c[k + 2] + 3 * s * t * t * c[k + 4] + t * t * t * c[k + 6];
    const by = (k: number) =>
      3 * (s * s * (c[k + 2] - c[k]) + 2 * s * t * (c[k + 4] - c[k + 2]) + t * t * (c[k + 6] - c[k + 4]));
    const [x, y, dx, dy] = [at(0), at(1), by(0), by(1)];
    const w = m[6] * x + m[7] * y + m[8];
    const to = project(m, x, y);
    // The mapping's derivative at the point, times the curve's.
    const along = m[6] * dx + m[7] * dy;
    return { ...to, dx: (m[0] * dx + m[1] * dy - to.x * along) / w, dy: (m[3] * dx + m[4] * dy - to.y * along) / w };
  };
  const third = 1 / (3 * PIECES);
  for (let n = 0; n < PIECES; n++) {
    const [a, b] = [point(n / PIECES), point((n + 1) / PIECES)];
    out.curveTo(a.x + a.dx * third, a.y + a.dy * third, b.x - b.dx * third, b.y - b.dy * third, b.x, b.y);
  }
}
