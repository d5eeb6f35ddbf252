import { describe, expect, it } from 'vitest';
import { type SizeLine, initialRecipe } from '../../../core/recipe/recipe';
import { planLines } from './planLines';

const names = { brand: 'Harrowmere', mark: 'Trust badge', date: '2026-03-31', version: 7 };
/** A line whose size somebody typed. */
const line = (change: Partial<SizeLine> = {}): SizeLine => {
  const { fitted: _, ...typed } = initialRecipe().files.lines[0];
  return { ...typed, ...change };
};
const png = { id: 'png', params: {} };
const svg = { id: 'svg', params: {} };
const width = (widthPx: number) => ({ id: 'width', params: { widthPx, paddingPct: 0 } });
const plan = (lines: SizeLine[], master: Parameters<typeof planLines>[2], pattern = '{mark}-{variant}-{width}') =>
  planLines({ ...initialRecipe(), files: { pattern, lines } }, names, master);
const pixels = { exactExtents: { x: 0, y: 0, width: 400, height: 100 }, hasPaths: false, outlineExtents: null };
const paths = { exactExtents: { x: 0, y: 0, width: 400.5, height: 100.25 }, hasPaths: true, outlineExtents: null };

describe('what size lines will come to', () => {
  it('is a name with its ending, a page, and how much the mark is enlarged', () => {
    const [one] = plan([line({ size: width(800), format: png })], pixels);
    expect(one).toMatchObject({
      name: 'trust-badge-colour-800.png',
      layout: { width: 800, height: 200, enlargement: 2 },
      problem: null,
    });
  });
  it('never enlarges paths, and lays them out to the last fraction', () => {
    const [one] = plan([line({ size: width(801), format: svg })], paths);
    expect(one).toMatchObject({ name: 'trust-badge-colour-801.svg', layout: { enlargement: 1 } });
    expect(one.layout?.height).toBeCloseTo(200.5, 6);
  });
  it('says in words why a line cannot be made, and leaves the others as they are', () => {
    const lines = [line({ format: svg }), line({ id: 'b', size: width(8) })];
    const [first, second] = plan(lines, pixels);
    expect(first).toMatchObject({ name: '', problem: expect.stringMatching(/made of pixels/) as string });
    expect(second.problem).toBeNull();
    const [tall] = plan([line({ size: width(16384) })], {
      ...pixels,
      exactExtents: { x: 0, y: 0, width: 10, height: 400 },
    });
    expect(tall.problem).toContain('px high');
    expect(plan([line()], pixels, '{colour}')[0].problem).toContain('{colour}');
  });
  it('plans vector files by outlines that are kept for such alone, and all others by the pixels', () => {
    const traced = { ...pixels, outlineExtents: { x: 0.5, y: 0.5, width: 398, height: 199 } };
    const [vector, png] = plan([line({ size: width(796), format: svg }), line({ id: 'b', size: width(796) })], traced);
    expect(vector).toMatchObject({ problem: null, layout: { height: 398, enlargement: 1 } });
    expect(png).toMatchObject({ layout: { height: 199, enlargement: 796 / 400 } });
  });
  it('tells of lines that are too thin at a size, once their width is known', () => {
    const lines = [line({ size: width(100) }), line({ id: 'b', size: width(400) })];
    const recipe = initialRecipe();
    const own = planLines({ ...recipe, files: { ...recipe.files, lines } }, names, pixels, 4);
    expect(own.map((p) => p.thin?.width ?? null)).toEqual([1, null]);
    expect(plan(lines, pixels).map((p) => p.thin)).toEqual([null, null]);
  });
  it('gives files that would have one name different ones', () => {
    const lines = [line(), line({ id: 'b' }), line({ id: 'c', format: svg })];
    expect(plan(lines, paths, '{mark}').map((p) => p.name)).toEqual([
      'trust-badge.png',
      'trust-badge-2.png',
      'trust-badge.svg',
    ]);
  });
  it('knows no page before the mark is known', () => {
    expect(plan([line({ format: svg })], null)[0]).toMatchObject({ layout: null, problem: null });
  });
});
