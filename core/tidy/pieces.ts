import type { Rgb } from '../colour/hex';
import type { RectPx } from '../params';
import type { Raster } from '../raster/raster';
import { joinRuns } from '../raster/joinRuns';

/** A connected piece of what is visible. */
export interface Piece {
  /** 1, 2 … in the order of their first pixel. */
  readonly label: number;
  /** Sum of its coverage, pixels of this raster: what it would come to if all of it were solid. */
  readonly area: number;
  /** Its most visible pixel, which is on the piece; of several the first. */
  readonly x: number;
  readonly y: number;
  /** Its greatest alpha, 0 to 255: a faint piece is hardly to be seen. */
  readonly peak: number;
  /** Its mean colour, by coverage. */
  readonly colour: Rgb;
  readonly box: RectPx;
}

export interface Pieces {
  /** 0 for what is clear, else the piece's label; row-major over `within`. */
  readonly labels: Int32Array;
  readonly within: RectPx;
  readonly pieces: readonly Piece[];
}

/** What is summed up of a piece on the way; `at` is its most visible pixel. */
interface Tally {
  area: number;
  r: number;
  g: number;
  b: number;
  at: number;
  peak: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * All connected pieces of a picture, down to the faintest alpha of 1. Eight neighbours.
 * @param within  where alone anything is visible
 */
export function findPieces({ width, data }: Raster, within: RectPx): Pieces {
  const { width: w, height: h } = within;
  const alphaAt = (x: number, y: number) => data[((within.y + y) * width + within.x + x) * 4 + 3];
  const runs = findRuns(alphaAt, w, h);
  const label = joinRuns(runs);
  const labels = new Int32Array(w * h);
  const found: Tally[] = [];
  for (let r = 0; r < runs.count; r++) {
    const [y, from, to] = [runs.row[r], runs.from[r], runs.to[r]];
    const own = label[r];
    const piece = (found[own - 1] ??= {
      area: 0,
      r: 0,
      g: 0,
      b: 0,
      at: -1,
      peak: 0,
      left: w,
      top: y,
      right: 0,
      bottom: y,
    });
    for (let x = from; x < to; x++) {
      const i = ((within.y + y) * width + within.x + x) * 4;
      const alpha = data[i + 3];
      labels[y * w + x] = own;
      piece.area += alpha;
      piece.r += alpha * data[i];
      piece.g += alpha * data[i + 1];
      piece.b += alpha * data[i + 2];
      if (alpha > piece.peak) {
        piece.peak = alpha;
        piece.at = y * w + x;
      }
    }
    if (from < piece.left) piece.left = from;
    if (to > piece.right) piece.right = to;
    piece.bottom = y;
  }
  const pieces = found.map((p, k) => ({
    label: k + 1,
    area: p.area / 255,
    x: within.x + (p.at % w),
    y: within.y + Math.floor(p.at / w),
    peak: p.peak,
    colour: [p.r / p.area, p.g / p.area, p.b / p.area] as const,
    box: { x: within.x + p.left, y: within.y + p.top, width: p.right - p.left, height: p.bottom - p.top + 1 },
  }));
  return { labels, within, pieces };
}

interface Runs {
  count: number;
  row: Int32Array;
  from: Int32Array;
  to: Int32Array;
  /** Where each row's runs begin; one more than there are rows. */
  start: Int32Array;
}

function findRuns(alphaAt: (x: number, y: number) => number, w: number, h: number): Runs {
  let room = 1024;
  const runs: Runs = {
    count: 0,
    row: new Int32Array(room),
    from: new Int32Array(room),
    to: new Int32Array(room),
    start: new Int32Array(h + 1),
  };
  const grow = (old: Int32Array) => {
    const more = new Int32Array(room);
    more.set(old);
    return more;
  };
  for (let y = 0; y < h; y++) {
    runs.start[y] = runs.count;
    for (let x = 0; x < w; x++) {
      if (alphaAt(x, y) === 0) continue;
      const from = x;
      while (x < w && alphaAt(x, y) !== 0) x++;
      if (runs.count === room) {
        room *= 2;
        runs.row = grow(runs.row);
        runs.from = grow(runs.from);
        runs.to = grow(runs.to);
      }
      runs.row[runs.count] = y;
      runs.from[runs.count] = from;
      runs.to[runs.count++] = x;
    }
  }
  runs.start[h] = runs.count;
  return runs;
}

/** How far apart two boxes are, pixels; 0 where they touch or overlap. */
export function boxDistance(a: RectPx, b: RectPx): number {
  const dx = Math.max(0, a.x - b.x - b.width, b.x - a.x - a.width);
  const dy = Math.max(0, a.y - b.y - b.height, b.y - a.y - a.height);
  return Math.sqrt(dx * dx + dy * dy);
}

/** Pieces of at least this share of the largest belong to the main mark; of very many the largest stand for all. */
const MAIN_SHARE = 0.1;
const MOST_MAIN = 200;

/** What is known of something by its size and place. */
type Sized = Pick<Piece, 'area' | 'box'>;

/** A measure of how far things are from the nearest large one, by their boxes; 0 for the large ones themselves. */
export function distanceFromMain(all: readonly Sized[]): (one: Sized) => number {
  const sorted = [...all].sort((a, b) => b.area - a.area);
  const largest = sorted[0]?.area ?? 0;
  const main = sorted.slice(0, MOST_MAIN).filter((p) => p.area >= largest * MAIN_SHARE);
  return (one) => main.reduce((least, m) => Math.min(least, boxDistance(one.box, m.box)), Infinity);
}

export interface SpeckLimit {
  /** Pieces smaller than this are specks; 0 where none stands out as one. */
  readonly limit: number;
  /** The limits between which the same pieces are specks. */
  readonly from: number;
  readonly to: number;
}

/** Specks are smaller than this share of the largest piece: an i's dot is larger. */
const SPECK_SHARE = 0.004;
/** And the next larger piece is so many times larger than the largest speck, else size does not tell them apart. */
const CLEAR_STEP = 2.5;

/**
 * The size that parts specks from the mark: in the widest gap, by ratio, of all pieces' sizes in order, where there is
 * a clear one below what a detail of the mark would have.
 */
export function proposeLimit(areas: readonly number[]): SpeckLimit {
  const sorted = [...areas].sort((a, b) => a - b);
  const largest = sorted.at(-1) ?? 0;
  let best: SpeckLimit = { limit: 0, from: 0, to: sorted[0] ?? 0 };
  let widest = CLEAR_STEP;
  for (let k = 0; k + 1 < sorted.length; k++) {
    const [from, to] = [Math.max(sorted[k], 1), sorted[k + 1]];
    if (from > largest * SPECK_SHARE) break;
    if (to / from <= widest) continue;
    widest = to / from;
    // Rather near the specks: a small detail of the mark that comes later must stay.
    best = { limit: Math.min(Math.ceil(from * 1.5), to), from: sorted[k], to };
  }
  return best;
}
