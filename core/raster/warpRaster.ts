import type { Projective } from '../geometry/projective';
import { type Raster, createRaster } from './raster';

/**
 * A picture seen through a mapping, by cubic convolution (Catmull-Rom) of premultiplied samples. Where the mapping
 * leaves the picture, an opaque one goes on with its outermost pixels and a transparent one is clear.
 * @param toSource  from a pixel of the result to a pixel of `raster`, pixel centres at .5
 * @returns straight alpha
 * @see R. Keys, "Cubic Convolution Interpolation for Digital Image Processing", 1981, a = −1/2
 */
export function warpRaster(
  raster: Raster,
  toSource: Projective,
  width: number,
  height: number,
  isOpaque: boolean,
): Raster {
  const { data, width: w, height: h } = raster;
  const out = createRaster(width, height);
  const [a, b, c, d, e, f, g, hh, i] = toSource;
  const wx = new Float64Array(4);
  const wy = new Float64Array(4);
  const columns = new Int32Array(4);
  for (let y = 0, o = 0; y < height; y++) {
    for (let x = 0; x < width; x++, o += 4) {
      const s = 1 / (g * (x + 0.5) + hh * (y + 0.5) + i);
      const u = (a * (x + 0.5) + b * (y + 0.5) + c) * s - 0.5;
      const v = (d * (x + 0.5) + e * (y + 0.5) + f) * s - 0.5;
      if (!isOpaque && (u < -1 || v < -1 || u > w || v > h)) continue;
      const x0 = Math.floor(u);
      const y0 = Math.floor(v);
      cubicWeights(u - x0, wx);
      cubicWeights(v - y0, wy);
      for (let k = 0; k < 4; k++) {
        const px = x0 - 1 + k;
        columns[k] = (px < 0 ? 0 : px >= w ? w - 1 : px) * 4;
      }
      let red = 0,
        green = 0,
        blue = 0,
        alpha = 0;
      for (let k = 0; k < 4; k++) {
        const py = y0 - 1 + k;
        const row = (py < 0 ? 0 : py >= h ? h - 1 : py) * w * 4;
        for (let n = 0; n < 4; n++) {
          const p = row + columns[n];
          const weight = wx[n] * wy[k] * data[p + 3];
          red += data[p] * weight;
          green += data[p + 1] * weight;
          blue += data[p + 2] * weight;
          alpha += weight;
        }
      }
      if (alpha < 0.5) continue;
      out.data[o] = clampByte(red / alpha);
      out.data[o + 1] = clampByte(green / alpha);
      out.data[o + 2] = clampByte(blue / alpha);
      out.data[o + 3] = isOpaque ? 255 : clampByte(alpha);
    }
  }
  return out;
}

const clampByte = (v: number): number => (v <= 0 ? 0 : v >= 255 ? 255 : Math.round(v));

function cubicWeights(t: number, out: Float64Array): void {
  out[0] = ((-0.5 * t + 1) * t - 0.5) * t;
  out[1] = (1.5 * t - 2.5) * t * t + 1;
  out[2] = ((-1.5 * t + 2) * t + 0.5) * t;
  out[3] = (0.5 * t - 0.5) * t * t;
}
