import { CLEAR, DEEP, MIXED, type RowSegments, eachMixed, findSegments } from './rowSegments';

/** A pixel this far from the ground is part of something drawn, not of a ripple. */
const STRONG = 72;
/** Compression works in blocks of eight pixels, so its ripples reach about that far from an edge. */
const REACH = 7;
/** No more is ever forgiven: pale parts of a mark begin here. */
const MOST_FORGIVEN = 24;

/** The segments that the two functions below ask for. */
export const strongSegments = (distance: Uint8Array, width: number, height: number): RowSegments => findSegments(distance, width, height, STRONG);

/**
 * How strongly compression ripples beside edges: the 85th percentile of the ground distance three to six pixels past
 * the end of a strong run, sampled along rows; 0 for a clean picture.
 * @param segments  of that plane, deep from STRONG on
 */
export function sampleRipple(distance: Uint8Array, segments: RowSegments, width: number, height: number): number {
  const { runs, rowStart } = segments;
  const count = new Uint32Array(48);
  let total = 0;
  const step = Math.max(1, Math.floor(height / 400));
  for (let y = 0; y < height; y += step) {
    const row = y * width;
    for (let r = rowStart[y]; r < rowStart[y + 1]; r += 3) {
      if (runs[r] === DEEP) continue;
      const last = Math.min(runs[r] === CLEAR ? runs[r + 1] + 1 : runs[r + 2], row + width - REACH);
      for (let i = Math.max(row + 1, runs[r + 1]); i < last; i++) {
        if (distance[i] >= STRONG || distance[i - 1] < STRONG) continue;
        // Only where the row really comes down to ground: a pale part beside the edge stays up.
        if (distance[i + 6] > 30) continue;
        for (let k = 3; k <= 6; k++) {
          const d = distance[i + k];
          if (d >= 48) break;
          count[d]++;
          total++;
        }
      }
    }
  }
  if (total < 40) return 0;
  let sum = 0;
  for (let d = 0; d < 48; d++) if ((sum += count[d]) >= total * 0.85) return d;
  return 48;
}

/**
 * The ground distance with the ripples beside strong edges forgiven: near them a pixel must stand out by that much
 * more to count. A clean picture comes back as a copy.
 * Ripples are what quantised block transforms leave beside edges (ITU-T T.81, annex A, gives the transform).
 */
export function forgiveRipple(distance: Uint8Array, segments: RowSegments, width: number, height: number, ripple: number): Uint8Array {
  if (ripple < 3) return distance.slice();
  const forgiven = Math.min(MOST_FORGIVEN, Math.round(ripple * 1.4));
  const { cells, columns } = nearStrong(distance, segments, width, height);
  exceptPale(cells, columns, distance, width, height, forgiven);
  const out = distance.slice();
  eachMixed(segments, (from, to, y) => {
    const cellRow = Math.floor(y / CELL) * columns;
    for (let i = from, x = from - y * width; i < to; x++, i++) {
      const d = distance[i];
      if (d === 0 || d >= STRONG || !cells[cellRow + (x >> 2)]) continue;
      out[i] = d > forgiven ? d - forgiven : 0;
    }
  });
  return out;
}

/** Cells of four by four pixels, and how many cells a ripple reaches: about one block of eight pixels. */
const CELL = 4;
const CELLS_REACHED = 2;

/** A pale part stands this far above the ground at least. */
const LEAST_PALE = 9;

// A pale part that a strong edge crosses is not forgiven beside that edge: nearly all its weak pixels there are at one
// level, where a ripple swings about nothing, and it goes on beyond the reach of ripples.
function exceptPale(cells: Uint8Array, columns: number, distance: Uint8Array, width: number, height: number, forgiven: number): void {
  const rows = cells.length / columns;
  const near = cells.slice();
  const around = (cell: number, visit: (n: number) => void) => {
    const c = cell % columns;
    const r = (cell / columns) | 0;
    for (let y = Math.max(0, r - 1); y <= Math.min(rows - 1, r + 1); y++) for (let x = Math.max(0, c - 1); x <= Math.min(columns - 1, c + 1); x++) visit(y * columns + x);
  };
  const queue: number[] = [];
  for (let cell = 0; cell < near.length; cell++) {
    if (!near[cell]) continue;
    let goesOn = false;
    around(cell, (n) => { goesOn ||= !near[n] && isAllPale(n, columns, distance, width, height); });
    if (goesOn) queue.push(cell);
  }
  const weak: number[] = [];
  const seen = new Uint8Array(near.length);
  for (let cell = queue.pop(); cell !== undefined; cell = queue.pop()) {
    if (seen[cell]) continue;
    seen[cell] = 1;
    weak.length = 0;
    const r = (cell / columns) | 0;
    const c = cell % columns;
    for (let y = Math.max(0, (r - 1) * CELL); y < Math.min(height, (r + 2) * CELL); y++) {
      for (let x = Math.max(0, (c - 1) * CELL), i = y * width + x; x < Math.min(width, (c + 2) * CELL); x++, i++) if (distance[i] < STRONG) weak.push(distance[i]);
    }
    if (weak.length < 24) continue;
    weak.sort((a, b) => a - b);
    const low = weak[Math.floor(weak.length * 0.15)];
    const middle = weak[weak.length >> 1];
    if (low < LEAST_PALE || low < 0.5 * middle || middle >= forgiven * 3) continue;
    cells[cell] = 0;
    around(cell, (n) => near[n] && queue.push(n));
  }
}

function isAllPale(cell: number, columns: number, distance: Uint8Array, width: number, height: number): boolean {
  const x0 = (cell % columns) * CELL;
  const y0 = ((cell / columns) | 0) * CELL;
  for (let y = y0; y < Math.min(height, y0 + CELL); y++) for (let x = x0; x < Math.min(width, x0 + CELL); x++) if (distance[y * width + x] < LEAST_PALE) return false;
  return true;
}

// Whether a strong pixel lies within reach, per cell: exact to a cell, which is finer than what it is used for.
function nearStrong(distance: Uint8Array, segments: RowSegments, width: number, height: number): { cells: Uint8Array; columns: number } {
  const columns = Math.ceil(width / CELL);
  const rows = Math.ceil(height / CELL);
  const strong = new Uint8Array(columns * rows);
  const { runs, rowStart } = segments;
  for (let y = 0; y < height; y++) {
    const cellRow = Math.floor(y / CELL) * columns;
    for (let r = rowStart[y]; r < rowStart[y + 1]; r += 3) {
      const x = runs[r + 1] - y * width;
      const end = runs[r + 2] - y * width;
      if (runs[r] === DEEP) strong.fill(1, cellRow + (x >> 2), cellRow + ((end + CELL - 1) >> 2));
      else if (runs[r] === MIXED) for (let k = x; k < end; k++) if (distance[y * width + k] >= STRONG) strong[cellRow + (k >> 2)] = 1;
    }
  }
  const cells = new Uint8Array(columns * rows);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      if (!strong[r * columns + c]) continue;
      const first = c;
      while (c + 1 < columns && strong[r * columns + c + 1]) c++;
      for (let y = Math.max(0, r - CELLS_REACHED); y <= Math.min(rows - 1, r + CELLS_REACHED); y++) {
        cells.fill(1, y * columns + Math.max(0, first - CELLS_REACHED), y * columns + Math.min(columns, c + CELLS_REACHED + 1));
      }
    }
  }
  return { cells, columns };
}
