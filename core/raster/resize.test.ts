import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exactCoverage } from '../../tests/support/exactCoverage';
import { disc, drawMark, pixel } from '../../tests/support/pictures';
import { linearFromSrgb } from '../colour/srgb';
import { type Raster, createRaster } from './raster';
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

describe('edges, beside the very coverage at the new size', () => {
  /** A ring, a bar and a blade on a page four times as wide as high, drawn at a width by exact coverage. */
  const drawn = (width: number): Raster => {
    const [u, height] = [width / 1200, width / 4];
    const circle = (x: number, y: number, r: number, way: number) =>
      Array.from({ length: 2000 }, (_, k) => {
        const t = (way * k * 2 * Math.PI) / 2000;
        return [u * (x + r * Math.cos(t)), u * (y + r * Math.sin(t))] as const;
      });
    const polygon = (...xy: number[]) =>
      Array.from({ length: xy.length / 2 }, (_, k) => [u * xy[2 * k], u * xy[2 * k + 1]] as const);
    const rings = [
      ...[circle(200, 150, 120.3, 1), circle(200, 150, 84.7, -1)],
      ...[polygon(420.4, 40.2, 640.9, 60.7, 632.3, 130.1, 410.8, 118.6), polygon(700, 250, 1150, 61.3, 1160.2, 88.8)],
    ];
    const coverage = exactCoverage(rings, width, height, 'nonzero', width > 2000 ? 64 : 256);
    const out = createRaster(width, height);
    coverage.forEach((share, i) => out.data.set([255, 255, 255, Math.round(share * 255)], i * 4));
    return out;
  };
  /** How far edges are off, code values: pixels that are neither clear nor whole in the truth. */
  const meanOff = (a: Raster, truth: Raster) => {
    let [sum, edges] = [0, 0];
    for (let p = 3; p < truth.data.length; p += 4) {
      if (truth.data[p] === 0 || truth.data[p] === 255) continue;
      edges++;
      sum += Math.abs(a.data[p] - truth.data[p]);
    }
    expect(edges).toBeGreaterThan(1000);
    return sum / edges;
  };
  it('are off by less than two code values in the mean from 4400 to 1200 px', () => {
    const out = resizeRaster(drawn(4400), 1200, 300);
    const truth = drawn(1200);
    expect(meanOff(out, truth)).toBeLessThan(2);
  });
  it('show no dark fringe when a white mark is reduced ten times, on black and on white', () => {
    const out = resizeRaster(drawn(3000), 300, 75);
    const truth = drawn(300);
    for (const ground of [0, 255]) {
      for (let p = 0; p < out.data.length; p += 4) {
        const on = (r: Raster) => (r.data[p] * r.data[p + 3] + ground * (255 - r.data[p + 3])) / 255;
        expect(Math.abs(on(out) - on(truth))).toBeLessThanOrEqual(1);
      }
    }
  });
  it('never ring: a result lies between what lies beside it', () => {
    const step = createRaster(40, 4);
    for (let i = 0; i < 160; i++) step.data.set(i % 40 < 20 ? [60, 60, 60, 255] : [190, 190, 190, 255], i * 4);
    const out = resizeRaster(step, 29, 4);
    for (let p = 0; p < out.data.length; p += 4) {
      expect(out.data[p]).toBeGreaterThanOrEqual(60);
      expect(out.data[p]).toBeLessThanOrEqual(190);
    }
  });
});
