import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';

const { at, tassel } = commandLine('place');
interface Placed {
  readonly ground: string;
  readonly out: string;
  readonly gaps: number;
  readonly items: { variant: string; contrast: number; shareAbove3: number; box: Record<string, number> }[];
}
const report = (name: string) => JSON.parse(readFileSync(at(name), 'utf8')) as Placed[];
async function pixels(name: string) {
  const { data, info } = await sharp(readFileSync(at(name)))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return {
    ...info,
    at: (x: number, y: number) => [...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4)],
  };
}

const SQUARE =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#1f5a45"/></svg>';
beforeAll(async () => {
  writeFileSync(at('mark.svg'), SQUARE);
  mkdirSync(at('photos'));
  for (const [name, background] of [
    ['dark', '#181b20'],
    ['light', '#f2efe6'],
  ]) {
    const photo = sharp({ create: { width: 900, height: 600, channels: 3, background } });
    const exif = { IFD0: { Artist: 'Somebody' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } };
    writeFileSync(at(`photos/${name}.jpg`), await photo.jpeg().withExif(exif).toBuffer());
  }
});

describe('place', () => {
  it('takes the variant that reads best on each photo, at the very pixel, and keeps no metadata', async () => {
    const ended = await tassel(
      'place',
      at('photos'),
      '--mark',
      at('mark.svg'),
      '--out',
      at('out'),
      '--report',
      at('r.json'),
    );
    expect([ended.stderr, ended.code]).toEqual(['', 0]);
    expect(readdirSync(at('out'))).toEqual(['dark.jpg', 'light.jpg']);
    const [dark, light] = report('r.json');
    expect([dark.items[0].variant, light.items[0].variant]).toEqual(['reversed', 'black']);
    // 18 % of 900, and 4 % of 600 from the edges.
    expect(dark.items[0].box).toEqual({ x: 900 - 24 - 162, y: 600 - 24 - 81, width: 162, height: 81 });
    expect(dark.items[0]).toMatchObject({ shareAbove3: 1, contrast: expect.any(Number) });
    const shown = await pixels('out/dark.jpg');
    expect(Math.min(...shown.at(800, 540))).toBeGreaterThan(245);
    expect(Math.max(...shown.at(700, 540).slice(0, 3))).toBeLessThan(40);
    expect((await sharp(readFileSync(at('out/dark.jpg'))).metadata()).exif).toBeUndefined();
  });
  it('fills an exact frame, counts what nothing covers, and takes a point, a size and an opacity', async () => {
    const options = ['--variant', 'black', '--at', '320,180', '--size', '100', '--opacity', '0.5'];
    await tassel(
      'place',
      '640x360:white',
      '--mark',
      at('mark.svg'),
      '--out',
      at('f.png'),
      ...options,
      '--report',
      at('f.json'),
    );
    const [one] = report('f.json');
    expect([one.gaps, one.items[0].box]).toEqual([0, { x: 270, y: 155, width: 100, height: 50 }]);
    const shown = await pixels('f.png');
    expect([shown.width, shown.height, shown.at(320, 180), shown.at(0, 0)]).toEqual([
      ...[640, 360, [128, 128, 128, 255], [255, 255, 255, 255]],
    ]);
    await tassel(
      'place',
      '640x360',
      '--mark',
      at('mark.svg'),
      '--out',
      at('g.png'),
      ...options,
      '--report',
      at('g.json'),
    );
    expect(report('g.json')[0].gaps).toBe(640 * 360);
    const two = ['--mark', at('mark.svg'), at('mark.svg'), '--out', at('h.png'), '--report', at('h.json')];
    await tassel('place', '640x360:white', ...two);
    expect(report('h.json')[0].items).toHaveLength(2);
  });
  it.each([
    [['--at', 'middle'], '--at takes upper-left'],
    [['--inset', '-3'], '--inset takes a number from 0'],
    [['--variant', 'pink'], '--set takes black'],
    [['--out', 'x.gif'], '--out ends in one of .png'],
  ])('%j is refused with the reason', async (args, words) => {
    const { stderr, code } = await tassel(
      'place',
      at('photos/dark.jpg'),
      '--mark',
      at('mark.svg'),
      '--out',
      at('no.png'),
      ...args,
    );
    expect([code, stderr]).toEqual([2, expect.stringContaining(words)]);
    expect(existsSync(at('no.png'))).toBe(false);
  });
  it('never writes over a photo', async () => {
    const photo = at('photos/dark.jpg');
    const before = readFileSync(photo);
    expect((await tassel('place', photo, '--mark', at('mark.svg'), '--out', photo)).stderr).toContain('written over');
    expect((await tassel('place', at('photos'), '--mark', at('mark.svg'), '--out', at('photos'))).stderr).toContain(
      'written over',
    );
    expect(readFileSync(photo).equals(before)).toBe(true);
  });
});
