import { CLEAR, DEEP, FIRST_AREA, SOFT_INSIDE } from '../kernels/interface';
import { joinRuns } from '../raster/joinRuns';
import type { RowSegments } from './rowSegments';

/** Whole pixels, the last ones included. */
export interface Sides {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export const heightOf = (g: Sides) => g.bottom - g.top + 1;
export const widthOf = (g: Sides) => g.right - g.left + 1;

/** A piece of the mark: pixels that hang together, corners included. */
export interface Piece extends Sides {
  readonly id: number;
  readonly areaPx: number;
  /** Label of the enclosed area that it lies in; null outside. */
  readonly within: number | null;
  /** Labels of the areas that it encloses. */
  readonly areas: number[];
  /** Its own pixels and all that it encloses. */
  filledPx: number;
}

/** Which piece encloses which area, and which area which piece. */
export interface Nesting {
  readonly pieces: readonly Piece[];
  /** By an area's label. */
  readonly around: ReadonlyMap<number, Piece>;
  readonly inside: ReadonlyMap<number, readonly Piece[]>;
  /** An area with all that lies in it, pixels. */
  readonly filled: ReadonlyMap<number, number>;
  /** A piece with all that it encloses, against its convex hull: 1 for a disc, less for what has arms and bays. */
  solidity(piece: Piece): number;
}

export interface NestingInput {
  readonly labels: Int32Array;
  readonly width: number;
  readonly segments: RowSegments;
  /** One bit a pixel, set where it is not the mark's; rows of `bytesOfBits(width)` bytes. */
  readonly others: Uint8Array;
  readonly areas: readonly { readonly label: number; readonly areaPx: number; readonly start: number }[];
}

/**
 * The nesting of a label plane: pieces are joined by corners, areas by sides, so that each lies in exactly one of the
 * other kind or outside.
 * @see A. Rosenfeld, "Connectivity in Digital Pictures", 1970
 */
export function findNesting(input: NestingInput): Nesting {
  const runs = findRuns(input);
  const { pieces, pieceOfRun } = makePieces(runs, joinRuns(runs), input);
  const around = new Map<number, Piece>();
  const inside = new Map<number, Piece[]>();
  for (const piece of pieces) {
    if (piece.within === null) continue;
    const list = inside.get(piece.within);
    if (list) list.push(piece);
    else inside.set(piece.within, [piece]);
  }
  for (const { label, start } of input.areas) {
    // The first pixel of an area that is filled row by row has the piece round it right above.
    const run = runAt(runs, start - input.width, input.width);
    if (run < 0) continue;
    const piece = pieces[pieceOfRun[run]];
    piece.areas.push(label);
    around.set(label, piece);
  }
  const filled = fillUp(pieces, inside, input.areas);
  return { pieces, around, inside, filled, solidity: (p) => p.filledPx / hullOf(p, runs, pieceOfRun) };
}

/** Runs of the mark's pixels, row by row: where each begins, and the pixel after its end. */
interface Runs {
  readonly from: number[];
  readonly to: number[];
  readonly row: number[];
  /** Where each row's runs begin; one entry more than rows. */
  readonly start: Int32Array;
}

function findRuns({ labels, width, segments, others }: NestingInput): Runs {
  const height = labels.length / width;
  const stride = bytesOfBits(width);
  const [from, to, row]: number[][] = [[], [], []];
  const start = new Int32Array(height + 1);
  const { runs, rowStart: firstOfRow } = segments;
  for (let y = 0; y < height; y++) {
    start[y] = from.length;
    const base = y * width;
    const bits = y * stride;
    let open = -1;
    for (let s = firstOfRow[y]; s < firstOfRow[y + 1]; s += 3) {
      const [state, first, end] = [runs[s], runs[s + 1], runs[s + 2]];
      if (state === DEEP) {
        if (open < 0) open = first;
        continue;
      }
      for (let i = first; i < end; i++) {
        if (open < 0) {
          if (state === CLEAR) break;
          i = base + nextBit(others, bits, i - base, end - base, 0);
          if (i < end) open = i;
        } else {
          if (state !== CLEAR) i = base + nextBit(others, bits, i - base, end - base, 1);
          if (i === end) break;
          from.push(open - base);
          to.push(i - base);
          row.push(y);
          open = -1;
        }
      }
    }
    if (open < 0) continue;
    from.push(open - base);
    to.push(width);
    row.push(y);
  }
  start[height] = from.length;
  return { from, to, row, start };
}

/** Bytes of a row of bits, as the kernels lay them out. */
export const bytesOfBits = (width: number) => Math.ceil(width / 16) * 2;

// The first pixel from `x` on whose bit is `wanted`, or `end`. Whole bytes are passed over at once.
function nextBit(plane: Uint8Array, row: number, x: number, end: number, wanted: number): number {
  const none = wanted ? 0 : 255;
  while (x < end) {
    const byte = plane[row + (x >> 3)];
    if (byte === none) x = (x | 7) + 1;
    else if (((byte >> (x & 7)) & 1) === wanted) return x;
    else x++;
  }
  return end;
}

function makePieces(
  { from, to, row }: Runs,
  label: Int32Array,
  { labels, width }: NestingInput,
): { pieces: Piece[]; pieceOfRun: Int32Array } {
  const pieceOfRun = new Int32Array(from.length);
  const made: { -readonly [K in keyof Piece]: Piece[K] }[] = [];
  for (let k = 0; k < from.length; k++) {
    pieceOfRun[k] = label[k] - 1;
    // Labels follow first pixels: a piece's first run is its uppermost.
    if (pieceOfRun[k] === made.length) {
      made.push({
        id: made.length,
        left: from[k],
        right: to[k] - 1,
        top: row[k],
        bottom: row[k],
        areaPx: 0,
        within: aroundPiece(labels, row[k] * width + from[k], width),
        areas: [],
        filledPx: 0,
      });
    }
    const piece = made[pieceOfRun[k]];
    piece.left = Math.min(piece.left, from[k]);
    piece.right = Math.max(piece.right, to[k] - 1);
    piece.bottom = row[k];
    piece.areaPx += to[k] - from[k];
  }
  return { pieces: made, pieceOfRun };
}

function aroundPiece(labels: Int32Array, first: number, width: number): number | null {
  let i = first - width;
  // A glow in an area lies between the area's own pixels and the piece.
  while (i >= 0 && labels[i] === SOFT_INSIDE) i -= width;
  return i >= 0 && labels[i] >= FIRST_AREA ? labels[i] : null;
}

function runAt({ from, to, start }: Runs, pixel: number, width: number): number {
  if (pixel < 0) return -1;
  const y = Math.floor(pixel / width);
  const x = pixel - y * width;
  const k = firstRunFrom(to, start[y], start[y + 1], x);
  return k < start[y + 1] && from[k] <= x ? k : -1;
}

/**
 * Area of the convex hull of a piece, pixels.
 * @see A. Andrew, "Another Efficient Algorithm for Convex Hulls in Two Dimensions", 1979
 */
function hullOf(piece: Piece, { from, to, start }: Runs, pieceOfRun: Int32Array): number {
  const [left, right]: [number, number][][] = [[], []];
  for (let y = piece.top; y <= piece.bottom; y++) {
    let [first, last] = [Infinity, -Infinity];
    for (let k = firstRunFrom(to, start[y], start[y + 1], piece.left); k < start[y + 1]; k++) {
      if (from[k] > piece.right) break;
      if (pieceOfRun[k] !== piece.id) continue;
      first = Math.min(first, from[k]);
      last = Math.max(last, to[k]);
    }
    for (const edge of [y, y + 1]) {
      bend(left, [first, edge], 1);
      bend(right, [last, edge], -1);
    }
  }
  const outline = [...left, ...right.reverse()];
  const twice = outline.reduce((sum, [x, y], k) => {
    const [nx, ny] = outline[(k + 1) % outline.length];
    return sum + x * ny - nx * y;
  }, 0);
  return Math.max(1, Math.abs(twice) / 2);
}

// The first of a row's runs that ends right of `x`.
function firstRunFrom(to: readonly number[], low: number, high: number, x: number): number {
  while (low < high) {
    const k = (low + high) >> 1;
    if (to[k] <= x) low = k + 1;
    else high = k;
  }
  return low;
}

function bend(chain: [number, number][], point: [number, number], side: number): void {
  while (chain.length > 1) {
    const [[ax, ay], [bx, by]] = chain.slice(-2);
    if (side * ((bx - ax) * (point[1] - ay) - (by - ay) * (point[0] - ax)) < 0) break;
    chain.pop();
  }
  chain.push(point);
}

// From the inside out: what is enclosed begins below what encloses it, so later pieces are filled first.
function fillUp(
  pieces: readonly Piece[],
  inside: ReadonlyMap<number, readonly Piece[]>,
  areas: NestingInput['areas'],
): Map<number, number> {
  const own = new Map(areas.map((a) => [a.label, a.areaPx]));
  const filled = new Map<number, number>();
  for (let k = pieces.length - 1; k >= 0; k--) {
    const piece = pieces[k];
    piece.filledPx = piece.areaPx;
    for (const label of piece.areas) {
      const islands = inside.get(label) ?? [];
      const sum = (own.get(label) ?? 0) + islands.reduce((s, p) => s + p.filledPx, 0);
      filled.set(label, sum);
      piece.filledPx += sum;
    }
  }
  return filled;
}
