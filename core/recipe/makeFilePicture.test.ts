import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { disc, drawMark } from '../../tests/support/pictures';
import { purposes } from '../purposes';
import { findExtents } from '../raster/extents';
import { createRaster } from '../raster/raster';
import { layOutFile, makeFilePicture } from './makeFilePicture';

describe('layOutFile', () => {
  it('makes exactly the width asked for, the mark inside and in the middle', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 2000 }),
        fc.integer({ min: 1, max: 2000 }),
        fc.integer({ min: 8, max: 1500 }),
        fc.integer({ min: 0, max: 40 }),
        fc.constantFrom(...purposes.ids),
        (w, h, widthPx, paddingPct, purpose) => {
          fc.pre((h / w) * widthPx < 16000);
          const { width, height, mark } = layOutFile(
            { x: 0, y: 0, width: w, height: h },
            { widthPx, paddingPct, purpose },
          );
          expect(width).toBe(widthPx);
          expect(mark.x).toBeGreaterThanOrEqual(0);
          expect(mark.x + mark.width).toBeLessThanOrEqual(width);
          expect(mark.y + mark.height).toBeLessThanOrEqual(height);
          expect(Math.abs(width - mark.width - 2 * mark.x)).toBeLessThanOrEqual(1);
          expect(Math.abs(height - mark.height - 2 * mark.y)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
  it('takes clear space from the longer side', () => {
    expect(
      layOutFile({ x: 0, y: 0, width: 200, height: 100 }, { widthPx: 1000, paddingPct: 5, purpose: 'web' }),
    ).toMatchObject({ width: 1000, height: 550, mark: { x: 50, y: 50, width: 900, height: 450 } });
    const tall = layOutFile({ x: 0, y: 0, width: 100, height: 400 }, { widthPx: 500, paddingPct: 5, purpose: 'web' });
    expect(tall.mark.x / tall.height).toBeCloseTo(0.05, 2);
  });
  it('makes icons square whatever the mark', () => {
    expect(
      layOutFile({ x: 0, y: 0, width: 300, height: 100 }, { widthPx: 512, paddingPct: 6, purpose: 'icon' }),
    ).toMatchObject({ width: 512, height: 512 });
    expect(
      layOutFile({ x: 0, y: 0, width: 100, height: 300 }, { widthPx: 512, paddingPct: 6, purpose: 'icon' }).mark.height,
    ).toBe(450);
  });
  it('refuses a file higher than can be made', () => {
    expect(() =>
      layOutFile({ x: 0, y: 0, width: 10, height: 1000 }, { widthPx: 1000, paddingPct: 0, purpose: 'web' }),
    ).toThrow('100000 px high');
  });
});

describe('makeFilePicture', () => {
  it('trims empty margins, so that the mark fills its slot', () => {
    const lonely = drawMark(400, 300, disc(90, 200, 30), [0, 0, 0]);
    const file = makeFilePicture(lonely, { widthPx: 120, paddingPct: 0, purpose: 'web' });
    expect(file.width).toBe(120);
    expect(findExtents(file)).toMatchObject({ x: 0, width: 120 });
  });
  it('refuses to make a file of nothing', () => {
    expect(() => makeFilePicture(createRaster(10, 10), { widthPx: 100, paddingPct: 0, purpose: 'web' })).toThrow(
      'Nothing of the mark is left',
    );
  });
});
