import { type Raster, createRaster } from '../core/raster/raster';
import { OUTSIDE } from '../core/kernels/interface';
import { splitLevel } from '../core/raster/splitLevel';
import { chokeMatte } from '../core/matte/adjustEdge';
import { groundDistance } from '../core/matte/groundDistance';
import { measureGround } from '../core/matte/measureGround';
import { allMixed } from '../core/matte/rowSegments';
import { spreadGround } from '../core/matte/spreadGround';

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
  const labels = spreadGround(
    distance,
    allMixed(raster.width, raster.height),
    raster.width,
    raster.height,
    KEY_TOLERANCE,
  );
  const out = keepWhere(raster, (i) => labels[i] !== OUTSIDE);
  chokeMatte(out, 1);
  return out;
}

const LUMA = [0.299, 0.587, 0.114] as const;
const lumaAt = (r: Raster, i: number) =>
  r.data[i * 4] * LUMA[0] + r.data[i * 4 + 1] * LUMA[1] + r.data[i * 4 + 2] * LUMA[2];

// The commonest colour of the sheet, by the median of each channel.
function medianColour({ data }: Raster): readonly number[] {
  return [0, 1, 2].map((c) => {
    const counts = new Uint32Array(256);
    for (let i = c; i < data.length; i += 4) counts[data[i]]++;
    let sum = 0;
    for (let v = 0; v < 256; v++) if ((sum += counts[v]) > data.length / 8) return v;
    return 255;
  });
}

/** Every pixel near the paper's median colour goes. */
export function inkKey(raster: Raster): Raster {
  const paper = medianColour(raster);
  return keepWhere(raster, (i) => [0, 1, 2].some((c) => Math.abs(raster.data[i * 4 + c] - paper[c]) > KEY_TOLERANCE));
}

/** One threshold for the whole sheet, where its histogram parts best. */
export function otsuThreshold(raster: Raster): Raster {
  const counts = new Float64Array(256);
  for (let i = 0; i < raster.width * raster.height; i++) counts[Math.round(lumaAt(raster, i))]++;
  const { level } = splitLevel(counts);
  return keepWhere(raster, (i) => lumaAt(raster, i) <= level);
}

/** Alpha rises evenly from the paper's luminance down to the darkest hundredth. */
export function inkRamp(raster: Raster): Raster {
  const total = raster.width * raster.height;
  const luma = Float32Array.from({ length: total }, (_, i) => lumaAt(raster, i));
  const sorted = luma.slice().sort();
  const [dark, light] = [sorted[Math.floor(total * 0.002)], sorted[total >> 1]];
  const out = createRaster(raster.width, raster.height);
  for (let i = 0; i < total; i++) {
    const a = Math.min(1, Math.max(0, (light - luma[i]) / Math.max(1, light - dark)));
    out.data.set(raster.data.subarray(i * 4, i * 4 + 3), i * 4);
    out.data[i * 4 + 3] = Math.round(a * 255);
  }
  return out;
}
