export interface Near {
  /** Which of the points it is, as they were given. */
  readonly index: number;
  readonly x: number;
  readonly y: number;
  readonly distance: number;
}

/** So many points in a row have one box: a box for fewer costs more than it spares. */
const RUN = 16;
/** Numbers of a box: left, top, right, bottom. */
const BOX = 4;

/**
 * Points for the nearest one, in runs as they come, so best along a line, and the runs in a balanced tree, parted
 * across the longer side of their common box. Every node knows its box: points along an outline fill little of the
 * halves that a plane would part.
 * @see J. Bentley, "Multidimensional binary search trees used for associative searching", 1975
 */
export function createPointTree(xs: Float64Array, ys: Float64Array) {
  const runs = Math.ceil(xs.length / RUN);
  const order = Int32Array.from({ length: runs }, (_, k) => k);
  const runBoxes = new Float64Array(BOX * runs);
  const middleX = new Float64Array(runs);
  const middleY = new Float64Array(runs);
  for (let run = 0; run < runs; run++) {
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = run * RUN; i < Math.min(xs.length, (run + 1) * RUN); i++) {
      left = Math.min(left, xs[i]);
      right = Math.max(right, xs[i]);
      top = Math.min(top, ys[i]);
      bottom = Math.max(bottom, ys[i]);
    }
    runBoxes.set([left, top, right, bottom], run * BOX);
    middleX[run] = (left + right) / 2;
    middleY[run] = (top + bottom) / 2;
  }
  // As a heap: the children of a node are its double and the next; all leaves are at one depth, of one or two runs.
  const depth = runs > 0 ? 31 - Math.clz32(runs) : 0;
  const boxes = new Float64Array(BOX << (depth + 1));
  const starts = new Int32Array(1 << (depth + 1));
  const ends = new Int32Array(1 << (depth + 1));
  build(1, 0, runs, 0);

  function build(node: number, from: number, to: number, level: number): void {
    starts[node] = from;
    ends[node] = to;
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++) {
      const b = order[i] * BOX;
      left = Math.min(left, runBoxes[b]);
      top = Math.min(top, runBoxes[b + 1]);
      right = Math.max(right, runBoxes[b + 2]);
      bottom = Math.max(bottom, runBoxes[b + 3]);
    }
    boxes.set([left, top, right, bottom], node * BOX);
    if (level === depth) return;
    const middle = (from + to) >> 1;
    select(from, to - 1, middle, right - left > bottom - top ? middleX : middleY);
    build(2 * node, from, middle, level + 1);
    build(2 * node + 1, middle, to, level + 1);
  }

  /** Puts the k-th smallest in its place, smaller ones before it. @see C. Hoare, "Algorithm 65: Find", 1961 */
  function select(left: number, right: number, k: number, values: Float64Array): void {
    while (left < right) {
      const pivot = values[order[(left + right) >> 1]];
      let [i, j] = [left, right];
      while (i <= j) {
        while (values[order[i]] < pivot) i++;
        while (values[order[j]] > pivot) j--;
        if (i > j) break;
        [order[i], order[j]] = [order[j], order[i]];
        i++;
        j--;
      }
      if (k <= j) right = j;
      else if (k >= i) left = i;
      else return;
    }
  }

  /** Square of the distance to a node's box, 0 inside. */
  function away(node: number, x: number, y: number): number {
    const b = node * BOX;
    const dx = x < boxes[b] ? boxes[b] - x : x > boxes[b + 2] ? x - boxes[b + 2] : 0;
    const dy = y < boxes[b + 1] ? boxes[b + 1] - y : y > boxes[b + 3] ? y - boxes[b + 3] : 0;
    return dx * dx + dy * dy;
  }

  // Of each level at most the farther child waits.
  const waiting = new Int32Array(depth + 1);
  const squares = new Float64Array(depth + 1);
  return {
    /** The point nearest to a place, of those nearer than `within`; null where there is none. */
    nearest(x: number, y: number, within = Infinity): Near | null {
      let best = -1;
      let least = within * within;
      let height = 0;
      waiting[0] = 1;
      squares[0] = away(1, x, y);
      while (height >= 0) {
        let node = waiting[height];
        if (squares[height--] >= least) continue;
        for (let level = 31 - Math.clz32(node); level < depth; level++) {
          const [a, b] = [away(2 * node, x, y), away(2 * node + 1, x, y)];
          height++;
          waiting[height] = 2 * node + (a <= b ? 1 : 0);
          squares[height] = a <= b ? b : a;
          node = 2 * node + (a <= b ? 0 : 1);
        }
        for (let r = starts[node]; r < ends[node]; r++) {
          const end = Math.min(xs.length, (order[r] + 1) * RUN);
          for (let i = order[r] * RUN; i < end; i++) {
            const dx = xs[i] - x;
            const dy = ys[i] - y;
            const square = dx * dx + dy * dy;
            if (square < least) {
              best = i;
              least = square;
            }
          }
        }
      }
      return best < 0 ? null : { index: best, x: xs[best], y: ys[best], distance: Math.sqrt(least) };
    },
  };
}
