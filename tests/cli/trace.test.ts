import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';
import { renderSvgFile } from '../../codecs/renderSvg';
import { disc, drawMark, either, onGround, pixel, pngOf, ring } from '../support/pictures';

const { at, tassel } = commandLine('trace');

const shape = either(ring(130, 110, 90, 60), disc(130, 110, 24));
const mark = drawMark(280, 220, shape, [31, 90, 69]);
beforeAll(async () => {
  for (let i = 0; i < mark.data.length; i += 4)
    if ((i / 4) % 280 < 160 && (i / 4) % 280 > 100) mark.data.set([181, 50, 43], i);
  writeFileSync(at('clear.png'), await pngOf(mark));
  writeFileSync(at('ground.png'), await pngOf(onGround(drawMark(280, 220, shape, [31, 90, 69]), [250, 248, 240])));
});

describe('trace', () => {
  it('draws a picture with a ground in one colour on its own grid, with the numbers asked for', async () => {
    const { code, stdout } = await tassel('trace', at('ground.png'), '--out', at('one.svg'), '--json');
    expect(code).toBe(0);
    const report = JSON.parse(stdout) as Record<string, number | string[]>;
    expect(Object.keys(report)).toEqual(
      expect.arrayContaining(['nodes', 'meanDeviationPx', 'largestDeviationPx', 'colours', 'pieces']),
    );
    expect(report.colours).toEqual(['#1f5a45']);
    expect(report.pieces).toBe(2);
    expect(report.meanDeviationPx as number).toBeLessThan(0.06);
    expect(report.thinnestPx as number).toBeGreaterThan(29);
    expect(report.thinnestPx as number).toBeLessThan(31);
    const svg = readFileSync(at('one.svg'), 'utf8');
    expect(svg).toContain('viewBox="0 0 280 220"');
    const drawn = renderSvgFile(svg, 280, 220);
    const truth = drawMark(280, 220, shape, [31, 90, 69]);
    let off = 0;
    for (let i = 3; i < truth.data.length; i += 4) off += Math.abs(truth.data[i] - drawn.data[i]) / 255;
    expect(off).toBeLessThan(60);
  });
  it('finds the colours by itself, or takes so many as are asked for', async () => {
    const colours = async (...args: string[]) => {
      const { stdout } = await tassel('trace', at('clear.png'), '--out', at('two.svg'), '--json', ...args);
      return (JSON.parse(stdout) as { colours: string[] }).colours;
    };
    expect((await colours('--colours', 'auto')).sort()).toEqual(['#1f5a45', '#b5322b']);
    expect(pixel(renderSvgFile(readFileSync(at('two.svg'), 'utf8'), 280, 220), 130, 40)).toEqual([181, 50, 43, 255]);
    expect(await colours('--colours', '1')).toHaveLength(1);
  });
  it.each([
    [['--colours', '0'], /--colours/],
    [['--colours', 'some'], /--colours/],
    [['--tolerance', '-1'], /--tolerance/],
    [['--smallest', '100000'], /nothing is large enough/],
  ])('refuses %j and writes nothing', async (args, words) => {
    const { code, stderr } = await tassel('trace', at('ground.png'), '--out', at('none.svg'), ...args);
    expect(code).not.toBe(0);
    expect(stderr).toMatch(words);
    expect(existsSync(at('none.svg'))).toBe(false);
  });
});
