import { describe, expect, it } from 'vitest';
import { proofGrounds } from '../data/proofGrounds';
import { fitBox } from './Canvas';
import { contrastWords } from './contrastWords';

describe('contrastWords', () => {
  it('names weak and lost contrast in words, not by colour alone', () => {
    const flat = (ratio: number) => contrastWords({ ratio, shareAbove3: ratio >= 3 ? 1 : 0 });
    expect(flat(8.04)).toEqual({ text: '8.0 : 1', isWeak: false });
    expect(flat(2.1)).toEqual({ text: '2.1 : 1, weak', isWeak: true });
    expect(flat(1.2)).toEqual({ text: '1.2 : 1, lost', isWeak: true });
    expect(contrastWords(undefined)).toEqual({ text: '', isWeak: false });
  });
  it('counts on a photo how much of the outline stands out', () => {
    const photo = (shareAbove3: number) => contrastWords({ ratio: 4, shareAbove3 }, true);
    expect(photo(0.93)).toEqual({ text: '93 %', isWeak: false });
    expect(photo(0.6)).toEqual({ text: '60 %, weak', isWeak: true });
    expect(photo(0.1)).toEqual({ text: '10 %, lost', isWeak: true });
  });
});

describe('fitBox', () => {
  it('shows a picture whole, centred, in its own proportions', () => {
    expect(fitBox(200, 100, 120, 120, 10)).toEqual({ x: 10, y: 35, width: 100, height: 50 });
    expect(fitBox(100, 400, 120, 120, 10)).toEqual({ x: 47.5, y: 10, width: 25, height: 100 });
  });
  it('does not enlarge beyond what it is told', () =>
    expect(fitBox(10, 10, 500, 500, 0, 2)).toMatchObject({ width: 20, height: 20 }));
});

describe('proofGrounds', () => {
  const photo = (id: string, tone: 'light' | 'dark') => ({
    id,
    name: id,
    tone,
    hex: null,
    width: 1,
    height: 1,
    picture: `/p/${id}`,
    isProof: true,
  });
  const palette = [
    { name: 'Lamp black', hex: '#1c1b1d' },
    { name: 'Enamel cream', hex: '#e9ddc4' },
  ];
  const names = (grounds: ReturnType<typeof photo>[]) => proofGrounds(palette, grounds).map((g) => g.name);
  it('are six: three plain, the brand’s, and the chosen photos', () => {
    const grounds = [photo('a', 'light'), { ...photo('b', 'light'), isProof: false }, photo('c', 'dark')];
    expect(names(grounds)).toEqual(['White', 'Mid grey', 'Black', 'Enamel cream', 'a', 'c']);
  });
  it('make room for as many as four that were chosen', () => {
    const grounds = ['a', 'b', 'c', 'd', 'e'].map((id) => photo(id, 'light'));
    expect(names(grounds.slice(0, 3))).toEqual(['White', 'Mid grey', 'Black', 'a', 'b', 'c']);
    expect(names(grounds)).toEqual(['White', 'Black', 'a', 'b', 'c', 'd']);
  });
  it('are fewer for a brand without palette and photos, and still measure', () => {
    expect(proofGrounds([], []).map((g) => g.id)).toEqual(['white', 'grey', 'black']);
  });
});
