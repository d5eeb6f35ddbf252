/** Points in the order of a balanced tree, split by x and y in turns, for the nearest one. */
export function createPointTree(xs: Float64Array, ys: Float64Array) {
  const order = Int32Array.from(xs, (_, k) => k);
  build(0, order.length - 1, 0);

  function build(from: number, to: number, axis: number): void {
    if (to <= from) return;
    const middle = (from + to) >> 1;
    select(from, to, middle, axis === 0 ? xs : ys);
    build(from, middle - 1, 1 - axis);
    build(middle + 1, to, 1 - axis);
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

  let [best, least] = [-1, Infinity];
  function visit(from: number, to: number, axis: number, x: number, y: number): void {
    if (from > to) return;
    const middle = (from + to) >> 1;
    const k = order[middle];
    const [dx, dy] = [xs[k] - x, ys[k] - y];
    const square = dx * dx + dy * dy;
    if (square < least) [best, least] = [k, square];
    const off = axis === 0 ? dx : dy;
    if (off > 0) visit(from, middle - 1, 1 - axis, x, y);
    else visit(middle + 1, to, 1 - axis, x, y);
    if (off * off >= least) return;
    if (off > 0) visit(middle + 1, to, 1 - axis, x, y);
    else visit(from, middle - 1, 1 - axis, x, y);
  }

  return {
    /** The point nearest to a place. There must be one. */
    nearest(x: number, y: number): { x: number; y: number; distance: number } {
      [best, least] = [-1, Infinity];
      visit(0, order.length - 1, 0, x, y);
      return { x: xs[best], y: ys[best], distance: Math.sqrt(least) };
    },
  };
}
