import type { Raster } from '../raster/raster';
import type { EdgeBand } from './edgeBand';

/**
 * For every pixel of the edge band, the position of a near pixel of solid colour inside the mark, or −1.
 * A solid pixel lies at least two pixels in and differs little from its four neighbours, so it holds one colour
 * unmixed with anything. Positions are handed on from ring to ring, outwards, each pixel keeping the nearest.
 * @param flat  largest difference to a neighbour, code values, that still counts as one colour
 */
export function nearestSolid(raster: Raster, band: EdgeBand, distance: Uint8Array, flat: number, leastDistance: number): Int32Array {
  const { width, height } = raster;
  const nearest = new Int32Array(width * height).fill(-1);
  const { rings, outer, depth } = band;
  for (let k = rings.length - 1; k >= 1; k--) {
    for (const i of rings[k]) if (distance[i] >= leastDistance && isFlat(raster, i, flat, depth)) nearest[i] = i;
  }
  // Deepest ring first; twice within a ring, so that neighbours of one ring can share as well.
  const order = [...rings].reverse().concat(outer);
  for (const ring of order) {
    handOn(ring, nearest, width, height, 1);
    handOn(ring, nearest, width, height, -1);
  }
  return nearest;
}

function isFlat({ width, height, data }: Raster, i: number, flat: number, depth: Int8Array): boolean {
  const x = i % width;
  if (x === 0 || x === width - 1 || i < width || i >= width * (height - 1)) return false;
  const s = i * 4;
  const row = width * 4;
  for (const n of [s - 4, s + 4, s - row, s + row]) {
    if (depth[n >> 2] < 0) return false;
    for (let c = 0; c < 3; c++) {
      const d = data[n + c] - data[s + c];
      if (d > flat || d < -flat) return false;
    }
  }
  return true;
}

function handOn(ring: Int32Array, nearest: Int32Array, width: number, height: number, way: 1 | -1): void {
  const total = width * height;
  for (let k = way === 1 ? 0 : ring.length - 1; k >= 0 && k < ring.length; k += way) {
    const i = ring[k];
    let best = nearest[i];
    if (best === i) continue;
    const x = i % width;
    const y = (i / width) | 0;
    let reach = best < 0 ? Infinity : square(best, x, y, width);
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const n = i + dy * width + dx;
        if (n < 0 || n >= total || x + dx < 0 || x + dx >= width) continue;
        const s = nearest[n];
        if (s < 0 || s === best) continue;
        const d = square(s, x, y, width);
        if (d < reach) {
          reach = d;
          best = s;
        }
      }
    }
    nearest[i] = best;
  }
}

function square(s: number, x: number, y: number, width: number): number {
  const dx = (s % width) - x;
  const dy = ((s / width) | 0) - y;
  return dx * dx + dy * dy;
}
