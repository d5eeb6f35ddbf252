import type { Matrix } from './matrix';

/**
 * Row-major 3 × 3, `[a b c d e f g h i]`: x' = (a·x + b·y + c) / (g·x + h·y + i), y' = (d·x + e·y + f) / (g·x + h·y +
 * i); pixel centres at .5.
 */
export type Projective = readonly [number, number, number, number, number, number, number, number, number];

export interface Point {
  readonly x: number;
  readonly y: number;
}
/** Top left, top right, bottom right, bottom left as they are seen on what they enclose. */
export type Corners = readonly [Point, Point, Point, Point];

export const fromMatrix = ([a, b, c, d, e, f]: Matrix): Projective => [a, c, e, b, d, f, 0, 0, 1];

export function project([a, b, c, d, e, f, g, h, i]: Projective, x: number, y: number): { x: number; y: number } {
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}

/** First `inner`, then `outer`. */
export function composeProjective(outer: Projective, inner: Projective): Projective {
  const at = (r: number, c: number) =>
    outer[r * 3] * inner[c] + outer[r * 3 + 1] * inner[3 + c] + outer[r * 3 + 2] * inner[6 + c];
  return [at(0, 0), at(0, 1), at(0, 2), at(1, 0), at(1, 1), at(1, 2), at(2, 0), at(2, 1), at(2, 2)];
}

/** @throws Error (our bug) when there is no inverse */
export function invertProjective([a, b, c, d, e, f, g, h, i]: Projective): Projective {
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (Math.abs(det) < 1e-15) throw new Error('A mapping without an inverse');
  const s = 1 / det;
  return [
    (e * i - f * h) * s,
    (c * h - b * i) * s,
    (b * f - c * e) * s,
    (f * g - d * i) * s,
    (a * i - c * g) * s,
    (c * d - a * f) * s,
    (d * h - e * g) * s,
    (b * g - a * h) * s,
    (a * e - b * d) * s,
  ];
}

/**
 * The mapping of a rectangle from (0, 0) to (width, height) onto four corners.
 * @throws Error (our bug) when the corners do not enclose a convex area; `isConvex` asks first
 * @see P. Heckbert, "Fundamentals of Texture Mapping and Image Warping", 1989, section 2.2.3
 */
export function rectangleToCorners(width: number, height: number, [p, q, r, s]: Corners): Projective {
  const [dx1, dx2, sx] = [q.x - r.x, s.x - r.x, p.x - q.x + r.x - s.x];
  const [dy1, dy2, sy] = [q.y - r.y, s.y - r.y, p.y - q.y + r.y - s.y];
  const det = dx1 * dy2 - dx2 * dy1;
  if (Math.abs(det) < 1e-9) throw new Error('Corners that enclose nothing');
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  const [w, t] = [1 / width, 1 / height];
  return [
    (q.x - p.x + g * q.x) * w,
    (s.x - p.x + h * s.x) * t,
    p.x,
    (q.y - p.y + g * q.y) * w,
    (s.y - p.y + h * s.y) * t,
    p.y,
    g * w,
    h * t,
    1,
  ];
}

/** Whether four corners, in order, enclose a convex area of clockwise order (y grows down). */
export function isConvex(corners: Corners): boolean {
  return corners.every((b, k) => {
    const a = corners[(k + 3) % 4];
    const c = corners[(k + 1) % 4];
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x) > 1e-6;
  });
}

/** Side lengths of the sheet that four corners show: the means of opposite sides. */
export function sizeFromCorners([p, q, r, s]: Corners): { width: number; height: number } {
  const between = (a: Point, b: Point) => Math.hypot(b.x - a.x, b.y - a.y);
  return {
    width: Math.max(1, Math.round((between(p, q) + between(s, r)) / 2)),
    height: Math.max(1, Math.round((between(p, s) + between(q, r)) / 2)),
  };
}

/**
 * A turn clockwise about the origin. Sine and cosine are rounded to 12 digits, so that every host turns by the same.
 */
export function turning(angleDeg: number): Projective {
  const round = (v: number) => Math.round(v * 1e12) / 1e12;
  const cos = round(Math.cos((angleDeg * Math.PI) / 180));
  const sin = round(Math.sin((angleDeg * Math.PI) / 180));
  return [cos, -sin, 0, sin, cos, 0, 0, 0, 1];
}
