import { describe, expect, it } from 'vitest';
import { disc, drawMark, pixel } from '../../tests/support/pictures';
import { seededRandom } from '../seededRandom';
import { bleedColours } from './bleedColours';
import { clampRect, cropRaster, placeOnCanvas } from './cropRaster';
import { findExtents } from './extents';
import { checkRaster, createRaster, hasTransparency, matteOf } from './raster';

describe('checkRaster', () => {
  it('says how many bytes it expected and how many it got', () => {
    expect(() => checkRaster({ width: 20, height: 10, data: new Uint8Array(799) })).toThrow(
      'Expected 20 × 10 × 4 = 800 bytes, got 799.',
    );
  });
});

describe('findExtents', () => {
  it('is the smallest rectangle round what is visible', () => {
    const r = createRaster(30, 20);
    for (const [x, y] of [
      [4, 6],
      [21, 9],
      [10, 17],
    ])
      r.data[(y * 30 + x) * 4 + 3] = 255;
    expect(findExtents(r)).toEqual({ x: 4, y: 6, width: 18, height: 12 });
  });
  it('is null when nothing is visible, and ignores what cannot be seen', () => {
    const r = createRaster(8, 8);
    expect(findExtents(r)).toBeNull();
    r.data[3] = 2;
    expect(findExtents(r)).toBeNull();
  });
  it('reaches the picture’s own corners', () => {
    const r = createRaster(5, 4);
    r.data[3] = 255;
    r.data[(5 * 4 - 1) * 4 + 3] = 255;
    expect(findExtents(r)).toEqual({ x: 0, y: 0, width: 5, height: 4 });
  });
});

describe('cropRaster', () => {
  it('cuts the region out, clipped to the picture', () => {
    const r = drawMark(20, 20, (x, y) => (x === 5 && y === 6 ? 1 : 0), [1, 2, 3]);
    const part = cropRaster(r, { x: 5, y: 6, width: 100, height: 3 });
    expect([part.width, part.height]).toEqual([15, 3]);
    expect(pixel(part, 0, 0)).toEqual([1, 2, 3, 255]);
    expect(clampRect({ x: -4, y: 2.4, width: 10, height: 5 }, 20, 20)).toEqual({ x: 0, y: 2, width: 6, height: 5 });
  });
  it('refuses a region outside', () =>
    expect(() => cropRaster(createRaster(4, 4), { x: 9, y: 0, width: 2, height: 2 })).toThrow('no pixel'));
  it('comes back whole when placed on a canvas', () => {
    const r = drawMark(9, 7, disc(4, 3, 2), [9, 8, 7]);
    expect(cropRaster(placeOnCanvas(r, 20, 15, 6, 5), { x: 6, y: 5, width: 9, height: 7 }).data).toEqual(r.data);
  });
});

describe('bleedColours', () => {
  it('gives clear pixels the colour of the nearest visible one and keeps them clear', () => {
    const r = createRaster(40, 12);
    r.data.set([200, 10, 10, 255], (6 * 40 + 5) * 4);
    r.data.set([10, 10, 200, 128], (6 * 40 + 34) * 4);
    bleedColours(r);
    expect(pixel(r, 0, 0)).toEqual([200, 10, 10, 0]);
    expect(pixel(r, 18, 11)).toEqual([200, 10, 10, 0]);
    expect(pixel(r, 21, 0)).toEqual([10, 10, 200, 0]);
    expect(pixel(r, 34, 6)).toEqual([10, 10, 200, 128]);
  });
  it(
    'keeps every alpha, the faintest one too, and takes each colour from a nearest pixel ' + 'or one hardly farther',
    () => {
      const random = seededRandom(9);
      const [w, h] = [70, 50];
      for (let round = 0; round < 6; round++) {
        const r = createRaster(w, h);
        const seen: [number, number, number][] = [];
        for (let k = 0; k < 3 + round * 9; k++) {
          const [x, y] = [Math.floor(random() * w), Math.floor(random() * h)];
          r.data.set([k + 1, 255 - k, round, 1 + Math.floor(random() * (k % 3 ? 254 : 2))], (y * w + x) * 4);
          seen.push([x, y, k + 1]);
        }
        const before = matteOf(r).data;
        bleedColours(r);
        expect(matteOf(r).data).toEqual(before);
        for (let y = 0; y < h; y++)
          for (let x = 0; x < w; x++) {
            const nearest = Math.min(...seen.map(([px, py]) => Math.hypot(px - x, py - y)));
            const own = seen.filter(([, , red]) => red === r.data[(y * w + x) * 4]);
            expect(
              Math.min(...own.map(([px, py]) => Math.hypot(px - x, py - y))),
              `${x}, ${y} in round ${round}`,
            ).toBeLessThan(nearest * 1.25 + 14);
          }
      }
    },
  );
  it('leaves an empty picture empty', () => {
    const r = createRaster(6, 6);
    expect(bleedColours(r).data.every((v) => v === 0)).toBe(true);
  });
});

describe('matteOf and hasTransparency', () => {
  it('take the alpha alone', () => {
    const r = drawMark(10, 10, disc(5, 5, 3), [50, 60, 70]);
    expect(matteOf(r).data[5 * 10 + 5]).toBe(255);
    expect(hasTransparency(r)).toBe(true);
    expect(hasTransparency(drawMark(4, 4, () => 1, [1, 1, 1]))).toBe(false);
  });
});
