// Whatever was changed a moment ago: what is exported at once is what would be exported after waiting.
import { createHash } from 'node:crypto';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { DeliveryView, LookView, MarkView, PlacementView, RunGroundView } from '../../contract/views';
import type { WallView } from '../../contract/walls';
import type { Recipe } from '../../core/recipe/recipe';
import { disc, drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';
import { until } from '../support/until';

let app: TestApp;
let brandId: string;
let mark: MarkView;
let wallId: string;
let placementId: string;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
  const badge = onGround(drawMark(420, 300, ring(200, 150, 120, 70), [31, 90, 69]), [244, 239, 228]);
  ({ mark } = await app.takeIn(brandId, new Uint8Array(await pngOf(badge)), 'badge.png'));
  wallId = (await app.json<WallView>('POST', paths.brandWalls(brandId), { name: 'Partners' })).id;
  for (const [name, shape] of [
    ['left', disc(90, 120, 70)],
    ['right', ring(300, 120, 90, 40)],
  ] as const) {
    const logo = onGround(drawMark(420, 240, shape, [181, 50, 43]), [250, 250, 250]);
    const bytes = new Uint8Array(await pngOf(logo));
    const path = `${paths.wallFiles(wallId)}?name=${name}.png`;
    expect((await app.call('POST', path, bytes)).status).toBeLessThan(300);
  }
  const rule = { items: [{ mark: mark.id }] };
  const body = { name: 'Lower right', rule };
  placementId = (await app.json<PlacementView>('POST', paths.brandPlacements(brandId), body)).id;
  for (const background of ['#181b20', '#f2efe6']) {
    const photo = sharp({ create: { width: 600, height: 400, channels: 3, background } });
    const bytes = new Uint8Array(await photo.jpeg().toBuffer());
    await app.json<RunGroundView>('POST', `${paths.placementGrounds(placementId)}?name=p${background[1]}.jpg`, bytes);
  }
});
afterAll(() => app.close());

const sums = (zip: ArrayBuffer) =>
  Object.fromEntries(
    Object.entries(unzipSync(new Uint8Array(zip)))
      // A receipt tells when it was written and what had to be fixed.
      .filter(([name]) => !name.startsWith('receipt'))
      .map(([name, bytes]) => [name, createHash('sha256').update(bytes).digest('hex')]),
  );
/** Their names count on: what is in them is compared. */
const contents = (files: Record<string, string>) => Object.values(files).sort();

describe('files of a mark, made right after', () => {
  const newest = () => app.json<MarkView>('GET', paths.mark(mark.id));
  const deliver = async (basedOn: number) => {
    const { id } = await app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), { basedOn });
    const done = await app.waitFor(id);
    expect(done.state).toBe('ready');
    return sums(await (await app.call('GET', paths.deliveryZip(id))).arrayBuffer());
  };
  const cutOut = (change: object) => (r: Recipe) => ({
    ...r,
    stages: { ...r.stages, cutOut: { ...r.stages.cutOut, ...change } },
  });
  const firstLine = (change: object) => (r: Recipe) => ({
    ...r,
    files: { ...r.files, lines: r.files.lines.map((l, k) => (k === 0 ? { ...l, ...change, fitted: undefined } : l)) },
  });
  const firstVariant = (change: object) => (r: Recipe) => ({
    ...r,
    variants: r.variants.map((v, k) => (k === 0 ? { ...v, ...change } : v)),
  });
  it.each<[string, (r: Recipe) => unknown]>([
    ['the edge is choked', cutOut({ choke: 1.5 })],
    ['the tolerance is set', cutOut({ tolerance: 30 })],
    ['areas are opened', cutOut({ enclosed: 'open' })],
    [
      'the crop is changed',
      (r) => ({
        ...r,
        stages: { ...r.stages, crop: { ...r.stages.crop, rect: { x: 60, y: 10, width: 200, height: 280 } } },
      }),
    ],
    ['a piece is covered', (r) => ({ ...r, stages: { ...r.stages, tidy: { ...r.stages.tidy, specksBelow: 12 } } })],
    ['a variant gets another colour', firstVariant({ fill: { id: 'oneColour', params: { colour: '#225588' } } })],
    ['a variant gets a plate', firstVariant({ surrounds: [{ id: 'plate', params: { colour: '#ffffff' } }] })],
    ['a size is typed', firstLine({ size: { id: 'width', params: { widthPx: 133, paddingPct: 4 } } })],
  ])('%s', async (_, change) => {
    const before = await newest();
    const recipe = change(before.recipe);
    const body = {
      basedOn: before.revision,
      why: 'A quick change',
      recipe: JSON.parse(JSON.stringify(recipe)) as object,
    };
    const answer = await app.call('PUT', paths.markRecipe(mark.id), body);
    expect(answer.status, await answer.clone().text()).toBe(200);
    const { revision } = (await answer.json()) as MarkView;
    const atOnce = await deliver(revision);
    expect(contents(atOnce)).toEqual(contents(await deliver(revision)));
    expect(Object.keys(atOnce).length).toBeGreaterThan(2);
  });
});

describe('a wall, exported right after', () => {
  const find = () => app.json<WallView>('GET', paths.wall(wallId));
  const out = async () => {
    const answer = await app.call('POST', paths.wallOut(wallId), { form: 'files', problems: 'fix' });
    expect(answer.status, await answer.clone().text()).toBe(200);
    return sums(await answer.arrayBuffer());
  };
  it.each<[string, object]>([
    ['its slots are wider', { widthPx: 420 }],
    ['its slots are lower', { heightPx: 120 }],
    ['its padding is changed', { padding: { value: 14, unit: 'px' } }],
    ['it is levelled by half', { level: 0.5 }],
    ['it is dressed in one colour', { dress: 'one', colour: '#333333' }],
    ['its ground is dark', { dress: 'colour', ground: '#202020' }],
  ])('%s', async (_, change) => {
    const { edition, rule } = await find();
    await app.json('PATCH', paths.wall(wallId), { basedOn: edition, rule: { ...rule, ...change } });
    const atOnce = await out();
    const wall = await find();
    await app.json('POST', paths.wallLook(wallId), { slots: wall.slots.map((s) => s.id) });
    expect(await out()).toEqual(atOnce);
    expect(Object.keys(atOnce)).toEqual(expect.arrayContaining(['left.png', 'right.png']));
  });
});

describe('a placement, exported right after', () => {
  const find = () => app.json<PlacementView>('GET', paths.placement(placementId));
  const run = async () => {
    await app.json('POST', paths.placementRun(placementId));
    const view = await until('the end of a run', find, (v) => !['waiting', 'making'].includes(v.run.state));
    expect(view.run.problem).toBeNull();
    return sums(await (await app.call('GET', paths.placementZip(placementId))).arrayBuffer());
  };
  it.each<[string, object]>([
    ['the mark stands elsewhere', { at: 'upper-left' }],
    ['the mark is larger', { size: '40%' }],
    ['the mark is half clear', { opacity: 0.5 }],
    ['another variant is chosen', { variant: 'black' }],
    ['the variant is left to the photo', { variant: 'auto' }],
    ['the mark is turned', { turnDeg: 12 }],
  ])('%s', async (_, change) => {
    const { edition, rule, grounds } = await find();
    const [item] = rule.items;
    const body = { basedOn: edition, rule: { ...rule, items: [{ ...item, ...change }] } };
    const answer = await app.call('PATCH', paths.placement(placementId), body);
    expect(answer.status, await answer.clone().text()).toBe(200);
    const atOnce = await run();
    await app.json<LookView[]>('POST', paths.placementLook(placementId), {
      grounds: grounds.map((g) => g.id),
      corners: true,
    });
    expect(await run()).toEqual(atOnce);
    expect(Object.keys(atOnce).length).toBeGreaterThanOrEqual(2);
  });
});
