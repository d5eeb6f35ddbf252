/** A short piece of a border as two quadratic polynomials of the way along it: `x = c[0] + c[1] u + c[2] u²`. */
export interface SidePolynomial {
  readonly x: readonly [number, number, number];
  readonly y: readonly [number, number, number];
  /** The farthest place off it, px. */
  readonly residual: number;
  /** The mean distance of places off it, in the mean square, px. */
  readonly rms: number;
}

/** Places in a row, from one up to another, with the way along the border to each, and the one to count ways from. */
export interface Sample {
  readonly ways: ArrayLike<number>;
  readonly xs: ArrayLike<number>;
  readonly ys: ArrayLike<number>;
  readonly from: number;
  readonly to: number;
  readonly origin: number;
}

/**
 * The polynomial of a degree that is nearest to places in the mean square.
 * @returns null where there are too few places to tell
 */
export function fitSide({ ways, xs, ys, from, to, origin }: Sample, degree: 1 | 2): SidePolynomial | null {
  const count = to - from + 1;
  if (count <= degree) return null;
  // Round the mean way the equations are well conditioned.
  let mean = 0;
  for (let k = from; k <= to; k++) mean += ways[k];
  mean /= count;
  const base = mean;
  mean -= origin;
  let s2 = 0;
  let s3 = 0;
  let s4 = 0;
  let x0 = 0;
  let x1 = 0;
  let x2 = 0;
  let y0 = 0;
  let y1 = 0;
  let y2 = 0;
  for (let k = from; k <= to; k++) {
    const u = ways[k] - base;
    const uu = u * u;
    s2 += uu;
    s3 += uu * u;
    s4 += uu * uu;
    x0 += xs[k];
    x1 += u * xs[k];
    x2 += uu * xs[k];
    y0 += ys[k];
    y1 += u * ys[k];
    y2 += uu * ys[k];
  }
  if (s2 === 0) return null;
  const solve = (v0: number, v1: number, v2: number): [number, number, number] | null => {
    if (degree === 1) return [v0 / count, v1 / s2, 0];
    // [n 0 s2; 0 s2 s3; s2 s3 s4] · [a b c] = [v0 v1 v2]
    const det = count * (s2 * s4 - s3 * s3) - s2 * s2 * s2;
    if (Math.abs(det) < 1e-9) return null;
    const c = (count * (s2 * v2 - s3 * v1) - s2 * s2 * v0) / det;
    const b = (v1 - s3 * c) / s2;
    return [(v0 - s2 * c) / count, b, c];
  };
  const [px, py] = [solve(x0, x1, x2), solve(y0, y1, y2)];
  if (!px || !py) return null;
  const shifted = ([a, b, c]: [number, number, number]): [number, number, number] => [
    a - b * mean + c * mean * mean,
    b - 2 * c * mean,
    c,
  ];
  const [x, y] = [shifted(px), shifted(py)];
  let residual = 0;
  let sum = 0;
  for (let k = from; k <= to; k++) {
    const u = ways[k] - base;
    const dx = px[0] + u * (px[1] + u * px[2]) - xs[k];
    const dy = py[0] + u * (py[1] + u * py[2]) - ys[k];
    const square = dx * dx + dy * dy;
    if (square > residual) residual = square;
    sum += square;
  }
  return { x, y, residual: Math.sqrt(residual), rms: Math.sqrt(sum / count) };
}

export const placeOn = ({ x, y }: Pick<SidePolynomial, 'x' | 'y'>, u: number): [number, number] => [
  x[0] + u * (x[1] + u * x[2]),
  y[0] + u * (y[1] + u * y[2]),
];

/** The direction in which the way grows, of length 1. */
export function directionOn({ x, y }: Pick<SidePolynomial, 'x' | 'y'>, u: number): [number, number] {
  const [dx, dy] = [x[1] + 2 * u * x[2], y[1] + 2 * u * y[2]];
  const length = Math.hypot(dx, dy) || 1;
  return [dx / length, dy / length];
}
