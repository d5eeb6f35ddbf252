import { describe, expect, it } from 'vitest';
import { purposes } from '../purposes';
import { initialRecipe, lineOf, readRecipe } from './recipe';
import { linesByStandard, readOwnPurpose, readStandardLine, standardOf } from './standardLines';

const recipe = initialRecipe();
const lines = [
  { ...lineOf('a', 'black', purposes.get('stamp')), name: 'STAMP' },
  lineOf('b', 'reversed', purposes.get('maskPair')),
];
const standard = standardOf({ ...recipe, files: { ...recipe.files, lines } });

describe('a standard set of lines', () => {
  it('names variants by their words, and gives any mark that has them the same lines', () => {
    expect(standard.map((l) => l.variant)).toEqual(['Black', 'Reversed']);
    const other = { variants: recipe.variants.map((v) => ({ ...v, id: `own-${v.id}` })) };
    const given = linesByStandard(standard, other, (k) => `l${k}`);
    expect(given.map((l) => [l.id, l.variant, l.purpose, l.name])).toEqual([
      ['l0', 'own-black', 'stamp', 'STAMP'],
      ['l1', 'own-reversed', 'maskPair', undefined],
    ]);
    const whole = { ...recipe, variants: other.variants, files: { ...recipe.files, lines: given } };
    expect(readRecipe(whole).files.lines).toEqual(given);
  });
  it('leaves out what a mark has no variant for', () =>
    expect(linesByStandard(standard, { variants: recipe.variants.slice(0, 2) }, String)).toHaveLength(1));
  it('is checked as it comes in', () => {
    expect(standard.map((l, k) => readStandardLine(l, `lines[${k}]`))).toEqual(standard);
    expect(() => readStandardLine({ ...standard[0], size: { id: 'square' } }, 'lines[0]')).toThrow('no size "square"');
    expect(() => readStandardLine({ variant: 'Black' }, 'lines[3]')).toThrow('lines[3]');
  });
  it('and so is a purpose of a brand’s own', () => {
    const { variant: _, name: __, ...own } = standard[0];
    expect(readOwnPurpose({ ...own, title: ' Seal ' }, 'purposes[0]')).toEqual({ ...own, title: 'Seal' });
    expect(() => readOwnPurpose(own, 'purposes[0]')).toThrow('title');
  });
});
