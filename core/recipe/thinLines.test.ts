import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, ring } from '../../tests/support/pictures';
import { createRaster } from '../raster/raster';
import { artworkOfRaster } from '../artwork/artwork';
import { layOutFile } from './makeFile';
import { masterStrokes, thinLineOf } from './thinLines';

const extents = { x: 0, y: 0, width: 400, height: 200 };
const at = (size: { id: string; params: object }, format = 'png') => {
  const layout = layOutFile(extents, { size: size as never, format: { id: format, params: {} } }, format !== 'png');
  return thinLineOf(6, extents, layout, format !== 'png');
};
const width = (widthPx: number) => ({ id: 'width', params: { widthPx, paddingPct: 0 } });
const paper = (widthMm: number) => ({ id: 'physical', params: { widthMm, ppi: 600, paddingPct: 0 } });

describe('lines too thin for a file', () => {
  it('are told in pixels of the file, with the size from which on they are wide enough', () => {
    expect(at(width(400))).toBeNull();
    expect(at(width(80))).toMatchObject({ width: 1.2, unit: 'px', times: 1.25 });
  });
  it('are told in points where the file has a size on paper, of paths too', () => {
    expect(at(paper(40))).toBeNull();
    expect(at(paper(5), 'pdf')).toMatchObject({ unit: 'pt' });
    expect(at(paper(5), 'pdf')?.width).toBeCloseTo(((5 / 25.4) * 72 * 6) / 400, 3);
  });
  it('are no matter in a drawing without a size on paper', () => expect(at(width(40), 'svg')).toBeNull());
});

it('strokes are measured once, in full-size pixels, with the thinnest place', () => {
  const shape = either(ring(80, 80, 60, 54), disc(240, 80, 40));
  const strokes = masterStrokes(artworkOfRaster(drawMark(320, 160, shape, [0, 0, 0]), 2));
  expect(Math.abs((strokes?.thinnestPx ?? 0) - 12)).toBeLessThan(0.5);
  const { x = 0, y = 0 } = strokes?.place ?? {};
  expect(Math.abs(Math.hypot(x / 2 - 80, y / 2 - 80) - 57)).toBeLessThan(1.5);
  expect(masterStrokes(artworkOfRaster(drawMark(40, 40, () => 0, [0, 0, 0])))).toBeNull();
});

it('a line of another colour within a plate is told by its own width', () => {
  const plate = createRaster(400, 300);
  for (let y = 20; y < 280; y++) {
    for (let x = 20; x < 380; x++)
      plate.data.set(y >= 100 && y < 106 ? [255, 255, 255, 255] : [20, 40, 90, 255], (y * 400 + x) * 4);
  }
  const strokes = masterStrokes(artworkOfRaster(plate));
  expect(Math.abs((strokes?.thinnestPx ?? 0) - 6)).toBeLessThan(0.3);
  expect(Math.abs((strokes?.place.y ?? 0) - 103)).toBeLessThan(1);
});

it('the narrowest gap is that between two parts, and none of a single one', () => {
  const bars = createRaster(300, 200);
  for (let y = 40; y < 160; y++)
    for (let x = 40; x < 240; x++) if (x < 120 || x >= 129) bars.data.set([0, 0, 0, 255], (y * 300 + x) * 4);
  expect(Math.abs((masterStrokes(artworkOfRaster(bars, 2))?.gapPx ?? 0) - 18)).toBeLessThan(0.5);
  expect(masterStrokes(artworkOfRaster(drawMark(100, 100, disc(50, 50, 30), [0, 0, 0])))?.gapPx).toBeNull();
});
