import { Resvg } from '@resvg/resvg-js';
import type { Raster } from '../core/raster/raster';

/** A drawing made by our own code, rendered: straight alpha. @param svg  a whole file whose size is the pixel size */
export function renderSvgFile(svg: string, width: number, height: number): Raster {
  const pixels = new Resvg(svg, { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: width } }).render()
    .pixels; // a copy on every read: read once
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < data.length && i < pixels.length; i += 4) {
    const a = pixels[i + 3];
    if (a === 0) continue;
    for (let c = 0; c < 3; c++) data[i + c] = Math.min(255, Math.round((pixels[i + c] * 255) / a));
    data[i + 3] = a;
  }
  return { width, height, data };
}
