import type { Raster } from '../raster/raster';
import { type RowSegments, eachMixed } from './rowSegments';
import { type Ground, groundAt } from './measureGround';

export interface Trouble {
  /** Edge pixels still tinted by the ground: their share of all edge pixels, how much ground they hold, and the worst places. */
  readonly fringe: { readonly share: number; readonly strength: number; readonly places: readonly Spot[] };
  /** What stands out from the ground but was taken away: how much, and where most of it is. */
  readonly eaten: { readonly areaPx: number; readonly places: readonly Spot[] };
  /** Small pieces that stand alone, largest first. */
  readonly specks: readonly Spot[];
}

/** A place in pixels of the picture, and how much of the trouble lies there. */
export interface Spot { readonly x: number; readonly y: number; readonly amount: number }

/** Trouble closer together than this is one place to visit. */
const CELL = 40;
/** More of the ground than this in a visible edge pixel shows on another ground. */
const TINTED = 0.34;
/** Beyond the tolerance by so much, a pixel surely was no ground. */
const SURELY = 26;

/**
 * Looks at a finished cut-out with the eyes of somebody who zooms in to check it.
 * @param distance  how far each pixel of the original is from the ground, code values
 * @param segments  of that plane; edges and what is eaten lie in mixed ones
 * @param out       the cut-out, straight alpha
 */
export function measureTrouble(ground: Ground, distance: Uint8Array, segments: RowSegments, out: Raster, tolerance: number): Trouble {
  const { width, height } = out;
  const fringe = new Map<number, Spot>();
  const eaten = new Map<number, Spot>();
  let [edges, tinted, strength, eatenPx] = [0, 0, 0, 0];
  const surely = tolerance + SURELY;
  const { data } = out;
  eachMixed(segments, (from, to, y) => {
    if (y < 2 || y >= height - 2) return;
    const row = y * width;
    for (let x = Math.max(2, from - row), i = row + x, end = Math.min(to - row, width - 2); x < end; x++, i++) {
      const alpha = data[i * 4 + 3];
      if (alpha < 16) {
        // Beside what is visible it was unmixed; only what is lost whole is eaten.
        if (distance[i] > surely && isLostWhole(data, width, i)) {
          eatenPx++;
          collect(eaten, width, x, y, 1);
        }
        continue;
      }
      if (alpha < 90 || !touchesClear(data, width, i)) continue;
      edges++;
      const held = groundHeld(out, ground, x, y);
      if (held < TINTED) continue;
      tinted++;
      strength += held;
      collect(fringe, width, x, y, held * (alpha / 255));
    }
  });
  return {
    fringe: { share: edges ? tinted / edges : 0, strength: tinted ? strength / tinted : 0, places: worstFirst(fringe) },
    eaten: { areaPx: eatenPx, places: worstFirst(eaten) }, specks: findSpecks(out, segments),
  };
}

const touchesClear = (data: Uint8Array, width: number, i: number) =>
  data[(i - 1) * 4 + 3] < 16 || data[(i + 1) * 4 + 3] < 16 || data[(i - width) * 4 + 3] < 16 || data[(i + width) * 4 + 3] < 16;

function isLostWhole(data: Uint8Array, width: number, i: number): boolean {
  for (let n = i - 2 * width; n <= i + 2 * width; n += width) for (let k = n - 2; k <= n + 2; k++) if (data[k * 4 + 3] >= 16) return false;
  return true;
}

// How far an edge pixel's own colour lies from the solid colour beside it towards the ground: 0 none, 1 the ground itself.
function groundHeld(out: Raster, ground: Ground, x: number, y: number): number {
  const { data, width, height } = out;
  const B = groundAt(ground, x, y, width, height);
  const s = (y * width + x) * 4;
  const own = Math.abs(data[s] - B[0]) + Math.abs(data[s + 1] - B[1]) + Math.abs(data[s + 2] - B[2]);
  let best = -1;
  let most = 0;
  for (let py = y - 2; py <= y + 2; py++) for (let px = x - 2; px <= x + 2; px++) {
    const n = (py * width + px) * 4;
    if (data[n + 3] !== 255) continue;
    const off = Math.abs(data[n] - B[0]) + Math.abs(data[n + 1] - B[1]) + Math.abs(data[n + 2] - B[2]);
    if (off > most) {
      most = off;
      best = n;
    }
  }
  if (best < 0 || most < 90 || own >= most) return 0;
  const f0 = data[best] - B[0];
  const f1 = data[best + 1] - B[1];
  const f2 = data[best + 2] - B[2];
  const length = f0 * f0 + f1 * f1 + f2 * f2;
  const c0 = data[s] - B[0];
  const c1 = data[s + 1] - B[1];
  const c2 = data[s + 2] - B[2];
  const t = (c0 * f0 + c1 * f1 + c2 * f2) / length;
  // Off that line it is another colour of the mark, not a mixture.
  const off = Math.abs(c0 - t * f0) + Math.abs(c1 - t * f1) + Math.abs(c2 - t * f2);
  return off > 36 || t > 1 ? 0 : 1 - Math.max(0, t);
}

function collect(cells: Map<number, Spot>, width: number, x: number, y: number, amount: number): void {
  const key = Math.floor(y / CELL) * Math.ceil(width / CELL) + Math.floor(x / CELL);
  const known = cells.get(key);
  if (!known) cells.set(key, { x, y, amount });
  else cells.set(key, { x: known.x, y: known.y, amount: known.amount + amount });
}

const worstFirst = (cells: Map<number, Spot>): Spot[] => [...cells.values()].sort((a, b) => b.amount - a.amount);

/** A piece this small beside the mark's own size stands out as a speck when it is alone. */
const SPECK_SHARE = 0.0003;
/** A dot of so few pixels is a speck beside any mark. */
const LEAST_SPECK = 14;
/** And no larger than this. */
const LARGEST_SPECK = 120;
/** Alone: nothing else visible within this many pixels. */
const ALONE = 9;

function findSpecks({ width, height, data }: Raster, segments: RowSegments): Spot[] {
  // Every eleventh pixel tells the mark's size well enough.
  let visible = 0;
  for (let i = 3; i < data.length; i += 44) if (data[i] >= 48) visible += 11;
  const most = Math.min(LARGEST_SPECK, Math.max(LEAST_SPECK, visible * SPECK_SHARE));
  const LARGE = 2;
  const seen = new Uint8Array(width * height);
  const found: Spot[] = [];
  const piece: number[] = [];
  eachMixed(segments, (from, to) => {
    for (let start = from; start < to; start++) {
      // A piece is entered where nothing of it lies to the left or above, and left as soon as it is too large.
      if (data[start * 4 + 3] < 48 || seen[start] || (start > 0 && data[start * 4 - 1] >= 48) || (start >= width && data[(start - width) * 4 + 3] >= 48)) continue;
      follow(start);
    }
  });
  return found.sort((a, b) => b.amount - a.amount);

  function follow(start: number): void {
    piece.length = 0;
    piece.push(start);
    seen[start] = 1;
    let isLarge = false;
    for (let k = 0; k < piece.length && !isLarge; k++) {
      const x = piece[k] % width;
      const y = (piece[k] / width) | 0;
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++) for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const n = ny * width + nx;
        if (data[n * 4 + 3] < 48 || seen[n] === 1) continue;
        if (seen[n] === LARGE || piece.length > most) {
          isLarge = true;
          continue;
        }
        seen[n] = 1;
        piece.push(n);
      }
    }
    if (isLarge) for (const i of piece) seen[i] = LARGE;
    else if (isAlone(data, width, height, piece)) found.push({ x: piece[0] % width, y: (piece[0] / width) | 0, amount: piece.length });
  }
}

function isAlone(data: Uint8Array, width: number, height: number, piece: readonly number[]): boolean {
  const own = new Set(piece);
  const x = piece[0] % width;
  const y = (piece[0] / width) | 0;
  for (let ny = Math.max(0, y - ALONE); ny <= Math.min(height - 1, y + ALONE); ny++) for (let nx = Math.max(0, x - ALONE); nx <= Math.min(width - 1, x + ALONE); nx++) {
    if (data[(ny * width + nx) * 4 + 3] >= 48 && !own.has(ny * width + nx)) return false;
  }
  return true;
}
