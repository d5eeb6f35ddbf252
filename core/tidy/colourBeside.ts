import { hexFromRgb } from '../colour/hex';
import type { Projective } from '../geometry/projective';
import type { Raster } from '../raster/raster';
import { coverLoops } from './coverage';

/** How far round an outline is looked, share of its own size, and at least so many pixels. */
const REACH = 0.12;
const LEAST_REACH_PX = 4;
const BITS = 5;

/**
 * The commonest solid colour beside an outline, which covers what lies in it without a trace; null where nothing solid
 * is beside it.
 * @param loop  x, y and so on, in the pixels that `onto` leads from
 */
export function colourBeside(raster: Raster, loop: readonly number[], onto: Projective): string | null {
  const covered = coverLoops([loop], onto, raster);
  if (!covered) return null;
  const { box, share } = covered;
  const reach = Math.max(LEAST_REACH_PX, Math.round(Math.max(box.width, box.height) * REACH));
  const bins = new Map<number, { count: number; sum: [number, number, number] }>();
  const isInside = (x: number, y: number) => {
    const [cx, cy] = [x - box.x, y - box.y];
    return cx >= 0 && cy >= 0 && cx < box.width && cy < box.height && share[cy * box.width + cx] > 0;
  };
  for (let y = Math.max(0, box.y - reach); y < Math.min(raster.height, box.y + box.height + reach); y++) {
    for (let x = Math.max(0, box.x - reach); x < Math.min(raster.width, box.x + box.width + reach); x++) {
      const i = (y * raster.width + x) * 4;
      if (raster.data[i + 3] < 255 || isInside(x, y)) continue;
      const [r, g, b] = raster.data.subarray(i, i + 3);
      const key = ((r >> (8 - BITS)) << (2 * BITS)) | ((g >> (8 - BITS)) << BITS) | (b >> (8 - BITS));
      const bin = bins.get(key) ?? { count: 0, sum: [0, 0, 0] };
      bin.count++;
      bin.sum = [bin.sum[0] + r, bin.sum[1] + g, bin.sum[2] + b];
      bins.set(key, bin);
    }
  }
  const best = [...bins.values()].reduce<{ count: number; sum: [number, number, number] } | null>(
    (a, b) => (a === null || b.count > a.count ? b : a),
    null,
  );
  return best && hexFromRgb(best.sum.map((v) => v / best.count));
}
