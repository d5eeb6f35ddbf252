import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { disc, drawMark, pixel } from '../../tests/support/pictures';
import { linearFromSrgb } from '../colour/srgb';
import { createRaster } from './raster';
import { filterTaps, resizeRaster } from './resize';

const area = (r: { data: Uint8Array }) => r.data.reduce((sum, v, i) => (i % 4 === 3 ? sum + v / 255 : sum), 0);

describe('filterTaps', () => {
  it('gives every output sample weights that sum to exactly one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.integer({ min: 1, max: 300 }), (from, to) => {
        const { count, weights, most, first } = filterTaps(from, to);
        for (let o = 0; o < to; o++) {
          const own = weights.subarray(o * most, o * most + count[o]);
          expect(own.reduce((a, b) => a + b, 0)).toBe(65536);
          expect(first[o] + count[o]).toBeLessThanOrEqual(from);
        }
      }),
    );
  });
});

describe('resizeRaster', () => {
  it('keeps a flat colour exactly, at any size', () => {
    const flat = createRaster(13, 9);
    for (let i = 0; i < flat.data.length; i += 4) flat.data.set([31, 90, 69, 255], i);
    for (const [w, h] of [
      [4, 3],
      [26, 18],
      [50, 7],
    ]) {
      const out = resizeRaster(flat, w, h);
      for (let i = 0; i < out.data.length; i += 4) expect([...out.data.subarray(i, i + 4)]).toEqual([31, 90, 69, 255]);
    }
  });
  it('keeps the area of a disc when shrinking and when enlarging', () => {
    const mark = drawMark(200, 200, disc(100, 100, 70), [0, 0, 0]);
    const truth = Math.PI * 70 * 70;
    for (const scale of [0.25, 0.6, 2])
      expect(area(resizeRaster(mark, 200 * scale, 200 * scale)) / (truth * scale * scale)).toBeCloseTo(1, 2);
  });
  it('mixes colours in linear light: black and white lines become the grey of half the light', () => {
    const lines = createRaster(64, 64);
    for (let y = 0; y < 64; y++)
      for (let x = 0; x < 64; x++) lines.data.set(y % 2 ? [255, 255, 255, 255] : [0, 0, 0, 255], (y * 64 + x) * 4);
    const [grey] = pixel(resizeRaster(lines, 64, 16), 32, 8);
    expect(Math.abs(linearFromSrgb[grey] / 65535 - 0.5)).toBeLessThan(0.02);
  });
  it('never lets the colour of clear pixels into the edge', () => {
    const mark = drawMark(60, 60, disc(30, 30, 20), [255, 255, 255]);
    for (let i = 0; i < mark.data.length; i += 4) if (mark.data[i + 3] === 0) mark.data.set([255, 0, 0], i);
    const out = resizeRaster(mark, 23, 23);
    for (let i = 0; i < out.data.length; i += 4)
      if (out.data[i + 3] > 0) expect([...out.data.subarray(i, i + 3)]).toEqual([255, 255, 255]);
  });
  it('refuses sizes that cannot be made, naming the size', () => {
    expect(() => resizeRaster(createRaster(4, 4), 0, 4)).toThrow('0 × 4');
    expect(() => resizeRaster(createRaster(4, 4), 20000, 4)).toThrow('1 to 16384');
  });
});
