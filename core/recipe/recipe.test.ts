/* eslint-disable @typescript-eslint/no-explicit-any -- the recipes here are broken on purpose */
import { describe, expect, it } from 'vitest';
import { initialRecipe, readRecipe } from './recipe';
import { upgradeRecipe } from './upgrade';

const copy = () => JSON.parse(JSON.stringify(initialRecipe()));

describe('readRecipe', () => {
  it('reads back what the program itself proposes', () => expect(readRecipe(copy())).toEqual(initialRecipe()));
  it('starts with colour, black and reversed and a file for each', () => {
    const r = initialRecipe();
    expect(r.variants.map((v) => v.name)).toEqual(['Colour', 'Black', 'Reversed']);
    expect(r.files.lines.map((l) => l.variant)).toEqual(['colour', 'black', 'reversed']);
  });
  it.each([
    ['no version', (r: Record<string, unknown>) => delete r.version, 'needs a version'],
    ['a version from the future', (r: Record<string, unknown>) => (r.version = 99), 'reads up to 3'],
    [
      'a size line for a variant that is not there',
      (r: any) => (r.files.lines[0].variant = 'gold'),
      'no variant "gold"',
    ],
    ['two variants of one id', (r: any) => (r.variants[1].id = 'colour'), 'share an id'],
    ['an unknown fill', (r: any) => (r.variants[0].fill.id = 'tartan'), 'no fill "tartan"'],
    ['a fraction of a pixel', (r: any) => (r.files.lines[0].size.params.widthPx = 100.5), 'whole number'],
    ['a tolerance out of range', (r: any) => (r.stages.cutOut.tolerance = 900), '"tolerance" must be'],
    ['an empty pattern', (r: any) => (r.files.pattern = ' '), 'files.pattern'],
    ['a list in place of a recipe', () => 0, null],
  ])('refuses %s', (_, spoil, message) => {
    const recipe = copy();
    spoil(recipe);
    if (message) expect(() => readRecipe(recipe)).toThrow(message);
    else expect(() => readRecipe([recipe])).toThrow('JSON object');
  });
});

describe('upgradeRecipe', () => {
  it('takes every step from an old version to the present one, without changing the old object', () => {
    const old = { version: 1, a: 1 };
    const steps = {
      1: (r: Record<string, unknown>) => ({ ...r, b: 2 }),
      2: (r: Record<string, unknown>) => ({ ...r, c: 3 }),
    };
    expect(upgradeRecipe(old, 3, steps)).toEqual({ version: 3, a: 1, b: 2, c: 3 });
    expect(old).toEqual({ version: 1, a: 1 });
  });
});
