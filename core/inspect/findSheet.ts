import { type Corners, type Point, isConvex } from '../geometry/projective';
import { type SmallPlanes, shrink } from '../ink/paperLight';
import type { Raster } from '../raster/raster';
import { splitLevel } from '../raster/splitLevel';

const LONGEST = 420;
/** A sheet covers at least this share of the picture, and leaves at least this much of it to the table. */
const LEAST_SHARE = 0.3;
const MOST_SHARE = 0.93;
/** Sheet and table differ by at least this many code values. */
const LEAST_STEP = 28;
/** The sheet found must fill the four corners this well. */
const LEAST_FILLED = 0.93;
/** Corners that are nearly those of an upright rectangle need no putting right. */
const LEAST_SKEW = 0.012;

/**
 * The corners of a photographed sheet of paper whose edges are seen against a darker table.
 * The sheet is the light region joined to the middle of the picture; its corners are its furthest pixels along the
 * diagonals.
 * @param reduction  full size over this picture's size
 * @returns full-size pixels, clockwise from the top left; null where no such sheet is seen or it lies square already
 */
export function findSheet(raster: Raster, reduction: number): Corners | null {
  const small = shrink(raster, Math.min(16, Math.max(1, Math.round(Math.max(raster.width, raster.height) / LONGEST))));
  const { width, height, factor } = small;
  const grey = greyOf(small);
  const cut = splitAt(grey);
  if (cut === null) return null;
  const sheet = regionFrom(grey, width, height, cut);
  let area = 0;
  for (const v of sheet) area += v;
  const share = area / sheet.length;
  if (share < LEAST_SHARE || share > MOST_SHARE) return null;
  const found = furthest(sheet, width, height);
  const isSeen = found.every(({ x, y }) => x > 1 && y > 1 && x < width - 2 && y < height - 2);
  if (!isSeen || !isConvex(found)) return null;
  if (area / quadArea(found) < LEAST_FILLED || area / quadArea(found) > 1 / LEAST_FILLED) return null;
  const skew = Math.max(
    Math.abs(found[0].y - found[1].y),
    Math.abs(found[3].y - found[2].y),
    Math.abs(found[0].x - found[3].x),
    Math.abs(found[1].x - found[2].x),
  );
  if (skew < LEAST_SKEW * Math.max(width, height)) return null;
  const scale = factor * reduction;
  return found.map(({ x, y }) => ({
    x: Math.round((x + 0.5) * scale),
    y: Math.round((y + 0.5) * scale),
  })) as unknown as Corners;
}

const greyOf = ({ planes, width, height }: SmallPlanes): Float32Array =>
  Float32Array.from({ length: width * height }, (_, i) => (planes[0][i] + planes[1][i] + planes[2][i]) / 3);

/** The level between table and sheet; null where there are no two. */
function splitAt(grey: Float32Array): number | null {
  const counts = new Float64Array(256);
  for (const v of grey) counts[Math.round(v)]++;
  const { level, step } = splitLevel(counts);
  return step >= LEAST_STEP ? level + 0.5 : null;
}

// The light region joined to the middle, with the writing in it filled: whatever the table does not reach.
function regionFrom(grey: Float32Array, width: number, height: number, cut: number): Uint8Array {
  const light = spread(width, height, middleSeeds(width, height), (i) => grey[i] > cut);
  const rim: number[] = [];
  for (let x = 0; x < width; x++) rim.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) rim.push(y * width, y * width + width - 1);
  const table = spread(width, height, rim, (i) => !light[i]);
  return table.map((v) => 1 - v);
}

const middleSeeds = (width: number, height: number): number[] => {
  const seeds: number[] = [];
  for (let y = Math.floor(height * 0.4); y < height * 0.6; y++)
    for (let x = Math.floor(width * 0.4); x < width * 0.6; x++) seeds.push(y * width + x);
  return seeds;
};

function spread(width: number, height: number, seeds: readonly number[], goesOn: (i: number) => boolean): Uint8Array {
  const out = new Uint8Array(width * height);
  const stack = seeds.filter(goesOn);
  for (const i of stack) out[i] = 1;
  while (stack.length) {
    const i = stack.pop() as number;
    const x = i % width;
    for (const n of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width]) {
      if (n < 0 || n >= out.length || out[n] || !goesOn(n)) continue;
      out[n] = 1;
      stack.push(n);
    }
  }
  return out;
}

function furthest(sheet: Uint8Array, width: number, height: number): Corners {
  const ways = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ];
  const best = ways.map(() => ({ x: 0, y: 0, far: -Infinity }));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!sheet[i]) continue;
      ways.forEach(([dx, dy], k) => {
        const far = (dx * x) / width + (dy * y) / height;
        if (far > best[k].far) best[k] = { x, y, far };
      });
    }
  return best.map(({ x, y }): Point => ({ x, y })) as unknown as Corners;
}

const quadArea = (c: Corners): number =>
  Math.abs(c.reduce((s, p, k) => s + p.x * c[(k + 1) % 4].y - c[(k + 1) % 4].x * p.y, 0)) / 2;
