import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, pixel, ring } from '../../tests/support/pictures';
import { type Raster, createRaster } from '../raster/raster';
import { cutOutFlat, plainFlat } from './cutOutFlat';
import { measureChecker } from './measureChecker';
import { measureGround } from './measureGround';

type Rgb = readonly [number, number, number];
const red = [181, 50, 43] as const;

function onPattern(mark: Raster, at: (x: number, y: number) => Rgb): Raster {
  const out = createRaster(mark.width, mark.height);
  for (let i = 0; i < mark.width * mark.height; i++) {
    const b = at(i % mark.width, Math.floor(i / mark.width));
    const a = mark.data[i * 4 + 3] / 255;
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = Math.round(mark.data[i * 4 + c] * a + b[c] * (1 - a));
    out.data[i * 4 + 3] = 255;
  }
  return out;
}
const checkerOf =
  (cell: number, shift: number, light: number, dark: number) =>
  (x: number, y: number): Rgb => {
    const v = (Math.floor((x + shift) / cell) + Math.floor((y + shift) / cell)) % 2 ? dark : light;
    return [v, v, v];
  };
const borderOf = (r: Raster) =>
  Array.from({ length: r.width * r.height }, (_, i) => i).filter(
    (i) => i % r.width < 6 || i % r.width >= r.width - 6 || i < r.width * 6 || i >= r.width * (r.height - 6),
  );
const alphaError = (a: Raster, b: Raster) =>
  a.data.reduce((s, v, i) => (i % 4 === 3 ? s + Math.abs(v - b.data[i]) / 255 : s), 0) / (a.data.length / 4);

describe('a checker pattern baked into the picture', () => {
  const truth = drawMark(200, 180, either(ring(100, 90, 70, 50), disc(100, 90, 20)), red);
  it.each([
    [8, 0, 255, 204],
    [13, 5, 250, 236],
    [21, 9, 120, 90],
  ])('of %s px squares is found wherever it begins, and comes off whole', (cell, shift, light, dark) => {
    const picture = onPattern(truth, checkerOf(cell, shift, light, dark));
    expect(measureChecker(picture, borderOf(picture))?.cellPx).toBeCloseTo(cell, 1);
    expect(alphaError(cutOutFlat(picture, plainFlat).picture, truth)).toBeLessThan(0.002);
  });
  it('keeps white that belongs to the mark whole, though it matches the white squares', () => {
    const white = drawMark(200, 180, disc(100, 90, 26), [255, 255, 255]);
    const both = onPattern(white, () => [0, 0, 0]);
    for (let i = 0; i < white.data.length; i += 4)
      if (white.data[i + 3] === 0) both.data.set(truth.data.subarray(i, i + 4), i);
    const plate = drawMark(200, 180, disc(100, 90, 70), red);
    for (let i = 0; i < plate.data.length; i += 4) if (white.data[i + 3] > 127) plate.data.set([255, 255, 255, 255], i);
    const { picture } = cutOutFlat(onPattern(plate, checkerOf(10, 0, 255, 204)), plainFlat);
    for (let x = 80; x <= 120; x += 4) expect(pixel(picture, x, 90)).toEqual([255, 255, 255, 255]);
  });
  it('is not seen in stripes, in a plain ground or in noise', () => {
    const plain = onPattern(truth, () => [240, 240, 240]);
    const stripes = onPattern(truth, (x) => (Math.floor(x / 8) % 2 ? [255, 255, 255] : [200, 200, 200]));
    const noise = onPattern(truth, (x, y) => ((x * 7919 + y * 104729) % 13 < 6 ? [255, 255, 255] : [204, 204, 204]));
    for (const picture of [plain, stripes, noise]) expect(measureChecker(picture, borderOf(picture))).toBeNull();
    expect(measureGround(plain).plane).toBeUndefined();
  });
});

describe('several grounds picked by a person', () => {
  it('all come off, the seam between them too', () => {
    const truth = drawMark(200, 160, disc(100, 80, 40), red);
    const picture = onPattern(truth, (x) => (x < 98 ? [255, 255, 255] : x < 99 ? [190, 200, 215] : [120, 150, 180]));
    const { picture: out } = cutOutFlat(picture, {
      ...plainFlat,
      grounds: [
        [255, 255, 255],
        [120, 150, 180],
      ],
    });
    expect(alphaError(out, truth)).toBeLessThan(0.003);
    expect(pixel(out, 98, 5)[3]).toBe(0);
  });
});
