import { describe, expect, it } from 'vitest';
import { layOutSheet, effectivePpi, usualSheet } from './layOutSheet';
import { frameSheet, readMat, turnedFor } from './mat';
import { pixelsOf, readPaper } from './paper';

const mm = (inches: number) => inches * 25.4;

describe('sheets', () => {
  it.each([
    ['A4', 210, 297],
    ['a2', 420, 594],
    ['Letter', mm(8.5), mm(11)],
    ['10x8in', mm(10), mm(8)],
    ['21 × 29.7 cm', 210, 297],
  ])('%s has its sides', (text, width, height) => {
    const paper = readPaper(text);
    expect([paper.width, paper.height].map((v, k) => Math.abs(v - [width, height][k]) < 1e-9)).toEqual([true, true]);
  });
  it.each(['A9', '10x8', '3x3mm', '0x8in', 'x'])('%s is none', (text) =>
    expect(() => readPaper(text)).toThrow('is no sheet'),
  );
  it('have whole pixels', () => {
    expect(pixelsOf(readPaper('10x8in'), 300)).toEqual({ width: 3000, height: 2400 });
    expect(pixelsOf(readPaper('A4'), 300)).toEqual({ width: 2480, height: 3508 });
  });
});

describe('a mat', () => {
  const mat = readMat('11x14in:9.5x7.5in');
  it('lies as its window does', () => {
    expect(mat.outer).toEqual({ width: mm(14), height: mm(11) });
    expect(turnedFor(readPaper('8x10in'), mat)).toEqual(readPaper('10x8in'));
  });
  it('leaves its window to be seen of the sheet in its middle', () => {
    const { opening, overlap } = frameSheet(readPaper('10x8in'), mat);
    expect([opening.x, opening.y, opening.width, opening.height].map((v) => Math.round(v * 100) / 100)).toEqual([
      ...[6.35, 6.35, 241.3, 190.5],
    ]);
    expect(overlap).toBeCloseTo(6.35, 9);
  });
  it.each([
    ['11x14in:11x14in', 'as large as the mat'],
    ['11x14in', 'A mat is such as'],
  ])('%s is none', (text, words) => expect(() => readMat(text)).toThrow(words));
  it('that does not hold its sheet is refused with the reason', () => {
    expect(() => frameSheet(readPaper('8x10in'), mat)).toThrow('shows beyond the sheet, 203.2 × 254 mm');
    expect(() => frameSheet(readPaper('A2'), mat)).toThrow('is larger than the mat');
  });
  it('hides nothing of the mark, wherever it stands', () => {
    const order = { paper: readPaper('10x8in'), ppi: 300, mat, size: { value: 90, unit: 'pct' } } as const;
    for (const at of ['upper-left', 'centre', 'lower-right', 'lower'] as const) {
      const { mark, seen } = layOutSheet({ width: 7, height: 3 }, { ...usualSheet, ...order, at }, false);
      expect(mark.x >= seen.x && mark.x + mark.width <= seen.x + seen.width).toBe(true);
      expect(mark.y >= seen.y && mark.y + mark.height <= seen.y + seen.height).toBe(true);
      // As wide as it can be within the distance from the window's edges, 8 % of its shorter side.
      expect(mark.width).toBe(2850 - 2 * 180);
    }
  });
});

it('a mark of pixels is told by its own pixels to the inch', () => {
  const order = { ...usualSheet, paper: readPaper('10x8in'), ppi: 300, mat: null };
  const layout = layOutSheet({ width: 900, height: 300 }, order, false);
  expect(layout.mark).toEqual({ x: 600, y: 900, width: 1800, height: 600 });
  expect(effectivePpi(layout, 2)).toBe(150);
});
