import { boxRound } from './boxes';
import type { RectPx } from '../params';

/** Boxes that belong together, by their numbers, with the box round them. */
export interface Cluster {
  readonly members: readonly number[];
  readonly box: RectPx;
}

/** Gaps between pictures of a sheet, share of its longer side. */
const LEAST_GAP = 0.004;
const MOST_GAP = 0.16;
/** A box that covers so much of the sheet both ways lies behind the pictures. */
const BACKING_SHARE = 0.85;
/** Rows overlap by at least this share of the lower one's height. */
const ROW_SHARE = 0.4;

/**
 * The separate pictures of a sheet: boxes closer than a gap belong together, and the gap is that at which the number of
 * pictures stays the same over the widest range, by ratio. In rows from the top, each from the left.
 * @param sheet  boxes that cover nearly all of it are its ground and belong to no picture
 * @param gapShare  a gap set by hand, share of the sheet's longer side
 * @see single linkage; R. Sibson, "SLINK: an optimally efficient algorithm for the single-link cluster method", 1973
 */
export function findClusters(
  boxes: readonly RectPx[],
  sheet: { width: number; height: number },
  gapShare: number | null = null,
): Cluster[] {
  const long = Math.max(sheet.width, sheet.height);
  const isBacking = (b: RectPx) => b.width >= sheet.width * BACKING_SHARE && b.height >= sheet.height * BACKING_SHARE;
  const own = boxes.map((_, k) => k).filter((k) => !isBacking(boxes[k]));
  const used = own.length > 0 ? own : boxes.map((_, k) => k);
  const joins = spanningGaps(used.map((k) => boxes[k]));
  const gaps = joins.map((j) => j.gap);
  const gap = gapShare === null ? steadyGap(gaps, long) : gapShare * long;
  const group = used.map((_, k) => k);
  const rootOf = (k: number): number => (group[k] === k ? k : (group[k] = rootOf(group[k])));
  for (const { a, b, gap: own } of joins) if (own <= gap) group[rootOf(a)] = rootOf(b);
  const found = new Map<number, number[]>();
  used.forEach((k, i) => {
    const root = rootOf(i);
    found.set(root, [...(found.get(root) ?? []), k]);
  });
  const clusters = [...found.values()].map((members) => ({ members, box: boxRound(members.map((k) => boxes[k])) }));
  return inRows(clusters);
}

interface Join {
  readonly a: number;
  readonly b: number;
  readonly gap: number;
}

/** The shortest joins that make all boxes one: Prim's tree. */
function spanningGaps(boxes: readonly RectPx[]): Join[] {
  const n = boxes.length;
  const nearest = new Int32Array(n);
  const least = new Float64Array(n).fill(Infinity);
  const isIn = new Uint8Array(n);
  const joins: Join[] = [];
  let last = 0;
  for (let step = 1; step < n; step++) {
    isIn[last] = 1;
    let best = -1;
    for (let k = 0; k < n; k++) {
      if (isIn[k]) continue;
      const gap = gapBetween(boxes[last], boxes[k]);
      if (gap < least[k]) [least[k], nearest[k]] = [gap, last];
      if (best < 0 || least[k] < least[best]) best = k;
    }
    joins.push({ a: nearest[best], b: best, gap: least[best] });
    last = best;
  }
  return joins;
}

/** How far apart two boxes are: by the greater of both ways, as rows and columns of a grid are. */
export function gapBetween(a: RectPx, b: RectPx): number {
  const dx = Math.max(0, a.x - b.x - b.width, b.x - a.x - a.width);
  const dy = Math.max(0, a.y - b.y - b.height, b.y - a.y - a.height);
  return Math.max(dx, dy);
}

/** The gap in the middle of the widest range, by ratio, in which no further boxes are joined. */
function steadyGap(gaps: readonly number[], long: number): number {
  const [floor, ceiling] = [long * LEAST_GAP, long * MOST_GAP];
  const sorted = [floor, ...gaps.filter((g) => g > floor && g < ceiling).sort((a, b) => a - b)];
  const beyond = gaps.some((g) => g >= ceiling) ? ceiling : null;
  let [best, widest] = [floor, 0];
  for (let k = 0; k < sorted.length; k++) {
    const to = sorted[k + 1] ?? beyond;
    // Nothing is left to be joined: that all is one picture is what remains when no gap stands out.
    if (to === null) break;
    const ratio = to / sorted[k];
    if (ratio > widest) [best, widest] = [Math.sqrt(to * sorted[k]), ratio];
  }
  return widest >= LEAST_RATIO ? best : ceiling;
}
/** A gap stands out when it is so many times the next smaller one. */
const LEAST_RATIO = 1.4;

function inRows(clusters: readonly Cluster[]): Cluster[] {
  const rows: Cluster[][] = [];
  for (const cluster of [...clusters].sort((a, b) => a.box.y + a.box.height / 2 - b.box.y - b.box.height / 2)) {
    const row = rows[rows.length - 1];
    const shared = row
      ? Math.min(...row.map((c) => c.box.y + c.box.height)) - Math.max(cluster.box.y, ...row.map((c) => c.box.y))
      : 0;
    if (row && shared >= Math.min(cluster.box.height, ...row.map((c) => c.box.height)) * ROW_SHARE) row.push(cluster);
    else rows.push([cluster]);
  }
  return rows.flatMap((row) => row.sort((a, b) => a.box.x - b.box.x));
}
