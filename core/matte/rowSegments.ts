/** Pixels in a row that are looked at together. */
export const SEGMENT = 32;
/** Every pixel is the ground's colour exactly. */
export const CLEAR = 0;
export const MIXED = 1;
/** Every pixel is far from the ground. */
export const DEEP = 2;

/** What every row holds, in pieces of SEGMENT pixels (the last may be shorter): one state a piece, row by row. */
export interface RowSegments {
  readonly columns: number;
  readonly state: Uint8Array;
}

/**
 * Most of a picture is plain ground or the inside of the mark. Steps that care about neither visit the rest alone.
 * @param distance  ground distance, code values
 * @param deepFrom  a segment is deep when all of it lies at least so far from the ground
 */
export function findSegments(distance: Uint8Array, width: number, height: number, deepFrom: number): RowSegments {
  const columns = Math.ceil(width / SEGMENT);
  const state = new Uint8Array(columns * height);
  for (let y = 0, s = 0; y < height; y++) {
    const end = (y + 1) * width;
    for (let from = y * width; from < end; from += SEGMENT, s++) {
      const to = Math.min(end, from + SEGMENT);
      let i = from;
      if (distance[i] === 0) {
        while (i < to && distance[i] === 0) i++;
        state[s] = i === to ? CLEAR : MIXED;
      } else {
        while (i < to && distance[i] >= deepFrom) i++;
        state[s] = i === to ? DEEP : MIXED;
      }
    }
  }
  return { columns, state };
}

/** Segments of which nothing is known. */
export function allMixed(width: number, height: number): RowSegments {
  const columns = Math.ceil(width / SEGMENT);
  return { columns, state: new Uint8Array(columns * height).fill(MIXED) };
}

/** Says of the segments that hold these pixels that they are of more than one kind. */
export function markMixed({ columns, state }: RowSegments, width: number, pixels: readonly number[]): void {
  for (const i of pixels) {
    const y = (i / width) | 0;
    state[y * columns + (((i - y * width) / SEGMENT) | 0)] = MIXED;
  }
}

/** Calls `visit` with each longest run of pixels whose segments are in one state, from the first pixel on and up to but without the last. */
export function eachRun({ columns, state }: RowSegments, width: number, height: number, visit: (state: number, from: number, to: number, y: number) => void): void {
  for (let y = 0; y < height; y++) {
    const row = y * columns;
    for (let c = 0; c < columns; c++) {
      const own = state[row + c];
      const first = c;
      while (c + 1 < columns && state[row + c + 1] === own) c++;
      visit(own, y * width + first * SEGMENT, y * width + Math.min(width, (c + 1) * SEGMENT), y);
    }
  }
}

/** The same for what is neither clear nor deep alone. */
export function eachMixed(segments: RowSegments, width: number, height: number, visit: (from: number, to: number, y: number) => void): void {
  eachRun(segments, width, height, (state, from, to, y) => {
    if (state === MIXED) visit(from, to, y);
  });
}

/** Whether a whole segment and the one below it are alike and of one kind, so that no edge runs between them. */
export const isCalmBelow = ({ columns, state }: RowSegments, column: number, y: number): boolean => {
  const own = state[y * columns + column];
  return own !== MIXED && state[(y + 1) * columns + column] === own;
};
