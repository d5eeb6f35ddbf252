import { describe, expect, it } from 'vitest';
import { createRaster } from '../raster/raster';
import { layOutFile } from './makeFile';
import { ordersOf } from './fileOrder';
import { lineOf, partOf } from './recipe';
import { purposes } from '../purposes';
import { sizes } from '../sizes';
import { fileFindings } from './fileFindings';
import { keyClash } from '../findings/keyClash';

const mark = { width: 400, height: 200 };
/** A line whose size somebody typed. */
const line = (purpose: string, size: string, params: object) => {
  const { fitted: _, ...own } = lineOf('own', 'black', purposes.get(purpose));
  return { ...own, size: partOf(sizes, size, params) };
};
const found = (l: ReturnType<typeof line>, change: object = {}) => {
  const layout = layOutFile(mark, ordersOf(l)[0]);
  return fileFindings({ line: l, layout, mark, thin: null, page: null, keyClash: null, ...change });
};

describe('findings of a file, before it is written', () => {
  it('tell how much it is enlarged, in print by the resolution that is left, and the size that is not', () => {
    const [onScreen] = found(line('web', 'width', { widthPx: 800 }));
    const mended = ordersOf(onScreen.mend!.line)[0];
    expect([onScreen.title, layOutFile(mark, mended).width]).toEqual(['enlarged 2.0 times', 400]);
    const [onPaper] = found(line('print', 'physical', { widthMm: 100, ppi: 300 }));
    expect(onPaper.detail).toContain('102 ppi');
    expect(onPaper.mend?.label).toBe('33 mm wide');
    expect(found(line('web', 'width', { widthPx: 400 }))).toEqual([]);
  });
  it('tell of a line too thin, with the size that is enough', () => {
    const thin = { width: 0.75, unit: 'px' as const, times: 2 };
    const [one] = found(line('web', 'width', { widthPx: 100 }), { thin });
    expect([one.id, one.title, one.mend?.line.size.params.widthPx]).toEqual(['thin', 'thinnest line 0.8 px', 200]);
  });
  it('tell of a box whose sides are left empty, and of a mark at the edge of an icon', () => {
    const [empty] = found(line('web', 'box', { widthPx: 300, heightPx: 300 }));
    expect([empty.title, empty.mend?.label]).toEqual(['50 % empty', '150 px high']);
    const page = { extents: { x: 0, y: 10, width: 200, height: 100 } };
    const [edge] = found(line('icon', 'width', { widthPx: 200 }), { page });
    expect([edge.id, edge.mend?.line.size.params.paddingPct]).toEqual(['touches', 4]);
    expect(found(line('web', 'width', { widthPx: 200 }), { page })).toEqual([]);
  });
  it('tell of a mark that goes with its key colour, and offer the other', () => {
    const green = createRaster(10, 10);
    for (let k = 0; k < 100; k++) green.data.set(k < 30 ? [10, 240, 20, 255] : [200, 30, 30, 255], k * 4);
    expect(keyClash(green, '#00ff00')).toBeCloseTo(0.3, 2);
    expect(keyClash(green, '#0000ff')).toBe(0);
    const [clash] = found(line('keyColour', 'frame', { markPct: 10 }), { keyClash: 0.3 });
    expect([clash.detail.slice(0, 4), clash.mend?.line.purposeParams]).toEqual(['30 %', { key: 'blue' }]);
  });
});
