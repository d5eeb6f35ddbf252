import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, ErrorBody, MarkCard, MarkView, TakenIn } from '../../contract/views';
import { decodePicture } from '../../codecs/decodePicture';
import { chunkTypes } from '../../codecs/readBackPng';
import { pixel } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';

let app: TestApp;
let brandId: string;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
});
afterAll(() => app.close());

const pen = { width: 14, thinning: 0.5, smoothing: 0.5, bySpeed: false };
const arches = Array.from({ length: 160 }, (_, k) => [60 + k * 5, 240 - 90 * Math.abs(Math.sin(k / 9)), 0.6]);
const typed = {
  lines: ['Harrowmere', '© 2031'],
  typeface: 'great-vibes',
  sizePx: 160,
  spacing: 0,
  lineHeight: 1.2,
  align: 'centre',
};
const capture = {
  paper: 'cream',
  lines: 'ruled',
  light: 'lamp',
  tiltDeg: -7,
  noise: 3,
  blurPx: 0.8,
  quality: 82,
  hasPlace: true,
  widthPx: 1200,
};
const make = (body: object) => app.call('POST', paths.brandMade(brandId), body);
const open = async (path: string) => {
  const bytes = new Uint8Array(await (await app.call('GET', path)).arrayBuffer());
  return { bytes, raster: (await decodePicture(bytes, 'x.png')).raster };
};

describe('a mark drawn on the pad', () => {
  it('is a signature of paths: an SVG original, transparent from the start', async () => {
    const response = await make({ name: 'Odile', colour: '#21409a', drawn: { strokes: [arches], pen } });
    expect(response.status).toBe(201);
    const { mark } = (await response.json()) as TakenIn;
    expect(mark).toMatchObject({
      name: 'Odile',
      kind: 'signature',
      width: 2400,
      found: { way: 'vector', format: 'SVG' },
      recipe: { stages: { cutOut: { way: 'keep' } } },
    });
    const svg = await (await app.call('GET', paths.markOriginal(mark.id))).text();
    expect(svg).toMatch(/^<svg [^>]*viewBox="[-\d. ]+"><path d="M[-\d. QZM]+" fill="#21409a"\/><\/svg>\n$/);
    const { raster } = await open(paths.markMaster(mark.id, mark.revision));
    expect(pixel(raster, 0, 0)[3]).toBe(0);
    const visible = raster.data.findIndex((v, i) => i % 4 === 3 && v === 255) - 3;
    expect([...raster.data.subarray(visible, visible + 3)]).toEqual([0x21, 0x40, 0x9a]);
  });
  it('drawn the same twice is one mark', async () => {
    const body = { name: 'Twice', colour: '#000000', drawn: { strokes: [arches.slice(20)], pen } };
    const first = (await (await make(body)).json()) as TakenIn;
    const second = await make(body);
    expect(second.status).toBe(200);
    expect(((await second.json()) as TakenIn).mark.id).toBe(first.mark.id);
  });
  it.each([
    ['no stroke at all', { drawn: { strokes: [], pen } }],
    ['points that are no numbers', { drawn: { strokes: [[['a', 1, 1]]], pen } }],
    ['a pen wider than the pad', { drawn: { strokes: [arches], pen: { ...pen, width: 9000 } } }],
    ['neither drawing nor type', {}],
    ['a colour with markup in it', { colour: '#000"/><script>', drawn: { strokes: [arches], pen } }],
  ])('refuses %s', async (_, body) => {
    const before = (await app.json<MarkCard[]>('GET', paths.brandMarks(brandId))).length;
    const response = await make({ name: 'X', colour: '#000000', ...body });
    expect(response.status).toBe(400);
    expect(((await response.json()) as ErrorBody).error.code).toBe('request/invalid');
    expect((await app.json<MarkCard[]>('GET', paths.brandMarks(brandId))).length).toBe(before);
  });
});

describe('a mark that was typed', () => {
  it('is a logo of paths', async () => {
    const { mark } = (await (await make({ name: 'Typed', colour: '#1c1b1d', typed })).json()) as TakenIn;
    expect(mark).toMatchObject({ kind: 'logo', found: { way: 'vector' } });
    expect(await (await app.call('GET', paths.markOriginal(mark.id))).text()).not.toContain('<text');
  });
  it('names a character that the typeface lacks', async () => {
    const response = await make({ name: 'X', colour: '#000000', typed: { ...typed, lines: ['Ж'] } });
    expect(response.status).toBe(422);
    expect(((await response.json()) as ErrorBody).error).toMatchObject({
      code: 'type/no-glyph',
      message: expect.stringContaining('Ж'),
    });
  });
});

describe('a simulated photograph', () => {
  it('is taken in like any: as ink on paper, cropped, level, and without its place of capture', async () => {
    const { mark } = (await (
      await make({ name: 'Odile', colour: '#21409a', drawn: { strokes: [arches], pen }, capture })
    ).json()) as TakenIn;
    expect(mark).toMatchObject({
      kind: 'signature',
      width: 1200,
      found: { way: 'paper', format: 'JPEG', markCount: 1 },
    });
    expect(mark.recipe.stages.cutOut.way).toBe('paper');
    expect(Math.abs(mark.recipe.stages.crop.turn + 7)).toBeLessThan(4);
    const original = Buffer.from(await (await app.call('GET', paths.markOriginal(mark.id))).arrayBuffer());
    expect(original.includes('Stand-in'), 'the original keeps its tags').toBe(true);
    const { bytes, raster } = await open(paths.markMaster(mark.id, mark.revision));
    expect(chunkTypes(bytes).filter((c) => /exif|text|time/i.test(c))).toEqual([]);
    const inked =
      raster.data.reduce((n, v, i) => n + (i % 4 === 3 && v > 127 ? 1 : 0), 0) / (raster.width * raster.height);
    expect(inked).toBeGreaterThan(0.02);
    expect(inked).toBeLessThan(0.3);
  });
});

describe('marks that share one original', () => {
  it('have names and recipes of their own, and outlive one another', async () => {
    const { mark } = (await (
      await make({ name: 'Sheet', colour: '#333333', typed: { ...typed, lines: ['Lock'] } })
    ).json()) as TakenIn;
    const recipe = (turn: number) => ({
      ...mark.recipe,
      stages: { ...mark.recipe.stages, crop: { ...mark.recipe.stages.crop, turn } },
    });
    const added = await app.json<MarkView[]>('POST', paths.markSiblings(mark.id), {
      marks: [
        { name: 'Sheet 1', recipe: recipe(3) },
        { name: 'Sheet 2', recipe: recipe(-3) },
      ],
    });
    expect(added.map((m) => [m.name, m.recipe.stages.crop.turn])).toEqual([
      ['Sheet 1', 3],
      ['Sheet 2', -3],
    ]);
    expect((await app.call('DELETE', paths.mark(mark.id))).status).toBe(204);
    expect((await app.call('GET', paths.markMaster(added[1].id, added[1].revision))).status).toBe(200);
  });
  it('are all refused when one of the recipes is none', async () => {
    const [known] = await app.json<MarkCard[]>('GET', paths.brandMarks(brandId));
    const before = (await app.json<MarkCard[]>('GET', paths.brandMarks(brandId))).length;
    const { recipe } = await app.json<MarkView>('GET', paths.mark(known.id));
    const response = await app.call('POST', paths.markSiblings(known.id), {
      marks: [
        { name: 'A', recipe },
        { name: 'B', recipe: { version: 1 } },
      ],
    });
    expect(response.status).toBe(422);
    expect((await app.json<MarkCard[]>('GET', paths.brandMarks(brandId))).length).toBe(before);
  });
});

it('an ink colour can be put into the brand’s palette', async () => {
  const palette = [{ name: 'Ink of Odile', hex: '#21409a' }];
  expect((await app.json<BrandView>('PATCH', paths.brand(brandId), { palette })).palette).toEqual(palette);
  expect((await app.call('PATCH', paths.brand(brandId), { palette: [{ name: '', hex: 'blue' }] })).status).toBe(400);
});
