import type { EdgeBand } from './edgeBand';
import { SOFT } from './spreadGround';

/**
 * For every pixel of the edge band, a soft pixel just outside the edge (three or more pixels out, so that it holds
 * nothing of the mark itself), or −1 where plain ground lies outside. Handed on from ring to ring, inwards.
 */
export function nearestSoft(band: EdgeBand, labels: Int32Array, width: number, height: number): Int32Array {
  const found = new Int32Array(labels.length).fill(-1);
  const { outer, rings } = band;
  const FIRST = 2;
  for (const ring of outer.slice(FIRST)) for (const i of ring) if (labels[i] === SOFT) found[i] = i;
  for (const ring of [...outer.slice(0, FIRST)].reverse().concat(rings)) {
    const known: [number, number][] = [];
    for (const i of ring) {
      const x = i % width;
      let best = -1;
      for (const n of [i - width, i - 1, i + 1, i + width, i - width - 1, i - width + 1, i + width - 1, i + width + 1]) {
        if (n < 0 || n >= width * height || Math.abs((n % width) - x) > 1 || found[n] < 0) continue;
        best = found[n];
        break;
      }
      if (best >= 0) known.push([i, best]);
    }
    for (const [i, best] of known) found[i] = best;
  }
  return found;
}
