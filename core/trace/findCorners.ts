import type { EdgeRing } from './edgePoints';
import { type Sample, type SidePolynomial, directionOn, fitSide, placeOn } from './sidePolynomial';

/** A corner of a ring: where both sides, carried on, meet. */
export interface Corner {
  readonly x: number;
  readonly y: number;
  /** The ring's place at it. */
  readonly at: number;
  /** Places of the ring from here on, up to `to`, belong to neither side: the corner stands for them. */
  readonly from: number;
  readonly to: number;
  /** Directions into the corner and out of it, of length 1. */
  readonly into: readonly [number, number];
  readonly outOf: readonly [number, number];
}

/** Nearer to a corner than this the pixel grid has mixed both sides. */
const MIXED_PX = 1.2;
/** How far along a side is looked. */
const NEAR_PX = 5;
const FAR_PX = 14;
/** What is left out beside a jumbled tip, in turn, and how many places of a side tell of it. */
const SKIPPED_PX = [0, 0.8, 1.8, 3];
const TELLING_PLACES = 4;
/** Less of a turn within the near reach is no candidate. */
const LEAST_TURN = 0.22;
/** Two corners are farther apart than this. */
const APART_PX = 1.6;
/** Candidates closer than this may be one corner. */
const CLOSE_PX = 6;
/** A side that its polynomial leaves farther than this is another side further on. */
const SIDE_RESIDUAL_PX = 0.12;
const LINE_RESIDUAL_PX = 0.06;
/** How far a right-angled corner may lie from the places of the ring: the grid rounds it so much, and no more. */
const ROUNDED_PX = 0.78;
const MOST_BEYOND_PX = 3.5;

/** The way along a ring to each of its places; the last number is the whole way round. */
export function waysAlong({ xs, ys }: Pick<EdgeRing, 'xs' | 'ys'>): Float64Array {
  const n = xs.length;
  const ways = new Float64Array(n + 1);
  for (let k = 1; k <= n; k++) {
    const j = k % n;
    ways[k] = ways[k - 1] + Math.hypot(xs[j] - xs[k - 1], ys[j] - ys[k - 1]);
  }
  return ways;
}

/** @param leastAngleRad  a turn of less is a bend, not a corner */
export function findCorners(ring: EdgeRing, leastAngleRad: number): Corner[] {
  const n = ring.xs.length;
  if (n < 6) return [];
  const ways = waysAlong(ring);
  const whole = ways[n];
  const turns = new Float64Array(n);
  const sides = new Sides(ring, ways);
  for (let k = 0; k < n; k++) turns[k] = turnAt(sides, k);
  const candidates: number[] = [];
  for (let k = 0; k < n; k++) if (turns[k] > LEAST_TURN && isPeak(turns, ways, k)) candidates.push(k);
  const gap = (from: number, to: number) => (ways[to] - ways[from] + whole) % whole || whole;
  const found: Corner[] = [];
  const groups = grouped(candidates, gap);
  groups.forEach((group, g) => {
    const last = (list: readonly number[]) => list[list.length - 1];
    const before = gap(last(groups[(g + groups.length - 1) % groups.length]), group[0]);
    const after = gap(last(group), groups[(g + 1) % groups.length][0]);
    // Of several close to one another the grid may have made two of one.
    const place = { first: group[0], last: last(group), roomBefore: before, roomAfter: after };
    const one = verify(ring, sides, place, leastAngleRad);
    if (one) found.push(one);
    if (one || group.length === 1) return;
    group.forEach((k, j) => {
      const roomBefore = j === 0 ? before : gap(group[j - 1], k);
      const roomAfter = j === group.length - 1 ? after : gap(k, group[j + 1]);
      const corner = verify(ring, sides, { first: k, last: k, roomBefore, roomAfter }, leastAngleRad);
      if (corner) found.push(corner);
    });
  });
  return found.sort((a, b) => a.at - b.at);
}

/** Candidates in groups that are close together, in order round the ring. */
function grouped(candidates: readonly number[], gap: (from: number, to: number) => number): number[][] {
  const groups: number[][] = [];
  candidates.forEach((k, c) => {
    const group = groups[groups.length - 1];
    if (c > 0 && gap(candidates[c - 1], k) < CLOSE_PX) group.push(k);
    else groups.push([k]);
  });
  if (groups.length > 1) {
    const last = groups[groups.length - 1];
    if (gap(last[last.length - 1], groups[0][0]) < CLOSE_PX) groups[0] = [...(groups.pop() as number[]), ...groups[0]];
  }
  return groups;
}

/** How far the direction turns at a place, looked at from a little before to a little after; radians. */
function turnAt(sides: Sides, k: number): number {
  const before = sides.headingOf(k, -1);
  const after = sides.headingOf(k, 1);
  const turn = Math.abs(after - before);
  return Number.isNaN(turn) ? 0 : Math.min(turn, 2 * Math.PI - turn);
}

function isPeak(turns: Float64Array, ways: Float64Array, k: number): boolean {
  const n = turns.length;
  for (const way of [-1, 1]) {
    for (let j = 1; j < n; j++) {
      const i = (k + way * j + n) % n;
      const d = Math.abs(ways[i] - ways[k]);
      if (Math.min(d, ways[n] - d) > APART_PX) break;
      if (turns[i] > turns[k] || (turns[i] === turns[k] && way === -1)) return false;
    }
  }
  return true;
}

/** A ring three times over, so that no side of any place wraps round. */
class Sides {
  private readonly n: number;
  private readonly xs: Float64Array;
  private readonly ys: Float64Array;
  private readonly ways: Float64Array;

  constructor({ xs, ys }: EdgeRing, ways: Float64Array) {
    const n = (this.n = xs.length);
    this.xs = new Float64Array(3 * n);
    this.ys = new Float64Array(3 * n);
    this.ways = new Float64Array(3 * n);
    for (let k = 0; k < 3 * n; k++) {
      this.xs[k] = xs[k % n];
      this.ys[k] = ys[k % n];
      this.ways[k] = ways[k % n] + (Math.floor(k / n) - 1) * ways[n];
    }
  }

  /** The first and last place of one side of a place, between two ways from it. */
  private spanOf(k: number, way: 1 | -1, reach: number, from: number): [number, number] {
    const { ways, n } = this;
    const origin = ways[k + n];
    const most = Math.min(reach, ways[2 * n] / 2);
    let near = k + n + way;
    while (Math.abs(ways[near] - origin) < from && Math.abs(near - k - n) < n - 1) near += way;
    let far = near;
    while (Math.abs(ways[far + way] - origin) <= most && Math.abs(far - k - n) < n - 2) far += way;
    return [near, far];
  }

  /** The direction of travel along a near side of a place, radians; NaN where too little is there. */
  headingOf(k: number, way: 1 | -1): number {
    const { xs, ys, ways } = this;
    const [near, far] = this.spanOf(k, way, NEAR_PX, MIXED_PX);
    if (near === far) return Number.NaN;
    // The slope of both coordinates over the way, by least squares.
    const from = Math.min(near, far);
    const to = Math.max(near, far);
    let mean = 0;
    for (let i = from; i <= to; i++) mean += ways[i];
    mean /= to - from + 1;
    let dx = 0;
    let dy = 0;
    for (let i = from; i <= to; i++) {
      dx += (ways[i] - mean) * xs[i];
      dy += (ways[i] - mean) * ys[i];
    }
    return Math.atan2(dy, dx);
  }

  /** Places of one side of a place, from where the grid mixes no more up to a reach; ways count from the place on. */
  of(k: number, way: 1 | -1, reach: number, from = MIXED_PX): Sample {
    const { xs, ys, ways, n } = this;
    const [near, far] = this.spanOf(k, way, reach, from);
    const origin = ways[k + n];
    return { xs, ys, ways, from: Math.min(near, far), to: Math.max(near, far), origin };
  }
}

/** A side of a corner. */
interface Side extends SidePolynomial {
  /** The place nearest to the corner that is on it, counted in the ring three times over. */
  readonly near: number;
}

/**
 * The longest piece of a side, from near the corner on, that one polynomial describes. At a sharp tip the grid jumbles
 * the places nearest to it, which are then left out.
 */
function fitAlong(sides: Sides, k: number, way: 1 | -1, reach: number): Side | null {
  for (const skipped of SKIPPED_PX) {
    const found = fitFrom(sides.of(k, way, reach, MIXED_PX + skipped), way, TELLING_PLACES);
    if (found) return found;
  }
  return fitFrom(sides.of(k, way, Math.max(reach, MIXED_PX + 1), MIXED_PX), way, 2);
}

function fitFrom(all: Sample, way: 1 | -1, least: number): Side | null {
  const most = all.to - all.from + 1;
  for (let count = most; count >= least; count = count > 6 ? Math.floor(count * 0.8) : count - 1) {
    const part = way === 1 ? { ...all, to: all.from + count - 1 } : { ...all, from: all.to - count + 1 };
    const line = fitSide(part, 1);
    const near = way === 1 ? part.from : part.to;
    if (line && line.residual <= LINE_RESIDUAL_PX) return { ...line, near };
    const bent = count >= 5 ? fitSide(part, 2) : null;
    if (bent && bent.residual <= SIDE_RESIDUAL_PX) return { ...bent, near };
  }
  return null;
}

/** Where a corner may be: places of the ring, and how far from them the next candidates are. */
interface CornerPlace {
  readonly first: number;
  readonly last: number;
  readonly roomBefore: number;
  readonly roomAfter: number;
}

function verify(ring: EdgeRing, sides: Sides, place: CornerPlace, leastAngleRad: number): Corner | null {
  const before = fitAlong(sides, place.first, -1, Math.min(FAR_PX, place.roomBefore - MIXED_PX));
  const after = fitAlong(sides, place.last, 1, Math.min(FAR_PX, place.roomAfter - MIXED_PX));
  if (!before || !after) return null;
  const met = meet(before, after);
  if (!met) return null;
  const a = directionOn(before, met.u);
  const b = directionOn(after, met.v);
  const turn = Math.acos(Math.max(-1, Math.min(1, a[0] * b[0] + a[1] * b[1])));
  if (turn < leastAngleRad) return null;
  const inner = Math.PI - turn;
  // The sharper the corner, the more of its tip the grid takes.
  const allowed = Math.min(MOST_BEYOND_PX, (ROUNDED_PX * Math.SQRT1_2) / Math.max(0.1, Math.sin(inner / 2)));
  const n = ring.xs.length;
  const k = place.first;
  const across = (place.last - place.first + n) % n;
  let nearest = Infinity;
  for (let j = -6; j <= 6 + across; j++) nearest = Math.min(nearest, farFrom(ring, (k + j + 2 * n) % n, met));
  if (nearest > Math.max(allowed, ROUNDED_PX)) return null;
  // What is nearer to the corner than what either side was told by is mixed of both.
  const from = (before.near + 1) % n;
  const to = (after.near - 1 + n) % n;
  return { x: met.x, y: met.y, at: place.first, from, to, into: a, outOf: b };
}

/** How far a place is from the side of the ring that begins at one of its places. */
function farFrom({ xs, ys }: EdgeRing, i: number, { x, y }: { x: number; y: number }): number {
  const j = (i + 1) % xs.length;
  const [dx, dy] = [xs[j] - xs[i], ys[j] - ys[i]];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((x - xs[i]) * dx + (y - ys[i]) * dy) / square));
  return Math.hypot(x - xs[i] - t * dx, y - ys[i] - t * dy);
}

/** Where two sides, carried on towards each other, meet: Newton's method from where both would be at the corner. */
function meet(p: SidePolynomial, q: SidePolynomial): { u: number; v: number; x: number; y: number } | null {
  let [u, v] = [0, 0];
  for (let round = 0; round < 8; round++) {
    const [px, py] = placeOn(p, u);
    const [qx, qy] = placeOn(q, v);
    const [dx, dy] = [qx - px, qy - py];
    const [ax, ay] = [p.x[1] + 2 * u * p.x[2], p.y[1] + 2 * u * p.y[2]];
    const [bx, by] = [q.x[1] + 2 * v * q.x[2], q.y[1] + 2 * v * q.y[2]];
    const det = ax * -by + bx * ay;
    if (Math.abs(det) < 1e-3) return null;
    const du = (dx * -by + bx * dy) / det;
    const dv = (ax * dy - ay * dx) / det;
    u += du;
    v += dv;
    if (Math.abs(u) > 8 || Math.abs(v) > 8) return null;
    if (Math.abs(du) + Math.abs(dv) < 1e-6) break;
  }
  const [x, y] = placeOn(p, u);
  return { u, v, x, y };
}
