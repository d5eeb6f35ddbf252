import { call, ints } from '../kernels/heap';
import type { EdgeBand } from './edgeBand';

/**
 * For every pixel of the edge band, the place of a soft pixel just outside the edge (three or more pixels out, so that
 * it holds nothing of the mark itself), counted from 1, or 0 where plain ground lies outside. Handed on from ring to
 * ring, inwards.
 */
export function nearestSoft({ outer, rings }: EdgeBand, labels: Int32Array, width: number, height: number): Int32Array {
  const behind = ints(width * height);
  const FIRST = 2;
  const far = outer.slice(FIRST);
  const near = [...outer.slice(0, FIRST)].reverse().concat(rings);
  const room = 4 * Math.max(0, ...near.map((ring) => ring.length));
  call([labels, ...far, ...near], [behind], room, ({ k, at, scratch }) => {
    const list = scratch(room, false);
    for (const ring of far) k.seedSoft(at(ring), ring.length, at(labels), at(behind));
    for (const ring of near) k.handSoftOn(at(ring), ring.length, at(behind), width, height, list);
  });
  return behind;
}
