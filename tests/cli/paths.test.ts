import { spawnSync } from 'node:child_process';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';
import { decodePicture } from '../../codecs/decodePicture';
import { chunkTypes } from '../../codecs/readBackPng';
import { initialRecipe } from '../../core/recipe/recipe';
import { exactCoverage, ringsOfSvg } from '../support/exactCoverage';
import { disc, drawMark, onGround, pngOf } from '../support/pictures';

const { at, tassel, folder } = commandLine('paths');
const text = (name: string) => readFileSync(at(name), 'utf8');
const picture = async (name: string) => (await decodePicture(readFileSync(at(name)), name)).raster;
const outside = (program: string, ...args: string[]) => spawnSync(program, args, { encoding: 'utf8' });
const type = (out: string, ...more: string[]) =>
  tassel('type', 'Lock © Ferry', '--typeface', 'great-vibes', '--out', at(out), ...more);

describe('a typed mark', () => {
  it('is an SVG file of one path in a tight view and nothing else, without a finding of xmllint', async () => {
    expect(await type('mark.svg', '--colour', '#1F5A45')).toMatchObject({ code: 0, stderr: '' });
    const svg = text('mark.svg');
    expect(svg.match(/<\/?\w+/g)).toEqual(['<svg', '<path', '</svg']);
    expect(svg).toContain('fill="#1f5a45"');
    expect(outside('xmllint', '--noout', at('mark.svg'))).toMatchObject({ status: 0, stderr: '' });
    const [, w, h] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) as RegExpExecArray;
    const points = ringsOfSvg(svg, Number(w), Number(h), 200).flat();
    for (const [axis, most] of [Number(w), Number(h)].entries()) {
      expect(Math.min(...points.map((p) => p[axis]))).toBeCloseTo(0, 2);
      expect(Math.max(...points.map((p) => p[axis]))).toBeCloseTo(most, 2);
    }
  });
  it('is a PDF file of the width asked for, without a finding of qpdf, text or picture', async () => {
    expect((await type('mark.pdf', '--width-mm', '80')).code).toBe(0);
    expect(outside('qpdf', '--check', at('mark.pdf'))).toMatchObject({ status: 0, stderr: '' });
    const pdf = readFileSync(at('mark.pdf'), 'latin1');
    const [, width] = /\/MediaBox \[ ?0 0 ([\d.]+)/.exec(pdf) as RegExpExecArray;
    expect((Number(width) / 72) * 25.4).toBeCloseTo(80, 3);
    expect(pdf).not.toMatch(/\/Font|\/Image|\/Producer|CreationDate/);
    expect(outside('pdffonts', at('mark.pdf')).stdout.trim().split('\n')).toHaveLength(2);
  });
  it.each([64, 512, 6000])(
    'as a PNG of %d px is the exact area that its outline covers of every pixel, to 2 of 255',
    async (width) => {
      const short = (out: string, ...more: string[]) =>
        tassel('type', 'Lock', '--typeface', 'sacramento', '--out', at(out), ...more);
      await short('short.svg');
      expect((await short(`${width}.png`, '--width', String(width))).code).toBe(0);
      const raster = await picture(`${width}.png`);
      expect(raster.width).toBe(width);
      const truth = exactCoverage(
        ringsOfSvg(text('short.svg'), width, raster.height, width > 1000 ? 600 : 120),
        width,
        raster.height,
      );
      let worst = 0;
      for (let i = 0; i < truth.length; i++) worst = Math.max(worst, Math.abs(raster.data[i * 4 + 3] - truth[i] * 255));
      expect(worst).toBeLessThanOrEqual(2);
    },
  );
  it('claims a physical size only where one was asked for', async () => {
    await type('plain.png', '--width', '300');
    const typed = ['PLTE', 'tRNS', 'IDAT', 'IEND'];
    expect([...new Set(chunkTypes(readFileSync(at('plain.png'))))]).toEqual(['IHDR', 'sRGB', ...typed]);
    await type('print.png', '--width-mm', '50.8', '--ppi', '300');
    expect([...new Set(chunkTypes(readFileSync(at('print.png'))))]).toEqual(['IHDR', 'sRGB', 'pHYs', ...typed]);
    expect((await picture('print.png')).width).toBe(600);
  });
  it.each([
    [['--typeface', 'Comic'], 'There is no typeface "Comic"; there are great-vibes'],
    [['--typeface', 'caveat', '--width', '20', '--height', '9'], 'One size at a time: --width or --height'],
    [['--typeface', 'caveat', '--ppi', '300'], '--ppi goes with --width-mm'],
    [['--typeface', 'caveat', '--width', '3'], '--width takes a number from 8 to 16384'],
    [['--typeface', 'caveat', '--colour', 'red'], '--colour takes a colour such as'],
  ])('says what is wrong with %j, and leaves nothing behind', async (args, words) => {
    const before = readdirSync(folder).length;
    const done = await tassel('type', 'A', '--out', at('wrong.png'), ...args);
    expect(done.code).toBe(2);
    expect(done.stderr).toContain(words);
    expect(readdirSync(folder)).toHaveLength(before);
  });
  it('names a letter that the typeface lacks, and an ending that it cannot write', async () => {
    expect((await tassel('type', 'Ж', '--typeface', 'caveat', '--out', at('x.svg'))).stderr).toContain('no “Ж”');
    expect((await tassel('type', 'A', '--typeface', 'caveat', '--out', at('x.bmp'))).stderr).toContain(
      '.png, .webp, .avif, .tif, .jpg, .svg, .pdf, .eps, .ico',
    );
  });
});

describe('export', () => {
  it('keeps the paths of an SVG file, whatever it is written as', async () => {
    await type('own.svg');
    expect((await tassel('export', at('own.svg'), '--out', at('again.svg'), '--height', '50')).code).toBe(0);
    const d = (name: string) => / d="([^"]*)"/.exec(text(name))?.[1];
    expect(d('again.svg')).toBe(d('own.svg'));
    expect(text('again.svg')).toContain('height="50"');
    expect((await tassel('export', at('own.svg'), '--out', at('again.pdf'))).code).toBe(0);
    expect(outside('qpdf', '--check', at('again.pdf')).status).toBe(0);
    await tassel('export', at('own.svg'), '--out', at('again.png'), '--width', '700');
    await type('same.png', '--width', '700');
    expect(readFileSync(at('again.png'))).toEqual(readFileSync(at('same.png')));
  });
  it('cuts a picture out first, trims it, and asks for paths in vain', async () => {
    writeFileSync(
      at('logo.png'),
      await pngOf(onGround(drawMark(300, 200, disc(120, 90, 50), [31, 90, 69]), [255, 255, 255])),
    );
    expect((await tassel('export', at('logo.png'), '--out', at('cut.png'))).code).toBe(0);
    const cut = await picture('cut.png');
    expect([cut.width, cut.height]).toEqual([100, 100]);
    expect([...cut.data.subarray((50 * 100 + 50) * 4, (50 * 100 + 50) * 4 + 4)]).toEqual([31, 90, 69, 255]);
    expect(cut.data[3]).toBe(0);
    const none = await tassel('export', at('logo.png'), '--out', at('cut.svg'));
    expect([none.code, none.stderr]).toEqual([1, expect.stringContaining('logo.png: SVG holds paths')]);
  });
  it('makes the master by a recipe that is given', async () => {
    const recipe = initialRecipe();
    const stages = { ...recipe.stages, crop: { ...recipe.stages.crop, rect: { x: 0, y: 0, width: 120, height: 200 } } };
    writeFileSync(at('half.json'), JSON.stringify({ ...recipe, stages }));
    await tassel('export', at('logo.png'), '--out', at('half.png'), '--recipe', at('half.json'));
    expect((await picture('half.png')).width).toBe(50);
    writeFileSync(at('odd.json'), JSON.stringify({ ...recipe, sparkle: 1 }));
    expect(
      (await tassel('export', at('logo.png'), '--out', at('odd.png'), '--recipe', at('odd.json'))).stderr,
    ).toContain('there is no "sparkle"');
  });
  it('leaves a cut-out as delivered files are: sRGB, and no physical size', async () => {
    await tassel('cutout', at('logo.png'), '--out', at('cutout.png'));
    expect([...new Set(chunkTypes(readFileSync(at('cutout.png'))))]).toEqual(['IHDR', 'sRGB', 'IDAT', 'IEND']);
  });
});
