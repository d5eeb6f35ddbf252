import type { Recipe } from '../../core/recipe/recipe';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { photographSheet } from '../../core/ink/testSheet';
import { decodePicture } from '../../codecs/decodePicture';
import { drawMark, jpegOf, onGround, pixel, pngOf, ring } from '../support/pictures';

const root = join(import.meta.dirname, '../..');
const dir = mkdtempSync(join(tmpdir(), 'tassel-cli-'));
const at = (name: string) => join(dir, name);
const tassel = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/tassel.mjs'), ...args], {
    encoding: 'utf8',
    cwd: dir,
  });
  return { status, stdout, stderr };
};
const badge = drawMark(220, 200, ring(110, 100, 80, 50), [31, 90, 69]);
const open = async (name: string) => (await decodePicture(readFileSync(at(name)), name)).raster;

beforeAll(async () => {
  writeFileSync(at('badge.png'), await pngOf(onGround(badge, [244, 239, 228])));
  writeFileSync(at('clear.png'), await pngOf(badge));
  writeFileSync(at('sheet.jpg'), await jpegOf(photographSheet({ noise: 3, falloff: 0.3 }, -5).picture));
  writeFileSync(at('broken.png'), (await pngOf(onGround(badge, [255, 255, 255]))).subarray(0, 200));
});
afterAll(() => rmSync(dir, { recursive: true, force: true }));

describe('inspect', () => {
  it('tells size, way, ground and enclosed areas as JSON', () => {
    const { status, stdout } = tassel('inspect', 'badge.png', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      width: 220,
      height: 200,
      way: 'flat',
      ground: '#f4efe4',
      noise: 0,
      transparency: { channel: true },
      areas: [{ decision: 'open' }],
    });
    expect(JSON.parse(tassel('inspect', 'clear.png', '--json').stdout)).toMatchObject({
      way: 'transparent',
      areas: [],
    });
  });
  it('prints plain rows for people', () =>
    expect(tassel('inspect', 'badge.png').stdout).toMatch(/proposed way\s+flat/));
});

describe('what the engine compiled', () => {
  const cache = join(root, '.cache/cli');
  const kept = () =>
    readdirSync(cache)
      .filter((n) => !n.endsWith('.tmp'))
      .map((n) => join(cache, n, 'cutout.compiled'))
      .filter(existsSync);
  it('is kept for the next call, which does not mind when it is damaged', () => {
    expect(tassel('cutout', 'badge.png', '--out', 'kept.png').status).toBe(0);
    expect(kept()).toHaveLength(1);
    const whole = readFileSync(at('kept.png'));
    for (const damage of ['nonsense', '']) {
      writeFileSync(kept()[0], damage);
      expect(tassel('cutout', 'badge.png', '--out', 'kept.png')).toMatchObject({ status: 0, stderr: '' });
      expect(readFileSync(at('kept.png')).equals(whole)).toBe(true);
      expect(readFileSync(kept()[0]).length, 'and keeps it anew').toBeGreaterThan(10_000);
    }
  });
  it('is not kept from a call that came to nothing', () => {
    const before = readFileSync(kept()[0]);
    expect(tassel('cutout', 'nowhere.png', '--out', 'x.png').status).toBe(1);
    expect(tassel('../../cutout').status).toBe(2);
    expect(readFileSync(kept()[0]).equals(before)).toBe(true);
    expect(readdirSync(join(kept()[0], '..')).filter((n) => !/^(main\.cjs|[a-z]+\.compiled)$/.test(n))).toEqual([]);
  });
});

describe('cutout', () => {
  it('writes straight alpha on the working picture’s own grid', async () => {
    expect(tassel('cutout', 'badge.png', '--out', 'out.png').status).toBe(0);
    const out = await open('out.png');
    expect([out.width, out.height]).toEqual([220, 200]);
    expect(pixel(out, 110, 100)[3]).toBe(0);
    expect(pixel(out, 110, 36)).toEqual([31, 90, 69, 255]);
    expect(pixel(out, 0, 0).slice(0, 3)).toEqual([31, 90, 69]); // clear pixels carry the mark's colour
  });
  it('takes decisions on enclosed areas by points, and trims', async () => {
    expect(tassel('cutout', '--solid', '110,100', '--trim', 'badge.png', '--out', 'solid.png').status).toBe(0);
    const out = await open('solid.png');
    expect(out.width).toBeLessThan(166);
    expect(pixel(out, 80, 80)[3]).toBe(255);
  });
  it('saves a recipe that makes the same file again', async () => {
    expect(
      tassel(
        'cutout',
        'badge.png',
        '--out',
        'a.png',
        '--choke',
        '-0.5',
        '--solid',
        '110,100',
        '--save-recipe',
        'r.json',
      ).status,
    ).toBe(0);
    expect(tassel('cutout', 'badge.png', '--out', 'b.png', '--recipe', 'r.json').status).toBe(0);
    expect(readFileSync(at('b.png'))).toEqual(readFileSync(at('a.png')));
    expect(JSON.parse(readFileSync(at('r.json'), 'utf8')).stages.cutOut).toMatchObject({
      choke: -0.5,
      areas: [{ x: 110, y: 100, decision: 'solid' }],
    });
  });
  it('takes the ground’s colours as given, more than one as well', async () => {
    const two = onGround(badge, [244, 239, 228]);
    for (let y = 0; y < 200; y++)
      for (let x = 110; x < 220; x++) {
        const at = (y * 220 + x) * 4;
        const a = badge.data[at + 3] / 255;
        for (let c = 0; c < 3; c++) two.data[at + c] = Math.round(badge.data[at + c] * a + [52, 92, 140][c] * (1 - a));
      }
    writeFileSync(at('two.png'), await pngOf(two));
    expect(
      tassel(
        'cutout',
        'two.png',
        '--out',
        'two-out.png',
        '--ground',
        '#f4efe4',
        '--ground',
        '345c8c',
        '--clean-up',
        '0',
        '--save-recipe',
        'two.json',
      ).status,
    ).toBe(0);
    expect(JSON.parse(readFileSync(at('two.json'), 'utf8')).stages.cutOut).toMatchObject({
      way: 'flat',
      ground: ['#f4efe4', '#345c8c'],
      cleanUp: 0,
    });
    const out = await open('two-out.png');
    for (const [x, y] of [
      [5, 5],
      [215, 195],
      [66, 100],
      [105, 100],
      [116, 100],
    ])
      expect(pixel(out, x, y)[3], `${x}, ${y}`).toBe(0);
    for (const [x, y] of [
      [45, 100],
      [175, 100],
    ])
      expect(pixel(out, x, y)).toEqual([31, 90, 69, 255]);
  });
  it('reports findings and times', () => {
    tassel('cutout', 'badge.png', '--out', 'a.png', '--report', 'report.json');
    const report = JSON.parse(readFileSync(at('report.json'), 'utf8'));
    expect(report.findings.map((f: { id: string }) => f.id)).toContain('source-small');
    expect(report.timesMs.edges).toBeGreaterThan(0);
  });
  it('keeps artwork that is transparent already', async () => {
    expect(tassel('cutout', 'clear.png', '--out', 'kept.png').status).toBe(0);
    const out = await open('kept.png');
    for (let i = 3; i < out.data.length; i += 4) expect(out.data[i]).toBe(badge.data[i]);
  });
  it('does a folder with one bad file among good ones: the good ones are written, the bad one is named', async () => {
    const folder = mkdtempSync(join(dir, 'in-'));
    for (const k of [1, 2, 3])
      writeFileSync(join(folder, `m${k}.jpg`), await jpegOf(onGround(badge, [255, 255, 250 - k])));
    writeFileSync(join(folder, 'm1.png'), readFileSync(at('badge.png')));
    writeFileSync(join(folder, 'notes.txt'), 'hello');
    const { status, stderr, stdout } = tassel('cutout', folder, '--out', 'many');
    expect(status).toBe(1);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain('notes.txt');
    expect(stdout).toContain('5 files, 1 failed');
    expect(readdirSync(at('many')).sort()).toEqual(['m1-jpg.png', 'm1-png.png', 'm2.png', 'm3.png']);
  });
  it.each([
    [['cutout', 'missing.png', '--out', 'x.png'], 1, 'missing.png cannot be read: there is no such file'],
    [['cutout', 'broken.png', '--out', 'x.png'], 1, 'broken.png is damaged'],
    [['cutout', 'badge.png'], 2, 'needs --out'],
    [['cutout', 'badge.png', '--out', 'x.png', '--tolerance', '500'], 2, '--tolerance takes a number from 0 to 96'],
    [
      ['cutout', 'badge.png', '--out', 'x.png', '--ground', 'white'],
      2,
      '--ground takes a colour such as #f4efe4, got "white"',
    ],
    [['cutout', 'badge.png', '--out', 'x.png', '--clean-up', '3'], 2, '--clean-up takes a number from 0 to 2'],
    [['cutout', 'badge.png', '--out', 'x.png', '--solid', 'middle'], 2, '--solid takes points'],
    [['cutout', 'badge.png', '--out', 'no/such/folder/x.png'], 1, 'cannot be written'],
    [['cutout', 'badge.png', '--out', 'x.png', '--recipe', 'badge.png'], 1, 'badge.png is not a recipe'],
    [['polish', 'badge.png'], 2, 'no verb "polish"'],
  ])('%j ends with %i and one line naming the trouble', (args, code, words) => {
    const { status, stderr } = tassel(...args);
    expect(status).toBe(code);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain(words);
    expect(existsSync(at('x.png'))).toBe(false);
  });
  it('explains itself', () => {
    for (const verb of ['inspect', 'cutout']) expect(tassel(verb, '--help').stdout).toContain(`tassel ${verb}`);
    expect(tassel('--help').stdout).toContain('inspect');
  });
});

describe('ink on paper', () => {
  interface MarkRow {
    x: number;
    y: number;
    width: number;
    height: number;
    angleDeg: number;
  }
  const marksOf = () =>
    JSON.parse(tassel('inspect', 'sheet.jpg', '--json').stdout) as { way: string; marks: MarkRow[] };
  it('inspect lists the signatures with place and turn', () => {
    const { way, marks } = marksOf();
    expect(way).toBe('paper');
    expect(marks).toHaveLength(3);
    for (const m of marks) expect(Math.abs(m.angleDeg + 5)).toBeLessThan(2);
    expect(marks[0]).toEqual({
      x: expect.any(Number),
      y: expect.any(Number),
      width: expect.any(Number),
      height: expect.any(Number),
      angleDeg: expect.any(Number),
    });
  });
  it('cutout takes all ink on the sheet’s own grid, or one mark by its number', async () => {
    expect(tassel('cutout', 'sheet.jpg', '--out', 'ink.png', '--way', 'paper').status).toBe(0);
    expect(tassel('cutout', 'sheet.jpg', '--out', 'second.png', '--way', 'paper', '--mark', '2').status).toBe(0);
    const [all, second] = [await open('ink.png'), await open('second.png')];
    expect([all.width, all.height, second.width]).toEqual([640, 460, 640]);
    const box = marksOf().marks[1];
    for (let y = 0; y < 460; y += 2)
      for (let x = 0; x < 640; x += 2) {
        const isIn = x > box.x - 4 && x < box.x + box.width + 4 && y > box.y - 4 && y < box.y + box.height + 4;
        if (!isIn) expect(pixel(second, x, y)[3], `${x}, ${y}`).toBe(0);
      }
    const count = (r: typeof all) => r.data.reduce((n, v, i) => n + (i % 4 === 3 && v > 127 ? 1 : 0), 0);
    expect(count(second)).toBeGreaterThan(0.2 * count(all));
    expect(count(second)).toBeLessThan(0.5 * count(all));
  });
  it('takes level, pen and weight, and writes them into the recipe', () => {
    expect(
      tassel(
        'cutout',
        'sheet.jpg',
        '--out',
        'a.png',
        '--way',
        'paper',
        '--level',
        '0.3',
        '--pen',
        'solid',
        '--weight',
        '-0.5',
        '--keep-lines',
        '--save-recipe',
        'ink.json',
      ).status,
    ).toBe(0);
    const saved = JSON.parse(readFileSync(at('ink.json'), 'utf8')) as Recipe;
    expect(saved.stages.cutOut).toMatchObject({ way: 'paper', level: 0.3, weight: -0.5, keepLines: true });
    expect(saved.variants[0].fill).toEqual({ id: 'asIs', params: { pen: 'solid' } });
  });
  it.each([
    [['--mark', '9'], 1, 'there is no mark 9; it holds 3'],
    [['--mark', 'two'], 2, '--mark takes a number'],
    [['--level', '7'], 2, '--level takes a number from 0 to 1'],
    [['--pen', 'quill'], 2, '--pen takes pressure or solid'],
  ])('says what is wrong with %j and writes nothing', (options, code, words) => {
    const { status, stderr } = tassel('cutout', 'sheet.jpg', '--out', 'never.png', '--way', 'paper', ...options);
    expect(status).toBe(code);
    expect(stderr).toContain(words);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(existsSync(at('never.png'))).toBe(false);
  });
});
