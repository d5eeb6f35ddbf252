import { MIXED, type RowSegments } from './rowSegments';
import { MARK, OUTSIDE, SOFT } from './spreadGround';

/**
 * The pixels near the edge of a mark, by depth.
 * `depth` is 0 away from the edge, 1, 2 … inwards into the mark, −1, −2 … outwards into the ground.
 * `rings[k]` lists the pixels of depth `k + 1`, `outer[k]` those of depth `−k − 1`, each in row order within a breadth-first step.
 */
export interface EdgeBand {
  readonly depth: Int8Array;
  readonly rings: readonly Int32Array[];
  readonly outer: readonly Int32Array[];
}

/**
 * Walks in and out from the edge, eight neighbours a step.
 * @param isOpen  per label from OUTSIDE up, whether those pixels are see-through
 */
export function findEdgeBand(labels: Int32Array, isOpen: Uint8Array, segments: RowSegments, width: number, height: number, inwards: number, outwards: number): EdgeBand {
  const total = labels.length;
  const depth = new Int8Array(total);
  const firstIn = new Pixels();
  const firstOut = new Pixels();
  const meet = (a: number, b: number) => {
    const [out, inside] = isOpen[labels[a]] ? [a, b] : [b, a];
    if (depth[inside] === 0) {
      depth[inside] = 1;
      firstIn.push(inside);
    }
    if (depth[out] === 0) {
      depth[out] = -1;
      firstOut.push(out);
    }
  };
  const last = total - width;
  // Small functions called for each run become fast long before one large loop does.
  const across = (from: number, to: number) => {
    for (let i = from; i < to; i++) if (isOpen[labels[i]] !== isOpen[labels[i + 1]]) meet(i, i + 1);
  };
  const down = (from: number, to: number) => {
    for (let i = from; i < to; i++) if (isOpen[labels[i]] !== isOpen[labels[i + width]]) meet(i, i + width);
  };
  const { runs, rowStart } = segments;
  for (let y = 0; y < height; y++) {
    const rowEnd = (y + 1) * width;
    let below = rowStart[y + 1];
    for (let r = rowStart[y]; r < rowStart[y + 1]; r += 3) {
      const to = runs[r + 2];
      const isMixed = runs[r] === MIXED;
      across(isMixed ? runs[r + 1] : to - 1, Math.min(to, rowEnd - 1));
      if (y === height - 1) continue;
      // Against the runs below it: where neither is mixed, each is open throughout or not at all, so one pixel speaks for it.
      for (let from = runs[r + 1]; from < to; ) {
        while (runs[below + 2] - width <= from) below += 3;
        const end = Math.min(to, runs[below + 2] - width);
        if (isMixed || runs[below] === MIXED || isOpen[labels[from]] !== isOpen[labels[from + width]]) down(from, end);
        from = end;
      }
    }
  }
  const spread = (i: number, next: Pixels, mark: number, wanted: number) => {
    const x = i % width;
    const left = x > 0 ? -1 : 0;
    const right = x < width - 1 ? 1 : 0;
    for (let row = i >= width ? i - width : i, end = i < last ? i + width : i; row <= end; row += width) {
      for (let n = row + left; n <= row + right; n++) {
        if (depth[n] !== 0 || isOpen[labels[n]] !== wanted) continue;
        depth[n] = mark;
        next.push(n);
      }
    }
  };
  const walk = (first: Int32Array, steps: number, sign: number, wanted: number): Int32Array[] => {
    const rings = [first];
    for (let k = 2; k <= steps; k++) {
      const next = new Pixels();
      const before = rings[k - 2];
      for (let j = 0; j < before.length; j++) spread(before[j], next, sign * k, wanted);
      rings.push(next.all());
    }
    return rings;
  };
  return { depth, rings: walk(firstIn.all(), inwards, 1, 0), outer: walk(firstOut.all(), outwards, -1, 1) };
}

/** A growing list of pixel positions without an object for each. */
class Pixels {
  private held = new Int32Array(4096);
  private count = 0;
  push(i: number): void {
    if (this.count === this.held.length) {
      const larger = new Int32Array(this.count * 2);
      larger.set(this.held);
      this.held = larger;
    }
    this.held[this.count++] = i;
  }
  all(): Int32Array {
    return this.held.subarray(0, this.count);
  }
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
