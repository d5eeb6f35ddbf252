import { describe, expect, it } from 'vitest';
import { disc, drawMark } from '../../tests/support/pictures';
import { seededRandom } from '../seededRandom';
import { call } from '../kernels/heap';
import { bleedColours } from './bleedColours';
import { placeOnCanvas } from './cropRaster';
import { findExtents, isVisible } from './extents';
import { createRaster } from './raster';
import { boxFound, eachStrip } from './strips';

describe('eachStrip', () => {
  it('brings every row of a part once, in order, and only its columns', () => {
    const raster = createRaster(37, 150);
    for (let i = 0; i < 37 * 150; i++) new Int32Array(raster.data.buffer)[i] = i;
    const seen: number[] = [];
    const part = { x: 5, y: 9, width: 11, height: 133 };
    eachStrip(raster, part, (_k, at, rows, y) => {
      expect(y).toBe(9 + seen.length / 11);
      call([], [], 0, ({ intsAt }) => seen.push(...intsAt(at, rows * 11)));
    });
    expect(seen).toEqual(Array.from({ length: 133 * 11 }, (_, n) => (9 + Math.floor(n / 11)) * 37 + 5 + (n % 11)));
  });
  it('ends when it has seen enough', () => {
    const rows: number[] = [];
    eachStrip(createRaster(5, 300), { x: 0, y: 0, width: 5, height: 300 }, (_k, _at, _rows, y) => {
      rows.push(y);
      return y >= 100;
    });
    expect(rows).toHaveLength(3);
  });
  it('finds nothing as null', () => {
    call([], [], 0, ({ k }) => k.startBox(10));
    expect(call([], [], 0, ({ k }) => boxFound(k))).toBeNull();
  });
});

describe('whether anything is visible', () => {
  it('is told of the faintest pixel that counts, wherever it is, and within a part of that part alone', () => {
    for (const [x, y] of [
      [0, 0],
      [39, 199],
      [17, 120],
    ]) {
      const raster = createRaster(40, 200);
      raster.data[(y * 40 + x) * 4 + 3] = 3;
      expect([isVisible(raster), isVisible(raster, 4), isVisible(raster, 3, { x, y, width: 1, height: 1 })]).toEqual([
        true,
        false,
        true,
      ]);
      expect(isVisible(raster, 1, { x: 20, y: 20, width: 10, height: 90 })).toBe(false);
    }
    expect(isVisible(createRaster(40, 200))).toBe(false);
  });
});

describe('what is known to hold all that is visible', () => {
  const random = seededRandom(3);
  it('changes neither extents nor bled colours, however tight or loose', () => {
    for (let round = 0; round < 6; round++) {
      const [x, y] = [Math.floor(random() * 90), Math.floor(random() * 60)];
      const picture = placeOnCanvas(drawMark(60, 50, disc(30, 25, 9 + round), [40, 90, 160]), 170, 130, x, y);
      const extents = findExtents(picture, 1) as NonNullable<ReturnType<typeof findExtents>>;
      const loose = { x, y, width: 60, height: 50 };
      for (const within of [extents, loose]) {
        expect(findExtents(picture, 1, within)).toEqual(extents);
        const [known, sought] = [picture.data.slice(), picture.data.slice()];
        bleedColours({ ...picture, data: known }, within);
        bleedColours({ ...picture, data: sought });
        expect(Buffer.compare(known, sought)).toBe(0);
      }
    }
  });
  it('is believed: what lies outside of it is not looked at', () => {
    const picture = createRaster(20, 20);
    picture.data[(3 * 20 + 3) * 4 + 3] = 255;
    picture.data[(15 * 20 + 12) * 4 + 3] = 255;
    expect(findExtents(picture, 1, { x: 10, y: 10, width: 10, height: 10 })).toEqual({
      x: 12,
      y: 15,
      width: 1,
      height: 1,
    });
    expect(findExtents(picture)).toEqual({ x: 3, y: 3, width: 10, height: 13 });
  });
});
