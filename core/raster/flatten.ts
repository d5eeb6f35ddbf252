import type { Rgb } from '../colour/hex';
import { type Raster, createRaster } from './raster';

/** A picture laid on a flat colour: opaque, of the same size. */
export function layOn({ width, height, data }: Raster, ground: Rgb): Raster {
  const out = createRaster(width, height);
  for (let p = 0; p < data.length; p += 4) {
    const a = data[p + 3];
    for (let c = 0; c < 3; c++) out.data[p + c] = Math.round((data[p + c] * a + ground[c] * (255 - a)) / 255);
    out.data[p + 3] = 255;
  }
  return out;
}

/** A picture's transparency as greys: white where it is opaque, or the other way round. */
export function maskOf({ width, height, data }: Raster, isInverted = false): Raster {
  const out = createRaster(width, height);
  for (let p = 0; p < data.length; p += 4) {
    const grey = isInverted ? 255 - data[p + 3] : data[p + 3];
    out.data.fill(grey, p, p + 3);
    out.data[p + 3] = 255;
  }
  return out;
}

/** The same colours, all of them opaque. */
export function withoutAlpha({ width, height, data }: Raster): Raster {
  const out = { width, height, data: data.slice() };
  for (let p = 3; p < data.length; p += 4) out.data[p] = 255;
  return out;
}
