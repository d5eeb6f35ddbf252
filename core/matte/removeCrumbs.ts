import type { Raster } from '../raster/raster';
import type { EdgeBand } from './edgeBand';

/** A crumb has so many pixels at most, */
const MOST_PX = 14;
/** comes to no more than this, in pixels that are solid, */
const MOST_AREA = 1.5;
/** and is nowhere more opaque than this: a dot of a drawing is. */
const MOST_ALPHA = 128;

/**
 * Clears the crumbs that compression left beside an edge, in place: pieces of a few faint pixels that touch nothing
 * else. The thin end of a stroke stays, because it touches the stroke.
 * @param picture  straight alpha
 * @param band  the pixels on and beside the edges, which alone can be crumbs
 */
export function removeCrumbs(picture: Raster, { rings, outer }: EdgeBand): void {
  const { width, height, data } = picture;
  const seen = new Uint8Array(width * height);
  const crumb = new Int32Array(MOST_PX + 8);
  /** Pixels of the crumb at a place; 0 where it is none. */
  const collect = (start: number): number => {
    let [count, area] = [1, 0];
    crumb[0] = start;
    seen[start] = 1;
    let isCrumb = true;
    for (let k = 0; k < count && isCrumb; k++) {
      const i = crumb[k];
      const alpha = data[i * 4 + 3];
      area += alpha / 255;
      if (alpha > MOST_ALPHA || area > MOST_AREA) return 0;
      const x = i % width;
      const y = (i / width) | 0;
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1), n = v * width + u; u <= Math.min(width - 1, x + 1); u++, n++) {
          if (n === i || data[n * 4 + 3] === 0) continue;
          // What was looked at before and was no crumb is none now either.
          if (seen[n] === 1) isCrumb &&= crumb.subarray(0, count).includes(n);
          else if (count === MOST_PX) isCrumb = false;
          else {
            seen[n] = 1;
            crumb[count++] = n;
          }
        }
    }
    return isCrumb ? count : 0;
  };
  for (const ring of [...rings, ...outer])
    for (const i of ring) {
      const alpha = data[i * 4 + 3];
      if (alpha === 0 || alpha > MOST_ALPHA || seen[i] === 1) continue;
      const count = collect(i);
      for (let k = 0; k < count; k++) data.fill(0, crumb[k] * 4, crumb[k] * 4 + 4);
    }
}
