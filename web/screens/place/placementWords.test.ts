import { describe, expect, it } from 'vitest';
import type { LookView } from '../../../contract/views';
import { type MarkItem, readPlacement } from '../../../core/placements/readPlacement';
import { initialVariants } from '../../../core/recipe/recipe';
import { cardView } from '../../../tests/support/webViews';
import { USUAL_NAME, freeName, lengthWords, placementName, placeWords, variantWords, weakIn } from './placementWords';

const item = (change: object = {}) => readPlacement({ items: [{ mark: 'm1', ...change }] }).items[0] as MarkItem;
const variants = initialVariants();

describe('a placement in words', () => {
  it.each([
    [{}, 'whichever variant reads best'],
    [{ variant: 'black' }, 'black'],
    [{ variant: ['reversed', 'black'] }, 'reversed or black, whichever reads better'],
    [{ variant: ['colour', 'reversed', 'black'] }, 'colour, reversed or black, whichever reads better'],
    [{ variant: 'gone' }, 'a variant that was removed'],
  ])('%j is %s', (change, words) => expect(variantWords(item(change), variants)).toBe(words));
  it('tells places and lengths', () => {
    expect(placeWords('lower-right')).toBe('lower right');
    expect(placeWords({ x: 12.4, y: 7.6 })).toBe('at 12, 8 px');
    expect(['4%', '20px', '12mm', '30% of area'].map((size) => lengthWords(item({ size }).size))).toEqual([
      ...['4 %', '20 px', '12 mm', '30 % of area'],
    ]);
  });
  it('is named by its own parts, and a number where the name is taken', () => {
    const marks = [cardView()];
    expect(placementName(USUAL_NAME, item({ opacity: 0.7 }), marks)).toBe('Trust badge, lower right, 70 %');
    expect(placementName('{mark} {variant} {size} {what}', item({ variant: 'black' }), marks)).toBe(
      'Trust badge black 18 % {what}',
    );
    expect(freeName('A', ['B'])).toBe('A');
    expect(freeName('A', ['A', 'A 2'])).toBe('A 3');
  });
  it('is weak where too little of an outline stands out', () => {
    const look = (shareAbove3: number) =>
      ({ items: [{ seen: { ratio: 4, shareAbove3, worst: null } }, { seen: null }] }) as unknown as LookView;
    expect([weakIn(look(0.9)), weakIn(look(0.5)), weakIn(undefined)]).toEqual([false, true, false]);
  });
});
