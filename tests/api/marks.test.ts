import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, ErrorBody, MarkCard, MarkView } from '../../contract/views';
import { withCameraTags } from '../../codecs/encodeCapture';
import { decodePicture } from '../../codecs/decodePicture';
import { chunkTypes } from '../../codecs/readBackPng';
import { disc, drawMark, jpegOf, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';

const white = [255, 255, 255] as const;
const badge = drawMark(240, 200, ring(120, 100, 80, 55), [31, 90, 69]);

let app: TestApp;
let brandId: string;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
});
afterAll(() => app.close());

describe('taking in', () => {
  it('keeps the original byte for byte, says what was found, and proposes the cut-out', async () => {
    const bytes = await jpegOf(onGround(badge, white));
    const { mark, isDuplicate } = await app.takeIn(brandId, bytes, 'Trust_badge-2.jpg');
    expect(isDuplicate).toBe(false);
    expect(mark).toMatchObject({
      name: 'Trust badge 2',
      width: 240,
      height: 200,
      found: { format: 'JPEG', way: 'flat' },
      canUndo: false,
    });
    expect(mark.found.sentence).toMatch(/Flat ground #f[ef]f[ef]f[ef]: cut out, 1 enclosed area, 1 open/);
    const back = new Uint8Array(await (await app.call('GET', paths.markOriginal(mark.id))).arrayBuffer());
    expect(createHash('sha256').update(back).digest('hex')).toBe(createHash('sha256').update(bytes).digest('hex'));
  });
  it('recognises the same bytes under another name, also when both come at once', async () => {
    const bytes = await pngOf(onGround(badge, [250, 250, 240]));
    const both = await Promise.all([app.takeIn(brandId, bytes, 'one.png'), app.takeIn(brandId, bytes, 'two.png')]);
    expect(new Set(both.map((t) => t.mark.id)).size).toBe(1);
    expect((await app.takeIn(brandId, bytes, 'three.png')).isDuplicate).toBe(true);
  });
  it('lets no place of capture and no other metadata out of the original', async () => {
    const tagged = await withCameraTags(await jpegOf(onGround(badge, [240, 240, 250]), 92), 3);
    expect(tagged.includes('GPS') || tagged.includes('Stand-in')).toBe(true);
    const { mark } = await app.takeIn(brandId, tagged, 'photo.jpg');
    for (const path of [
      paths.markPicture(mark.id, 'working'),
      paths.markPicture(mark.id, 'reduced'),
      paths.markMaster(mark.id, mark.revision),
      paths.markThumbnail(mark.id, mark.revision),
    ]) {
      const png = new Uint8Array(await (await app.call('GET', path)).arrayBuffer());
      expect(
        chunkTypes(png).filter((c) => /EXIF|text|time/i.test(c)),
        path,
      ).toEqual([]);
      expect(Buffer.from(png).includes('Stand-in')).toBe(false);
    }
  });
  it('keeps transparent artwork as it is', async () => {
    const { mark } = await app.takeIn(brandId, await pngOf(badge), 'badge.png');
    expect(mark.found.way).toBe('transparent');
    expect(mark.recipe.stages.cutOut.way).toBe('keep');
  });
  it.each([
    ['empty.png', new Uint8Array(0), 422, 'intake/empty'],
    ['virus.exe', Uint8Array.from([77, 90, 1, 2]), 422, 'intake/unsupported'],
    ['fake.jpg', new TextEncoder().encode('not a picture'), 422, 'intake/mislabelled'],
  ])('refuses %s by name and stores nothing', async (name, bytes, status, code) => {
    const before = (await app.json<MarkCard[]>('GET', paths.brandMarks(brandId))).length;
    const response = await app.call('POST', `${paths.brandMarks(brandId)}?name=${name}`, bytes);
    expect(response.status).toBe(status);
    const { error } = (await response.json()) as ErrorBody;
    expect(error.code).toBe(code);
    expect(error.message).toContain(name);
    expect((await app.json<MarkCard[]>('GET', paths.brandMarks(brandId))).length).toBe(before);
  });
  it('refuses a file over 80 MB before reading it', async () => {
    const response = await app.call('POST', `${paths.brandMarks(brandId)}?name=huge.png`, new Uint8Array(10), {
      'content-length': String(90 * 1048576),
    });
    expect(response.status).toBe(413);
    expect(((await response.json()) as ErrorBody).error.message).toContain('huge.png has 90 MB');
  });
  it('makes a plain name of one that tries to be a path', async () => {
    const { mark } = await app.takeIn(brandId, await pngOf(onGround(badge, [9, 9, 9])), '../../etc/pass\u0000wd.png');
    expect(mark.originalName).toBe('passwd.png');
  });
});

describe('recipe history', () => {
  const change = (mark: MarkView, choke: number) =>
    app.call('PUT', paths.markRecipe(mark.id), {
      basedOn: mark.revision,
      why: 'Move the edge',
      recipe: { ...mark.recipe, stages: { ...mark.recipe.stages, cutOut: { ...mark.recipe.stages.cutOut, choke } } },
    });
  const stored = async (mark: MarkView, choke: number) => (await change(mark, choke)).json() as Promise<MarkView>;
  const step = (mark: MarkView, way: 'undo' | 'redo') =>
    app.json<MarkView>('POST', paths.markStep(mark.id, way), { basedOn: mark.revision });
  const fresh = async (seed: number) =>
    (await app.takeIn(brandId, await pngOf(onGround(badge, [200, 210, seed])), `m${seed}.png`)).mark;

  it('undoes and redoes every change, one by one', async () => {
    let mark = await fresh(1);
    mark = await stored(mark, 0.5);
    mark = await stored(mark, 1);
    mark = await step(mark, 'undo');
    expect([mark.recipe.stages.cutOut.choke, mark.canUndo, mark.canRedo]).toEqual([0.5, true, true]);
    mark = await step(mark, 'undo');
    expect([mark.recipe.stages.cutOut.choke, mark.canUndo]).toEqual([0, false]);
    mark = await step(await step(mark, 'redo'), 'redo');
    expect([mark.recipe.stages.cutOut.choke, mark.canRedo]).toEqual([1, false]);
  });
  it('offers the newest branch after an undo and a new change', async () => {
    let mark = await fresh(2);
    mark = await step(await stored(mark, 1), 'undo');
    mark = await step(await stored(mark, 2), 'undo');
    expect((await step(mark, 'redo')).recipe.stages.cutOut.choke).toBe(2);
  });
  it('has nothing to undo at the beginning, and says so by standing still', async () => {
    const mark = await fresh(3);
    expect((await step(mark, 'undo')).revision).toBe(mark.revision);
  });
  it('refuses a change that was made to an older state, and keeps the newer one', async () => {
    const mark = await fresh(4);
    await stored(mark, 1);
    const late = await change(mark, 3);
    expect(late.status).toBe(409);
    expect((await app.json<MarkView>('GET', paths.mark(mark.id))).recipe.stages.cutOut.choke).toBe(1);
  });
  it('refuses a recipe that is not whole, naming the setting', async () => {
    const mark = await fresh(5);
    const response = await change(mark, 99);
    expect(response.status).toBe(422);
    expect(((await response.json()) as ErrorBody).error.message).toContain('"choke" must be a number from -5 to 5');
  });
});

describe('pictures', () => {
  it('the master is the recipe’s result on the working picture’s own grid', async () => {
    const { mark } = await app.takeIn(brandId, await pngOf(onGround(badge, [180, 180, 255])), 'grid.png');
    const { raster } = await decodePicture(
      new Uint8Array(await (await app.call('GET', paths.markMaster(mark.id, mark.revision))).arrayBuffer()),
      'm.png',
    );
    expect([raster.width, raster.height]).toEqual([240, 200]);
    let error = 0;
    for (let i = 3; i < raster.data.length; i += 4) error += Math.abs(raster.data[i] - badge.data[i]);
    expect(error / (raster.data.length / 4) / 255).toBeLessThan(0.002);
  });
  it('a thumbnail is trimmed', async () => {
    const lonely = onGround(drawMark(600, 500, disc(80, 80, 40), [10, 10, 10]), white);
    const { mark } = await app.takeIn(brandId, await pngOf(lonely), 'lonely.png');
    const { raster } = await decodePicture(
      new Uint8Array(await (await app.call('GET', paths.markThumbnail(mark.id, mark.revision))).arrayBuffer()),
      't.png',
    );
    expect(Math.abs(raster.width - 80)).toBeLessThan(4);
  });
});

describe('the interface', () => {
  it.each([
    ['GET', '/api/marks/nonsense'],
    ['GET', paths.mark('00000000-0000-0000-0000-000000000000')],
    ['GET', '/api/nowhere'],
    ['GET', `/api/blobs/${'a'.repeat(64)}`],
  ])('%s %s is not found', async (method, path) => {
    expect((await app.call(method, path)).status).toBe(404);
  });
  it('serves no original by its content’s name', async () => {
    const bytes = await pngOf(onGround(badge, [123, 200, 255]));
    await app.takeIn(brandId, bytes, 'secret.png');
    expect((await app.call('GET', `/api/blobs/${createHash('sha256').update(bytes).digest('hex')}`)).status).toBe(404);
  });
  it('refuses changes from another site and names that point here from elsewhere', async () => {
    const body = { name: 'Intruder', palette: [] };
    expect((await app.call('POST', paths.brands, body, { origin: 'http://elsewhere.invalid' })).status).toBe(403);
    expect((await app.call('POST', paths.brands, body, { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    expect((await app.call('GET', paths.brands, undefined, { host: 'elsewhere.invalid' })).status).toBe(403);
  });
  it('says what does not fit in a request', async () => {
    const response = await app.call('POST', paths.brands, { name: '', colour: 1 });
    expect(response.status).toBe(400);
    expect((await app.call('POST', paths.brands, new TextEncoder().encode('{'))).status).toBe(400);
    expect((await app.call('POST', paths.brands, { name: 'Test brand', palette: [] })).status).toBe(409);
  });
  it('moves a mark to another brand, also where the same file is there already', async () => {
    const bytes = await pngOf(onGround(badge, [7, 200, 90]));
    const { mark } = await app.takeIn(brandId, bytes, 'moving.png');
    const other = await app.json<BrandView>('POST', paths.brands, { name: 'Other brand' });
    const there = await app.takeIn(other.id, bytes, 'moving.png');
    const move = (to: string, basedOn: number) => app.call('PATCH', paths.mark(mark.id), { basedOn, brandId: to });
    expect(((await (await move(other.id, mark.details)).json()) as MarkView).brandId).toBe(other.id);
    const ids = async (brand: string) =>
      (await app.json<{ id: string }[]>('GET', paths.brandMarks(brand))).map((m) => m.id);
    expect((await ids(other.id)).sort()).toEqual([mark.id, there.mark.id].sort());
    expect(await ids(brandId)).not.toContain(mark.id);
    expect((await move('00000000-0000-4000-8000-000000000000', mark.details + 1)).status).toBe(404);
    expect((await move('nowhere', mark.details + 1)).status).toBe(400);
    expect(await ids(other.id)).toContain(mark.id);
  });
  it('changes a mark’s name, kind and state, and removes it', async () => {
    const { mark } = await app.takeIn(brandId, await pngOf(onGround(badge, [1, 200, 3])), 'x.png');
    expect(
      await app.json<MarkView>('PATCH', paths.mark(mark.id), {
        basedOn: mark.details,
        name: 'Odile Farrant',
        kind: 'signature',
        state: 'finished',
      }),
    ).toMatchObject({ name: 'Odile Farrant', kind: 'signature', state: 'finished' });
    expect((await app.call('PATCH', paths.mark(mark.id), { basedOn: 2, kind: 'poster' })).status).toBe(400);
    expect((await app.call('DELETE', paths.mark(mark.id))).status).toBe(204);
    expect((await app.call('GET', paths.mark(mark.id))).status).toBe(404);
  });
});
