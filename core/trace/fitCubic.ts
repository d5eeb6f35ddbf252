/** Places in a row, and where in them a piece begins and ends. */
export interface Run {
  readonly xs: ArrayLike<number>;
  readonly ys: ArrayLike<number>;
  readonly from: number;
  readonly to: number;
}

export type Direction = readonly [number, number];

export interface CubicFit {
  /** x1 y1 x2 y2 x y: as a path's curve, from the run's first place. */
  readonly curve: readonly [number, number, number, number, number, number];
  /** Farthest and mean square distance of the run's places, px and px². */
  readonly worst: number;
  readonly meanSquare: number;
}

/** How near is near enough: the farthest place, px, and all in the mean square, px². */
export interface Near {
  readonly worst: number;
  readonly meanSquare: number;
}

/** Of a long run so many places stand for all while it is fitted. */
const MOST_PLACES = 32;
const ROUNDS = 9;
/** After so many rounds a fit that is still so many times too far off will not come near. */
const HOPELESS: readonly (readonly [round: number, times: number])[] = [
  [2, 60],
  [4, 15],
  [6, 4],
  [9, 2],
];

/**
 * The cubic Bézier between a run's ends, with given directions there, that is nearest to its places: handles by least
 * squares across the curve, then the places' parameters by Newton's method, in turns.
 * @param out  direction of travel at the first place, `into` at the last; null where any will do
 * @see P. Schneider, "An Algorithm for Automatically Fitting Digitized Curves", Graphics Gems, 1990; distances across
 *   the curve: W. Wang, H. Pottmann, Y. Liu, "Fitting B-Spline Curves to Point Clouds by Curvature-Based Squared
 * Distance
 *   Minimization", 2006, section 3 (tangent distance)
 */
export function fitCubic(
  run: Run,
  out: Direction | null,
  into: Direction | null,
  enough: Near | null = null,
  rounds = ROUNDS,
): CubicFit {
  const { xs, ys, from, to } = run;
  const count = to - from + 1;
  const n = Math.min(count, MOST_PLACES);
  const [px, py, t] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  const [nx, ny] = [new Float64Array(n), new Float64Array(n)];
  let length = 0;
  for (let k = 0, last = from; k < n; k++) {
    const i = from + Math.round((k * (count - 1)) / (n - 1));
    for (let j = last + 1; j <= i; j++) length += Math.hypot(xs[j] - xs[j - 1], ys[j] - ys[j - 1]);
    last = i;
    px[k] = xs[i];
    py[k] = ys[i];
    t[k] = length;
  }
  if (length > 0) for (let k = 0; k < n; k++) t[k] /= length;
  const [x0, y0, x3, y3] = [px[0], py[0], px[n - 1], py[n - 1]];
  let best: CubicFit | null = null;
  for (let round = 0; round < rounds; round++) {
    const [x1, y1, x2, y2] = handles({ px, py, t, nx, ny, length }, out, into);
    let [worst, sum] = [0, 0];
    for (let k = 1; k < n - 1; k++) {
      const u = t[k];
      const s = 1 - u;
      const b0 = s * s * s;
      const b1 = 3 * s * s * u;
      const b2 = 3 * s * u * u;
      const b3 = u * u * u;
      const dx = b0 * x0 + b1 * x1 + b2 * x2 + b3 * x3 - px[k];
      const dy = b0 * y0 + b1 * y1 + b2 * y2 + b3 * y3 - py[k];
      // The derivative, and from it and the second one a better parameter.
      const d0 = 3 * s * s;
      const d1 = 6 * s * u;
      const d2 = 3 * u * u;
      const vx = d0 * (x1 - x0) + d1 * (x2 - x1) + d2 * (x3 - x2);
      const vy = d0 * (y1 - y0) + d1 * (y2 - y1) + d2 * (y3 - y2);
      const ax = 6 * s * (x2 - 2 * x1 + x0) + 6 * u * (x3 - 2 * x2 + x1);
      const ay = 6 * s * (y2 - 2 * y1 + y0) + 6 * u * (y3 - 2 * y2 + y1);
      const slope = vx * vx + vy * vy + dx * ax + dy * ay;
      const along = dx * vx + dy * vy;
      const speed = vx * vx + vy * vy;
      const pace = Math.sqrt(speed) || 1;
      nx[k] = -vy / pace;
      ny[k] = vx / pace;
      // What is left beside the curve, the parameter being a little off.
      const square = Math.max(0, dx * dx + dy * dy - (speed > 0 ? (along * along) / speed : 0));
      worst = Math.max(worst, square);
      sum += square;
      if (Math.abs(slope) > 1e-9) t[k] = Math.min(1, Math.max(0, u - along / slope));
    }
    worst = Math.sqrt(worst);
    if (!best || sum / n < best.meanSquare) best = { curve: [x1, y1, x2, y2, x3, y3], worst, meanSquare: sum / n };
    if (!enough) continue;
    if (worst <= enough.worst && sum / n <= enough.meanSquare) break;
    if (HOPELESS.some(([at, times]) => round === at && worst > times * enough.worst)) break;
  }
  return best as CubicFit;
}

interface Sampled {
  readonly px: Float64Array;
  readonly py: Float64Array;
  readonly t: Float64Array;
  /** Normals of the curve before, at the places' parameters; none yet at first. */
  readonly nx: Float64Array;
  readonly ny: Float64Array;
  readonly length: number;
}

/** Both inner control points, nearest to the places in the mean square. */
function handles(
  { px, py, t, nx, ny, length }: Sampled,
  out: Direction | null,
  into: Direction | null,
): [number, number, number, number] {
  const n = px.length;
  const [x0, y0, x3, y3] = [px[0], py[0], px[n - 1], py[n - 1]];
  // Sums of the weights of each place (xx, xy, yy) by both control points' shares in it, and of what they are to reach.
  const m11 = [0, 0, 0];
  const m12 = [0, 0, 0];
  const m22 = [0, 0, 0];
  let [v1x, v1y, v2x, v2y] = [0, 0, 0, 0];
  for (let k = 0; k < n; k++) {
    const u = t[k];
    const s = 1 - u;
    const b0 = s * s * s;
    const b1 = 3 * s * s * u;
    const b2 = 3 * s * u * u;
    const b3 = u * u * u;
    const dx = px[k] - (b0 + b1) * x0 - (b2 + b3) * x3;
    const dy = py[k] - (b0 + b1) * y0 - (b2 + b3) * y3;
    // Distances count across the curve; along it places may slide, as their parameters are found anew.
    const along = nx[k] === 0 && ny[k] === 0 ? 1 : ALONG_WEIGHT;
    const wxx = along + (1 - along) * nx[k] * nx[k];
    const wxy = (1 - along) * nx[k] * ny[k];
    const wyy = along + (1 - along) * ny[k] * ny[k];
    const b11 = b1 * b1;
    const b12 = b1 * b2;
    const b22 = b2 * b2;
    m11[0] += b11 * wxx;
    m11[1] += b11 * wxy;
    m11[2] += b11 * wyy;
    m12[0] += b12 * wxx;
    m12[1] += b12 * wxy;
    m12[2] += b12 * wyy;
    m22[0] += b22 * wxx;
    m22[1] += b22 * wxy;
    m22[2] += b22 * wyy;
    const gx = wxx * dx + wxy * dy;
    const gy = wxy * dx + wyy * dy;
    v1x += b1 * gx;
    v1y += b1 * gy;
    v2x += b2 * gx;
    v2y += b2 * gy;
  }
  if (out && into) {
    // The common case, by Cramer's rule.
    const [ox, oy, ix, iy] = [out[0], out[1], -into[0], -into[1]];
    const a11 = ox * (m11[0] * ox + m11[1] * oy) + oy * (m11[1] * ox + m11[2] * oy);
    const a12 = ox * (m12[0] * ix + m12[1] * iy) + oy * (m12[1] * ix + m12[2] * iy);
    const a22 = ix * (m22[0] * ix + m22[1] * iy) + iy * (m22[1] * ix + m22[2] * iy);
    const [r1, r2] = [ox * v1x + oy * v1y, ix * v2x + iy * v2y];
    const det = a11 * a22 - a12 * a12;
    const [a, b] = [(r1 * a22 - r2 * a12) / det, (r2 * a11 - r1 * a12) / det];
    const least = LEAST_HANDLE * Math.hypot(x3 - x0, y3 - y0);
    const most = longest(n) * length;
    const isGood = det > 1e-12 && a >= least && b >= least && a <= most && b <= most;
    const [own, other] = isGood ? [a, b] : [length / 3, length / 3];
    return [x0 + own * ox, y0 + own * oy, x3 + other * ix, y3 + other * iy];
  }
  // Unknown: how far along a given direction, or both coordinates. `[of x, of y]` of what one of it moves.
  const first: Direction[] = out ? [out] : FREE;
  const second: Direction[] = into ? [[-into[0], -into[1]]] : FREE;
  const ways = [...first, ...second];
  const m = ways.length;
  const rows = ways.map((a, i) => {
    const row = new Float64Array(m + 1);
    ways.forEach((b, j) => {
      const w = i < first.length ? (j < first.length ? m11 : m12) : j < first.length ? m12 : m22;
      row[j] = a[0] * (w[0] * b[0] + w[1] * b[1]) + a[1] * (w[1] * b[0] + w[2] * b[1]);
    });
    row[m] = i < first.length ? a[0] * v1x + a[1] * v1y : a[0] * v2x + a[1] * v2y;
    return row;
  });
  const solved = solve(rows);
  const third = length / 3;
  const [cx, cy] = [(x3 - x0) / 3, (y3 - y0) / 3];
  const plain = [
    ...(out ? [x0 + third * out[0], y0 + third * out[1]] : [x0 + cx, y0 + cy]),
    ...(into ? [x3 - third * into[0], y3 - third * into[1]] : [x3 - cx, y3 - cy]),
  ] as [number, number, number, number];
  if (!solved) return plain;
  const moved = (from: number, count: number, axis: 0 | 1) =>
    ways.slice(from, from + count).reduce((sum, way, k) => sum + way[axis] * solved[from + k], 0);
  const [ax, ay] = [moved(0, first.length, 0), moved(0, first.length, 1)];
  const [bx, by] = [moved(first.length, second.length, 0), moved(first.length, second.length, 1)];
  // A handle that points back, or reaches past everything, would loop.
  const least = LEAST_HANDLE * Math.hypot(x3 - x0, y3 - y0);
  const isLong = (x: number, y: number) => Math.hypot(x, y) > longest(n) * length;
  if ((out && solved[0] < least) || (into && solved[m - 1] < least) || isLong(ax, ay) || isLong(bx, by)) return plain;
  return [x0 + ax, y0 + ay, x3 + bx, y3 + by];
}

const FREE: Direction[] = [
  [1, 0],
  [0, 1],
];
const ALONG_WEIGHT = 0.0002;
const LEAST_HANDLE = 0.02;
/** Few places do not hold a curve with long handles: it would loop between them. */
const FEW_PLACES = 8;
const longest = (places: number) => (places < FEW_PLACES ? 0.55 : 1.1);

/**
 * Solves a system whose rows carry their right side at the end, in place. @returns null where it has no one
 * solution
 */
function solve(rows: Float64Array[]): Float64Array | null {
  const m = rows.length;
  for (let k = 0; k < m; k++) {
    let best = k;
    for (let r = k + 1; r < m; r++) if (Math.abs(rows[r][k]) > Math.abs(rows[best][k])) best = r;
    if (Math.abs(rows[best][k]) < 1e-9) return null;
    [rows[k], rows[best]] = [rows[best], rows[k]];
    for (let r = 0; r < m; r++) {
      if (r === k) continue;
      const share = rows[r][k] / rows[k][k];
      if (share !== 0) for (let c = k; c <= m; c++) rows[r][c] -= share * rows[k][c];
    }
  }
  return Float64Array.from(rows, (row, k) => row[m] / row[k]);
}
