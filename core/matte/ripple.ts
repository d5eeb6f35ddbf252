/** A pixel this far from the ground is part of something drawn, not of a ripple. */
const STRONG = 72;
/** Compression works in blocks of eight pixels, so its ripples reach about that far from an edge. */
const REACH = 7;
/** No more is ever forgiven: pale parts of a mark begin here. */
const MOST_FORGIVEN = 24;

/**
 * How strongly compression ripples beside edges: the 85th percentile of the ground distance three to six pixels past
 * the end of a strong run, sampled along rows; 0 for a clean picture.
 */
export function sampleRipple(distance: Uint8Array, width: number, height: number): number {
  const count = new Uint32Array(48);
  let total = 0;
  const step = Math.max(1, Math.floor(height / 400));
  for (let y = 0; y < height; y += step) {
    const row = y * width;
    for (let x = 1; x < width - REACH; x++) {
      if (distance[row + x] >= STRONG || distance[row + x - 1] < STRONG) continue;
      // Only where the row really comes down to ground: a pale part beside the edge stays up.
      if (distance[row + x + 6] > 30) continue;
      for (let k = 3; k <= 6; k++) {
        const d = distance[row + x + k];
        if (d >= 48) break;
        count[d]++;
        total++;
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
export function forgiveRipple(distance: Uint8Array, width: number, height: number, ripple: number): Uint8Array {
  if (ripple < 3) return distance.slice();
  const forgiven = Math.min(MOST_FORGIVEN, Math.round(ripple * 1.4));
  const { cells, columns } = nearStrong(distance, width, height);
  const out = distance.slice();
  for (let y = 0; y < height; y++) {
    const cellRow = Math.floor(y / CELL) * columns;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const d = distance[i];
      if (d === 0 || d >= STRONG || !cells[cellRow + (x >> 2)]) continue;
      out[i] = d > forgiven ? d - forgiven : 0;
    }
  }
  return out;
}

/** Cells of four by four pixels, and how many cells a ripple reaches: about one block of eight pixels. */
const CELL = 4;
const CELLS_REACHED = 2;

// Whether a strong pixel lies within reach, per cell: exact to a cell, which is finer than what it is used for.
function nearStrong(distance: Uint8Array, width: number, height: number): { cells: Uint8Array; columns: number } {
  const columns = Math.ceil(width / CELL);
  const rows = Math.ceil(height / CELL);
  const strong = new Uint8Array(columns * rows);
  for (let y = 0; y < height; y++) {
    const cellRow = Math.floor(y / CELL) * columns;
    for (let x = 0, i = y * width; x < width; x++, i++) if (distance[i] >= STRONG) strong[cellRow + (x >> 2)] = 1;
  }
  const cells = new Uint8Array(columns * rows);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      if (!strong[r * columns + c]) continue;
      for (let y = Math.max(0, r - CELLS_REACHED); y <= Math.min(rows - 1, r + CELLS_REACHED); y++) {
        cells.fill(1, y * columns + Math.max(0, c - CELLS_REACHED), y * columns + Math.min(columns, c + CELLS_REACHED + 1));
      }
    }
  }
  return { cells, columns };
}
