import type { Rgb } from '../colour/hex';
import type { Raster } from '../raster/raster';

/** Of half-covered pixels so many may be lighter than their mark by so many levels. */
const MOST_FRINGED = 0.15;
const LIGHTER = 40;
const LEAST_EDGE = 20;

const WHITE: Rgb = [255, 255, 255];
const BLACK: Rgb = [0, 0, 0];
/** A mixture with black has so much of the mark's own colour, and is off the line between them by no more levels. */
const MIXED = { from: 0.12, to: 0.85, off: 24 };

/**
 * The ground that the edges of a clear picture still hold. White: half-covered pixels, or solid ones beside clear ones,
 * are much lighter than the mark a little further in. Black: what lies beside clear pixels is a mixture of black and
 * the mark's colour, in every share; an outline or a shadow has one colour of its own.
 * @returns null where the edges are clean
 */
export function fringeOf(raster: Raster): Rgb | null {
  const { width, height, data } = raster;
  let [edge, light, beside, dark] = [0, 0, 0, 0];
  const luma = (i: number) => 0.3 * data[i] + 0.59 * data[i + 1] + 0.11 * data[i + 2];
  for (let y = INSIDE_PX; y < height - INSIDE_PX; y++)
    for (let x = INSIDE_PX; x < width - INSIDE_PX; x++) {
      const i = (y * width + x) * 4;
      if (!isEdge(data, i, width * 4)) continue;
      let inside = -1;
      for (const step of [4, -4, width * 4, -width * 4]) {
        const n = i + 2 * step;
        if (data[n + 3] === 255 && (inside < 0 || luma(n) < luma(inside))) inside = n;
      }
      if (inside < 0) continue;
      edge++;
      if (luma(i) - luma(inside) > LIGHTER) light++;
      const own = acrossFromClear(data, i, width * 4);
      if (own < 0) continue;
      beside++;
      if (luma(own) - luma(i) > LIGHTER && isMixedWithBlack(data, i, own)) dark++;
    }
  if (edge <= LEAST_EDGE) return null;
  const [lightShare, darkShare] = [light / edge, beside > LEAST_EDGE ? dark / beside : 0];
  if (Math.max(lightShare, darkShare) <= MOST_FRINGED) return null;
  return lightShare >= darkShare ? WHITE : BLACK;
}

export const hasFringe = (raster: Raster): boolean => fringeOf(raster) !== null;

/** The solid pixel a little further in than one beside a clear one, as an offset; -1 where there is none. */
function acrossFromClear(data: Uint8Array, i: number, line: number): number {
  for (const step of [4, -4, line, -line]) {
    const own = i - INSIDE_PX * step;
    if (data[i + step + 3] < CLEAR && data[own + 3] === 255) return own;
  }
  return -1;
}
const INSIDE_PX = 3;

function isMixedWithBlack(data: Uint8Array, i: number, own: number): boolean {
  let [along, whole] = [0, 0];
  for (let c = 0; c < 3; c++) {
    along += data[i + c] * data[own + c];
    whole += data[own + c] ** 2;
  }
  const share = along / Math.max(1, whole);
  if (share < MIXED.from || share > MIXED.to) return false;
  let off = 0;
  for (let c = 0; c < 3; c++) off += (data[i + c] - share * data[own + c]) ** 2;
  return off < MIXED.off ** 2;
}

const HALF = { from: 40, to: 215 };

function isEdge(data: Uint8Array, i: number, line: number): boolean {
  const alpha = data[i + 3];
  if (alpha < HALF.from) return false;
  return alpha <= HALF.to || isBesideClear(data, i, line);
}

const isBesideClear = (data: Uint8Array, i: number, line: number): boolean =>
  data[i + 7] < CLEAR || data[i - 1] < CLEAR || data[i + line + 3] < CLEAR || data[i - line + 3] < CLEAR;

/** A pixel belongs to the edge where something clear is so near, px; the mark's own colour is looked for so far. */
const EDGE_PX = 2;
const REACH_PX = 4;
/** What is covered less is clear. */
const CLEAR = 16;
/** Pixels as near to the mark's own colour as this keep theirs. */
const WHOLE = 0.97;
/** Such edges are often thinned as well: an edge pixel may gain so much. */
const MOST_GROWTH = 1.25;
/** An own colour nearer to the ground than this, code values, says nothing about a mixture of the two. */
const LEAST_APART = 24;

/**
 * The same picture without an old ground in its edges: each edge pixel is taken for a mixture of that ground and the
 * mark's own colour beside it, and gets the own colour at the mixture's share.
 * @param ground  what the edges were mixed with
 * @see Porter and Duff, "Compositing Digital Images", 1984: the mixture that is undone
 */
export function takeFringe(raster: Raster, ground: Rgb): Raster {
  const { width, height, data } = raster;
  const edge = edgeOf(raster);
  const out = data.slice();
  const apart = (p: number) => Math.hypot(data[p] - ground[0], data[p + 1] - ground[1], data[p + 2] - ground[2]);
  for (let y = 0, k = 0; y < height; y++) {
    for (let x = 0; x < width; x++, k++) {
      if (!edge[k]) continue;
      const own = ownColour({ raster, edge, apart }, x, y);
      const p = k * 4;
      if (own < 0) continue;
      const reach = apart(own);
      if (reach < LEAST_APART) continue;
      let share = 0;
      for (let c = 0; c < 3; c++) share += (data[p + c] - ground[c]) * (data[own + c] - ground[c]);
      share = Math.min(1, Math.max(0, share / (reach * reach)));
      if (share >= WHOLE) continue;
      for (let c = 0; c < 3; c++) out[p + c] = data[own + c];
      out[p + 3] = Math.min(Math.round(data[p + 3] * MOST_GROWTH), Math.round(share * 255));
    }
  }
  return { width, height, data: out };
}

/** Which pixels are visible and have something clear beside them. */
function edgeOf({ width, height, data }: Raster): Uint8Array {
  const edge = new Uint8Array(width * height);
  for (let y = 0, k = 0; y < height; y++)
    for (let x = 0; x < width; x++, k++) {
      if (data[k * 4 + 3] >= CLEAR) continue;
      for (let dy = -EDGE_PX; dy <= EDGE_PX; dy++)
        for (let dx = -EDGE_PX; dx <= EDGE_PX; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const n = ny * width + nx;
          if (data[n * 4 + 3] >= CLEAR) edge[n] = 1;
        }
    }
  return edge;
}

interface Searched {
  readonly raster: Raster;
  readonly edge: Uint8Array;
  readonly apart: (p: number) => number;
}

/**
 * Where the mark shows its own colour next to a place: the nearest solid pixel inside; of a stroke that is all edge,
 * the pixel farthest from the ground. @returns its offset, or -1
 */
function ownColour({ raster: { width, height, data }, edge, apart }: Searched, x: number, y: number): number {
  let [nearest, nearestAt] = [Infinity, -1];
  let [farthest, farthestAt] = [-1, -1];
  for (let dy = -REACH_PX; dy <= REACH_PX; dy++)
    for (let dx = -REACH_PX; dx <= REACH_PX; dx++) {
      const [nx, ny] = [x + dx, y + dy];
      if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
      const n = ny * width + nx;
      if (data[n * 4 + 3] < 200) continue;
      const distance = dx * dx + dy * dy;
      if (!edge[n] && distance < nearest) [nearest, nearestAt] = [distance, n * 4];
      const off = apart(n * 4);
      if (off > farthest) [farthest, farthestAt] = [off, n * 4];
    }
  return nearestAt >= 0 ? nearestAt : farthestAt;
}
