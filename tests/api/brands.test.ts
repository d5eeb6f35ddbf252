import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandChanged, BrandView, ErrorBody, GroundView, MarkView, TakenIn } from '../../contract/views';
import { decodePicture } from '../../codecs/decodePicture';
import { readPdfPages } from '../../codecs/readPdfPage';
import { layOutBoard } from '../../core/board/layOutBoard';
import { casts } from '../../core/casts';
import { fills } from '../../core/fills';
import { partOf, variantOf } from '../../core/recipe/recipe';
import { surrounds } from '../../core/surrounds';
import { type TestApp, createTestApp } from '../support/testApp';
import { disc, drawMark, jpegOf, onGround, pngOf } from '../support/pictures';

let app: TestApp;
let brand: BrandView;
const palette = [
  { name: 'Green', hex: '#1f5a45' },
  { name: 'Red', hex: '#b5322b' },
];
beforeAll(async () => {
  app = await createTestApp();
  const { id } = await app.addBrand('Own');
  await app.json<BrandChanged>('PATCH', paths.brand(id), { basedOn: 1, palette });
  brand = (await app.json<BrandView[]>('GET', paths.brands)).find((b) => b.id === id) as BrandView;
});
afterAll(() => app.close());

const again = async () =>
  (await app.json<BrandView[]>('GET', paths.brands)).find((b) => b.id === brand.id) as BrandView;
const change = async (body: object) => {
  const changed = await app.json<BrandChanged>('PATCH', paths.brand(brand.id), { basedOn: brand.edition, ...body });
  brand = changed.brand;
  return changed;
};
const takeIn = async (k: number) => {
  const bytes = await pngOf(onGround(drawMark(60 + k, 50, disc(30, 25, 15), [20, 40, 60]), [250, 250, 250]));
  return (await app.json<TakenIn>('POST', `${paths.brandMarks(brand.id)}?name=m${k}.png`, bytes)).mark;
};
const set = (hex: string) => [
  variantOf('one', 'One', partOf(fills, 'oneColour', { colour: hex })),
  { ...variantOf('rimmed', 'Rimmed', partOf(fills, 'asIs')), surrounds: [partOf(surrounds, 'rim', { colour: hex })] },
  { ...variantOf('cast', 'Cast', partOf(fills, 'asIs')), casts: [partOf(casts, 'glow', { colour: hex })] },
];

describe('a brand', () => {
  it('gives new marks its own variants and names', async () => {
    await change({ startSet: set('#1f5a45'), pattern: '{brand}-{variant}' });
    const mark = await takeIn(1);
    expect(mark.recipe.variants).toEqual(brand.startSet);
    expect(mark.recipe.files.pattern).toBe('{brand}-{variant}');
    expect(mark.recipe.files.lines.map((l) => l.variant)).toEqual(['one', 'rimmed', 'cast']);
    const odd = await app.call('PATCH', paths.brand(brand.id), { basedOn: brand.edition, startSet: [{ name: 'x' }] });
    expect(((await odd.json()) as ErrorBody).error.message).toContain('startSet[0]');
  });
  it('keeps a standard set of lines and purposes of its own, each checked', async () => {
    const size = { id: 'width', params: { widthPx: 640, paddingPct: 0 } };
    const line = { variant: 'Black', purpose: 'stamp', size, format: { id: 'jpeg', params: { quality: 90 } } };
    await change({
      standardLines: [line],
      ownPurposes: [{ title: 'Seal', purpose: 'stamp', size, format: line.format }],
    });
    expect(brand.standardLines).toEqual([line]);
    expect(brand.ownPurposes.map((p) => p.title)).toEqual(['Seal']);
    const bad = { basedOn: brand.edition, standardLines: [{ ...line, format: { id: 'bmp', params: {} } }] };
    const answer = await app.call('PATCH', paths.brand(brand.id), bad);
    expect([answer.status, ((await answer.json()) as ErrorBody).error.message]).toEqual([
      ...[answer.status, expect.stringContaining('no format "bmp"')],
    ]);
    await change({ standardLines: null, ownPurposes: [] });
    expect([brand.standardLines, brand.ownPurposes]).toEqual([null, []]);
  });
  it('keeps gradients by name, which follow its colours, and variants them', async () => {
    const mark = await takeIn(9);
    const stops = [
      { at: 0, colour: '#1f5a45' },
      { at: 1, colour: '#ffffff' },
    ];
    await change({ gradients: [{ name: 'Dusk', stops }] });
    const own = { ...variantOf('own', 'Own', partOf(fills, 'gradient', { stops })) };
    const recipe = { ...mark.recipe, variants: [own], files: { ...mark.recipe.files, lines: [] } };
    await app.json('PUT', paths.markRecipe(mark.id), { basedOn: mark.revision, why: 'Own', recipe });
    const stopsOf = async () => {
      const { recipe: now } = await app.json<MarkView>('GET', paths.mark(mark.id));
      return (now.variants[0].fill.params as { stops: object[] }).stops;
    };
    const other = [stops[0], { at: 0.5, colour: '#808080' }, stops[1]];
    expect(await change({ gradients: [{ name: 'Dusk', stops: other }] })).toMatchObject({ marks: 1, variants: 1 });
    expect(await stopsOf()).toEqual(other);
    await change({ palette: [{ name: 'Green', hex: '#000080' }, palette[1]] });
    expect(brand.gradients[0].stops[0]).toEqual({ at: 0, colour: '#000080' });
    expect((await stopsOf())[0]).toEqual({ at: 0, colour: '#000080' });
    await change({ palette, gradients: [] });
    await app.call('DELETE', `${paths.mark(mark.id)}?forGood=1`);
  });
  it('changes a colour in every variant of every mark that uses it, and back', async () => {
    const marks = [await takeIn(2), await takeIn(3), await takeIn(4)];
    const changed = await change({ palette: [{ name: 'Green', hex: '#205c46' }, palette[1]] });
    expect(changed).toMatchObject({ marks: 4, variants: 12, outdated: 0 });
    const read = (id: string) => app.json<MarkView>('GET', paths.mark(id));
    for (const { id, revision } of marks) {
      const mark = await read(id);
      expect(JSON.stringify(mark.recipe.variants)).not.toContain('#1f5a45');
      expect(mark.recipe.variants[0].fill.params).toMatchObject({ colour: '#205c46' });
      expect(mark.revision).toBeGreaterThan(revision);
    }
    await change({ palette });
    expect((await read(marks[0].id)).recipe.variants).toEqual(marks[0].recipe.variants);
    // Each mark can go its own way back too.
    const mark = await read(marks[1].id);
    const back = await app.json<MarkView>('POST', paths.markStep(mark.id, 'undo'), { basedOn: mark.revision });
    expect(back.recipe.variants[0].fill.params).toMatchObject({ colour: '#205c46' });
  });
  it('is not changed from an edition that is old', async () => {
    const response = await app.call('PATCH', paths.brand(brand.id), { basedOn: 1, pattern: '{mark}' });
    expect(response.status).toBe(409);
    expect((await again()).pattern).toBe('{brand}-{variant}');
  });
});

describe('grounds', () => {
  const list = () => app.json<GroundView[]>('GET', paths.brandGrounds(brand.id));
  it('are colours and photos, their tone measured, their files stripped of all but pixels', async () => {
    await app.json<GroundView>('POST', paths.brandGrounds(brand.id), { name: 'Navy', hex: '#101C40' });
    const photo = await jpegOf(
      onGround(
        drawMark(90, 60, () => 0, [0, 0, 0]),
        [240, 238, 230],
      ),
    );
    const path = `${paths.brandGroundPhotos(brand.id)}?name=snow_bank.jpg`;
    for (let k = 0; k < 2; k++) await app.json<GroundView>('POST', path, photo);
    expect(await list()).toMatchObject([
      { name: 'Navy', hex: '#101c40', tone: 'dark', picture: null, isProof: true },
      { name: 'snow bank', hex: null, tone: 'light', width: 90, height: 60 },
      { name: 'snow bank 2', tone: 'light' },
    ]);
    const [, { picture }] = await list();
    expect((await app.call('GET', picture as string)).headers.get('content-type')).toBe('image/jpeg');
  });
  it('are renamed, taken from the proofs and removed', async () => {
    const [navy, snow] = await list();
    await app.json<GroundView>('PATCH', paths.ground(navy.id), { name: 'Night', isProof: false });
    expect((await list())[0]).toMatchObject({ name: 'Night', isProof: false });
    const taken = await app.call('PATCH', paths.ground(navy.id), { name: snow.name });
    expect(((await taken.json()) as ErrorBody).error.code).toBe('store/duplicate-name');
    expect((await app.call('DELETE', paths.ground(navy.id))).status).toBe(204);
    expect((await app.call('DELETE', paths.ground(navy.id))).status).toBe(404);
    expect((await list()).map((g) => g.name)).toEqual(['snow bank', 'snow bank 2']);
  });
  it('are refused by name when they are no photo', async () => {
    const path = `${paths.brandGroundPhotos(brand.id)}?name=a.svg`;
    const svg = new TextEncoder().encode(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0h1v1z"/></svg>',
    );
    const response = await app.call('POST', path, svg);
    expect(((await response.json()) as ErrorBody).error.message).toContain('a.svg is a drawing');
  });
});

describe('a board', () => {
  it('is one picture of all variants on colours and photos of the brand, or a PDF', async () => {
    const mark = await takeIn(9);
    const photo = (await app.json<GroundView[]>('GET', paths.brandGrounds(brand.id)))[0];
    const grounds = [
      { name: 'White', hex: '#ffffff', id: null },
      { name: photo.name, hex: null, id: photo.id },
    ];
    const board = (format: string, on: object[] = grounds) =>
      app.call('POST', paths.markBoard(mark.id), { format, grounds: on });
    const png = await board('png');
    expect(png.headers.get('content-disposition')).toContain('m9-board.png');
    const { raster } = await decodePicture(new Uint8Array(await png.arrayBuffer()), 'board.png');
    const layout = layOutBoard(mark.recipe.variants.length, 2, null);
    expect([raster.width, raster.height]).toEqual([layout.width, layout.height]);
    const pdf = new Uint8Array(await (await board('pdf')).arrayBuffer());
    expect(await readPdfPages(pdf, 'board.pdf')).toHaveLength(1);
    expect((await board('png', [{ name: 'x', hex: null, id: mark.id }])).status).toBe(404);
    expect((await board('png', [{ name: 'x', hex: null, id: null }])).status).toBe(400);
    expect((await board('gif')).status).toBe(400);
  });
});
