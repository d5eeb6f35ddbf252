import { spawnSync } from 'node:child_process';
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
  it('lays a picture of one colour, a plate or a strip, on an exact frame as it came', async () => {
    const flat = sharp({ create: { width: 600, height: 120, channels: 3, background: '#1f5a45' } });
    writeFileSync(at('plate.png'), await flat.png().toBuffer());
    const words = ['--mark', at('plate.png'), '--variant', 'colour', '--at', 'lower', '--inset', '0', '--size', '100%'];
    const ended = await tassel('place', '800x600:#ffffff', ...words, '--out', at('framed.png'));
    expect([ended.stderr, ended.code]).toEqual(['', 0]);
    const framed = await pixels('framed.png');
    expect([framed.at(2, 439), framed.at(2, 440), framed.at(797, 597)]).toEqual([
      [255, 255, 255, 255],
      [31, 90, 69, 255],
      [31, 90, 69, 255],
    ]);
  });
  it('takes the variant that reads best on each photo, at the very pixel, and passes on no location', async () => {
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
    const exif = (await sharp(readFileSync(at('out/dark.jpg'))).metadata()).exif as Buffer;
    expect(exif.includes('Somebody')).toBe(true);
    expect(spawnSync('exiftool', ['-s', '-GPS*', at('out/dark.jpg')], { encoding: 'utf8' }).stdout).toBe('');
    expect(spawnSync('exiftool', ['-s', '-GPS*', at('photos/dark.jpg')], { encoding: 'utf8' }).stdout).toContain(
      'GPSLat',
    );
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

describe('an exact frame of a photo, two marks and a strip', () => {
  const frame = async (heightPx: number, out: string) => {
    const own = at('mark.svg');
    const items = [
      { mark: own, variant: 'black', at: 'upper-left', inset: 10, size: 100 },
      { mark: own, variant: 'reversed', at: '320,150', size: '20%' },
      { mark: { strip: '#1f5a45', edge: 'lower', heightPx } },
    ];
    writeFileSync(at('P.json'), JSON.stringify({ items, fit: { x: 0, y: 0, width: 640, height: 320 } }));
    const photo = sharp({ create: { width: 1920, height: 1080, channels: 3, background: '#806040' } });
    writeFileSync(at('wide.jpg'), await photo.jpeg().toBuffer());
    const words = ['--placement', at('P.json'), '--out', at(out), '--report', at('p.json')];
    return tassel('place', at('wide.jpg'), '640x360', ...words);
  };
  it('leaves no gap, the strip on its pixel row, flat under the exact name', async () => {
    const { stderr, code } = await frame(40, 'TITLE.PNG');
    expect([stderr, code]).toEqual(['', 0]);
    const [one] = report('p.json');
    expect(one.gaps).toBe(0);
    expect(one.items.map((i) => [i.variant, i.box])).toEqual([
      ['black', { x: 10, y: 10, width: 100, height: 50 }],
      ['reversed', { x: 256, y: 118, width: 128, height: 64 }],
      [null, { x: 0, y: 320, width: 640, height: 40 }],
    ]);
    const shown = await pixels('TITLE.PNG');
    expect(spawnSync('identify', ['-format', '%m %wx%h %A', at('TITLE.PNG')], { encoding: 'utf8' }).stdout).toMatch(
      /^PNG 640x360 (False|Undefined)$/,
    );
    for (const x of [0, 333, 639]) {
      expect(shown.at(x, 319).map((v, c) => Math.abs(v - [0x80, 0x60, 0x40, 255][c]) <= 2)).not.toContain(false);
      expect(shown.at(x, 320)).toEqual([0x1f, 0x5a, 0x45, 255]);
    }
  });
  it('a part of a frame that nobody names is refused', async () => {
    const { code, stderr } = await tassel('place', at('wide.jpg'), '--placement', at('P.json'), '--out', at('no.png'));
    expect([code, stderr]).toEqual([2, expect.stringContaining('name it beside the photo')]);
  });
  it('a strip one pixel short is found, and where', async () => {
    const { stderr } = await frame(39, 'short.png');
    expect(report('p.json')[0].gaps).toBe(640);
    expect(stderr).toContain('nothing covers 640 px, in 640 × 1 px at 0, 320');
  });
});

describe('a photo of another colour profile', () => {
  it.each(['jpg', 'png', 'webp'])('stays in it as %s, the mark in the colour that it has', async (ending) => {
    const photo = sharp({ create: { width: 600, height: 400, channels: 3, background: '#6f8f3f' } });
    writeFileSync(at('p3.jpg'), await photo.withIccProfile('p3').jpeg({ quality: 95 }).toBuffer());
    const words = ['--mark', at('mark.svg'), '--variant', 'colour', '--size', '200', '--out', at(`p3-out.${ending}`)];
    expect((await tassel('place', at('p3.jpg'), ...words)).stderr).toBe('');
    const [before, after] = [readFileSync(at('p3.jpg')), readFileSync(at(`p3-out.${ending}`))];
    expect((await sharp(after).metadata()).icc?.equals((await sharp(before).metadata()).icc as Buffer)).toBe(true);
    const shown = await pixels(`p3-out.${ending}`);
    const off = (x: number, y: number, rgb: number[]) =>
      Math.max(...rgb.map((v, c) => Math.abs(v - shown.at(x, y)[c])));
    expect(off(480, 330, [0x1f, 0x5a, 0x45])).toBeLessThanOrEqual(4);
    expect(off(100, 100, [0x6f, 0x8f, 0x3f])).toBeLessThanOrEqual(4);
    // In the photo's own numbers green is another one.
    const own = await sharp(after, { ignoreIcc: true }).raw().toBuffer({ resolveWithObject: true });
    const p = (330 * 600 + 480) * own.info.channels;
    expect(Math.abs(own.data[p] - 0x1f)).toBeGreaterThan(8);
  });
});

describe('a folder', () => {
  it('with a file that is none leaves the others done, and says which', async () => {
    mkdirSync(at('mixed'));
    for (const name of ['a.jpg', 'c.jpg']) writeFileSync(at(`mixed/${name}`), readFileSync(at('photos/dark.jpg')));
    writeFileSync(at('mixed/b.jpg'), 'no picture');
    const words = ['--mark', at('mark.svg'), '--name', '{photo}-marked', '--long-edge', '450'];
    const { code, stderr } = await tassel('place', at('mixed'), ...words, '--out', at('mixed-out'));
    expect([code, stderr]).toEqual([1, expect.stringContaining('b.jpg')]);
    expect(readdirSync(at('mixed-out'))).toEqual(['a-marked.jpg', 'c-marked.jpg']);
    expect(await sharp(at('mixed-out/a-marked.jpg')).metadata()).toMatchObject({ width: 450, height: 300 });
  });
});
