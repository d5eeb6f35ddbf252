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
