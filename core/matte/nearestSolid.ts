import { call, ints } from '../kernels/heap';
import type { Raster } from '../raster/raster';
import type { EdgeBand } from './edgeBand';

/**
 * For every pixel of the edge band, the place of a near pixel of solid colour inside the mark, packed as y·65536 + x +
 * 1, or 0. A solid pixel lies at least two pixels in and differs little from its four neighbours, so it holds one
 * colour unmixed with anything. Positions are handed on from ring to ring, outwards, each pixel keeping the nearest.
 * @param outwards  how many of the outer rings are asked about
 * @param flat  largest difference to a neighbour, code values, that still counts as one colour
 */
export function nearestSolid(
  raster: Raster,
  band: EdgeBand,
  distance: Uint8Array,
  flat: number,
  leastDistance: number,
  outwards = band.outer.length,
): Int32Array {
  const { width, height } = raster;
  const nearest = ints(width * height);
  const { rings, outer, depth } = band;
  const asked = outer.slice(0, outwards);
  call([raster.data, distance, depth, ...rings, ...asked], [nearest], 0, ({ k, at }) => {
    for (let r = rings.length - 1; r >= 1; r--) {
      k.findSolid({
        picture: at(raster.data),
        width,
        height,
        ring: at(rings[r]),
        length: rings[r].length,
        distance: at(distance),
        leastDistance,
        depth: at(depth),
        flat: Math.floor(flat),
        nearest: at(nearest),
      });
    }
    // Deepest ring first; twice within a ring, so that neighbours of one ring can share as well.
    for (const ring of [...rings].reverse().concat(asked))
      k.handOn(at(ring), ring.length, at(nearest), width, width * height);
  });
  return nearest;
}
