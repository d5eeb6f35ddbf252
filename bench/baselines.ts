import { type Raster, createRaster } from '../core/raster/raster';
import { chokeMatte } from '../core/matte/adjustEdge';
import { groundDistance } from '../core/matte/groundDistance';
import { measureGround } from '../core/matte/measureGround';
import { OUTSIDE, spreadGround } from '../core/matte/spreadGround';

const KEY_TOLERANCE = 32;

function keepWhere(raster: Raster, isKept: (i: number) => boolean): Raster {
  const out = createRaster(raster.width, raster.height);
  for (let i = 0; i < raster.width * raster.height; i++) {
    if (!isKept(i)) continue;
    out.data.set(raster.data.subarray(i * 4, i * 4 + 3), i * 4);
    out.data[i * 4 + 3] = 255;
  }
  return out;
}

/** Every pixel near the ground's colour goes, all over the picture; the rest stays whole. */
export function hardColourKey(raster: Raster): Raster {
  const distance = groundDistance(raster, measureGround(raster));
  return keepWhere(raster, (i) => distance[i] > KEY_TOLERANCE);
}

/** Only ground joined to the border goes, and the edge moves in by one pixel against the fringe. */
export function connectedWithChoke(raster: Raster): Raster {
  const distance = groundDistance(raster, measureGround(raster));
  const labels = spreadGround(distance, raster.width, raster.height, KEY_TOLERANCE);
  const out = keepWhere(raster, (i) => labels[i] !== OUTSIDE);
  chokeMatte(out, 1);
  return out;
}
