import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { LiveView } from '../../contract/live';
import { paths } from '../../contract/paths';
import type { ProofPage, ProofView } from '../../contract/proofs';
import type { DeliveryView, MarkView } from '../../contract/views';
import type { WallView } from '../../contract/walls';
import { disc, drawMark, pngOf } from '../support/pictures';
import { createTestApp, type TestApp } from '../support/testApp';
import { until } from '../support/until';

let app: TestApp;
let brandId: string;
let mark: MarkView;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
  const bytes = new Uint8Array(await pngOf(drawMark(300, 200, disc(150, 100, 90), [31, 90, 69])));
  ({ mark } = await app.takeIn(brandId, bytes, 'badge.png'));
});
afterAll(() => app.close());

const newest = () => app.json<MarkView>('GET', paths.mark(mark.id));
/** Another colour of the mark's first variant, so that whatever is made of it is made anew. */
async function recolour(colour: string): Promise<void> {
  const { recipe, revision } = await newest();
  const [first, ...rest] = recipe.variants;
  const fill = { id: 'oneColour', params: { colour, insides: 'filled' } };
  const body = { basedOn: revision, why: 'Recolour', recipe: { ...recipe, variants: [{ ...first, fill }, ...rest] } };
  const answer = await app.call('PUT', paths.markRecipe(mark.id), body);
  expect(answer.status, await answer.clone().text()).toBe(200);
}
const link = (body: object) => app.json<ProofView>('POST', paths.proofs, body);
/** Somebody outside: no page of ours, any host. */
const outside = (path: string, init: object = {}) =>
  app.raw(path, { ...init, headers: { host: 'tassel.example', ...(init as { headers?: object }).headers } });
const keyOf = (view: ProofView) => view.path.split('/').pop() as string;
const open = async (view: ProofView) => (await outside(paths.proofData(keyOf(view)))).json() as Promise<ProofPage>;
const say = (view: ProofView, body: object) =>
  outside(paths.proofAnswers(keyOf(view)), {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json' },
  });

describe('a proof link', () => {
  let view: ProofView;
  it('shows a mark’s variants as they were, to whoever has the address', async () => {
    view = await link({ kind: 'variants', targetId: mark.id });
    expect(view).toMatchObject({ title: 'Badge', state: 'open', isNewer: false, version: 1 });
    const page = await open(view);
    expect(page.pictures.map((p) => p.title)).toEqual(mark.recipe.variants.map((v) => v.name));
    const picture = new Uint8Array(await (await outside(page.pictures[0].picture as string)).arrayBuffer());
    expect((await sharp(picture).metadata()).width).toBe(1600);
    const before = Buffer.from(picture).toString('base64');
    await recolour('#b5322b');
    const later = await open(view);
    expect(later).toMatchObject({ isNewer: true, version: 1 });
    const same = Buffer.from(await (await outside(later.pictures[0].picture as string)).arrayBuffer());
    expect(same.toString('base64')).toBe(before);
  });
  it('stands on the background that each variant is meant for', async () => {
    const page = await open(view);
    const grounds = Object.fromEntries(page.pictures.map((p) => [p.title, p.ground]));
    expect(grounds).toMatchObject({ Black: '#ffffff', Reversed: '#141414' });
    const delivery = await app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), {
      basedOn: (await newest()).revision,
    });
    await app.waitFor(delivery.id);
    const files = (await open(await link({ kind: 'delivery', targetId: delivery.id }))).pictures;
    const ofReversed = files.filter((f) => /reversed/.test(f.title));
    expect(ofReversed.length).toBeGreaterThan(0);
    expect(new Set(ofReversed.map((f) => f.ground))).toEqual(new Set(['#141414']));
  });
  it('counts versions from its first proof, and only what shows', async () => {
    const again = await link({ kind: 'board', targetId: mark.id });
    expect(again.version).toBe(2);
    const { recipe, revision } = await newest();
    const next = { ...recipe, files: { ...recipe.files, lines: recipe.files.lines.slice(0, -1) } };
    await app.call('PUT', paths.markRecipe(mark.id), { basedOn: revision, why: 'One file less', recipe: next });
    expect(await open(again)).toMatchObject({ isNewer: false, version: 2 });
    expect((await link({ kind: 'variants', targetId: mark.id })).version).toBe(2);
    await recolour('#225588');
    expect((await link({ kind: 'variants', targetId: mark.id })).version).toBe(3);
    await recolour('#b5322b');
  });
  it('takes a yes, and notes that are pinned to a place', async () => {
    expect((await say(view, { kind: 'yes', who: 'Odile' })).status).toBe(201);
    const note = { kind: 'note', picture: 1, x: 0.25, y: 0.5, words: 'A little larger here', who: '' };
    expect((await say(view, note)).status).toBe(201);
    const all = await app.json<ProofView[]>('GET', paths.brandProofs(brandId));
    const listed = all.find((p) => p.id === view.id) as ProofView;
    expect(listed.answers).toMatchObject([{ kind: 'yes', who: 'Odile' }, note]);
    expect(listed.openedCount).toBe(3);
  });
  it.each([
    [{ kind: 'note', words: ' ' }, 400],
    [{ kind: 'maybe' }, 400],
    [{ kind: 'note', words: 'x', x: 4 }, 400],
    [{ kind: 'note', words: 'x'.repeat(3000) }, 400],
  ])('refuses the answer %j', async (body, status) => {
    expect((await say(view, body)).status).toBe(status);
  });
  it('answers alike whether it was never there, was closed, or has ended', async () => {
    const closed = await link({ kind: 'variants', targetId: mark.id });
    const ended = await link({ kind: 'variants', targetId: mark.id, endsOn: '2030-01-01' });
    await app.call('PATCH', paths.ownProof(closed.id), { isClosed: 'yes' });
    await app.call('PATCH', paths.ownProof(ended.id), { endsOn: '2020-01-01' });
    const never = 'A'.repeat(keyOf(closed).length);
    for (const path of [paths.proof, paths.proofData, (k: string) => paths.proofPicture(k, 0)]) {
      const answers = await Promise.all([never, keyOf(closed), keyOf(ended)].map((key) => outside(path(key))));
      const told = await Promise.all(
        answers.map(async (a) => {
          const headers = [...a.headers].filter(([name]) => name !== 'x-request-id');
          return JSON.stringify([a.status, headers, (await a.text()).replace(/"request":"\w+"/, '')]);
        }),
      );
      expect(answers[0].status).toBe(404);
      expect(new Set(told).size).toBe(1);
    }
    await app.call('PATCH', paths.ownProof(closed.id), { isClosed: 'no' });
    expect((await open(closed)).title).toBe('Badge');
  });
  it('shows a board, a wall and a delivery too', async () => {
    expect((await open(await link({ kind: 'board', targetId: mark.id }))).pictures).toHaveLength(1);
    const wall = await app.json<WallView>('POST', paths.brandWalls(brandId), { name: 'Wall' });
    expect((await app.call('POST', paths.proofs, { kind: 'wall', targetId: wall.id })).status).toBe(400);
    await app.call('POST', paths.wallSlots(wall.id), { marks: [mark.id] });
    const onWall = await link({ kind: 'wall', targetId: wall.id });
    expect(await open(onWall)).toMatchObject({ isNewer: false, pictures: [{ width: 360, height: 180 }] });
    const { edition, rule } = await app.json<WallView>('GET', paths.wall(wall.id));
    await app.call('PATCH', paths.wall(wall.id), { basedOn: edition, rule: { ...rule, level: 0.5 } });
    expect((await open(onWall)).isNewer).toBe(true);
    const asked = await app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), {
      basedOn: (await newest()).revision,
    });
    await app.waitFor(asked.id);
    const delivered = await open(await link({ kind: 'delivery', targetId: asked.id }));
    expect(delivered.pictures.length).toBe(asked.fileCount);
    expect(delivered.pictures[0].words).toMatch(/^PNG, \d+ × \d+ px$/);
  });
  it('is listed and taken away by who made it, never by who opens it', async () => {
    const listed = await app.json<ProofView[]>('GET', paths.brandProofs(brandId));
    expect((await outside(paths.ownProof(listed[0].id), { method: 'DELETE' })).status).toBe(403);
    expect((await app.call('DELETE', paths.ownProof(listed[0].id))).status).toBe(204);
    expect((await outside(listed[0].path)).status).toBe(404);
  });
});

describe('a live address', () => {
  let live: LiveView;
  const fetchIt = async (etag?: string) =>
    outside(live.path, { headers: etag ? { 'if-none-match': etag } : {} }) as Promise<Response>;
  it('serves the newest finished file of a size line, to any page, and says that it is the newest', async () => {
    const { recipe } = await newest();
    const line = recipe.files.lines.find((l) => l.variant === recipe.variants[0].id) as { id: string };
    live = await app.json<LiveView>('POST', paths.allLive, { markId: mark.id, lineId: line.id });
    expect(live.path).toMatch(/^\/live\/[\w-]{22}\/badge-.*\.png$/);
    const answer = await until('the live file', fetchIt, (a) => a.status === 200);
    expect(answer.headers.get('content-type')).toBe('image/png');
    expect(answer.headers.get('cache-control')).toBe('public, no-cache');
    expect(answer.headers.get('cross-origin-resource-policy')).toBe('cross-origin');
    expect((await sharp(new Uint8Array(await answer.arrayBuffer())).metadata()).hasAlpha).toBe(true);
    const tag = answer.headers.get('etag') as string;
    expect((await fetchIt(tag)).status).toBe(304);
    expect((await fetchIt(`"x", W/${tag}`)).status).toBe(304);
    expect((await fetchIt('"other"')).status).toBe(200);
  });
  it('follows its master: the same address gives the new file, and never a half one', async () => {
    const tag = (await fetchIt()).headers.get('etag') as string;
    await recolour('#274690');
    const answer = await until('the newer file', fetchIt, (a) => a.headers.get('etag') !== tag);
    expect(answer.status).toBe(200);
    const { data } = await sharp(new Uint8Array(await answer.arrayBuffer()))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const solid = [...data.keys()].find((k) => k % 4 === 3 && data[k] === 255) as number;
    expect([...data.subarray(solid - 3, solid)]).toEqual([0x27, 0x46, 0x90]);
  });
  it('is listed with how often it was fetched and when last', async () => {
    const list = () => app.json<LiveView[]>('GET', paths.brandLive(brandId));
    const [own] = await until('the count of uses', list, ([l]) => l.fetchedCount > 4);
    expect(own).toMatchObject({ id: live.id, markName: 'Badge', problem: null });
    expect(Date.now() - Date.parse(own.fetchedAt as string)).toBeLessThan(60_000);
  });
  it('is one for a line, stays when the line goes, and ends when it is taken back', async () => {
    const body = { markId: mark.id, lineId: live.lineId };
    expect((await app.call('POST', paths.allLive, body)).status).toBe(409);
    expect((await app.call('POST', paths.allLive, { ...body, lineId: 'none' })).status).toBe(404);
    const { recipe, revision } = await newest();
    const lines = recipe.files.lines.filter((l) => l.id !== live.lineId);
    const next = { ...recipe, files: { ...recipe.files, lines } };
    await app.call('PUT', paths.markRecipe(mark.id), { basedOn: revision, why: 'Fewer', recipe: next });
    const list = () => app.json<LiveView[]>('GET', paths.brandLive(brandId));
    await until('the problem', list, ([l]) => l.problem !== null);
    expect((await fetchIt()).status).toBe(200);
    expect((await app.call('DELETE', paths.oneLive(live.id))).status).toBe(204);
    await until('no file', fetchIt, (a) => a.status === 404);
    expect((await outside(paths.live('A'.repeat(22), live.name))).status).toBe(404);
  });
});
