/** `[a b c d e f]`: x' = a·x + c·y + e, y' = b·x + d·y + f; pixel centres at .5. */
export type Matrix = readonly [number, number, number, number, number, number];

export const scaling = (s: number): Matrix => [s, 0, 0, s, 0, 0];
export const translation = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];
export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

/** The mapping back. @throws Error (our bug) where there is none */
export function invert([a, b, c, d, e, f]: Matrix): Matrix {
  const det = a * d - b * c;
  if (det === 0) throw new Error('A mapping without an inverse');
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det];
}

/** First `inner`, then `outer`. */
export const multiply = (o: Matrix, i: Matrix): Matrix => [
  o[0] * i[0] + o[2] * i[1],
  o[1] * i[0] + o[3] * i[1],
  o[0] * i[2] + o[2] * i[3],
  o[1] * i[2] + o[3] * i[3],
  o[0] * i[4] + o[2] * i[5] + o[4],
  o[1] * i[4] + o[3] * i[5] + o[5],
];
