import { describe, expect, it } from 'vitest';
import { loadTypeface } from '../../codecs/loadTypeface';
import { boundsOfPath, printPath } from '../vector/path';
import { type TypeOptions, lineWidth, setType } from './setType';
import { typefaces } from './typefaces';

const hanken = loadTypeface(typefaces.find((t) => t.id === 'hanken')?.file as string);
const plain: TypeOptions = { sizePx: 100, spacing: 0, lineHeight: 1.2, align: 'left' };
const box = (lines: string[], o: Partial<TypeOptions> = {}) =>
  boundsOfPath(setType(lines, hanken, { ...plain, ...o })) as NonNullable<ReturnType<typeof boundsOfPath>>;

describe('setType', () => {
  it.each(typefaces.map((t) => [t.title, t.file]))('sets a name with © and a year in %s', (_, file) => {
    const d = setType(['© Harrowmere 2031'], loadTypeface(file), plain);
    expect(printPath(d, 2)).not.toMatch(/NaN|undefined|Infinity/);
    expect((boundsOfPath(d) as { width: number }).width).toBeGreaterThan(300);
  });
  it('grows in proportion to the size, and by the spacing between letters', () => {
    expect(box(['Lock'], { sizePx: 200 }).width / box(['Lock']).width).toBeCloseTo(2, 1);
    expect(lineWidth('Lock', hanken, 100, 10) - lineWidth('Lock', hanken, 100, 0)).toBeCloseTo(40, 6);
  });
  it('sets lines below one another and aligns them', () => {
    expect(box(['H', 'H']).height - box(['H']).height).toBeCloseTo(120, 1);
    const starts = (align: TypeOptions['align']) =>
      (printPath(setType(['HHHHH', 'H'], hanken, { ...plain, align }), 2).match(/M(-?[\d.]+)/g) ?? []).map((m) =>
        Number(m.slice(1)),
      );
    const [left, centre, right] = (['left', 'centre', 'right'] as const).map((a) => starts(a).pop() as number);
    expect(right - left).toBeCloseTo(2 * (centre - left), 1);
    expect(centre).toBeGreaterThan(left + 50);
  });
  it('names a character that the typeface lacks, and refuses to set nothing', () => {
    expect(() => setType(['水'], hanken, plain)).toThrowError(
      expect.objectContaining({ code: 'type/no-glyph', message: expect.stringContaining('水') }),
    );
    expect(() => setType([' ', ''], hanken, plain)).toThrowError(expect.objectContaining({ code: 'type/empty' }));
  });
});
