import sharp from 'sharp';
import { type Raster, createRaster } from '../../core/raster/raster';

export type Shape = (x: number, y: number) => number;

/** Coverage 0..1 of a disc with a soft edge one pixel wide: its area is that of the disc. */
export const disc =
  (cx: number, cy: number, r: number): Shape =>
  (x, y) =>
    Math.min(1, Math.max(0, r - Math.hypot(x + 0.5 - cx, y + 0.5 - cy) + 0.5));
export const ring =
  (cx: number, cy: number, outer: number, inner: number): Shape =>
  (x, y) =>
    disc(cx, cy, outer)(x, y) * (1 - disc(cx, cy, inner)(x, y));
export const either =
  (...shapes: Shape[]): Shape =>
  (x, y) =>
    Math.max(...shapes.map((s) => s(x, y)));

type Rgb = readonly [number, number, number];

/** A mark of one colour as drawn: straight alpha. */
export function drawMark(width: number, height: number, shape: Shape, colour: Rgb): Raster {
  const out = createRaster(width, height);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      const alpha = Math.round(shape(x, y) * 255);
      if (alpha > 0) out.data.set([...colour, alpha], i);
    }
  }
  return out;
}

/** The same picture seen on a flat ground: C = αF + (1−α)B in code values. */
export function onGround(mark: Raster, ground: Rgb): Raster {
  const out = createRaster(mark.width, mark.height);
  for (let i = 0; i < out.data.length; i += 4) {
    const a = mark.data[i + 3] / 255;
    for (let c = 0; c < 3; c++) out.data[i + c] = Math.round(mark.data[i + c] * a + ground[c] * (1 - a));
    out.data[i + 3] = 255;
  }
  return out;
}

const raw = (r: Raster) => sharp(r.data, { raw: { width: r.width, height: r.height, channels: 4 } });
export const pngOf = (r: Raster): Promise<Buffer> => raw(r).png().toBuffer();
export const jpegOf = (r: Raster, quality = 90): Promise<Buffer> => raw(r).removeAlpha().jpeg({ quality }).toBuffer();

export const pixel = (r: Raster, x: number, y: number): number[] => [
  ...r.data.subarray((y * r.width + x) * 4, (y * r.width + x) * 4 + 4),
];
