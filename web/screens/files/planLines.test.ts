import { describe, expect, it } from 'vitest';
import { type SizeLine, initialRecipe } from '../../../core/recipe/recipe';
import { planLines } from './planLines';

const names = { brand: 'Harrowmere', mark: 'Trust badge' };
const line = (change: Partial<SizeLine> = {}): SizeLine => ({ ...initialRecipe().files.lines[0], ...change });
const png = { id: 'png', params: {} };
const svg = { id: 'svg', params: {} };
const width = (widthPx: number) => ({ id: 'width', params: { widthPx, paddingPct: 0 } });
const plan = (lines: SizeLine[], master: Parameters<typeof planLines>[2], pattern = '{mark}-{variant}-{width}') =>
  planLines({ ...initialRecipe(), files: { pattern, lines } }, names, master);
const pixels = { exactExtents: { x: 0, y: 0, width: 400, height: 100 }, hasPaths: false };
const paths = { exactExtents: { x: 0, y: 0, width: 400.5, height: 100.25 }, hasPaths: true };

describe('what size lines will come to', () => {
  it('is a name with its ending, a page, and how much the mark is enlarged', () => {
    const [one] = plan([line({ size: width(800), format: png })], pixels);
    expect(one).toMatchObject({
      name: 'trust-badge-colour-800.png',
      width: 800,
      height: 200,
      enlargement: 2,
      problem: null,
    });
  });
  it('never enlarges paths, and lays them out to the last fraction', () => {
    const [one] = plan([line({ size: width(801), format: svg })], paths);
    expect(one).toMatchObject({ name: 'trust-badge-colour-801.svg', enlargement: 1 });
    expect(one.height).toBeCloseTo(200.5, 6);
  });
  it('says in words why a line cannot be made, and leaves the others as they are', () => {
    const lines = [line({ format: svg }), line({ id: 'b', size: width(8) })];
    const [first, second] = plan(lines, pixels);
    expect(first).toMatchObject({ name: '', problem: 'SVG holds paths, and this mark is made of pixels.' });
    expect(second.problem).toBeNull();
    const [tall] = plan([line({ size: width(16384) })], {
      ...pixels,
      exactExtents: { x: 0, y: 0, width: 10, height: 400 },
    });
    expect(tall.problem).toContain('px high');
    expect(plan([line()], pixels, '{colour}')[0].problem).toContain('{colour}');
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
    expect(plan([line({ format: svg })], null)[0]).toMatchObject({ width: null, height: null, problem: null });
  });
});
