import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { disc, drawMark } from '../../tests/support/pictures';
import { artworkOfDrawing, artworkOfRaster } from '../artwork/artwork';
import { drawingOfPath } from '../artwork/drawingOfPath';
import type { FormatHost } from '../formats/format';
import { findExtents } from '../raster/extents';
import { type Raster, createRaster } from '../raster/raster';
import { sizes } from '../sizes';
import { PathBuilder } from '../vector/path';
import { extentsOf } from '../artwork/extentsOf';
import { layOutFile, makeFile, prepareFile } from './makeFile';
import { ordersOf } from './fileOrder';
import { fitSize } from './fitSize';
import { initialRecipe } from './recipe';

const size = (id: string, params: object) => ({ id, params: params as Record<string, unknown> });
const png = { id: 'png', params: {} };
const svg = { id: 'svg', params: {} };
const width = (widthPx: number, paddingPct = 0) => ({ size: size('width', { widthPx, paddingPct }), format: png });
const box = (widthPx: number, heightPx: number, paddingPct: number, align = 'centre') => ({
  size: size('box', { widthPx, heightPx, paddingPct, align }),
  format: png,
});
const host: FormatHost = { encode: async (_, raster) => Uint8Array.of(raster.width, raster.height) };
const triangle = new PathBuilder().moveTo(10, 5).lineTo(110, 30).lineTo(35, 80).done();
const drawn = artworkOfDrawing(drawingOfPath(triangle, '#1F5A45', 400));

describe('layOutFile', () => {
  it('makes exactly the size asked for, the mark inside and in the middle, whatever its shape', () => {
    const side = fc.integer({ min: 1, max: 2000 });
    const asked = fc.integer({ min: 8, max: 1500 });
    fc.assert(
      fc.property(side, side, asked, fc.integer({ min: 0, max: 40 }), (w, h, px, paddingPct) => {
        fc.pre((h / w) * px < 16000 && (w / h) * px < 16000);
        const orders = [
          ['width', width(px, paddingPct)],
          ['height', { size: size('height', { heightPx: px, paddingPct }), format: png }],
          ['longer', { size: size('longEdge', { px, paddingPct }), format: png }],
          ['width', box(px, Math.max(8, px >> 1), paddingPct)],
        ] as const;
        for (const [which, order] of orders) {
          const layout = layOutFile({ width: w, height: h }, order);
          const { mark } = layout;
          const got = which === 'longer' ? (h > w ? layout.height : layout.width) : layout[which];
          expect(got).toBe(px);
          expect(Math.min(mark.x, mark.y)).toBeGreaterThanOrEqual(0);
          expect(Math.abs(layout.width - mark.width - 2 * mark.x)).toBeLessThanOrEqual(1);
          expect(Math.abs(layout.height - mark.height - 2 * mark.y)).toBeLessThanOrEqual(1);
        }
      }),
    );
  });
  it('takes clear space from the longer side', () => {
    const wide = layOutFile({ width: 200, height: 100 }, width(1000, 5));
    expect(wide).toMatchObject({ width: 1000, height: 550, mark: { x: 50, y: 50, width: 900, height: 450 } });
    const tall = layOutFile({ width: 100, height: 400 }, width(500, 5));
    expect(tall.mark.x / tall.height).toBeCloseTo(0.05, 2);
  });
  it('fills an exact box to the pixel on two opposite sides, and stands where it is told on the others', () => {
    expect(layOutFile({ width: 300, height: 100 }, box(360, 180, 0)).mark).toMatchObject({
      x: 0,
      width: 360,
      height: 120,
      y: 30,
    });
    expect(layOutFile({ width: 100, height: 300 }, box(360, 180, 0, 'lower-right')).mark).toEqual({
      x: 300,
      y: 0,
      width: 60,
      height: 180,
    });
    expect(layOutFile({ width: 300, height: 100 }, box(360, 180, 0, 'upper')).mark.y).toBe(0);
    expect(layOutFile({ width: 100, height: 300 }, box(512, 512, 6)).mark.height).toBe(450);
  });
  it('knows how many pixels a width on paper takes', () => {
    const layout = layOutFile(
      { width: 200, height: 100 },
      { size: size('physical', { widthMm: 50.8, ppi: 300, paddingPct: 0 }), format: png },
    );
    expect(layout).toMatchObject({ width: 600, height: 300, ppi: 300 });
  });
  it('refuses a file higher than can be made', () => {
    expect(() => layOutFile({ width: 10, height: 1000 }, width(1000))).toThrow('100000 px high');
  });
});

describe('prepareFile', () => {
  it('trims empty margins, so that the mark fills its slot', () => {
    const lonely = artworkOfRaster(drawMark(400, 300, disc(90, 200, 30), [0, 0, 0]));
    const { raster } = prepareFile(lonely, width(120)).content;
    expect(raster?.width).toBe(120);
    expect(findExtents(raster as Raster)).toMatchObject({ x: 0, width: 120 });
  });
  it('refuses to make a file of nothing, and a file of paths of pixels', () => {
    expect(() => prepareFile(artworkOfRaster(createRaster(10, 10)), width(100))).toThrow('Nothing of the mark is left');
    const pixels = artworkOfRaster(drawMark(40, 30, disc(20, 15, 9), [0, 0, 0]));
    expect(() => prepareFile(pixels, { ...width(100), format: svg })).toThrowError(
      expect.objectContaining({ code: 'format/needs-paths' }),
    );
  });
  it('draws paths at the very size: what is asked for twice as large has the fine edge of its own size', () => {
    for (const px of [64, 500, 3000]) {
      const { content, layout } = prepareFile(drawn, width(px));
      expect(layout.enlargement).toBe(1);
      const { data, width: w, height: h } = content.raster as Raster;
      let area = 0;
      for (let i = 3; i < data.length; i += 4) area += data[i] / 255;
      // The triangle's own share of its box: half of 2 × its area over the box's.
      const share = (100 * 75 - 25 * 25) / 2 / (100 * 75);
      expect(area / (w * h)).toBeCloseTo(share, 3);
    }
  });
  it('gives formats of paths a page exactly round the paths, in the drawing’s own units whatever the size', () => {
    for (const px of [64, 3000]) {
      const { content } = prepareFile(drawn, { ...width(px), format: svg });
      expect(content.raster).toBeNull();
      expect(content.drawing).toMatchObject({ widthPx: 400, heightPx: 300 });
      expect(content).toMatchObject({ widthPx: px, heightPx: px * 0.75 });
    }
  });
});

it('a file is written by its format', async () => {
  expect([...(await makeFile(drawn, width(100), host)).bytes]).toEqual([100, 75]);
  const text = new TextDecoder().decode((await makeFile(drawn, { ...width(100), format: svg }, host)).bytes);
  expect(text).toContain('<path d="M0 0L400 100L100 300Z" fill="#1f5a45"/>');
  expect(text).toContain('viewBox="0 0 400 300"');
});

describe('fitSize', () => {
  it('leaves alone what enlarges nothing, and makes the rest just small enough', () => {
    expect(fitSize(size('width', { widthPx: 300, paddingPct: 0 }), { width: 420, height: 100 }).params.widthPx).toBe(
      300,
    );
    expect(fitSize(size('width', { widthPx: 1200, paddingPct: 0 }), { width: 420, height: 100 }).params.widthPx).toBe(
      420,
    );
  });
  it('never enlarges, whatever the size', () => {
    const sides = fc.integer({ min: 12, max: 900 });
    fc.assert(
      fc.property(sides, sides, fc.integer({ min: 0, max: 20 }), (w, h, paddingPct) => {
        for (const id of ['width', 'height', 'longEdge', 'box']) {
          const params = { widthPx: 1200, heightPx: 1100, px: 1000, paddingPct, align: 'centre' };
          const own = Object.fromEntries(
            Object.keys(sizes.get(id).params).map((k) => [k, params[k as keyof typeof params]]),
          );
          const fitted = fitSize(size(id, own), { width: w, height: h });
          expect(layOutFile({ width: w, height: h }, { size: fitted, format: png }).enlargement).toBeLessThanOrEqual(
            1.0001,
          );
        }
      }),
    );
  });
});

it('extents of a reduced picture are told in full-size pixels', () => {
  const half = artworkOfRaster(
    drawMark(40, 30, (x, y) => (x >= 10 && x < 20 && y >= 5 && y < 25 ? 1 : 0), [0, 0, 0]),
    2,
  );
  expect(extentsOf(half)).toEqual({ x: 20, y: 10, width: 20, height: 40 });
});

describe('a size that nobody typed', () => {
  const web = initialRecipe().files.lines[0];
  it('follows the mark, however it is cropped; a typed one stays', () => {
    const widths = [420, 640, 3000].map((width) => layOutFile({ width, height: 200 }, ordersOf(web)[0]).width);
    expect(widths).toEqual([420, 640, 1200]);
    const { fitted: _, ...typed } = web;
    const asked = layOutFile({ width: 420, height: 200 }, ordersOf(typed)[0]);
    expect([asked.width, asked.enlargement > 2]).toEqual([1200, true]);
  });
  it('stays as its purpose asks for paths, which are sharp at any size', () => {
    expect(layOutFile({ width: 420, height: 200 }, ordersOf(web)[0], true).width).toBe(1200);
  });
});
