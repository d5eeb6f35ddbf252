import { call, list as pixelList, signedBytes } from '../kernels/heap';
import { MARK, OUTSIDE, SOFT } from '../kernels/interface';
import type { RowSegments } from './rowSegments';

/**
 * The pixels near the edge of a mark, by depth.
 * `depth` is 0 away from the edge, 1, 2 … inwards into the mark, −1, −2 … outwards into the ground.
 * `rings[k]` lists the pixels of depth `k + 1`, `outer[k]` those of depth `−k − 1`, each in row order within a
 * breadth-first step.
 */
export interface EdgeBand {
  readonly depth: Int8Array;
  readonly rings: readonly Int32Array[];
  readonly outer: readonly Int32Array[];
}

/** A picture whose pixels are known for what they are. */
export interface Labelled {
  readonly labels: Int32Array;
  /** Per label from OUTSIDE up, whether those pixels are see-through. */
  readonly isOpen: Uint8Array;
  readonly segments: RowSegments;
  readonly width: number;
  readonly height: number;
}

/**
 * Walks in and out from the edge, eight neighbours a step.
 */
export function findEdgeBand(
  { labels, isOpen, segments, width, height }: Labelled,
  inwards: number,
  outwards: number,
): EdgeBand {
  const total = labels.length;
  const depth = signedBytes(total);
  const list = pixelList(total);
  const { runs, rowStart } = segments;
  const [rings, outer] = call([labels, isOpen, runs, rowStart], [depth, list], 0, ({ k, at }) => {
    const inner = k.findEdge({
      ofLabels: at(labels),
      openByLabel: at(isOpen),
      runs: at(runs),
      rowStart: at(rowStart),
      w: width,
      h: height,
      ofDepth: at(depth),
      room: at(list),
    });
    const outside = k.outerCount();
    let free = inner;
    const walk = (first: number, count: number, steps: number, sign: number, wanted: number): [number, number][] => {
      const found: [number, number][] = [[first, first + count]];
      for (let step = 2; step <= steps; step++) {
        const [from, to] = found[step - 2];
        const added = k.growRing(at(list) + from * 4, to - from, at(list) + free * 4, sign * step, wanted);
        found.push([free, free + added]);
        free += added;
      }
      return found;
    };
    return [walk(0, inner, inwards, 1, 0), walk(total - outside, outside, outwards, -1, 1)];
  });
  const views = (ranges: readonly [number, number][]) => ranges.map(([from, to]) => list.subarray(from, to));
  return { depth, rings: views(rings), outer: views(outer) };
}

/** Which labels are see-through, as a table: OUTSIDE is, MARK is not, areas as decided. */
export function openTable(mostLabel: number, openLabels: Iterable<number>): Uint8Array {
  const table = new Uint8Array(mostLabel + 1);
  table[MARK] = 0;
  table[OUTSIDE] = 1;
  table[SOFT] = 1;
  for (const label of openLabels) table[label] = 1;
  return table;
}
