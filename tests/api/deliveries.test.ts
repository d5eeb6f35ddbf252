import { createHash } from 'node:crypto';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { DeliveryView, ErrorBody, MarkView } from '../../contract/views';
import { decodePicture } from '../../codecs/decodePicture';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';

const badge = drawMark(300, 200, ring(150, 100, 80, 50), [31, 90, 69]);
let app: TestApp;
let mark: MarkView;
beforeAll(async () => {
  app = await createTestApp();
  const brand = await app.addBrand('Harrowmere');
  mark = (await app.takeIn(brand.id, await pngOf(onGround(badge, [244, 239, 228])), 'trust-badge.png')).mark;
});
afterAll(() => app.close());

const save = (recipe: MarkView['recipe']) =>
  app.json<MarkView>('PUT', paths.markRecipe(mark.id), { basedOn: mark.revision, why: 'test', recipe });
const png = { id: 'png', params: {} };
const make = async (m: MarkView) => app.json<DeliveryView>('POST', paths.markDeliveries(m.id), { basedOn: m.revision });

describe('a delivery', () => {
  it('holds every file at its size with true alpha, and a receipt of what was read back', async () => {
    const lines = [
      {
        id: 'a',
        variant: 'colour',
        purpose: 'web',
        size: { id: 'width', params: { widthPx: 320, paddingPct: 0 } },
        format: png,
      },
      {
        id: 'b',
        variant: 'reversed',
        purpose: 'icon',
        size: { id: 'box', params: { widthPx: 128, heightPx: 128, paddingPct: 6, align: 'centre' } },
        format: png,
      },
      {
        id: 'c',
        variant: 'black',
        purpose: 'web',
        size: { id: 'width', params: { widthPx: 320, paddingPct: 10 } },
        format: png,
      },
    ];
    mark = await save({ ...mark.recipe, files: { pattern: '{brand}-{mark}-{variant}-{width}x{height}', lines } });
    const done = await app.waitFor((await make(mark)).id);
    expect(done.state).toBe('ready');
    const zip = unzipSync(new Uint8Array(await (await app.call('GET', paths.deliveryZip(done.id))).arrayBuffer()));
    expect(Object.keys(zip).sort()).toEqual([
      'harrowmere-trust-badge-black-320x320.png',
      'harrowmere-trust-badge-colour-320x320.png',
      'harrowmere-trust-badge-reversed-128x128.png',
      'receipt.json',
      'receipt.txt',
    ]);
    const { raster } = await decodePicture(zip['harrowmere-trust-badge-reversed-128x128.png'], 'r.png');
    for (let i = 0; i < raster.data.length; i += 4)
      if (raster.data[i + 3] > 0) expect([...raster.data.subarray(i, i + 3)]).toEqual([255, 255, 255]);
    expect(done.files.map((f) => [f.variant, f.receipt.width, f.receipt.isSrgb, f.receipt.isInterlaced])).toEqual([
      ['Colour', 320, true, false],
      ['Black', 320, true, false],
      ['Reversed', 128, true, false],
    ]);
    expect(new TextDecoder().decode(zip['receipt.txt'])).toContain('enlarged');
    const told = JSON.parse(new TextDecoder().decode(zip['receipt.json'])) as { files: Record<string, unknown>[] };
    for (const { file, sha256, cornersClear, alphaRange } of told.files) {
      expect(
        createHash('sha256')
          .update(zip[file as string])
          .digest('hex'),
      ).toBe(sha256);
      expect([cornersClear, alphaRange]).toEqual([true, [0, 255]]);
    }
    const one = await app.call('GET', paths.deliveryFile(done.id, 2));
    expect(new Uint8Array(await one.arrayBuffer())).toEqual(zip[done.files[2].name]);
    expect(one.headers.get('content-disposition')).toContain(done.files[2].name);
    expect((await app.call('GET', paths.deliveryFile(done.id, 3))).status).toBe(404);
  });
  it('gives files of one name different names', async () => {
    mark = await save({ ...mark.recipe, files: { pattern: '{mark}', lines: mark.recipe.files.lines } });
    const done = await app.waitFor((await make(mark)).id);
    expect(done.files.map((f) => f.name)).toEqual(['trust-badge.png', 'trust-badge-2.png', 'trust-badge-3.png']);
  });
  it('is refused with the reason when there is nothing to make, and keeps no half of it', async () => {
    mark = await save({ ...mark.recipe, files: { ...mark.recipe.files, lines: [] } });
    const response = await app.call('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision });
    expect(response.status).toBe(400);
    expect(((await response.json()) as ErrorBody).error.message).toContain('no size line');
  });
  it('fails with words when the cut-out leaves nothing, and offers no file', async () => {
    const lines = [
      {
        id: 'a',
        variant: 'colour',
        purpose: 'web',
        size: { id: 'width', params: { widthPx: 100, paddingPct: 0 } },
        format: png,
      },
    ];
    const stages = {
      ...mark.recipe.stages,
      crop: { ...mark.recipe.stages.crop, rect: { x: 0, y: 0, width: 20, height: 20 } },
    };
    mark = await save({ ...mark.recipe, stages, files: { ...mark.recipe.files, lines } });
    const done = await app.waitFor((await make(mark)).id);
    expect(done).toMatchObject({ state: 'failed', problem: expect.stringContaining('Nothing of the mark is left') });
    expect((await app.call('GET', paths.deliveryZip(done.id))).status).toBe(404);
  });
  it('tells its progress as server-sent events until it has ended', async () => {
    mark = await app.json<MarkView>('POST', paths.markStep(mark.id, 'undo'), { basedOn: mark.revision });
    mark = await app.json<MarkView>('POST', paths.markStep(mark.id, 'undo'), { basedOn: mark.revision });
    const { id } = await make(mark);
    const text = await (await app.call('GET', paths.deliveryEvents(id))).text();
    const states = [...text.matchAll(/data: (.*)/g)].map((m) => (JSON.parse(m[1]) as DeliveryView).state);
    expect(states.at(-1)).toBe('ready');
    expect(text).toContain('event: delivery');
  });
  it('can be cancelled and then leaves nothing behind', async () => {
    const lines = Array.from({ length: 30 }, (_, k) => ({
      id: `l${k}`,
      variant: 'colour',
      purpose: 'print',
      size: { id: 'width', params: { widthPx: 1800 + k, paddingPct: 0 } },
      format: png,
    }));
    mark = await save({ ...mark.recipe, files: { ...mark.recipe.files, lines } });
    const { id } = await make(mark);
    expect(await app.json<DeliveryView>('POST', paths.deliveryCancel(id))).toMatchObject({ state: 'cancelled' });
    await new Promise((r) => setTimeout(r, 1500));
    expect(await app.json<DeliveryView>('GET', paths.delivery(id))).toMatchObject({ state: 'cancelled', files: [] });
  });
  it('is made from the state that was asked for, not from a later one', async () => {
    const response = await app.call('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision - 1 });
    expect(response.status).toBe(409);
  });
});

describe('a delivery of several marks', () => {
  const line = (id: string, format: string, change: object = {}) => ({
    ...{ id, variant: 'black', purpose: 'web', format: { id: format, params: {} } },
    size: { id: 'width', params: { widthPx: 200, paddingPct: 0 } },
    ...change,
  });
  const withLines = async (k: number, lines: object[]) => {
    const shape = ring(60, 60, 40, 20 + k);
    const { mark: own } = await app.takeIn(
      mark.brandId,
      await pngOf(onGround(drawMark(120 + k, 120, shape, [20, 40, 90]), [255, 255, 255])),
      `several ${k}.png`,
    );
    return app.json<MarkView>('PUT', paths.markRecipe(own.id), {
      ...{ basedOn: own.revision, why: 'test' },
      recipe: { ...own.recipe, files: { pattern: '{mark}-{width}', lines } },
    });
  };
  it('has a folder for each, is out of date when one was changed, and is made again as another', async () => {
    const lines = [line('a', 'webp'), line('b', 'tiff', { purpose: 'maskPair', name: 'PAIR' })];
    const marks = [await withLines(1, lines), await withLines(2, lines)];
    const body = { marks: marks.map((m) => ({ id: m.id, basedOn: m.revision })) };
    const asked = await app.json<DeliveryView>('POST', paths.brandDeliveries(mark.brandId), body);
    expect(asked.fileCount).toBe(6);
    const done = await app.waitFor(asked.id);
    expect([done.state, done.problem]).toEqual(['ready', null]);
    const zip = unzipSync(new Uint8Array(await (await app.call('GET', paths.deliveryZip(done.id))).arrayBuffer()));
    expect(Object.keys(zip).sort()).toEqual([
      ...[
        'receipt.json',
        'receipt.txt',
        'several-1/PAIR-mask.tif',
        'several-1/PAIR.tif',
        'several-1/several-1-200.webp',
      ],
      ...['several-2/PAIR-mask.tif', 'several-2/PAIR.tif', 'several-2/several-2-200.webp'],
    ]);
    expect(done).toMatchObject({ isOutdated: false, marks: marks.map(({ id, name }) => ({ id, name })) });
    await app.json('PUT', paths.markRecipe(marks[1].id), {
      ...{ basedOn: marks[1].revision, why: 'test' },
      recipe: {
        ...marks[1].recipe,
        files: { pattern: '{mark}', lines: [line('a', 'svg', { format: { id: 'png', params: {} } })] },
      },
    });
    const [listed] = await app.json<DeliveryView[]>(
      'GET',
      `${paths.brandDeliveries(mark.brandId)}?mark=${marks[1].id}`,
    );
    expect(listed).toMatchObject({ id: done.id, isOutdated: true });
    const again = await app.json<DeliveryView>('POST', paths.deliveryAgain(done.id));
    expect(again).toMatchObject({ fileCount: 4 });
    expect(again.id).not.toBe(done.id);
    expect((await app.waitFor(again.id)).state).toBe('ready');
    // What was delivered is still there as it was.
    expect((await app.json<DeliveryView>('GET', paths.delivery(done.id))).files).toHaveLength(6);
  });
  it('is refused before it begins when a line of one of them cannot be made', async () => {
    const bad = await withLines(3, [line('a', 'jpeg')]);
    const good = await withLines(4, [line('a', 'png')]);
    const body = { marks: [good, bad].map((m) => ({ id: m.id, basedOn: m.revision })) };
    const answer = await app.call('POST', paths.brandDeliveries(mark.brandId), body);
    expect([answer.status, ((await answer.json()) as ErrorBody).error.message]).toEqual([
      ...[422, expect.stringContaining('JPEG has no transparency')],
    ]);
  });
});
