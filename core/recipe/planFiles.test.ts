import { describe, expect, it } from 'vitest';
import { purposes } from '../purposes';
import { checkName, planFiles } from './planFiles';
import { initialRecipe, lineOf, readRecipe } from './recipe';

describe('planFiles', () => {
  const names = { brand: 'Harrowmere', mark: 'Trust badge', date: '2026-03-31', version: 7 };
  it('keeps lines of one variant together, and names each by the pattern', () => {
    const recipe = initialRecipe();
    const lines = ['reversed', 'colour', 'reversed', 'black'].map((variant, k) => ({
      id: String(k),
      variant,
      purpose: 'web',
      size: { id: 'width', params: { widthPx: 100 + k, paddingPct: 0 } },
      format: { id: 'png', params: {} },
    }));
    const plan = planFiles({ ...recipe, files: { pattern: '{variant}-{width}x{height}', lines } }, names);
    expect(
      plan.map((p) => p.name({ width: (p.line.size.params as { widthPx: number }).widthPx, height: 50, ppi: null })),
    ).toEqual(['colour-101x50.png', 'black-103x50.png', 'reversed-100x50.png', 'reversed-102x50.png']);
  });
  it('refuses a pattern that gives no name before anything is made', () => {
    const recipe = initialRecipe();
    expect(() => planFiles({ ...recipe, files: { ...recipe.files, pattern: '///' } }, names)).toThrow('empty name');
  });
});

describe('names that a receiver dictates', () => {
  const names = { brand: '', mark: 'Badge', date: '2026-03-31', version: 7 };
  const plan = (name: string, purpose = 'web') => {
    const recipe = initialRecipe();
    const line = { ...lineOf('own', 'black', purposes.get(purpose)), name };
    const files = planFiles({ ...recipe, files: { ...recipe.files, lines: [line] } }, names);
    return files.map((f) => f.name({ width: 640, height: 360, ppi: null }));
  };
  it('are kept to the letter, with the ending of the format where they have none', () => {
    expect(plan('TITLE.PNG')).toEqual(['TITLE.PNG']);
    expect(plan('Title card')).toEqual(['Title card.png']);
    expect(plan('v1.2')).toEqual(['v1.2.png']);
  });
  it('may hold tokens, and a pair has one more', () => {
    expect(plan('{mark}_{width}')).toEqual(['badge_640.png']);
    expect(plan('TITLE', 'maskPair')).toEqual(['TITLE.tif', 'TITLE-mask.tif']);
    expect(plan('TITLE.TIFF', 'maskPair')).toEqual(['TITLE.TIFF', 'TITLE-mask.TIFF']);
  });
  it('of another format, or that no file may have, are refused with the reason', () => {
    expect(() => plan('TITLE.jpg')).toThrow('ends in .png');
    expect(() => plan('a/b')).toThrow('character');
    expect(() => plan('CON')).toThrow('device');
    expect(() => plan('x'.repeat(199) + '印'.repeat(1))).not.toThrow();
    expect(() => checkName('印'.repeat(90))).toThrow('255 bytes');
    expect(() => checkName('.png')).toThrow('point');
  });
  it('are kept in a recipe', () => {
    const recipe = initialRecipe();
    const line = { ...lineOf('own', 'black', purposes.get('keyColour')), name: 'TITLE.PNG' };
    const read = readRecipe({ ...recipe, files: { ...recipe.files, lines: [line] } });
    expect(read.files.lines).toEqual([{ ...line, purposeParams: { key: 'green' } }]);
  });
});
