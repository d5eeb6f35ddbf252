/** `[a b c d e f]`: x' = a·x + c·y + e, y' = b·x + d·y + f; pixel centres at .5. */
export type Matrix = readonly [number, number, number, number, number, number];

export const scaling = (s: number): Matrix => [s, 0, 0, s, 0, 0];
export const translation = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];
