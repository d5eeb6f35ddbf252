/** `[a b c d e f]`: x' = a·x + c·y + e, y' = b·x + d·y + f; pixel centres at .5. */
export type Matrix = readonly [number, number, number, number, number, number];

export const scaling = (s: number): Matrix => [s, 0, 0, s, 0, 0];
export const translation = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];

/** First `inner`, then `outer`. */
export const compose = (outer: Matrix, inner: Matrix): Matrix => [
  outer[0] * inner[0] + outer[2] * inner[1],
  outer[1] * inner[0] + outer[3] * inner[1],
  outer[0] * inner[2] + outer[2] * inner[3],
  outer[1] * inner[2] + outer[3] * inner[3],
  outer[0] * inner[4] + outer[2] * inner[5] + outer[4],
  outer[1] * inner[4] + outer[3] * inner[5] + outer[5],
];

export const transform = (m: Matrix, x: number, y: number): { x: number; y: number } => ({ x: m[0] * x + m[2] * y + m[4], y: m[1] * x + m[3] * y + m[5] });

/** @throws Error (our bug) when the matrix has no inverse */
export function invert(m: Matrix): Matrix {
  const det = m[0] * m[3] - m[1] * m[2];
  if (Math.abs(det) < 1e-12) throw new Error('A matrix without an inverse');
  const a = m[3] / det, b = -m[1] / det, c = -m[2] / det, d = m[0] / det;
  return [a, b, c, d, -(a * m[4] + c * m[5]), -(b * m[4] + d * m[5])];
}
