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
export function findEdgeBand(labels: Int32Array, isOpen: Uint8Array, width: number, height: number, inwards: number, outwards: number): EdgeBand {
  const depth = new Int8Array(labels.length);
  const firstIn: number[] = [];
  const firstOut: number[] = [];
  const total = labels.length;
  for (let y = 0, i = 0; y < height; y++) {
    let open = isOpen[labels[i]];
    for (let x = 0; x < width; x++, i++) {
      const next = x + 1 < width ? isOpen[labels[i + 1]] : open;
      if (next !== open) meet(i, i + 1, open);
      if (i + width < total && isOpen[labels[i + width]] !== open) meet(i, i + width, open);
      open = next;
    }
  }
  function meet(a: number, b: number, aIsOpen: number): void {
    const [out, inside] = aIsOpen ? [a, b] : [b, a];
    if (depth[inside] === 0) {
      depth[inside] = 1;
      firstIn.push(inside);
    }
    if (depth[out] === 0) {
      depth[out] = -1;
      firstOut.push(out);
    }
  }
  const walk = (first: number[], steps: number, sign: number, wanted: number): Int32Array[] => {
    const rings = [Int32Array.from(first)];
    for (let k = 2; k <= steps; k++) {
      const next: number[] = [];
      for (const i of rings[k - 2]) {
        const x = i % width;
        for (let dy = -1; dy <= 1; dy++) {
          for (let dx = -1; dx <= 1; dx++) {
            const n = i + dy * width + dx;
            if (n < 0 || n >= labels.length || x + dx < 0 || x + dx >= width) continue;
            if (depth[n] !== 0 || isOpen[labels[n]] !== wanted) continue;
            depth[n] = sign * k;
            next.push(n);
          }
        }
      }
      rings.push(Int32Array.from(next));
    }
    return rings;
  };
  return { depth, rings: walk(firstIn, inwards, 1, 0), outer: walk(firstOut, outwards, -1, 1) };
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
