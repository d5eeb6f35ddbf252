import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { openSvg } from '../../codecs/readSvg';
import { readPdfPage } from '../../codecs/readPdfPage';
import { commandLine } from '../support/commandLine';
import { disc, drawMark, pixel, pngOf, ring } from '../support/pictures';

const { tassel: run, folder } = commandLine('variants');
const png = (file: string) => decodePicture(readFileSync(file), file).then((d) => d.raster);
const write = (name: string, value: unknown) => {
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify(value));
  return path;
};
const svg = join(folder, 'sign.svg');
writeFileSync(
  svg,
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 60"><path fill="#1f5a45" d="M10 10H70V50H10Z"/>' +
    '<circle cx="40" cy="30" r="8" fill="#ffffff"/></svg>',
);

describe('variants', () => {
  it('of a PNG with alpha keep its grid, and a named colour is that colour', async () => {
    const mark = join(folder, 'mark.png');
    writeFileSync(mark, await pngOf(drawMark(160, 120, ring(80, 60, 50, 30), [181, 50, 43])));
    const out = join(folder, 'a');
    const report = JSON.parse(
      (await run('variants', mark, '--out', out, '--set', 'black,reversed,colour=#1f3fbf', '--json')).stdout,
    );
    expect(report.map((r: { file: string }) => r.file)).toEqual(['black.png', 'reversed.png', 'colour.png']);
    expect(report[0]).toMatchObject({ width: 160, height: 120, offset: { x: 0, y: 0 } });
    expect(pixel(await png(join(out, 'colour.png')), 120, 60)).toEqual([31, 63, 191, 255]);
    expect(pixel(await png(join(out, 'reversed.png')), 120, 60)).toEqual([255, 255, 255, 255]);
  });
  it('tell by how much a page has grown, evenly', async () => {
    const mark = join(folder, 'dot.png');
    writeFileSync(mark, await pngOf(drawMark(60, 40, disc(30, 20, 18), [0, 0, 0])));
    const definition = write('def.json', {
      name: 'In a frame',
      fill: { id: 'asIs' },
      surrounds: [{ id: 'frameLine', params: { weight: 2, padding: 10, unit: 'px', colour: '#b5322b' } }],
    });
    const out = join(folder, 'b');
    const { stdout } = await run('variants', mark, '--out', out, '--definition', definition, '--json');
    const [one] = JSON.parse(stdout);
    expect(one).toMatchObject({ file: 'in-a-frame.png', width: 80, height: 60, offset: { x: 10, y: 10 } });
    const raster = await png(join(out, one.file));
    expect(pixel(raster, 10 + 30, 10 + 20)).toEqual([0, 0, 0, 255]);
    expect(pixel(raster, 10 + 30, 10 + 2 - 11)).toEqual([181, 50, 43, 255]);
  });
  it('of an SVG stay paths in its own units, their rims too, and the light inside is a gap', async () => {
    const rim = write('rim.json', {
      name: 'rim',
      fill: { id: 'oneColour', params: { colour: '#ffffff' } },
      surrounds: [{ id: 'rim', params: { width: 5, unit: 'px', colour: '#6a2a5b', join: 'mitre' } }],
    });
    const out = join(folder, 'c');
    await run('variants', svg, '--out', out, '--set', 'black', '--definition', rim, '--format', 'svg');
    const black = openSvg(readFileSync(join(out, 'black.svg')), 'black.svg');
    expect(black.drawing.shapes).toHaveLength(1);
    const text = readFileSync(join(out, 'rim.svg'), 'utf8');
    expect(text).toContain('viewBox="0 0 80 60"');
    expect(text).toContain('M75 55L5 55L5 5L75 5Z');
    await run('variants', svg, '--out', out, '--set', 'colour', '--format', 'pdf');
    const page = await readPdfPage(readFileSync(join(out, 'colour.pdf')), 'colour.pdf', 1);
    expect(page.shapes).toHaveLength(2);
  });
  it('refuse what cannot be, by name, and write nothing then', async () => {
    const out = join(folder, 'd');
    const glow = write('glow.json', { name: 'glowing', fill: { id: 'asIs' }, casts: [{ id: 'glow' }] });
    const softly = await run('variants', svg, '--out', out, '--set', 'black', '--definition', glow, '--format', 'svg');
    expect([softly.code, softly.stderr]).toEqual([
      1,
      expect.stringMatching(/sign\.svg.*glowing.*made of pixels \(Glow\)/),
    ]);
    expect(existsSync(out)).toBe(false);
    const odd = write('odd.json', { name: 'x', fill: { id: 'sparkle' } });
    expect((await run('variants', svg, '--out', out, '--definition', odd)).stderr).toMatch(
      /no fill "sparkle"; there are asIs/,
    );
    expect((await run('variants', svg, '--out', out, '--set', 'mauve')).code).toBe(2);
    writeFileSync(join(folder, 'none.json'), '{');
    const none = await run('variants', svg, '--out', out, '--definition', join(folder, 'none.json'));
    expect(none.stderr).toContain('none.json holds no JSON');
    expect(readdirSync(folder)).not.toContain('d');
  });
});
