import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { readPdfPage } from '../../codecs/readPdfPage';
import { layOutBoard } from '../../core/board/layOutBoard';
import { createRaster } from '../../core/raster/raster';
import { commandLine } from '../support/commandLine';
import { disc, drawMark, jpegOf, pixel, pngOf } from '../support/pictures';

const { at, tassel } = commandLine('board');

beforeAll(async () => {
  writeFileSync(at('dot.png'), await pngOf(drawMark(120, 120, disc(60, 60, 50), [255, 255, 255])));
  writeFileSync(
    at('sign.svg'),
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40"><path d="M4 4H36V36H4Z" fill="#1f5a45"/></svg>',
  );
  // A photo, light at its left and dark at its right.
  const photo = createRaster(600, 400);
  for (let p = 0; p < photo.data.length; p += 4)
    photo.data.set((p / 4) % 600 < 300 ? [240, 240, 236, 255] : [18, 22, 30, 255], p);
  writeFileSync(at('halves.jpg'), await jpegOf(photo, 95));
});

describe('contrast', () => {
  it('tells where a mark can be seen, on colours and at places of a photo', async () => {
    const { stdout } = await tassel(
      'contrast',
      at('dot.png'),
      '--ground',
      '#000000',
      '--ground',
      at('halves.jpg'),
      '--at',
      '450,200,120',
      '--json',
    );
    const [black, photo] = JSON.parse(stdout);
    expect(black).toMatchObject({ ground: '#000000', ratio: 21, shareAbove3: 1 });
    expect(photo.shareAbove3).toBe(1);
    const light = JSON.parse(
      (await tassel('contrast', at('dot.png'), '--ground', at('halves.jpg'), '--at', '150,200,120', '--json')).stdout,
    );
    expect(light[0]).toMatchObject({ shareAbove3: 0 });
    expect(light[0].worst.ratio).toBeLessThan(1.3);
    // Across the border the worst is on the light side.
    const both = JSON.parse(
      (await tassel('contrast', at('dot.png'), '--ground', at('halves.jpg'), '--at', '300,200,120', '--json')).stdout,
    );
    expect(Math.abs(both[0].shareAbove3 - 0.5)).toBeLessThan(0.05);
    expect(both[0].worst.x).toBeLessThan(300);
  });
  it('refuses what is no ground, by name', async () => {
    expect((await tassel('contrast', at('dot.png'))).stderr).toContain('--ground');
    const many = await tassel('contrast', at('dot.png'), '--ground', '#ffffff', '#000000', at('halves.jpg'), '--json');
    expect((JSON.parse(many.stdout) as unknown[]).length).toBe(3);
    expect((await tassel('contrast', at('dot.png'), '--ground', '#12')).stderr).toContain('got "#12"');
    expect((await tassel('contrast', at('dot.png'), '--ground', at('none.jpg'))).stderr).toContain('no such file');
  });
});

describe('a board', () => {
  const plan = (change: object = {}) => {
    const whole = {
      master: 'sign.svg',
      variants: [
        { name: 'Colour', fill: { id: 'asIs' } },
        { name: 'White', fill: { id: 'oneColour', params: { colour: '#ffffff' } } },
      ],
      grounds: ['#ffffff', 'halves.jpg', '#b5322b'],
      ...change,
    };
    writeFileSync(at('plan.json'), JSON.stringify(whole));
    return at('plan.json');
  };
  it('shows every variant on every ground, with its number', async () => {
    const { stdout } = await tassel('board', plan(), '--out', at('board.png'), '--json');
    const cells = JSON.parse(stdout);
    expect(cells).toHaveLength(6);
    expect(cells[3]).toEqual({ variant: 'White', ground: '#ffffff', ratio: 1, shareAbove3: 0 });
    const { raster } = await decodePicture(readFileSync(at('board.png')), 'board.png');
    const layout = layOutBoard(2, 3, null);
    expect([raster.width, raster.height]).toEqual([layout.width, layout.height]);
    const middle = (k: number) => {
      const { x, y, width, height } = layout.cells[k].box;
      return pixel(raster, x + width / 2, y + height / 2).slice(0, 3);
    };
    expect([middle(0), middle(3), middle(5)]).toEqual([
      [31, 90, 69],
      [255, 255, 255],
      [255, 255, 255],
    ]);
    expect(pixel(raster, layout.cells[2].box.x + 4, layout.cells[2].box.y + 4)).toEqual([181, 50, 43, 255]);
  });
  it('keeps paths as paths in a PDF, in as many columns as are asked for', async () => {
    const { code } = await tassel('board', plan({ columns: 2 }), '--out', at('board.pdf'));
    expect(code).toBe(0);
    const page = await readPdfPage(readFileSync(at('board.pdf')), 'board.pdf', 1);
    expect(page.pictures).toHaveLength(2);
    expect(page.texts).toHaveLength(0);
    expect(page.shapes.filter((s) => s.paint.kind === 'colour' && s.paint.hex === '#1f5a45')).toHaveLength(3);
    expect(Math.round(page.widthPt * 2)).toBe(layOutBoard(2, 3, 2).width);
  });
  it('refuses a plan that does not fit, and writes nothing', async () => {
    expect((await tassel('board', plan({ grounds: [] }), '--out', at('no.png'))).stderr).toContain(
      'at least one ground',
    );
    expect((await tassel('board', plan({ extra: 1 }), '--out', at('no.png'))).stderr).toContain('extra');
    expect((await tassel('board', plan({ master: 'gone.png' }), '--out', at('no.png'))).stderr).toContain('gone.png');
    expect((await tassel('board', plan(), '--out', at('no.gif'))).code).toBe(2);
    expect(existsSync(at('no.png'))).toBe(false);
  });
});
