/** Runs of pixels in rows that belong to something: where each begins, and the pixel after its end. */
export interface PixelRuns {
  readonly from: ArrayLike<number>;
  readonly to: ArrayLike<number>;
  /** Where each row's runs begin; one entry more than there are rows. */
  readonly start: ArrayLike<number>;
}

/**
 * The label of each run: runs that touch, also by a corner, have one. Labels are 1, 2 … in the order of first pixels.
 * @see C. Fiorio and J. Gustedt, "Two linear time Union-Find strategies for image processing", 1996 (runs of a row,
 *   joined with those of the row above)
 */
export function joinRuns({ from, to, start }: PixelRuns): Int32Array {
  const count = start[start.length - 1];
  const parent = new Int32Array(count);
  for (let r = 0; r < count; r++) parent[r] = r;
  const rootOf = (r: number) => {
    while (parent[r] !== r) r = parent[r] = parent[parent[r]];
    return r;
  };
  for (let y = 1; y + 1 < start.length; y++) {
    let above = start[y - 1];
    for (let r = start[y]; r < start[y + 1]; r++) {
      while (above < start[y] && to[above] < from[r]) above++;
      for (let a = above; a < start[y] && from[a] <= to[r]; a++) {
        const [one, other] = [rootOf(a), rootOf(r)];
        // The earlier one stays, so that labels follow the first pixels.
        if (one < other) parent[other] = one;
        else parent[one] = other;
      }
    }
  }
  const label = new Int32Array(count);
  let next = 1;
  for (let r = 0; r < count; r++) {
    const root = rootOf(r);
    label[r] = root === r ? next++ : label[root];
  }
  return label;
}
