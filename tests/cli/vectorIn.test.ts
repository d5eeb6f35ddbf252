import { PDFDocument, rgb } from '@cantoo/pdf-lib';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';
import { renderSvgFile } from '../../codecs/renderSvg';
import { pixel } from '../support/pictures';

const { at, tassel } = commandLine('vector');

beforeAll(async () => {
  const signs = [0, 1, 2, 3, 4, 5].map((k) => {
    const [x, y] = [30 + (k % 3) * 110, 30 + Math.floor(k / 3) * 100];
    return (
      `<g transform="translate(${x} ${y})"><circle cx="30" cy="14" r="13" ` +
      `fill="#1f5a45"/><path d="M6 34H54V60H6Z" fill="none" stroke="#b5322b" ` +
      `stroke-width="5"/></g>`
    );
  });
  writeFileSync(
    at('sheet.svg'),
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 350 230"><rect width="350" ` +
      `height="230" fill="#fff"/>${signs.join('')}</svg>`,
  );
  const pdf = await PDFDocument.create();
  pdf.addPage([300, 200]);
  const page = pdf.addPage([400, 300]);
  page.drawCircle({ x: 100, y: 100, size: 40, color: rgb(0.2, 0.4, 0.6) });
  page.drawRectangle({ x: 200, y: 200, width: 60, height: 40, color: rgb(0.1, 0.4, 0.3), opacity: 0.5 });
  page.drawText('Not a path', { x: 205, y: 210, size: 10 });
  writeFileSync(at('review.pdf'), await pdf.save());
});

describe('split', () => {
  it('makes a file of each picture of a sheet, in rows, without what lies behind them', async () => {
    const { code, stdout } = await tassel('split', at('sheet.svg'), '--out', at('signs'), '--json');
    expect(code).toBe(0);
    const list = JSON.parse(stdout) as { file: string; x: number; y: number; width: number; height: number }[];
    expect(list.map((s) => s.file)).toEqual(['01.svg', '02.svg', '03.svg', '04.svg', '05.svg', '06.svg']);
    expect(readdirSync(at('signs')).sort()).toEqual(list.map((s) => s.file));
    expect(list[4].x).toBeCloseTo(140 + 3.5, 1);
    expect(list[4].y).toBeCloseTo(130 + 1, 1);
    expect([list[4].width, list[4].height].map(Math.round)).toEqual([53, 62]);
    const drawn = renderSvgFile(readFileSync(join(at('signs'), '05.svg'), 'utf8'), 530, 615);
    expect(pixel(drawn, 265, 130)).toEqual([31, 90, 69, 255]);
    expect(pixel(drawn, 265, 590)).toEqual([181, 50, 43, 255]);
    expect(pixel(drawn, 265, 450)[3]).toBe(0);
  });
  it('refuses what is no drawing, and leaves no folder behind', async () => {
    const { code, stderr } = await tassel('split', at('review.pdf'), '--out', at('none'));
    expect([code === 0, existsSync(at('none'))]).toEqual([false, false]);
    expect(stderr).toContain('review.pdf');
  });
});

describe('pick', () => {
  it('takes what lies in a rectangle off a page, as paths', async () => {
    const { code, stdout } = await tassel(
      'pick',
      at('review.pdf'),
      '--page',
      '2',
      '--rect',
      '40,140,120,120',
      '--out',
      at('disc.svg'),
      '--json',
    );
    expect(code).toBe(0);
    const report = JSON.parse(stdout) as Record<string, number>;
    expect(report).toMatchObject({ objects: 1, texts: 0 });
    expect([report.x, report.y, report.width, report.height].map(Math.round)).toEqual([60, 160, 80, 80]);
    const svg = readFileSync(at('disc.svg'), 'utf8');
    expect(svg.match(/C/g)?.length).toBeLessThanOrEqual(8);
    expect(pixel(renderSvgFile(svg, 80, 80), 40, 40)).toEqual([51, 102, 153, 255]);
  });
  it('keeps what is see-through, and says when text that is no path stands there', async () => {
    const { stdout, stderr } = await tassel(
      'pick',
      at('review.pdf'),
      '--page',
      '2',
      '--rect',
      '190,50,90,60',
      '--out',
      at('box.svg'),
      '--json',
    );
    expect(JSON.parse(stdout)).toMatchObject({ objects: 1, texts: 1 });
    expect(stderr).toContain('text');
    expect(readFileSync(at('box.svg'), 'utf8')).toContain('fill-opacity="0.5"');
  });
  it.each([
    [['--page', '9'], /2 pages/],
    [['--page', '1'], /nothing drawn as paths/],
    [['--page', '2', '--rect', '1,2,3'], /--rect/],
  ])('refuses %j and writes nothing', async (args, words) => {
    const { code, stderr } = await tassel('pick', at('review.pdf'), ...args, '--out', at('no.svg'));
    expect(code).not.toBe(0);
    expect(stderr).toMatch(words);
    expect(existsSync(at('no.svg'))).toBe(false);
  });
  it('refuses a damaged file by name', async () => {
    writeFileSync(at('broken.pdf'), readFileSync(at('review.pdf')).subarray(0, 300));
    const { code, stderr } = await tassel('pick', at('broken.pdf'), '--page', '1', '--out', at('no.svg'));
    expect(code).not.toBe(0);
    expect(stderr).toMatch(/broken\.pdf is damaged/);
  });
});

it('inspect knows paths, pages and the pictures of a sheet', async () => {
  const read = async (name: string) => JSON.parse((await tassel('inspect', at(name), '--json')).stdout) as object;
  expect(await read('sheet.svg')).toMatchObject({ format: 'svg', vector: true, way: 'vector', pages: 1 });
  expect(((await read('sheet.svg')) as { clusters: unknown[] }).clusters).toHaveLength(6);
  expect(await read('review.pdf')).toMatchObject({ format: 'pdf', pages: 2, width: 300, height: 200, vector: false });
});
