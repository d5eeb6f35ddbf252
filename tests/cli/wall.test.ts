import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { makeWall } from '../../bench/walls';
import { decodePicture } from '../../codecs/decodePicture';
import { readSvg } from '../../codecs/readSvg';
import { boundsOfDrawing } from '../../core/artwork/drawing';
import type { RectPx } from '../../core/params';
import { findExtents } from '../../core/raster/extents';
import { commandLine } from '../support/commandLine';
import { pngOf } from '../support/pictures';

const { at, tassel } = commandLine('wall');
let faults: Map<string, string | null>;

beforeAll(async () => {
  mkdirSync(at('logos'));
  const logos = await makeWall(12);
  faults = new Map(logos.map((l) => [l.name, l.fault]));
  for (const { name, picture } of logos) writeFileSync(at(`logos/${name}`), await pngOf(picture));
  writeFileSync(
    at('logos/sign.svg'),
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0H40V20H0Z" fill="#1f5a45"/></svg>',
  );
  writeFileSync(at('logos/notes.txt'), 'not a picture');
});

const open = async (file: string) => (await decodePicture(new Uint8Array(readFileSync(file)), file)).raster;

describe('a wall of logos', () => {
  it('says what is wrong with each, levels all and writes one file a slot under its own name', async () => {
    const { code, stdout } = await tassel(
      'wall',
      at('logos'),
      ...['--slot', '360x180', '--padding', '10%', '--out', at('out'), '--json'],
    );
    expect(code).toBe(0);
    const report = JSON.parse(stdout) as {
      file: string;
      problems: string[];
      scale: number;
      opticalSizeBefore: number;
      opticalSizeAfter: number;
    }[];
    expect(report).toHaveLength(faults.size + 1);
    for (const { file, problems } of report) {
      const fault = faults.get(file);
      if (fault) expect(problems, file).toContain(fault);
      else expect(problems, file).toEqual([]);
    }
    const spread = (pick: (r: (typeof report)[0]) => number) => {
      const sizes = report.map(pick);
      const mean = sizes.reduce((a, b) => a + b, 0) / sizes.length;
      return Math.sqrt(sizes.reduce((s, v) => s + (v - mean) ** 2, 0) / sizes.length) / mean;
    };
    expect(spread((r) => r.opticalSizeAfter)).toBeLessThan(spread((r) => r.opticalSizeBefore) / 3);
    for (const { file } of report) {
      const name = file.replace(/\.\w+$/, '');
      const [one, two] = [await open(at(`out/${name}.png`)), await open(at(`out/${name}@2x.png`))];
      expect([one.width, one.height, two.width, two.height]).toEqual([360, 180, 720, 360]);
      // Inside the padding, and clear round it: a white box is gone.
      const box = findExtents(one);
      expect(box, file).not.toBeNull();
      if (!box) continue;
      expect(box.x, file).toBeGreaterThanOrEqual(17);
      expect(box.y, file).toBeGreaterThanOrEqual(17);
      expect(box.x + box.width, file).toBeLessThanOrEqual(343);
      expect(box.y + box.height, file).toBeLessThanOrEqual(163);
    }
    const whole = await open(at('out/wall.png'));
    expect([whole.width, whole.height]).toEqual([1440, 180 * Math.ceil(report.length / 4)]);
    // Paths stay paths, as large and where the pixels are.
    const paths = readSvg(new Uint8Array(readFileSync(at('out/sign.svg'))), 'sign.svg');
    const box = boundsOfDrawing(paths) as RectPx;
    const pixels = findExtents(await open(at('out/sign.png'))) as RectPx;
    const times = paths.widthPx / 360;
    expect(paths.heightPx / times).toBeCloseTo(180, 3);
    for (const side of ['x', 'y', 'width', 'height'] as const)
      expect(Math.abs(box[side] / times - pixels[side])).toBeLessThan(1.5);
    const page = readFileSync(at('out/wall.html'), 'utf8');
    for (const [, file] of page.matchAll(/src="([^"]+)"/g))
      expect(readdirSync(at('out'))).toContain(decodeURIComponent(file));
    expect(readFileSync(at('out/wall.pdf'), 'latin1')).toMatch(/^%PDF/);
  });
  it.each([
    [['--slot', '360', '--out', 'o'], /--slot takes a size such as 360x180, got "360"/],
    [['--slot', '360x180', '--padding', '60%', '--out', 'o'], /--padding takes less than half of the slot/],
    [['--slot', '360x180', '--level', '2', '--out', 'o'], /--level takes a number from 0 to 1/],
    [['--slot', '360x180', '--ground', 'red', '--out', 'o'], /--ground takes a colour such as/],
    [['--slot', '360x180'], /wall needs --out/],
  ])('%j is refused in one line, and nothing is written', async (words, message) => {
    const before = readdirSync(at('.')).length;
    const { code, stderr } = await tassel('wall', at('logos'), ...words.map((w) => (w === 'o' ? at('never') : w)));
    expect(code).toBe(2);
    expect(stderr).toMatch(message);
    expect(readdirSync(at('.'))).toHaveLength(before);
  });
  it('keeps apart files of one name, and one that is called as the wall is', async () => {
    mkdirSync(at('alike'));
    for (const name of ['wall.png', 'mark.png', 'mark.svg'])
      writeFileSync(
        at(`alike/${name}`),
        readFileSync(at(name.endsWith('svg') ? 'logos/sign.svg' : 'logos/sound-1.png')),
      );
    const { code } = await tassel('wall', at('alike'), '--slot', '90x60', '--out', at('apart'));
    expect(code).toBe(0);
    const files = readdirSync(at('apart'));
    expect(files).toHaveLength(10);
    expect(files).toEqual(expect.arrayContaining(['wall.png', 'mark.png', 'mark-2.png', 'wall-2.png']));
    expect((await open(at('apart/wall.png'))).width).toBe(270);
  });
  it('names the file that cannot be read', async () => {
    mkdirSync(at('bad'));
    writeFileSync(at('bad/torn.png'), Buffer.from('89504e470d0a1a0a0000', 'hex'));
    const { code, stderr } = await tassel('wall', at('bad'), '--slot', '360x180', '--out', at('never'));
    expect(code).toBe(1);
    expect(stderr).toContain('torn.png');
    expect(readdirSync(at('.'))).not.toContain('never');
  });
});
