import type { Raster } from '../core/raster/raster';
import type { Rgb } from '../core/colour/hex';
import { renderSvgFile } from '../codecs/renderSvg';

/** A drawn mark with its truth: straight alpha and the mark's own colours. */
export const renderSvg = (body: string, width: number, height: number, viewBox = `0 0 ${width} ${height}`): Raster =>
  renderSvgFile(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${viewBox}">${body}</svg>`,
    width,
    height,
  );

/** Composited in sRGB code values, C = αF + (1−α)B, as most programs do. `ground` may differ by place. */
export function compositeOn(mark: Raster, ground: Rgb | ((x: number, y: number) => Rgb)): Raster {
  const { width, height, data } = mark;
  const out = new Uint8Array(data.length);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      const B = typeof ground === 'function' ? ground(x, y) : ground;
      const a = data[i + 3] / 255;
      for (let c = 0; c < 3; c++) out[i + c] = Math.round(data[i + c] * a + B[c] * (1 - a));
      out[i + 3] = 255;
    }
  }
  return { width, height, data: out };
}
