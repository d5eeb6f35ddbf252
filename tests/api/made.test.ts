import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandChanged, DeliveryView, ErrorBody, MarkCard, MarkView, TakenIn } from '../../contract/views';
import { decodePicture } from '../../codecs/decodePicture';
import { chunkTypes } from '../../codecs/readBackPng';
import { readSvg } from '../../codecs/readSvg';
import { readDrawing } from '../../core/artwork/readDrawing';
import { unzipSync } from 'fflate';
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
    expect(svg).toMatch(/^<svg [^>]*viewBox="[-\d. ]+"><path d="M[-\d. CLZM]+" fill="#21409a"\/><\/svg>\n$/);
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

describe('paths from the pad to the file', () => {
  const line = (id: string, format: string, size: object) => ({
    id,
    variant: 'reversed',
    purpose: 'print',
    size,
    format: { id: format, params: {} },
  });
  const wide = (widthPx: number) => ({ id: 'width', params: { widthPx, paddingPct: 0 } });
  it('are delivered as SVG, PDF and PNG of any size, each read back, the PNG never enlarged', async () => {
    const { mark } = (await (
      await make({ name: 'Ferry', colour: '#1f5a45', kind: 'signature', typed })
    ).json()) as TakenIn;
    expect(mark).toMatchObject({ source: 'drawing', kind: 'signature' });
    expect(mark.recipe.files.lines.every((l) => (l.size.params as { widthPx: number }).widthPx === 1200)).toBe(true);
    const lines = [
      line('a', 'svg', wide(640)),
      line('b', 'pdf', { id: 'physical', params: { widthMm: 80, ppi: 300, paddingPct: 0 } }),
      line('c', 'png', wide(6000)),
      line('d', 'png', { id: 'physical', params: { widthMm: 50.8, ppi: 300, paddingPct: 0 } }),
    ];
    const recipe = { ...mark.recipe, files: { pattern: '{mark}-{width}', lines } };
    const saved = await app.json<MarkView>('PUT', paths.markRecipe(mark.id), {
      basedOn: mark.revision,
      why: 'test',
      recipe,
    });
    const asked = await app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), { basedOn: saved.revision });
    const done = await app.waitFor(asked.id);
    expect(done).toMatchObject({ state: 'ready', problem: null });
    const receipts = Object.fromEntries(done.files.map((f) => [f.name, f.receipt]));
    expect(receipts['ferry-640.svg']).toMatchObject({ format: 'svg', width: 640, paths: 1, pictures: 0, fonts: 0 });
    expect(receipts['ferry-945.pdf']).toMatchObject({ format: 'pdf', unit: 'pt', paths: 1, pictures: 0, fonts: 0 });
    expect(receipts['ferry-945.pdf'].width).toBeCloseTo((80 / 25.4) * 72, 2);
    expect(receipts['ferry-6000.png']).toMatchObject({ format: 'png', width: 6000, enlargement: 1, ppi: null });
    expect(receipts['ferry-600.png'].ppi).toBeCloseTo(300, 1);
    const zip = unzipSync(new Uint8Array(await (await app.call('GET', paths.deliveryZip(done.id))).arrayBuffer()));
    const svg = new TextDecoder().decode(zip['ferry-640.svg']);
    expect(svg).toContain('fill="#ffffff"');
    // What the file holds is what the working drawing holds: the same page, the same outline.
    const drawing = readDrawing(
      new Uint8Array(await (await app.call('GET', paths.markDrawing(mark.id))).arrayBuffer()),
    );
    expect(readSvg(zip['ferry-640.svg'], 'ferry.svg').shapes[0].path).toEqual(drawing.shapes[0].path);
    expect(new TextDecoder().decode(zip['receipt.txt'])).toMatch(/ferry-945\.pdf +PDF, .*1 path, no picture, no text/);
  });
  it('have no working picture, and a mark of pixels has no drawing', async () => {
    const { mark } = (await (
      await make({ name: 'Ferry', colour: '#1f5a45', kind: 'signature', typed })
    ).json()) as TakenIn;
    expect((await app.call('GET', paths.markPicture(mark.id, 'working'))).status).toBe(404);
    const photo = (
      (await (
        await make({ name: 'Odile', colour: '#21409a', drawn: { strokes: [arches], pen }, capture })
      ).json()) as TakenIn
    ).mark;
    expect((await app.call('GET', paths.markDrawing(photo.id))).status).toBe(404);
  });
  it('are asked of a mark of pixels in vain, and the delivery says why', async () => {
    const photo = (
      (await (
        await make({ name: 'Odile', colour: '#21409a', drawn: { strokes: [arches], pen }, capture })
      ).json()) as TakenIn
    ).mark;
    const recipe = { ...photo.recipe, files: { pattern: '{mark}', lines: [line('a', 'svg', wide(640))] } };
    const saved = await app.json<MarkView>('PUT', paths.markRecipe(photo.id), {
      basedOn: photo.revision,
      why: 'test',
      recipe,
    });
    const asked = await app.json<DeliveryView>('POST', paths.markDeliveries(photo.id), { basedOn: saved.revision });
    expect(await app.waitFor(asked.id)).toMatchObject({
      state: 'failed',
      problem: expect.stringContaining('SVG holds paths'),
    });
  });
  it('come from an SVG file of filled shapes; other SVG files are refused by name', async () => {
    const file = (inside: string) =>
      new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20">${inside}</svg>`);
    const { mark } = await app.takeIn(
      brandId,
      file('<g transform="translate(2 3)"><rect width="30" height="10" fill="#1f5a45"/></g>'),
      'sign.svg',
    );
    expect(mark).toMatchObject({
      source: 'drawing',
      width: 2400,
      height: 1200,
      found: { way: 'vector', format: 'SVG' },
    });
    for (const [inside, words] of [
      ['<script>1</script>', 'no filled shape'],
      ['<text>a</text>', 'text'],
      ['<mask id="m"/><rect width="9" height="9" mask="url(#m)"/>', 'masks'],
      ['', 'no filled shape'],
    ]) {
      const response = await app.call('POST', `${paths.brandMarks(brandId)}?name=bad.svg`, file(inside));
      expect(response.status).toBe(422);
      const { error } = (await response.json()) as ErrorBody;
      expect(error.message).toContain('bad.svg');
      expect(error.message).toContain(words);
    }
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
      basedOn: mark.revision,
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
      basedOn: known.revision,
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
  const { brand } = await app.json<BrandChanged>('PATCH', paths.brand(brandId), { basedOn: 1, palette });
  expect(brand.palette).toEqual(palette);
  expect(
    (await app.call('PATCH', paths.brand(brandId), { basedOn: 2, palette: [{ name: '', hex: 'blue' }] })).status,
  ).toBe(400);
});
