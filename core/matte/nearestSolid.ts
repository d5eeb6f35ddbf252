import type { Raster } from '../raster/raster';
import type { EdgeBand } from './edgeBand';

/**
 * For every pixel of the edge band, the place of a near pixel of solid colour inside the mark, packed as y·65536 + x + 1, or 0.
 * A solid pixel lies at least two pixels in and differs little from its four neighbours, so it holds one colour
 * unmixed with anything. Positions are handed on from ring to ring, outwards, each pixel keeping the nearest.
 * @param outwards  how many of the outer rings are asked about
 * @param flat  largest difference to a neighbour, code values, that still counts as one colour
 */
export function nearestSolid(raster: Raster, band: EdgeBand, distance: Uint8Array, flat: number, leastDistance: number, outwards = band.outer.length): Int32Array {
  const { width, height } = raster;
  const nearest = new Int32Array(width * height);
  const { rings, outer, depth } = band;
  for (let k = rings.length - 1; k >= 1; k--) {
    for (const i of rings[k]) if (distance[i] >= leastDistance && isFlat(raster, i, flat, depth)) nearest[i] = ((((i / width) | 0) << 16) | (i % width)) + 1;
  }
  // Deepest ring first; twice within a ring, so that neighbours of one ring can share as well.
  const order = [...rings].reverse().concat(outer.slice(0, outwards));
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
  return isAlike(data, s, s - 4, flat) && isAlike(data, s, s + 4, flat) && isAlike(data, s, s - row, flat) && isAlike(data, s, s + row, flat)
    && depth[i - 1] >= 0 && depth[i + 1] >= 0 && depth[i - width] >= 0 && depth[i + width] >= 0;
}

function isAlike(data: Uint8Array, s: number, n: number, flat: number): boolean {
  const r = data[n] - data[s];
  const g = data[n + 1] - data[s + 1];
  const b = data[n + 2] - data[s + 2];
  return r <= flat && r >= -flat && g <= flat && g >= -flat && b <= flat && b >= -flat;
}

// Places travel packed, so that no division is needed to compare them, and 0 is none, so that no plane needs filling.
function handOn(ring: Int32Array, nearest: Int32Array, width: number, height: number, way: 1 | -1): void {
  const total = width * height;
  for (let k = way === 1 ? 0 : ring.length - 1; k >= 0 && k < ring.length; k += way) {
    const i = ring[k];
    const y = (i / width) | 0;
    const x = i - y * width;
    let best = nearest[i];
    let reach = 0x7fffffff;
    if (best > 0) {
      const dx = ((best - 1) & 0xffff) - x;
      const dy = ((best - 1) >>> 16) - y;
      reach = dx * dx + dy * dy;
      if (reach <= 1) continue;
    }
    const left = x > 0 ? -1 : 0;
    const right = x < width - 1 ? 1 : 0;
    for (let row = i >= width ? i - width : i, last = i + width < total ? i + width : i; row <= last; row += width) {
      for (let n = row + left; n <= row + right; n++) {
        const s = nearest[n];
        if (s === 0 || s === best) continue;
        const dx = ((s - 1) & 0xffff) - x;
        const dy = ((s - 1) >>> 16) - y;
        const d = dx * dx + dy * dy;
        if (d < reach) {
          reach = d;
          best = s;
        }
      }
    }
    nearest[i] = best;
  }
}
