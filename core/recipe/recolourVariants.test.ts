import { describe, expect, it } from 'vitest';
import { fills } from '../fills';
import { surrounds } from '../surrounds';
import { initialRecipe, partOf, variantOf } from './recipe';
import { changedColours, changedGradients, recolourVariants, withColours } from './recolourVariants';

const green = '#1f5a45';
const only = (colours: [string, string][]) => ({ colours: new Map(colours), gradients: new Map() });
const recipe = {
  ...initialRecipe(),
  variants: [
    variantOf('a', 'A', partOf(fills, 'oneColour', { colour: green.toUpperCase() })),
    { ...variantOf('b', 'B', partOf(fills, 'asIs')), surrounds: [partOf(surrounds, 'rim', { colour: green })] },
    variantOf(
      'c',
      'C',
      partOf(fills, 'gradient', {
        stops: [
          { at: 0, colour: green },
          { at: 1, colour: '#ffffff' },
        ],
      }),
    ),
    variantOf('d', 'D', partOf(fills, 'byColour', { pairs: [{ from: green, to: '#000000' }] })),
  ],
};

describe('a palette colour that changes', () => {
  it('is found by its name', () => {
    const before = [
      { name: 'Green', hex: green },
      { name: 'Red', hex: '#b5322b' },
    ];
    expect([
      ...changedColours(before, [
        { name: 'Green', hex: '#205C46' },
        { name: 'Crimson', hex: '#aa0000' },
      ]),
    ]).toEqual([[green, '#205c46']]);
    expect(changedColours(before, before).size).toBe(0);
  });
  it('changes every variant that uses it, and not what is looked for in the master', () => {
    const { recipe: next, changed } = recolourVariants(recipe, only([[green, '#205c46']]));
    expect(changed).toBe(3);
    expect(next.variants[0].fill.params).toMatchObject({ colour: '#205c46' });
    expect(next.variants[1].surrounds[0].params).toMatchObject({ colour: '#205c46' });
    expect(next.variants[2].fill.params).toMatchObject({ stops: [{ colour: '#205c46' }, { colour: '#ffffff' }] });
    expect(next.variants[3]).toBe(recipe.variants[3]);
    expect(next.stages).toBe(recipe.stages);
  });
  it('leaves a recipe that does not use it as it is', () => {
    expect(recolourVariants(recipe, only([['#123456', '#000000']])).recipe).toBe(recipe);
  });
});

describe('a gradient of the palette', () => {
  const stops = (recipe.variants[2].fill.params as { stops: { at: number; colour: string }[] }).stops;
  const after = [
    { at: 0, colour: '#000000' },
    { at: 0.5, colour: '#b5322b' },
    { at: 1, colour: '#ffffff' },
  ];
  it('that changes under its name changes in the variants that use it', () => {
    const gradients = changedGradients([{ name: 'Dawn', stops }], [{ name: 'Dawn', stops: after }]);
    const { recipe: next, changed } = recolourVariants(recipe, { colours: new Map(), gradients });
    expect(changed).toBe(1);
    expect(next.variants[2].fill.params).toMatchObject({ stops: after });
    expect(changedGradients([{ name: 'Dawn', stops }], [{ name: 'Dusk', stops: after }]).size).toBe(0);
  });
  it('follows the colours of the palette', () =>
    expect(withColours(stops, new Map([[green, '#205c46']]))).toEqual([{ at: 0, colour: '#205c46' }, stops[1]]));
});
