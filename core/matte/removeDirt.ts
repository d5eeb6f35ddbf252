import { type RowSegments, eachMixed } from './rowSegments';
import { MARK, OUTSIDE } from './spreadGround';

/** Weak pieces up to this size, without a strong pixel, are dirt of the compression; smaller where there is none. */
const LARGEST_DIRT = 140;
const LARGEST_WHEN_CLEAN = 8;

/**
 * Gives weak crumbs back to the ground, in `labels` and, inside enclosed areas, in `distance`: pieces of a few pixels none of which is clearly apart from the ground.
 * Hysteresis as in edge finding: a weak pixel counts only together with a strong one, or in numbers.
 * @see J. Canny, "A Computational Approach to Edge Detection", 1986, section on thresholding with hysteresis
 */
export function removeDirt(distance: Uint8Array, labels: Int32Array, segments: RowSegments, width: number, height: number, tolerance: number, ripple: number): void {
  const isClean = ripple < 3;
  const most = isClean ? LARGEST_WHEN_CLEAN : LARGEST_DIRT;
  const strong = isClean ? tolerance + 4 : tolerance + Math.min(30, 6 + ripple * 1.5);
  const KEPT = 1;
  const LOOKED_AT = 2;
  const state = new Uint8Array(labels.length);
  const piece: number[] = [];
  const total = labels.length;
  eachMixed(segments, (from, to) => {
    for (let i = from; i < to; i++) if (labels[i] === MARK && distance[i] < strong && distance[i] > tolerance && state[i] === 0) look(i);
  });
  function look(start: number): void {
    piece.length = 0;
    piece.push(start);
    state[start] = LOOKED_AT;
    let isDirt = true;
    for (let k = 0; k < piece.length && isDirt; k++) {
      const i = piece[k];
      const x = i % width;
      const left = x > 0 ? -1 : 0;
      const right = x < width - 1 ? 1 : 0;
      for (let row = i >= width ? i - width : i, last = i + width < total ? i + width : i; row <= last && isDirt; row += width) {
        for (let n = row + left; n <= row + right; n++) {
          if (labels[n] !== MARK || distance[n] <= tolerance || state[n] === LOOKED_AT) continue; // enclosed ground is not dirt
          if (distance[n] >= strong || state[n] === KEPT || piece.length >= most) {
            isDirt = false;
            break;
          }
          state[n] = LOOKED_AT;
          piece.push(n);
        }
      }
    }
    const label = isDirt && piece.some((i) => touchesOutside(i, labels, width, total)) ? OUTSIDE : MARK;
    for (const i of piece) {
      if (!isDirt) state[i] = KEPT;
      else if (label === OUTSIDE) labels[i] = OUTSIDE;
      else distance[i] = 0; // a crumb inside an enclosed area: it goes the way of that area
    }
  }
}

const touchesOutside = (i: number, labels: Int32Array, width: number, total: number): boolean =>
  (i > 0 && labels[i - 1] === OUTSIDE) || (i + 1 < total && labels[i + 1] === OUTSIDE) || (i >= width && labels[i - width] === OUTSIDE) || (i + width < total && labels[i + width] === OUTSIDE);
