import { bytes, call, list, roomFor } from '../kernels/heap';
import { MIXED, SEGMENT } from '../kernels/interface';

/** What every row holds, in pieces of SEGMENT pixels (the last may be shorter). */
export interface RowSegments {
  readonly columns: number;
  /** One state a piece, row by row. */
  readonly state: Uint8Array;
  /** Longest runs of pieces in one state, row by row: state, first pixel, the pixel after the last. */
  readonly runs: Int32Array;
  /** Where each row's runs begin in `runs`, and where the last row's end. */
  readonly rowStart: Int32Array;
}

/** Bytes of the kernels' memory that the segments of a plane take up at most. */
export function segmentsRoom(width: number, height: number): number {
  const pieces = Math.ceil(width / SEGMENT) * height;
  return roomFor(pieces, pieces * 12, (height + 1) * 4);
}

/**
 * Most of a picture is plain ground or the inside of the mark. Steps that care about neither visit the rest alone.
 * @param distance  ground distance, code values
 * @param deepFrom  a segment is deep when all of it lies at least so far from the ground
 */
export function findSegments(distance: Uint8Array, width: number, height: number, deepFrom: number): RowSegments {
  const columns = Math.ceil(width / SEGMENT);
  const state = bytes(columns * height);
  const runs = list(columns * height * 3);
  const rowStart = list(height + 1);
  const count = call([distance], [state, runs, rowStart], 0, ({ k, at }) =>
    k.findSegments({
      distance: at(distance),
      width,
      height,
      deepFrom: Math.ceil(deepFrom),
      state: at(state),
      runs: at(runs),
      rowStart: at(rowStart),
    }),
  );
  return { columns, state, runs: runs.subarray(0, count), rowStart };
}

function withRuns(state: Uint8Array, columns: number, width: number, height: number): RowSegments {
  const runs = list(columns * height * 3);
  const rowStart = list(height + 1);
  const count = call([state], [runs, rowStart], 0, ({ k, at }) =>
    k.findRuns(at(state), width, height, at(runs), at(rowStart)),
  );
  return { columns, state, runs: runs.subarray(0, count), rowStart };
}

/** Segments of which nothing is known. */
export function allMixed(width: number, height: number): RowSegments {
  const columns = Math.ceil(width / SEGMENT);
  return withRuns(bytes(columns * height).fill(MIXED), columns, width, height);
}

/** The same segments, but those that hold pixels of these parts are of more than one kind. */
export function markMixed(
  { columns, state }: RowSegments,
  width: number,
  height: number,
  parts: readonly Int32Array[],
): RowSegments {
  const marked = bytes(state.length);
  marked.set(state);
  // One part at a time: each may hold most of a picture's pixels.
  for (const pixels of parts)
    call([pixels], [marked], 0, ({ k, at }) => k.markMixed(at(pixels), pixels.length, width, at(marked)));
  return withRuns(marked, columns, width, height);
}
