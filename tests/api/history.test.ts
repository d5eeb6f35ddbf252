import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { ErrorBody, FormerOriginal, HistoryEntry, MarkView } from '../../contract/views';
import { decodePicture } from '../../codecs/decodePicture';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';

let app: TestApp;
let mark: MarkView;
beforeAll(async () => {
  app = await createTestApp();
  const brand = await app.addBrand();
  const badge = onGround(drawMark(160, 140, ring(80, 70, 60, 36), [31, 90, 69]), [250, 250, 240]);
  mark = (await app.takeIn(brand.id, await pngOf(badge), 'badge.png')).mark;
});
afterAll(() => app?.close());

const list = () => app.json<HistoryEntry[]>('GET', paths.markHistory(mark.id));
const read = () => app.json<MarkView>('GET', paths.mark(mark.id));
async function turn(deg: number): Promise<void> {
  const { stages } = mark.recipe;
  const recipe = { ...mark.recipe, stages: { ...stages, crop: { ...stages.crop, turn: deg } } };
  mark = await app.json('PUT', paths.markRecipe(mark.id), { basedOn: mark.revision, why: `Turn by ${deg}`, recipe });
}
const goTo = (revision: number, basedOn = mark.revision) =>
  app.call('POST', paths.markGoTo(mark.id), { basedOn, revision });

describe('the history of a mark', () => {
  it('lists every change by what was done, the newest first, each with a picture of its own', async () => {
    await turn(3);
    await turn(20);
    const entries = await list();
    expect(entries.map((e) => [e.why, e.isCurrent])).toEqual([
      ['Turn by 20', true],
      ['Turn by 3', false],
      ['Taken in', false],
    ]);
    expect(entries.map((e) => e.parent)).toEqual([entries[1].revision, entries[2].revision, null]);
    const pictures = await Promise.all(
      entries.map(async (e) => {
        const answer = await app.call('GET', paths.revisionThumbnail(mark.id, e.revision));
        expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'image/png']);
        return Buffer.from(await answer.arrayBuffer()).toString('base64');
      }),
    );
    expect(new Set(pictures).size).toBe(3);
  });
  it('gives whole pictures of one size, so that two of them lie on one another', async () => {
    const [last, , first] = await list();
    const sizes = await Promise.all(
      [first, last].map(async (e) => {
        const answer = await app.call('GET', paths.revisionWhole(mark.id, e.revision));
        const { raster } = await decodePicture(new Uint8Array(await answer.arrayBuffer()), 'whole.png');
        return raster.width;
      }),
    );
    expect(sizes[0]).toBe(160);
    expect(sizes[1]).toBeGreaterThanOrEqual(160);
  });
  it('goes back to any entry and forth again, and keeps what came after', async () => {
    const [last, , first] = await list();
    mark = (await (await goTo(first.revision)).json()) as MarkView;
    expect(mark.recipe.stages.crop.turn).toBe(0);
    expect(await list()).toHaveLength(3);
    mark = (await (await goTo(last.revision)).json()) as MarkView;
    expect((await read()).recipe.stages.crop.turn).toBe(20);
  });
  it('goes from what is on the screen only, and to the mark’s own revisions only', async () => {
    const [, before] = await list();
    const stale = await goTo(before.revision, before.revision);
    expect(stale.status).toBe(409);
    expect(((await stale.json()) as ErrorBody).error.details.current).toMatchObject({ revision: mark.revision });
    expect((await goTo(999_999)).status).toBe(404);
    expect((await read()).revision).toBe(mark.revision);
  });
  it('an entry is given a name and loses it again; there is none without letters', async () => {
    const [, entry] = await list();
    const name = (value: unknown, revision = entry.revision) =>
      app.call('PATCH', paths.markRevision(mark.id, revision), { name: value });
    expect((await name('For the client')).status).toBe(200);
    expect((await list())[1].name).toBe('For the client');
    expect((await name('   ')).status).toBe(400);
    expect((await name('x', 999_999)).status).toBe(404);
    expect((await app.call('PATCH', paths.markRevision(mark.id, 'abc'), { name: 'x' })).status).toBe(404);
    await name(null);
    expect((await list())[1].name).toBeNull();
  });
  it('five hundred changes undone and redone give the same picture to the byte', async () => {
    const masterNow = async () => Buffer.from(await (await app.call('GET', paths.markMaster(mark.id))).arrayBuffer());
    const before = await masterNow();
    for (let k = 0; k < 500; k++) await turn((k % 90) / 2);
    const after = await masterNow();
    const step = async (way: 'undo' | 'redo') => {
      mark = await app.json('POST', paths.markStep(mark.id, way), { basedOn: mark.revision });
    };
    for (let k = 0; k < 500; k++) await step('undo');
    expect((await masterNow()).equals(before)).toBe(true);
    for (let k = 0; k < 500; k++) await step('redo');
    expect((await masterNow()).equals(after)).toBe(true);
    expect(await list()).toHaveLength(503);
  });
});

it('notes of source and permission are kept, and a day that is none is refused', async () => {
  const current = await read();
  const change = (notes: object, basedOn = current.details) =>
    app.call('PATCH', paths.mark(mark.id), { basedOn, notes });
  const notes = { source: 'From the printer', permission: 'Trust only', until: '2027-03-31' };
  expect((await (await change(notes)).json()) as MarkView).toMatchObject({ notes, name: current.name });
  expect((await change({ ...notes, until: '31 March' }, current.details + 1)).status).toBe(400);
  expect((await change({ source: 'x' }, current.details + 1)).status).toBe(400);
  expect((await read()).notes).toEqual(notes);
});

describe('a newer file for the original', () => {
  const larger = () => onGround(drawMark(320, 280, ring(160, 140, 120, 72), [90, 20, 20]), [250, 250, 240]);
  const replace = async (bytes: Uint8Array, name = 'badge-2.png', basedOn = mark.revision) =>
    app.call('POST', `${paths.markOriginal(mark.id)}?name=${name}&basedOn=${basedOn}`, bytes);

  it('takes its place, the recipe carried over to its size, and the old one is kept', async () => {
    mark = await read();
    const { stages } = mark.recipe;
    const areas = [{ x: 80, y: 70, decision: 'solid' }];
    const recipe = { ...mark.recipe, stages: { ...stages, cutOut: { ...stages.cutOut, areas } } };
    mark = await app.json('PUT', paths.markRecipe(mark.id), { basedOn: mark.revision, why: 'Solid', recipe });
    const before = Buffer.from(await (await app.call('GET', paths.markOriginal(mark.id))).arrayBuffer());
    const answer = await replace(await pngOf(larger()));
    expect(answer.status).toBe(200);
    const replaced = (await answer.json()) as MarkView;
    expect(replaced).toMatchObject({ width: 320, height: 280, originalName: 'badge-2.png', name: mark.name });
    expect(replaced.recipe.stages.cutOut.areas).toEqual([{ x: 160, y: 140, decision: 'solid' }]);
    expect((await list())[0].why).toBe('Replace the original by badge-2.png');
    const [former] = await app.json<FormerOriginal[]>('GET', paths.formerOriginals(mark.id));
    const kept = await app.call('GET', `${paths.formerOriginals(mark.id)}/${former.id}`);
    expect(Buffer.from(await kept.arrayBuffer()).equals(before)).toBe(true);
    mark = replaced;
  });
  it('is refused when the mark was changed meanwhile or the file is none, and changes nothing then', async () => {
    expect((await replace(await pngOf(larger()), 'late.png', mark.revision - 1)).status).toBe(409);
    expect((await replace(new Uint8Array(9), 'none.png')).status).toBe(422);
    expect((await app.call('POST', paths.markOriginal(mark.id), new Uint8Array(9))).status).toBe(400);
    // What is found in it may still be on its way: what a person has put there stands as it stood.
    const { revision, originalName, width, height, recipe } = mark;
    expect(originalName).toBe('badge-2.png');
    expect(await read()).toMatchObject({ revision, originalName, width, height, recipe });
  });
});
