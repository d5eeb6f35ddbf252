import { type InkPiece, largestArea } from './inkPieces';

/** A group with less of the largest group's ink than this is a crumb, no mark of its own. */
const LEAST_MARK = 0.06;
/** Share of the largest piece from which a piece tells how tall the writing is. */
const LARGE_SHARE = 0.08;
/** A piece counts as no taller than this share of its width: a long underline is not tall writing. */
const TALL_FOR_WIDTH = 0.9;
/** The height above the middle of the ink: half the ink of a signature lies in its small letters. */
const HEIGHT_RANK = 0.6;
/** A piece with less than this share of its neighbour's ink is a dot or a bar of it. */
const PART_SHARE = 0.35;
/** Two full lines of writing must come this much closer than a dot. */
const LINES_REACH = 0.62;
/** Along the writing, words stand this many heights apart, initials and names too. */
const WORD_GAP = 1.3;
/** What stands on one line shares so much of the lower one's height across the line. */
const ON_LINE = 0.4;
/** Pieces wider than so many times their height, and with so much ink of the largest, tell how the lines run. */
const LONG = 1.6;
/** Steps of the search for the angle, degrees. */
const COARSE_DEG = 0.5;
const FINE_DEG = 0.1;
/** In each column the foot of the writing: nine tenths down, above the descenders. */
const FOOT_RANK = 0.9;
/** Feet closer together than this share of the width say nothing about the slope. */
const APART = 0.08;

/** One signature on the sheet. */
export interface InkMark {
  readonly number: number;
  readonly box: { x: number; y: number; width: number; height: number };
  /** Turn of its baseline, clockwise positive: uphill writing is negative. */
  readonly angleDeg: number;
  /** The smallest box that holds it once it is turned upright about the box's centre; px, not whole. */
  readonly region: { x: number; y: number; width: number; height: number };
  readonly labels: readonly number[];
  readonly areaPx: number;
}

/** Strokes of one hand lie closer together than this share of the writing's height. */
const NEAR_SHARE = 0.75;

/**
 * Groups pieces into separate marks and measures the turn of each.
 * @param labels  piece per pixel, as `findInkPieces` gives it
 * @returns marks in reading order, numbered from 1
 */
export function findInkMarks(
  labels: Int32Array,
  pieces: readonly InkPiece[],
  width: number,
  height: number,
): InkMark[] {
  if (pieces.length === 0) return [];
  const group = groupPieces(pieces, labels, width, height);
  const members = new Map<number, InkPiece[]>();
  pieces.forEach((p, k) => members.set(group[k], [...(members.get(group[k]) ?? []), p]));
  const areas = [...members.values()].map((m) => m.reduce((s, p) => s + p.areaPx, 0));
  const largest = Math.max(...areas);
  const marks = [...members.values()]
    .filter((_, k) => areas[k] >= largest * LEAST_MARK)
    .map((list) => {
      const left = Math.min(...list.map((p) => p.box.x));
      const top = Math.min(...list.map((p) => p.box.y));
      const right = Math.max(...list.map((p) => p.box.x + p.box.width));
      const bottom = Math.max(...list.map((p) => p.box.y + p.box.height));
      const own = new Set(list.map((p) => p.label));
      const box = { x: left, y: top, width: right - left, height: bottom - top };
      return {
        box,
        labels: [...own],
        areaPx: list.reduce((s, p) => s + p.areaPx, 0),
        ...measureTurn(labels, { all: own, writing: writingOf(list) }, box, width),
      };
    });
  return sortForReading(marks).map((m, k) => ({ ...m, number: k + 1 }));
}

function groupPieces(pieces: readonly InkPiece[], labels: Int32Array, width: number, height: number): number[] {
  const parent = pieces.map((_, k) => k);
  const find = (k: number): number => (parent[k] === k ? k : (parent[k] = find(parent[k])));
  const most = largestArea(pieces);
  const large = pieces.filter((p) => p.areaPx >= LARGE_SHARE * most);
  // The height of the writing: that of large pieces, weighed by their ink, with long underlines counting for little.
  const tall = [...large]
    .map((p) => ({ h: Math.min(p.box.height, p.box.width * TALL_FOR_WIDTH), a: p.areaPx }))
    .sort((a, b) => a.h - b.h);
  const half = tall.reduce((s, t) => s + t.a, 0) * HEIGHT_RANK;
  let sum = 0;
  let writing = tall[tall.length - 1]?.h ?? 1;
  for (const t of tall)
    if ((sum += t.a) >= half) {
      writing = t.h;
      break;
    }
  const reach = Math.max(3, writing * NEAR_SHARE);
  const [sin, cos] = sineCosine(slopeOf(large, labels, width));
  const rims = pieces.map((p) => rimOf(p, labels, width, height));
  const spans = rims.map((rim) => spanAcross(rim, sin, cos));
  for (let a = 0; a < pieces.length; a++) {
    for (let b = a + 1; b < pieces.length; b++) {
      if (find(a) === find(b)) continue;
      const [p, q] = [pieces[a].box, pieces[b].box];
      const dx = Math.max(0, p.x - q.x - q.width, q.x - p.x - p.width);
      const dy = Math.max(0, p.y - q.y - q.height, q.y - p.y - p.height);
      // A dot or a bar belongs to what it stands over; two full lines of writing must come closer.
      const [pa, qa] = [pieces[a].areaPx, pieces[b].areaPx];
      const isPart = Math.min(pa, qa) < PART_SHARE * Math.max(pa, qa);
      const limit = reach * (isPart ? 1 : LINES_REACH);
      // Along the line the next word may stand further off.
      const [s, t] = [spans[a], spans[b]];
      const shared = Math.min(s.to, t.to) - Math.max(s.from, t.from);
      const isOnLine = shared > ON_LINE * Math.min(s.to - s.from, t.to - t.from);
      const along = isOnLine ? Math.max(limit, writing * WORD_GAP) : limit;
      if (dx > along || dy > along) continue;
      if (isWithin(rims[a], rims[b], { along, across: limit, sin, cos })) parent[find(a)] = find(b);
    }
  }
  return pieces.map((_, k) => find(k));
}

/** How lines run on the sheet, degrees: the main axis of long pieces, the middle of all by their ink. */
function slopeOf(large: readonly InkPiece[], labels: Int32Array, width: number): number {
  const found = large.flatMap((p) => {
    if (p.box.width < LONG * p.box.height) return [];
    const [xs, ys]: number[][] = [[], []];
    const step = Math.max(1, Math.floor(p.areaPx / 3000));
    let n = 0;
    for (let y = p.box.y; y < p.box.y + p.box.height; y++)
      for (let x = p.box.x, i = y * width + x; x < p.box.x + p.box.width; x++, i++) {
        if (labels[i] !== p.label || n++ % step) continue;
        xs.push(x);
        ys.push(y);
      }
    return xs.length > 10 ? [{ angle: mainAxis(xs, ys), ink: p.areaPx }] : [];
  });
  found.sort((p, q) => p.angle - q.angle);
  let left = found.reduce((sum, f) => sum + f.ink, 0) / 2;
  return found.find((f) => (left -= f.ink) <= 0)?.angle ?? 0;
}

function rimOf(p: InkPiece, labels: Int32Array, width: number, height: number): Float32Array {
  const out: number[] = [];
  for (let y = p.box.y; y < p.box.y + p.box.height; y++) {
    for (let x = p.box.x, i = y * width + x; x < p.box.x + p.box.width; x++, i++) {
      if (labels[i] !== p.label) continue;
      if (
        x === 0 ||
        y === 0 ||
        x === width - 1 ||
        y === height - 1 ||
        labels[i - 1] !== p.label ||
        labels[i + 1] !== p.label ||
        labels[i - width] !== p.label ||
        labels[i + width] !== p.label
      )
        out.push(x, y);
    }
  }
  const step = Math.max(1, Math.floor(out.length / 2 / 500));
  return Float32Array.from(
    { length: Math.ceil(out.length / 2 / step) * 2 },
    (_, k) => out[Math.floor(k / 2) * step * 2 + (k % 2)],
  );
}

function spanAcross(rim: Float32Array, sin: number, cos: number): { from: number; to: number } {
  let [from, to] = [Infinity, -Infinity];
  for (let k = 0; k < rim.length; k += 2) {
    const v = rim[k + 1] * cos - rim[k] * sin;
    from = Math.min(from, v);
    to = Math.max(to, v);
  }
  return { from, to };
}

/** How far apart two strokes of one hand may lie, along the line and across it, and how that line is turned. */
interface Reach {
  readonly along: number;
  readonly across: number;
  readonly sin: number;
  readonly cos: number;
}

function isWithin(a: Float32Array, b: Float32Array, { along, across, sin, cos }: Reach): boolean {
  for (let i = 0; i < a.length; i += 2) {
    for (let k = 0; k < b.length; k += 2) {
      const dx = a[i] - b[k];
      const dy = a[i + 1] - b[k + 1];
      const u = (dx * cos + dy * sin) / along;
      const v = (dy * cos - dx * sin) / across;
      if (u * u + v * v <= 1) return true;
    }
  }
  return false;
}

const MOST_TURN = 40;
/** Feet stand on one line when they differ by less than this share of the writing's height. */
const FOOT_SHARE = 0.022;
const SPAN_DEG = 14;

/**
 * The turn of a line of writing. Letters stand on the baseline: seen along it, the feet of their strokes come together,
 * so the turn is the one at which the undersides of strokes gather most. A robust line through the lowest ink says
 * where to look.
 * @see P. Sen, "Estimates of the Regression Coefficient Based on Kendall's Tau", 1968, for that line
 */
function measureTurn(
  labels: Int32Array,
  own: { all: ReadonlySet<number>; writing: ReadonlySet<number> },
  box: { x: number; y: number; width: number; height: number },
  width: number,
): Pick<InkMark, 'angleDeg' | 'region'> {
  const kind = new Uint8Array(Math.max(...own.all) + 1);
  for (const l of own.all) kind[l] = own.writing.has(l) ? 2 : 1;
  const isInk = (i: number) => labels[i] < kind.length && kind[labels[i]] === 2;
  const [allX, allY]: number[][] = [[], []];
  const xs: number[] = [];
  const ys: number[] = [];
  const feet: number[] = [];
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x, i = y * width + x; x < box.x + box.width; x++, i++) {
      if (labels[i] >= kind.length || kind[labels[i]] === 0) continue;
      allX.push(x);
      allY.push(y);
      if (!isInk(i)) continue;
      xs.push(x);
      ys.push(y);
      if (y + 1 >= box.y + box.height || !isInk(i + width)) feet.push(x, y);
    }
  }
  if (xs.length < 20) return { angleDeg: 0, region: box };
  const axis = mainAxis(xs, ys);
  const centre = lowestLine(xs, ys, Math.abs(axis) <= MOST_TURN ? axis : 0);
  const tall = heightAcross(xs, ys, centre);
  const reach = Math.max(1, Math.round(FOOT_SHARE * tall));
  const isInkAt = (x: number, y: number) =>
    x >= box.x && y >= box.y && x < box.x + box.width && y < box.y + box.height && isInk(y * width + x);
  const ends = {
    feet: lowestPoints(feet, isInkAt, Math.max(2, Math.round(tall * END_SHARE))),
    spread: Math.max(1, tall * END_SPREAD),
  };
  const most = gathering(feet, centre, reach);
  let best = { angle: centre, score: -1 };
  const scan = (from: number, to: number, step: number) => {
    for (let angle = from; angle <= to + 1e-9; angle += step) {
      const off = angle / STEEP_DEG;
      const score =
        (togetherness(ends, angle) + EDGES_WEIGHT * (gathering(feet, angle, reach) / most)) * Math.exp(-off * off);
      if (score > best.score) best = { angle, score };
    }
  };
  scan(centre - SPAN_DEG, centre + SPAN_DEG, COARSE_DEG);
  scan(best.angle - COARSE_DEG, best.angle + COARSE_DEG, FINE_DEG);
  const angleDeg = Math.round(best.angle * 10) / 10;
  return { angleDeg, region: regionAlong(allX, allY, angleDeg) };
}

/** A piece this flat and this long against the tallest is an underline or a flourish, one with so little ink a dot. */
const FLAT = 0.3;
const LONG_FOR_FLAT = 3;
const DOT_SHARE = 0.05;
/** With less of the ink than this left, all of it tells the turn. */
const LEAST_WRITING = 0.4;

// The pieces that stand on the line of writing: dots, bars and underlines left out.
function writingOf(list: readonly InkPiece[]): Set<number> {
  const tall = Math.max(...list.map((p) => p.box.height));
  const most = Math.max(...list.map((p) => p.areaPx));
  const writing = list.filter(
    ({ box, areaPx }) =>
      areaPx >= DOT_SHARE * most && !(box.width > LONG_FOR_FLAT * box.height && box.height < FLAT * tall),
  );
  const sum = (pieces: readonly InkPiece[]) => pieces.reduce((s, p) => s + p.areaPx, 0);
  return new Set((sum(writing) >= LEAST_WRITING * sum(list) ? writing : list).map((p) => p.label));
}

/** Where strokes end below: nothing else lies further down within this share of the height. */
const END_SHARE = 0.14;
/** Ends of letters stand on one line within this share of the height. */
const END_SPREAD = 0.035;
/** What undersides of all strokes together say beside the ends alone; a steep turn is unlikely on a sheet. */
const EDGES_WEIGHT = 4;
const STEEP_DEG = 60;

interface Ends {
  readonly feet: Float64Array;
  readonly spread: number;
}

// Of pixels under which there is nothing, those with no ink further down within `near` px; runs count once.
function lowestPoints(
  edges: readonly number[],
  isInkAt: (x: number, y: number) => boolean,
  near: number,
): Float64Array {
  const found: number[] = [];
  let lastX = -9;
  let lastY = -9;
  for (let k = 0; k < edges.length; k += 2) {
    const [x, y] = [edges[k], edges[k + 1]];
    let isLowest = true;
    for (let dy = 1; dy <= near && isLowest; dy++)
      for (let dx = -near; dx <= near && isLowest; dx++) if (isInkAt(x + dx, y + dy)) isLowest = false;
    if (!isLowest) continue;
    if (y === lastY && x - lastX <= near) {
      lastX = x;
      continue;
    }
    found.push(x, y);
    [lastX, lastY] = [x, y];
  }
  return Float64Array.from(found);
}

// How many pairs of ends lie on one line at an angle, each pair counted by how closely.
function togetherness({ feet, spread }: Ends, angleDeg: number): number {
  const [sin, cos] = sineCosine(angleDeg);
  const across = Array.from(
    { length: feet.length / 2 },
    (_, k) => (-feet[2 * k] * sin + feet[2 * k + 1] * cos) / spread,
  );
  let sum = 0;
  for (let i = 0; i < across.length; i++)
    for (let k = i + 1; k < across.length; k++) sum += Math.exp(-0.5 * (across[i] - across[k]) ** 2);
  return sum / Math.max(1, across.length);
}

function regionAlong(xs: readonly number[], ys: readonly number[], angleDeg: number): InkMark['region'] {
  const [sin, cos] = sineCosine(angleDeg);
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let k = 0; k < xs.length; k++) {
    const u = (xs[k] + 0.5) * cos + (ys[k] + 0.5) * sin;
    const v = -(xs[k] + 0.5) * sin + (ys[k] + 0.5) * cos;
    left = Math.min(left, u);
    right = Math.max(right, u);
    top = Math.min(top, v);
    bottom = Math.max(bottom, v);
  }
  const [u, v] = [(left + right) / 2, (top + bottom) / 2];
  const [width, height] = [right - left + 1, bottom - top + 1];
  return { x: u * cos - v * sin - width / 2, y: u * sin + v * cos - height / 2, width, height };
}

function mainAxis(xs: readonly number[], ys: readonly number[]): number {
  const n = xs.length;
  const mx = xs.reduce((s, v) => s + v, 0) / n;
  const my = ys.reduce((s, v) => s + v, 0) / n;
  let [sxx, sxy, syy] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    sxx += (xs[k] - mx) ** 2;
    sxy += (xs[k] - mx) * (ys[k] - my);
    syy += (ys[k] - my) ** 2;
  }
  return (Math.atan2(2 * sxy, sxx - syy) / 2) * (180 / Math.PI);
}

function heightAcross(xs: readonly number[], ys: readonly number[], angleDeg: number): number {
  const [sin, cos] = sineCosine(angleDeg);
  let [low, high] = [Infinity, -Infinity];
  for (let k = 0; k < xs.length; k++) {
    const v = -xs[k] * sin + ys[k] * cos;
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return high - low;
}

const sineCosine = (angleDeg: number) =>
  [Math.sin((angleDeg * Math.PI) / 180), Math.cos((angleDeg * Math.PI) / 180)] as const;

/** How many columns' lowest ink the line is drawn through. */
const COLUMNS = 120;

// Median of the slopes between columns' ninth deciles, looked at along the slope found so far.
function lowestLine(xs: readonly number[], ys: readonly number[], from: number): number {
  let angle = from;
  for (let round = 0; round < 3; round++) {
    const [sin, cos] = sineCosine(angle);
    const us = xs.map((x, k) => x * cos + ys[k] * sin);
    const left = us.reduce((a, b) => Math.min(a, b), Infinity);
    const wide = us.reduce((a, b) => Math.max(a, b), -Infinity) - left;
    const columns: number[][] = Array.from({ length: COLUMNS + 1 }, () => []);
    us.forEach((u, k) =>
      columns[Math.floor(((u - left) / Math.max(1, wide)) * COLUMNS)].push(-xs[k] * sin + ys[k] * cos),
    );
    const points = columns.flatMap((vs, c): [number, number][] => {
      if (vs.length === 0) return [];
      vs.sort((a, b) => a - b);
      return [[((c + 0.5) / COLUMNS) * wide, vs[Math.min(vs.length - 1, Math.floor(vs.length * FOOT_RANK))]]];
    });
    const slopes: number[] = [];
    for (let i = 0; i < points.length; i++)
      for (let k = i + 1; k < points.length; k++) {
        if (points[k][0] - points[i][0] > wide * APART)
          slopes.push((points[k][1] - points[i][1]) / (points[k][0] - points[i][0]));
      }
    if (slopes.length === 0) return angle;
    slopes.sort((a, b) => a - b);
    angle += (Math.atan(slopes[slopes.length >> 1]) * 180) / Math.PI;
  }
  return Math.max(-MOST_TURN, Math.min(MOST_TURN, angle));
}

// Sum of squares of the undersides counted across, each spread over a triangle: high where many lie on one line.
function gathering(feet: readonly number[], angleDeg: number, reach: number): number {
  const [sin, cos] = sineCosine(angleDeg);
  const half = 2048;
  const [mx, my] = [feet[0], feet[1]];
  const bins = new Float32Array(2 * half);
  for (let k = 0; k < feet.length; k += 2) {
    const b = Math.round(-(feet[k] - mx) * sin + (feet[k + 1] - my) * cos) + half;
    if (b >= 0 && b < bins.length) bins[b]++;
  }
  let score = 0;
  for (let b = reach; b < bins.length - reach; b++) {
    let sum = 0;
    for (let d = -reach; d <= reach; d++) sum += bins[b + d] * (1 - Math.abs(d) / (reach + 1));
    score += sum * sum;
  }
  return score;
}

/**
 * Two marks stand in one row when their middles differ by less than this share of their height, seen along the writing.
 */
const ROW_SHARE = 0.7;

function sortForReading<M extends Pick<InkMark, 'box' | 'angleDeg' | 'region'>>(marks: M[]): M[] {
  const middle = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] ?? 0;
  const tall = middle(marks.map((m) => m.region.height));
  const [sin, cos] = sineCosine(middle(marks.map((m) => m.angleDeg)));
  const down = (m: M) => -(m.box.x + m.box.width / 2) * sin + (m.box.y + m.box.height / 2) * cos;
  const rows: { from: number; marks: M[] }[] = [];
  for (const m of [...marks].sort((a, b) => down(a) - down(b))) {
    const row = rows[rows.length - 1];
    if (row && down(m) - row.from < ROW_SHARE * tall) row.marks.push(m);
    else rows.push({ from: down(m), marks: [m] });
  }
  return rows.flatMap((r) => r.marks.sort((a, b) => a.box.x - b.box.x));
}
