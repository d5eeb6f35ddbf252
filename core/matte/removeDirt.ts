import { MARK, OUTSIDE } from './spreadGround';

/** Weak pieces up to this size, without a strong pixel, are dirt of the compression. */
const LARGEST_DIRT = 24;

/**
 * Gives weak crumbs back to the ground: pieces of a few pixels none of which is clearly apart from the ground.
 * Hysteresis as in edge finding: a weak pixel counts only together with a strong one, or in numbers.
 * @see J. Canny, "A Computational Approach to Edge Detection", 1986, section on thresholding with hysteresis
 */
export function removeDirt(distance: Uint8Array, labels: Int32Array, width: number, height: number, tolerance: number): void {
  const strong = Math.min(200, tolerance * 2 + 12);
  const seen = new Uint8Array(labels.length);
  const piece: number[] = [];
  for (let start = 0; start < labels.length; start++) {
    if (labels[start] !== MARK || seen[start] || distance[start] >= strong) continue;
    piece.length = 0;
    piece.push(start);
    seen[start] = 1;
    let isDirt = true;
    for (let k = 0; k < piece.length && isDirt; k++) {
      const i = piece[k];
      const x = i % width;
      for (let dy = -1; dy <= 1 && isDirt; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const n = i + dy * width + dx;
          if (n < 0 || n >= labels.length || x + dx < 0 || x + dx >= width || labels[n] !== MARK || seen[n]) continue;
          if (distance[n] >= strong || piece.length >= LARGEST_DIRT) {
            isDirt = false;
            break;
          }
          seen[n] = 1;
          piece.push(n);
        }
      }
    }
    // Pixels of a piece that is not dirt were marked as seen; a crumb beside them is then judged without them,
    // which can only keep too much, never take away.
    if (isDirt) for (const i of piece) labels[i] = OUTSIDE;
  }
}
