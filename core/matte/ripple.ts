import { bytes, call } from '../kernels/heap';
import { type RowSegments, findSegments } from './rowSegments';

/** The distance that most of the ground beside edges keeps; the rest is the edge itself. */
const RIPPLE_RANK = 0.85;
/** Forgiven are ripples of the measured strength and a little more: it is that of most, not of all. */
const FORGIVEN_OVER = 1.4;

/** A pixel this far from the ground is part of something drawn, not of a ripple. */
const STRONG = 72;
/** No more is ever forgiven: pale parts of a mark begin here. */
const MOST_FORGIVEN = 24;

/** The segments that the two functions below ask for. */
export const strongSegments = (distance: Uint8Array, width: number, height: number): RowSegments =>
  findSegments(distance, width, height, STRONG);

/**
 * How strongly compression ripples beside edges: the 85th percentile of the ground distance three to six pixels past
 * the end of a strong run, sampled along rows; 0 for a clean picture.
 * @param segments  of that plane, deep from STRONG on
 */
export function sampleRipple(distance: Uint8Array, segments: RowSegments, width: number, height: number): number {
  const { runs, rowStart } = segments;
  const step = Math.max(1, Math.floor(height / 400));
  const count = new Int32Array(48);
  const total = call([distance, runs, rowStart], [count], 0, ({ k, at }) =>
    k.sampleRipple({
      distance: at(distance),
      runs: at(runs),
      rowStart: at(rowStart),
      width,
      height,
      step,
      count: at(count),
    }),
  );
  if (total < 40) return 0;
  let sum = 0;
  for (let d = 0; d < 48; d++) if ((sum += count[d]) >= total * RIPPLE_RANK) return d;
  return 48;
}

/**
 * The ground distance with the ripples beside strong edges forgiven: near them a pixel must stand out by that much
 * more to count. A clean picture comes back as a copy.
 * Ripples are what quantised block transforms leave beside edges (ITU-T T.81, annex A, gives the transform).
 */
export function forgiveRipple(
  distance: Uint8Array,
  segments: RowSegments,
  width: number,
  height: number,
  ripple: number,
): Uint8Array {
  const out = bytes(distance.length);
  out.set(distance);
  if (ripple < 3) return out;
  const forgiven = Math.min(MOST_FORGIVEN, Math.round(ripple * FORGIVEN_OVER));
  const cells = Math.ceil(width / CELL) * Math.ceil(height / CELL);
  const { runs, rowStart } = segments;
  call([distance, runs, rowStart], [out], cells * 44 + 64, ({ k, at, scratch }) => {
    const [strong, near, kept, seen] = [scratch(cells), scratch(cells), scratch(cells), scratch(cells)];
    k.cellsNearStrong({
      distance: at(distance),
      runs: at(runs),
      rowStart: at(rowStart),
      width,
      height,
      strong,
      cells: near,
    });
    k.copyBytes(near, kept, cells);
    k.exceptPale({
      cells: kept,
      near,
      seen,
      queue: scratch(cells * 40, false),
      distance: at(distance),
      width,
      height,
      forgiven,
    });
    k.forgive({
      distance: at(distance),
      runs: at(runs),
      runCount: runs.length,
      cells: kept,
      width,
      forgiven,
      out: at(out),
    });
  });
  return out;
}

/** Ripples are forgiven in cells of so many pixels each way. */
const CELL = 4;
