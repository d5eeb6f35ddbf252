import { call } from '../kernels/heap';
import type { RowSegments } from './rowSegments';

/** Dirt of compression is as strong as its ripples and half as much again. */
const OVER_RIPPLE = 1.5;

/** Weak pieces up to this size, without a strong pixel, are dirt of the compression; smaller where there is none. */
const LARGEST_DIRT = 140;
const LARGEST_WHEN_CLEAN = 8;

/**
 * Gives weak crumbs back to the ground, in `labels` and, inside enclosed areas, in `distance`: pieces of a few pixels
 * none of which is clearly apart from the ground. Hysteresis as in edge finding: a weak pixel counts only together with
 * a strong one, or in numbers.
 * @see J. Canny, "A Computational Approach to Edge Detection", 1986, section on thresholding with hysteresis
 */
export function removeDirt(
  distance: Uint8Array,
  labels: Int32Array,
  segments: RowSegments,
  width: number,
  tolerance: number,
  ripple: number,
): void {
  const isClean = ripple < 3;
  const most = isClean ? LARGEST_WHEN_CLEAN : LARGEST_DIRT;
  const strong = isClean ? tolerance + 4 : tolerance + Math.min(30, 6 + ripple * OVER_RIPPLE);
  const { runs } = segments;
  call([runs], [distance, labels], labels.length + most * 4 + 128, ({ k, at, scratch }) => {
    k.removeDirt({
      distance: at(distance),
      labels: at(labels),
      runs: at(runs),
      runCount: runs.length,
      width,
      total: labels.length,
      tolerance: Math.floor(tolerance),
      strong,
      most,
      state: scratch(labels.length),
      piece: scratch(most * 4 + 64, false),
    });
  });
}
