import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';

const { at, tassel } = commandLine('sheet');
const printed = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' });
beforeAll(async () => {
  writeFileSync(
    at('mark.svg'),
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#1f5a45"/></svg>',
  );
  const small =
    '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40"><path d="M5 5h70v30H5z" fill="#1f5a45"/></svg>';
  writeFileSync(at('small.png'), await sharp(Buffer.from(small)).png().toBuffer());
  const photo = sharp({ create: { width: 600, height: 500, channels: 3, background: '#c8d0d8' } });
  writeFileSync(at('photo.jpg'), await photo.jpeg().toBuffer());
});
const sheet = (out: string, ...more: string[]) =>
  tassel('sheet', at('mark.svg'), '--paper', '10x8in', '--ppi', '300', '--out', at(out), ...more);

describe('a sheet of 10 by 8 inches', () => {
  it('is a PDF page of that size, its mark a path inside the opening of the mat', async () => {
    const { stdout, stderr } = await sheet('s.pdf', '--mat', '11x14in:9.5x7.5in', '--json');
    expect(stderr).toBe('');
    const [, width, height] = /Page size: +([\d.]+) x ([\d.]+) pts/.exec(printed('pdfinfo', at('s.pdf'))) ?? [];
    for (const [points, mm] of [
      [width, 254],
      [height, 203.2],
    ] as const)
      expect(Math.abs((Number(points) / 72) * 25.4 - mm)).toBeLessThan(0.05);
    expect(printed('pdfimages', '-list', at('s.pdf')).trim().split('\n')).toHaveLength(2);
    const { box, opening, page } = JSON.parse(stdout);
    expect(page).toMatchObject({ width: 3000, height: 2400 });
    execFileSync('pdftoppm', ['-r', '300', '-png', '-singlefile', at('s.pdf'), at('seen')]);
    const { info, data } = await sharp(at('seen.png')).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    let [left, top, right, bottom] = [info.width, info.height, 0, 0];
    for (let p = 0, k = 0; p < data.length; p += 3, k++) {
      if (data[p] > 140) continue;
      const [x, y] = [k % info.width, Math.floor(k / info.width)];
      [left, top, right, bottom] = [
        Math.min(left, x),
        Math.min(top, y),
        Math.max(right, x + 1),
        Math.max(bottom, y + 1),
      ];
    }
    const seen = [left, top, right - left, bottom - top];
    [box.x, box.y, box.width, box.height].forEach((v, k) => expect(Math.abs(v - seen[k])).toBeLessThanOrEqual(1));
    expect(left >= opening.x && right <= opening.x + opening.width).toBe(true);
    expect(top >= opening.y && bottom <= opening.y + opening.height).toBe(true);
  });
  it.each(['tiff', 'png'])('as %s is 3000 × 2400 flat pixels at 300 to the inch', async (ending) => {
    await sheet(`s.${ending}`, '--at', 'upper-left', '--inset', '10mm', '--size', '50.8mm');
    const picture = sharp(at(`s.${ending}`));
    expect(await picture.metadata()).toMatchObject({ width: 3000, height: 2400, hasAlpha: false, density: 300 });
    const { data } = await picture.raw().toBuffer({ resolveWithObject: true });
    const rgb = (x: number, y: number) => [...data.subarray((y * 3000 + x) * 3, (y * 3000 + x) * 3 + 3)];
    // 10 mm are 118 px, two inches 600.
    expect([rgb(117, 120), rgb(119, 120), rgb(717, 120), rgb(719, 120)]).toEqual([
      ...[
        [255, 255, 255],
        [0x1f, 0x5a, 0x45],
        [0x1f, 0x5a, 0x45],
        [255, 255, 255],
      ],
    ]);
  });
  it('with a photo is filled by it, the mark its name plate', async () => {
    expect((await sheet('p.png', '--photo', at('photo.jpg'))).stderr).toBe('');
    const { data } = await sharp(at('p.png')).raw().toBuffer({ resolveWithObject: true });
    const rgb = (x: number, y: number) => [...data.subarray((y * 3000 + x) * 3, (y * 3000 + x) * 3 + 3)];
    expect(rgb(2700, 2150)).toEqual([0x1f, 0x5a, 0x45]);
    expect(Math.abs(rgb(10, 10)[0] - 0xc8)).toBeLessThan(3);
  });
});

describe('what would not hold on the wall', () => {
  it('is said: pixels too large on paper, and the right sheet is turned to its mat', async () => {
    const words = ['--paper', '8x10in', '--mat', '11x14in:9.5x7.5in', '--json'];
    const { stdout, stderr } = await tassel('sheet', at('small.png'), ...words, '--out', at('soft.pdf'));
    expect(stderr).toContain('pixels per inch on paper');
    expect(JSON.parse(stdout)).toMatchObject({ page: { width: 3000, height: 2400 }, effectivePpi: 12 });
  });
  it.each([
    [['--mat', '11x14in:10.5x7.5in'], 'shows beyond the sheet'],
    [['--mat', '9x7in:8x6in'], 'is larger than the mat'],
    [['--paper', 'B99'], 'is no sheet'],
    [['--out', 'x.jpg'], '--out ends in'],
  ])('%j is refused with the reason', async (more, words) => {
    const { code, stderr } = await sheet('no.pdf', ...more);
    expect([code > 0, stderr]).toEqual([true, expect.stringContaining(words)]);
    expect(existsSync(at('no.pdf'))).toBe(false);
    expect(readFileSync(at('mark.svg'), 'utf8')).toContain('<svg');
  });
});
