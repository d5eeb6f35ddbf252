/** By which rule a path's inside is told. */
export type FillRule = 'nonzero' | 'evenodd';

/**
 * Edges closer than this in y, px, are taken for one place: what lies between is less than a double can tell of an
 * area.
 */
const SAME_Y = 1e-9;

/**
 * How much of each pixel of a row lies inside a path: exact areas, whatever its sides' angles and wherever it crosses
 * or covers itself. In each row the sides that lie beside one another are gathered in groups with nothing between
 * groups, so that the winding number there is the same from the row's top to its bottom. A group is cut at all ends and
 * crossings of its sides; between two cuts the inside is a set of trapezoids, whose shares of each pixel are added up.
 * @see the sweep of J. Bentley and T. Ottmann, "Algorithms for Reporting and Counting Geometric Intersections", 1979,
 *   row by row;
 *   areas by differences from pixel to pixel as in the accumulation buffers of scan converters of glyphs
 */
export class AreaCoverage {
  /** Rows that hold any part of the path: from `top` up to, not with, `bottom`. */
  readonly top: number;
  readonly bottom: number;
  // Sides by number, in order of their upper ends: their ends from the upper one down, change of x per y, and 1 where
  // the path runs down, else −1.
  private readonly x0: Float64Array;
  private readonly x1: Float64Array;
  private readonly y0: Float64Array;
  private readonly y1: Float64Array;
  private readonly slope: Float64Array;
  private readonly winding: Int8Array;
  private readonly count: number;
  private next = 0;
  private active: number[] = [];
  // Of the sides in the row under way: how far left and right they reach in it.
  private readonly least: Float64Array;
  private readonly most: Float64Array;
  /** Differences from pixel to pixel of the row under way; two more than its pixels for what ends at the border. */
  private readonly steps: Float64Array;
  private readonly cuts: number[] = [];
  private readonly sides: number[] = [];
  private readonly xs: number[] = [];

  /**
   * @param lines  `[x0, y0, x1, y1]` of every side, px; rings are closed
   * @param width  pixels of a row; what lies beside them is left out
   */
  constructor(
    lines: readonly number[],
    private readonly rule: FillRule,
    private readonly width: number,
    height: number,
  ) {
    const order: number[] = [];
    for (let k = 0; k < lines.length; k += 4) {
      const upper = Math.min(lines[k + 1], lines[k + 3]);
      const lower = Math.max(lines[k + 1], lines[k + 3]);
      if (lower > 0 && upper < height) order.push(k);
    }
    order.sort((a, b) => Math.min(lines[a + 1], lines[a + 3]) - Math.min(lines[b + 1], lines[b + 3]));
    this.count = order.length;
    [this.x0, this.x1, this.y0, this.y1, this.slope, this.least, this.most] = Array.from(
      { length: 7 },
      () => new Float64Array(this.count),
    );
    this.winding = new Int8Array(this.count);
    let [top, bottom] = [Infinity, -Infinity];
    order.forEach((k, n) => {
      const isDown = lines[k + 3] > lines[k + 1];
      const [xa, ya, xb, yb] = isDown ? [0, 1, 2, 3] : [2, 3, 0, 1];
      this.x0[n] = lines[k + xa];
      this.y0[n] = lines[k + ya];
      this.y1[n] = lines[k + yb];
      this.x1[n] = lines[k + xb];
      // Level sides have no area beside them: they only tell that what lies left and right of their ends belongs
      // together.
      const height = this.y1[n] - this.y0[n];
      this.slope[n] = height > 0 ? (this.x1[n] - this.x0[n]) / height : 0;
      this.winding[n] = isDown ? 1 : -1;
      top = Math.min(top, lines[k + ya]);
      bottom = Math.max(bottom, lines[k + yb]);
    });
    this.top = Math.max(0, Math.floor(top));
    this.bottom = Math.min(height, Math.ceil(bottom));
    this.steps = new Float64Array(width + 2);
  }

  /**
   * The shares of a row, 0 to 1, written over `out` where there may be any. Rows are asked for in order, from `top` on.
   * @returns the first pixel that may hold any and the one after the last, or null where the row is empty
   */
  row(y: number, out: Float64Array): readonly [number, number] | null {
    const { active, steps, width } = this;
    let kept = 0;
    for (const e of active) if (this.y1[e] > y) active[kept++] = e;
    active.length = kept;
    while (this.next < this.count && this.y0[this.next] < y + 1) {
      if (this.y1[this.next] > y) active.push(this.next);
      this.next++;
    }
    if (active.length === 0) return null;
    for (const e of active) {
      const a = this.y0[e] >= y ? this.x0[e] : this.at(e, y);
      // Ends as they were given: sides that meet there must not seem apart by a rounding.
      const b = this.y1[e] <= y + 1 ? this.x1[e] : this.at(e, y + 1);
      this.least[e] = a < b ? a : b;
      this.most[e] = a < b ? b : a;
    }
    this.sortByLeast();
    let inside = 0;
    let to = 0;
    for (let k = 0; k < active.length;) {
      let end = k + 1;
      let right = this.most[active[k]];
      while (end < active.length && this.least[active[end]] <= right) right = Math.max(right, this.most[active[end++]]);
      inside = this.addGroup(k, end, y, inside);
      to = Math.max(to, right);
      k = end;
    }
    const first = Math.max(0, Math.floor(this.least[active[0]]));
    const last = Math.min(width, Math.ceil(to) + 1);
    let sum = 0;
    if (first > 0 && first <= width) sum = steps[0];
    for (let x = first; x < last; x++) {
      sum += steps[x];
      out[x] = sum < 0 ? 0 : sum > 1 ? 1 : sum;
    }
    steps.fill(0, 0, Math.min(width + 2, last + 2));
    steps[0] = 0;
    return last > first ? [first, last] : null;
  }

  private at(e: number, y: number): number {
    return this.x0[e] + (y - this.y0[e]) * this.slope[e];
  }

  // From row to row their order hardly changes, which insertion is quick to mend.
  private sortByLeast(): void {
    const { active, least } = this;
    for (let k = 1; k < active.length; k++) {
      const e = active[k];
      const v = least[e];
      let j = k - 1;
      for (; j >= 0 && least[active[j]] > v; j--) active[j + 1] = active[j];
      active[j + 1] = e;
    }
  }

  /**
   * Adds the sides from the `k`th to before the `end`th, left of which the winding number is `inside`. @returns that
   * right of them
   */
  private addGroup(k: number, end: number, y: number, inside: number): number {
    const { active, y0, y1, cuts } = this;
    const only = active[k];
    if (end === k + 1 && y0[only] <= y && y1[only] >= y + 1) return this.addInOrder([only], y, y + 1, inside);
    cuts.length = 0;
    cuts.push(y, y + 1);
    for (let n = k; n < end; n++) {
      const e = active[n];
      if (y0[e] > y && y0[e] < y + 1) cuts.push(y0[e]);
      if (y1[e] > y && y1[e] < y + 1) cuts.push(y1[e]);
    }
    cuts.sort((a, b) => a - b);
    let after = inside;
    for (let c = 0; c + 1 < cuts.length; c++) {
      if (cuts[c + 1] - cuts[c] > SAME_Y) after = this.addBand(k, end, cuts[c], cuts[c + 1], inside);
    }
    return after;
  }

  // Between two heights no side of the group begins or ends; where sides cross, the band is cut there.
  private addBand(k: number, end: number, from: number, to: number, inside: number): number {
    const { active, y0, y1, sides } = this;
    sides.length = 0;
    for (let n = k; n < end; n++) {
      const e = active[n];
      if (y0[e] <= from + SAME_Y && y1[e] >= to - SAME_Y) sides.push(e);
    }
    let after = inside;
    for (let upper = from; upper < to - SAME_Y;) {
      const lower = this.orderSides(upper, to);
      after = this.addInOrder(sides, upper, lower, inside);
      upper = lower;
    }
    return after;
  }

  /** Puts the sides in their order just below a height. @returns how far down they keep it */
  private orderSides(from: number, to: number): number {
    const { sides, slope, xs } = this;
    if (sides.length < 2) return to;
    // Just below: sides that meet where the band begins lie there in the order in which they leave.
    const below = from + 4 * SAME_Y;
    for (let k = 0; k < sides.length; k++) {
      const e = sides[k];
      const x = this.at(e, below);
      let j = k - 1;
      for (; j >= 0 && xs[j] > x; j--) {
        xs[j + 1] = xs[j];
        sides[j + 1] = sides[j];
      }
      xs[j + 1] = x;
      sides[j + 1] = e;
    }
    let nearest = to;
    for (let k = 0; k + 1 < sides.length; k++) {
      const closing = slope[sides[k]] - slope[sides[k + 1]];
      if (closing <= 0) continue;
      const y = below + (xs[k + 1] - xs[k]) / closing;
      if (y > below && y < nearest) nearest = y;
    }
    return nearest;
  }

  private addInOrder(sides: readonly number[], from: number, to: number, inside: number): number {
    let winding = inside;
    for (const e of sides) {
      const before = winding;
      winding = this.rule === 'evenodd' ? 1 - winding : winding + this.winding[e];
      if (before === 0) this.addSide(this.at(e, from), this.at(e, to), to - from);
      else if (winding === 0) this.addSide(this.at(e, from), this.at(e, to), from - to);
    }
    return winding;
  }

  /** Everything right of a side, down a height, in (or out, where the height is negative). */
  private addSide(xa: number, xb: number, height: number): void {
    const { steps, width } = this;
    const [left, right] = xa < xb ? [xa, xb] : [xb, xa];
    if (left >= width) return;
    if (right <= 0) {
      steps[0] += height;
      return;
    }
    if (left >= 0 && right <= width) {
      this.addSlant(left, right, height);
      return;
    }
    // Of the parts beyond the borders the left one is an upright side at the border, and the right one makes no
    // difference.
    const perPixel = height / (right - left);
    if (left < 0) steps[0] += -left * perPixel;
    const [l, r] = [Math.max(0, left), Math.min(width, right)];
    this.addSlant(l, r, (r - l) * perPixel);
  }

  private addSlant(left: number, right: number, height: number): void {
    const { steps } = this;
    const first = Math.floor(left);
    const last = Math.floor(right);
    if (first === last) {
      const inside = height * (first + 1 - (left + right) / 2);
      steps[first] += inside;
      steps[first + 1] += height - inside;
      return;
    }
    // The side crosses several pixels: the share of its height in each, and in each the mean way to the pixel's end.
    const perPixel = height / (right - left);
    for (let x = first; x <= last; x++) {
      const from = x === first ? left : x;
      const to = x === last ? right : x + 1;
      if (to <= from) continue;
      const part = (to - from) * perPixel;
      const inside = part * (x + 1 - (from + to) / 2);
      steps[x] += inside;
      steps[x + 1] += part - inside;
    }
  }
}
