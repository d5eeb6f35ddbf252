import type { Raster } from '../raster/raster';
import { paperAt } from './inkColour';
import type { InkStudy } from './inkStudy';

/** From this coverage on a pixel's colour tells its pen. */
const TELLING = 0.4;
/** Two pens: their colours this far apart, degrees, and each with this share of the pixels that tell. */
const APART_DEG = 11;
const LEAST_SHARE = 0.07;
/** Of larger marks every nth pixel in both directions tells enough. */
const MOST_LOOKED = 250_000;
/** Pens lie in strokes: of pixels two apart so many are of one pen. */
const LEAST_COHERENT = 0.9;
const FEWEST = 120;
const ROUNDS = 8;

type Direction = readonly [number, number, number];

/**
 * Finds a second pen in one signature, where it was written over or signed on with another: what paper is missing
 * points one way for each ink, whatever its coverage, so pixels fall into two groups by direction.
 * @param markAt  ink of each pixel; those of `mark` that the second pen drew become `second`, in place
 * @returns whether there are two pens
 */
export function splitPens(
  raster: Raster,
  { paper, coverage }: InkStudy,
  markAt: Uint16Array,
  { mark, second, box }: { mark: number; second: number; box: { x: number; y: number; width: number; height: number } },
): boolean {
  const { values, region } = coverage;
  const w = region.width;
  const places: number[] = [];
  const directions: Direction[] = [];
  const under = new Float32Array(3);
  const step = Math.max(1, Math.round(Math.sqrt((box.width * box.height) / MOST_LOOKED)));
  for (let y = Math.max(1, box.y); y < Math.min(region.height - 1, box.y + box.height); y += step)
    for (let x = Math.max(1, box.x); x < Math.min(w - 1, box.x + box.width); x += step) {
      const i = y * w + x;
      if (markAt[i] !== mark || values[i] < TELLING) continue;
      paperAt(paper, region.x + x, region.y + y, under);
      const missing = [0, 1, 2].map((c) => {
        let sum = 0;
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++)
            sum += raster.data[((region.y + y + dy) * raster.width + region.x + x + dx) * 4 + c];
        return 1 - sum / 9 / under[c];
      });
      const length = Math.hypot(...missing);
      if (length < 0.1) continue;
      places.push(i);
      directions.push(missing.map((v) => v / length) as unknown as Direction);
    }
  if (places.length < FEWEST) return false;
  const group = twoGroups(directions);
  if (!group) return false;
  // The smaller group is the second pen.
  const ones = group.reduce((sum, g) => sum + g, 0);
  const isSecond = ones * 2 <= group.length ? 1 : 0;
  const share = Math.min(ones, group.length - ones) / group.length;
  if (share < LEAST_SHARE) return false;
  const at = new Map(places.map((i, k) => [i, group[k]]));
  let [alike, pairs] = [0, 0];
  for (const [i, g] of at) {
    const other = at.get(i + (step > 1 ? step : 2));
    if (other === undefined) continue;
    pairs++;
    if (other === g) alike++;
  }
  // By chance alone the two would be alike this often.
  const chance = share * share + (1 - share) ** 2;
  if (pairs === 0 || (alike / pairs - chance) / (1 - chance) < LEAST_COHERENT - share) return false;
  spread(places, group, isSecond, { markAt, mark, second, w });
  return true;
}

// Two means on the sphere of directions, from the two farthest apart along the main spread.
function twoGroups(directions: readonly Direction[]): Uint8Array | null {
  const blueness = (d: Direction) => d[2] - d[0];
  const sorted = [...directions].sort((p, q) => blueness(p) - blueness(q));
  let means: Direction[] = [sorted[Math.floor(sorted.length * 0.04)], sorted[Math.floor(sorted.length * 0.96)]];
  const group = new Uint8Array(directions.length);
  const dot = (p: Direction, q: Direction) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  for (let round = 0; round < ROUNDS; round++) {
    const sums = [
      [0, 0, 0],
      [0, 0, 0],
    ];
    directions.forEach((d, k) => {
      group[k] = dot(d, means[1]) > dot(d, means[0]) ? 1 : 0;
      for (let c = 0; c < 3; c++) sums[group[k]][c] += d[c];
    });
    if (sums.some((s) => Math.hypot(...s) === 0)) return null;
    means = sums.map((s) => s.map((v) => v / Math.hypot(...s)) as unknown as Direction);
  }
  const apart = (Math.acos(Math.min(1, dot(means[0], means[1]))) * 180) / Math.PI;
  return apart >= APART_DEG ? group : null;
}

interface Spread {
  readonly markAt: Uint16Array;
  readonly mark: number;
  readonly second: number;
  readonly w: number;
}

// Each pixel of the mark goes with the nearest one that tells.
function spread(places: readonly number[], group: Uint8Array, isSecond: number, { markAt, mark, second, w }: Spread) {
  const owner = new Map<number, number>();
  const queue: number[] = [];
  places.forEach((i, k) => {
    owner.set(i, group[k]);
    queue.push(i);
  });
  for (let k = 0; k < queue.length; k++) {
    const i = queue[k];
    const x = i % w;
    for (const n of [x > 0 ? i - 1 : i, x < w - 1 ? i + 1 : i, i - w, i + w]) {
      if (n < 0 || n >= markAt.length || markAt[n] !== mark || owner.has(n)) continue;
      owner.set(n, owner.get(i) as number);
      queue.push(n);
    }
  }
  for (const [i, g] of owner) if (g === isSecond) markAt[i] = second;
}
