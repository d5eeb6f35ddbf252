import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';
import { decodePicture } from '../../codecs/decodePicture';
import { disc, drawMark, either, onGround, pixel, pngOf } from '../support/pictures';

const { at, tassel } = commandLine('tidy');
const picture = async (name: string) => (await decodePicture(readFileSync(at(name)), name)).raster;

interface Report {
  pieces: { x: number; y: number; areaPx: number; dropped: boolean }[];
  extents: { before: object; after: object };
}

// A plate with two letters below and three specks, one of them hardly to be seen.
const mark = drawMark(
  300,
  220,
  either(
    disc(150, 90, 70),
    disc(110, 190, 9),
    disc(150, 190, 9),
    disc(20.5, 20.5, 1.5),
    disc(280.5, 30.5, 2),
    (x, y) => (x === 290 && y === 210 ? 0.02 : 0),
  ),
  [31, 90, 69],
);
beforeAll(async () => writeFileSync(at('mark.png'), await pngOf(mark)));

describe('tidy', () => {
  it('lists every piece and drops specks, letters and all beyond an outline', async () => {
    const { stdout, code } = await tassel(
      'tidy',
      at('mark.png'),
      '--out',
      at('a.png'),
      '--specks-below',
      '20',
      '--drop',
      '110,190',
      '150,190',
      '--json',
    );
    expect(code).toBe(0);
    const { pieces, extents } = JSON.parse(stdout) as Report;
    expect(pieces.map((p) => p.dropped)).toEqual([false, true, true, true, true, true]);
    expect(pieces.map((p) => p.areaPx)).toEqual([...pieces.map((p) => p.areaPx)].sort((a, b) => b - a));
    expect(Math.abs(pieces[0].areaPx - Math.PI * 4900)).toBeLessThan(30);
    expect(extents.before).toEqual({ x: 19, y: 19, width: 272, height: 192 });
    expect(extents.after).toEqual({ x: 80, y: 20, width: 140, height: 140 });
    const out = await picture('a.png');
    expect([out.width, out.height]).toEqual([300, 220]);
    for (const [x, y] of [
      [110, 190],
      [20, 20],
      [280, 30],
      [290, 210],
    ])
      expect(pixel(out, x, y)[3]).toBe(0);
    expect(pixel(out, 150, 90)).toEqual([31, 90, 69, 255]);
  });
  it('keeps what is to be kept, and cuts along an outline pixel by pixel', async () => {
    await tassel('tidy', at('mark.png'), '--out', at('b.png'), '--specks-below', '20', '--keep', '20,20');
    expect(pixel(await picture('b.png'), 20, 20)[3]).toBe(255);
    await tassel('tidy', at('mark.png'), '--out', at('c.png'), '--outside', '0,0 150.5,0 150.5,220 0,220');
    const cut = await picture('c.png');
    expect([149, 150, 151].map((x) => pixel(cut, x, 90)[3])).toEqual([255, 128, 0]);
  });
  it('lists all pieces, also those outside outlines or under a cover, with what became of each', async () => {
    const many = drawMark(300, 220, (x, y) => (y < 100 ? +(x % 4 === 0 && y % 4 === 0) : +(y > 150)), [31, 90, 69]);
    writeFileSync(at('many.png'), await pngOf(many));
    const words = ['--outside', '-1,-1 301,-1 301,80 -1,80', '--outside', '-1,140 301,140 301,221 -1,221'];
    const erased = ['--cover', '-1,-1 301,-1 301,10 -1,10:clear', '--specks-below', '0.5', '--drop', '4,20'];
    const { stdout } = await tassel('tidy', at('many.png'), '--out', at('h.png'), ...words, ...erased, '--json');
    const report = JSON.parse(stdout) as Report & { pieceCount: number; counts: Record<string, number> };
    expect(report.counts).toEqual({ kept: 75 * 17, speck: 0, dropped: 1, outside: 75 * 5, erased: 75 * 3 });
    expect([report.pieceCount, report.pieces.length]).toEqual([75 * 25 + 1, 75 * 25 + 1]);
    const at5 = report.pieces.find((p) => Math.floor(p.x) === 8 && Math.floor(p.y) === 88);
    expect(at5).toMatchObject({ treatment: 'outside', dropped: true });
  });
  it('covers with a colour, with what is beside, or with nothing', async () => {
    const covered = (colour: string) => `130,70 170,70 170,110 130,110:${colour}`;
    const colours: [string, number[]][] = [
      ['#FF8000', [255, 128, 0, 255]],
      ['beside', [31, 90, 69, 255]],
    ];
    for (const [word, seen] of colours) {
      await tassel(
        'tidy',
        at('mark.png'),
        '--out',
        at('d.png'),
        '--cover',
        covered('#102030'),
        '--cover',
        covered(word),
      );
      expect(pixel(await picture('d.png'), 150, 90)).toEqual(seen);
    }
    await tassel('tidy', at('mark.png'), '--out', at('d.png'), '--cover', covered('clear'));
    expect(pixel(await picture('d.png'), 150, 90)[3]).toBe(0);
  });
  it('cuts a picture out first, and its recipe gives the same bytes again', async () => {
    writeFileSync(at('boxed.png'), await pngOf(onGround(mark, [250, 248, 240])));
    await tassel('tidy', at('boxed.png'), '--out', at('e.png'), '--specks-below', '20', '--save-recipe', at('r.json'));
    expect(pixel(await picture('e.png'), 5, 5)[3]).toBe(0);
    expect((await tassel('cutout', at('boxed.png'), '--out', at('f.png'), '--recipe', at('r.json'))).code).toBe(0);
    expect(readFileSync(at('f.png')).equals(readFileSync(at('e.png')))).toBe(true);
    await tassel('tidy', at('boxed.png'), '--out', at('g.png'), '--recipe', at('r.json'));
    expect(readFileSync(at('g.png')).equals(readFileSync(at('e.png')))).toBe(true);
  });
  it.each([
    [['--out', at('x.png'), '--drop', 'here'], 2, 'takes places such as'],
    [['--out', at('x.png'), '--outside', '1,1 2,2'], 2, 'at least three points'],
    [['--out', at('x.png'), '--cover', '1,1 9,9 1,9'], 2, '--cover takes'],
    [['--out', at('x.png'), '--cover', '1,1 9,9 1,9:blue'], 2, 'a colour such as'],
    [['--out', at('x.png'), '--specks-below', '-4'], 2, 'a number from 0'],
    [['--out', at('x.jpg')], 2, 'ends in .png'],
    [['--out', at('x.png'), '--specks-below', '99999'], 1, 'nothing is left'],
  ])('%j is refused in words and writes nothing', async (words, code, message) => {
    const answer = await tassel('tidy', at('mark.png'), ...words);
    expect([answer.code, answer.stderr.includes(message)]).toEqual([code, true]);
    expect([existsSync(at('x.png')), existsSync(at('x.jpg'))]).toEqual([false, false]);
  });
});
