import { type Direction, type Near, type Run, fitCubic } from './fitCubic';
import { type Sample, directionOn, fitSide, placeOn } from './sidePolynomial';

/** A row of places to be drawn by few lines and curves. */
export interface Section {
  readonly xs: Float64Array;
  readonly ys: Float64Array;
  /** Directions of travel at its ends where a corner knows them; null for a ring without one, whose ends meet. */
  readonly out: Direction | null;
  readonly into: Direction | null;
}

/** A line, or a curve, from where the one before ends. */
export type Piece =
  | { readonly kind: 'line'; readonly to: Direction }
  | { readonly kind: 'curve'; readonly curve: readonly [number, number, number, number, number, number] };

export interface FittedSection {
  readonly start: Direction;
  readonly pieces: readonly Piece[];
}

/**
 * How far a place may be off a line or curve, share of the tolerance: the rest is for what places are off
 * themselves.
 */
const WORST_SHARE = 0.7;
/** More than this share it takes of no noise. */
const MOST_SHARE = 1.2;
/** And all places of it in the mean square. */
const MEAN_SHARE = 0.145;
/** A line is taken when it reaches so far as a curve, or nearly. */
const LINE_REACH = 0.72;
const FIRST_STEP = 5;
/** A few rounds of fitting tell which of two joints is the better. */
const BALANCE_ROUNDS = 3;
/** How far round a place its direction is looked for. */
const TANGENT_REACHES_PX = [48, 30, 19, 12, 8, 5];
const TANGENT_PX = 3;
/** A place is drawn to its neighbours this far round, the widest first that are one bend. */
const SMOOTHED_PX = [11, 7, 4.2, 2.6];
/** Places are one bend when in the mean square they are off it by no more than their noise, and this. */
const BEND_PX = 0.01;
const BEND_NOISES = 1.5;
const MOST_BEND_PX = 0.3;
/** Lines and curves need not be nearer to places than these are to one another. */
const WORST_NOISES = 3.2;
const MEAN_NOISES = 0.8;
/** Steps of sampled edges put places so far off, at most and in the mean square. */
const WORST_GRAINS = 0.9;
const MEAN_GRAINS = 0.26;
/** The noise of sampled edges is looked for in so small pieces that all of them are bends. */
const NOISE_REACH_PX = 3.2;
const NOISE_SAMPLES = 40;
/** A curve led by its neighbouring lines may be a little farther off, and so may one whose joints were moved. */
const LED_SLACK = 1.3;
const OWN_SLACK = 1.6;
/** A line shorter than this does not tell the direction in which a curve goes on. */
const TELLING_LINE_PX = 8;

interface Joint {
  readonly at: number;
  /** What leads here from the joint before. */
  readonly kind: 'line' | 'curve';
}

/** The fewest lines and curves, each as near to the section's places as the tolerance asks. */
export function fitSection(section: Section, tolerancePx: number, grainPx = 0): FittedSection {
  return new SectionFitter(section, tolerancePx, grainPx).fit();
}

class SectionFitter {
  private xs: Float64Array;
  private ys: Float64Array;
  private ways: Float64Array;
  private readonly bend: number;
  private directions = new Map<number, Direction>();
  private unrolled: ReturnType<SectionFitter['unroll']>;
  private readonly last: number;
  private readonly isRing: boolean;
  private readonly near: Near;

  constructor(
    private readonly section: Section,
    tolerancePx: number,
    grainPx: number,
  ) {
    this.last = section.xs.length - 1;
    this.isRing = section.out === null;
    this.xs = section.xs;
    this.ys = section.ys;
    this.ways = this.measure();
    this.unrolled = this.unroll();
    const noise = this.measureNoise();
    this.bend = Math.min(MOST_BEND_PX, BEND_PX + BEND_NOISES * noise);
    this.near = {
      worst: Math.max(
        tolerancePx * WORST_SHARE,
        Math.min(tolerancePx * MOST_SHARE, Math.max(WORST_NOISES * noise, WORST_GRAINS * grainPx)),
      ),
      meanSquare:
        Math.max(
          tolerancePx * MEAN_SHARE,
          Math.min(tolerancePx * MOST_SHARE * 0.5, Math.max(MEAN_NOISES * noise, MEAN_GRAINS * grainPx)),
        ) ** 2,
    };
    this.smooth();
  }

  fit(): FittedSection {
    if (this.isRing) this.turnToStart();
    let joints = this.greedy();
    if (this.isRing) {
      // Where it happened to begin is no joint that is wanted: begin at one that is.
      const first = joints.length > 1 ? joints[0].at : 0;
      if (first > 0 && first < this.last) {
        this.rotate(first);
        joints = this.greedy();
      }
    }
    joints = this.balance(joints);
    return this.build(joints);
  }

  private measure(): Float64Array {
    const ways = new Float64Array(this.xs.length);
    for (let k = 1; k < ways.length; k++)
      ways[k] = ways[k - 1] + Math.hypot(this.xs[k] - this.xs[k - 1], this.ys[k] - this.ys[k - 1]);
    return ways;
  }

  /** A ring's places, the first one repeated at the end, from another one on. */
  private rotate(first: number): void {
    const n = this.last;
    const turn = (v: Float64Array) => Float64Array.from({ length: n + 1 }, (_, k) => v[(k + first) % n]);
    this.xs = turn(this.xs);
    this.ys = turn(this.ys);
    this.directions = new Map();
    this.ways = this.measure();
    this.unrolled = this.unroll();
  }

  /** Begins a ring where its longest line begins, else where it is bent most. */
  private turnToStart(): void {
    let [best, longest] = [0, 0];
    const step = Math.max(1, Math.floor(this.last / 64));
    for (let k = 0; k < this.last; k += step) {
      const to = this.reach(k, (i, j) => this.isLine(i, j));
      const length = this.ways[to] - this.ways[k];
      if (length > longest) [best, longest] = [k, length];
    }
    if (best > 0) this.rotate(best);
  }

  /** The neighbours of a place within a way of it, on both sides; round a ring they go on beyond its ends. */
  private around(k: number, reach: number): Sample {
    const { xs, ys, ways, shift } = this.unrolled;
    const at = k + shift;
    const origin = ways[at];
    const most = this.isRing ? this.last >> 1 : this.last;
    let [from, to] = [at, at];
    while (from > 0 && at - from < most && origin - ways[from - 1] <= reach) from--;
    while (to < ways.length - 1 && to - at < most && ways[to + 1] - origin <= reach) to++;
    return { xs, ys, ways, from, to, origin };
  }

  /** A ring's places twice over, so that no neighbourhood wraps round; a row's as they are. */
  private unroll() {
    const { xs, ys, ways, last: n } = this;
    if (!this.isRing) return { xs, ys, ways, shift: 0 };
    const shift = n >> 1;
    const length = 2 * n + 1;
    const [ux, uy, uw] = [new Float64Array(length), new Float64Array(length), new Float64Array(length)];
    for (let k = 0; k < length; k++) {
      const i = (k - shift + n) % n;
      const round = Math.floor((k - shift) / n);
      ux[k] = xs[i];
      uy[k] = ys[i];
      uw[k] = ways[i] + round * ways[n];
    }
    return { xs: ux, ys: uy, ways: uw, shift };
  }

  /** How far places are off small bends: the median of many. */
  private measureNoise(): number {
    const step = Math.max(1, Math.floor(this.last / NOISE_SAMPLES));
    const found: number[] = [];
    for (let k = step; k < this.last; k += step) {
      const near = this.around(k, NOISE_REACH_PX);
      const side = near.to - near.from >= 5 ? fitSide(near, 2) : null;
      if (side) found.push(side.rms);
    }
    return found.sort((a, b) => a - b)[found.length >> 1] ?? 0;
  }

  /** Takes from every place what its neighbours do not share: the last bit of the grid. */
  private smooth(): void {
    const [xs, ys] = [this.xs.slice(), this.ys.slice()];
    const [from, to] = this.isRing ? [0, this.last] : [1, this.last - 1];
    for (let k = from; k <= to; k++) {
      for (const reach of SMOOTHED_PX) {
        const near = this.around(k, reach);
        const side = near.to - near.from >= 4 ? fitSide(near, 2) : null;
        if (!side || (side.rms > this.bend && reach > SMOOTHED_PX[SMOOTHED_PX.length - 1])) continue;
        [xs[k], ys[k]] = placeOn(side, 0);
        break;
      }
    }
    [this.xs, this.ys] = [xs, ys];
    this.ways = this.measure();
    this.unrolled = this.unroll();
  }

  /** Null at a corner, where a curve may come from anywhere. */
  private directionAt(k: number): Direction | null {
    if (!this.isRing && (k === 0 || k === this.last)) return null;
    let known = this.directions.get(k);
    if (!known) this.directions.set(k, (known = this.lookAround(k)));
    return known;
  }

  /** From as wide round a place as one bend goes. */
  private lookAround(k: number): Direction {
    for (const reach of TANGENT_REACHES_PX) {
      const near = this.around(k, reach);
      const side = near.to - near.from >= 4 ? fitSide(near, 2) : null;
      if (side && side.rms <= this.bend) return directionOn(side, 0);
    }
    const side = fitSide(this.around(k, TANGENT_PX), 1);
    return side ? directionOn(side, 0) : this.chord(Math.max(0, k - 1), Math.min(this.last, k + 1));
  }

  private chord(i: number, j: number): Direction {
    const [dx, dy] = [this.xs[j] - this.xs[i], this.ys[j] - this.ys[i]];
    const length = Math.hypot(dx, dy) || 1;
    return [dx / length, dy / length];
  }

  private isLine(i: number, j: number): boolean {
    return this.isNear(this.offLine(i, j));
  }

  /** How far places are off the line from one to another. */
  private offLine(i: number, j: number) {
    const [dx, dy] = this.chord(i, j);
    const [x, y] = [this.xs[i], this.ys[i]];
    const step = Math.max(1, Math.floor((j - i) / 200));
    let [worst, sum, count] = [0, 0, 0];
    for (let k = i + 1; k < j; k += step, count++) {
      const off = (this.xs[k] - x) * dy - (this.ys[k] - y) * dx;
      worst = Math.max(worst, Math.abs(off));
      sum += off * off;
    }
    return { worst, meanSquare: count > 0 ? sum / count : 0 };
  }

  private run = (from: number, to: number): Run => ({ xs: this.xs, ys: this.ys, from, to });

  private isCurve(i: number, j: number): boolean {
    if (j - i < 3) return true;
    return this.isNear(fitCubic(this.run(i, j), this.directionAt(i), this.directionAt(j), this.near));
  }

  private isNear = ({ worst, meanSquare }: Near): boolean =>
    worst <= this.near.worst && meanSquare <= this.near.meanSquare;

  /** The farthest place that is still reached; what is reached further on is taken for reachable throughout. */
  private reach(i: number, isReached: (i: number, j: number) => boolean): number {
    let good = Math.min(this.last, i + 1);
    let step = FIRST_STEP;
    let bad = this.last + 1;
    while (good < this.last) {
      const next = Math.min(this.last, i + step);
      if (isReached(i, next)) good = next;
      else {
        bad = next;
        break;
      }
      step = Math.ceil(step * 1.7);
    }
    // A place more or fewer of a long piece is for balancing.
    while (bad - good > Math.max(1, (good - i) >> 5)) {
      const middle = (good + bad) >> 1;
      if (isReached(i, middle)) good = middle;
      else bad = middle;
    }
    return good;
  }

  private greedy(): Joint[] {
    const joints: Joint[] = [];
    for (let i = 0; i < this.last;) {
      const line = this.reach(i, (a, b) => this.isLine(a, b));
      const curve = this.isCurve(i, this.last) ? this.last : this.reach(i, (a, b) => this.isCurve(a, b));
      const [lineWay, curveWay] = [this.ways[line] - this.ways[i], this.ways[curve] - this.ways[i]];
      const isLine = line >= curve || (lineWay >= LINE_REACH * curveWay && lineWay > 3);
      i = isLine ? line : curve;
      joints.push({ at: i, kind: isLine ? 'line' : 'curve' });
    }
    return joints;
  }

  private cost(i: number, j: number, kind: Joint['kind']): number {
    if (kind === 'line') {
      const off = this.offLine(i, j);
      return this.isNear(off) ? off.meanSquare * (j - i) : Infinity;
    }
    if (j - i < 3) return 0;
    const fit = fitCubic(this.run(i, j), this.directionAt(i), this.directionAt(j), null, BALANCE_ROUNDS);
    return this.isNear(fit) ? fit.meanSquare * (j - i) : Infinity;
  }

  /** Moves joints between two pieces to where both together are nearest to the places. */
  private balance(given: readonly Joint[]): Joint[] {
    const joints = [...given];
    for (let k = 0; k + 1 < joints.length; k++) {
      const from = k === 0 ? 0 : joints[k - 1].at;
      const to = joints[k + 1].at;
      const cost = (at: number) => this.cost(from, at, joints[k].kind) + this.cost(at, to, joints[k + 1].kind);
      let best = cost(joints[k].at);
      const first = Math.max(1, (to - from) >> 3);
      for (let step = first; step >= 1 && step * 8 > first; step >>= 1) {
        for (const at of [joints[k].at - step, joints[k].at + step]) {
          if (at <= from + 1 || at >= to - 1) continue;
          const next = cost(at);
          if (next >= best) continue;
          best = next;
          joints[k] = { ...joints[k], at };
          break;
        }
      }
    }
    return joints;
  }

  private build(joints: readonly Joint[]): FittedSection {
    const ends = [0, ...joints.map((j) => j.at)];
    // Where a line meets a curve without a corner the curve goes out along the line.
    const lineOf = (k: number): Direction | null => {
      if (joints[k]?.kind !== 'line' || this.ways[ends[k + 1]] - this.ways[ends[k]] < TELLING_LINE_PX) return null;
      return this.chord(ends[k], ends[k + 1]);
    };
    const wrapped = this.isRing ? joints.length : 0;
    const pieces = joints.flatMap(({ kind, at }, k): Piece[] => {
      if (kind === 'line') return [this.lineTo(at)];
      const [from, to] = [ends[k], at];
      const isFirst = k === 0 && !this.isRing;
      const isLast = k === joints.length - 1 && !this.isRing;
      const before = isFirst ? null : lineOf(k > 0 ? k - 1 : wrapped - 1);
      const after = isLast ? null : lineOf(k + 1 < joints.length ? k + 1 : wrapped ? 0 : joints.length);
      if ((before || after) && to - from > 1) {
        const led = fitCubic(this.run(from, to), before ?? this.directionAt(from), after ?? this.directionAt(to));
        if (led.worst <= this.near.worst * LED_SLACK) return [{ kind: 'curve', curve: led.curve }];
      }
      return this.curves(from, to);
    });
    return { start: [this.xs[0], this.ys[0]], pieces };
  }

  private lineTo = (at: number): Piece => ({ kind: 'line', to: [this.xs[at], this.ys[at]] });

  /** A curve, or several where one is not near after all. */
  private curves(from: number, to: number): Piece[] {
    if (to - from < 3) return Array.from({ length: to - from }, (_, k) => this.lineTo(from + k + 1));
    const fit = fitCubic(this.run(from, to), this.directionAt(from), this.directionAt(to));
    if (fit.worst <= this.near.worst * OWN_SLACK) return [{ kind: 'curve', curve: fit.curve }];
    const middle = (from + to) >> 1;
    return [...this.curves(from, middle), ...this.curves(middle, to)];
  }
}
