import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { ErrorBody, LookView, MarkView, PlacementCard, PlacementView, RunGroundView } from '../../contract/views';
import { createTestApp, type TestApp } from '../support/testApp';
import { until } from '../support/until';

let app: TestApp;
let brandId: string;
let mark: MarkView;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#1f5a45"/></svg>';
  ({ mark } = await app.takeIn(brandId, new TextEncoder().encode(svg), 'badge.svg'));
});
afterAll(() => app.close());

const photo = async (background: string, width = 900, height = 600) =>
  new Uint8Array(
    await sharp({ create: { width, height, channels: 3, background } })
      .jpeg()
      .toBuffer(),
  );
const rule = (change: object = {}, more: object = {}) => ({ items: [{ mark: mark.id, ...change }], ...more });
const add = (name: string, own: object = rule()) =>
  app.json<PlacementView>('POST', paths.brandPlacements(brandId), { name, rule: own });
const drop = (id: string, name: string, bytes: Uint8Array) =>
  app.json<RunGroundView>('POST', `${paths.placementGrounds(id)}?name=${name}`, bytes);
const look = (id: string, grounds: readonly { id: string }[], corners = false) =>
  app.json<LookView[]>('POST', paths.placementLook(id), { grounds: grounds.map((g) => g.id), corners });
const find = (id: string) => app.json<PlacementView>('GET', paths.placement(id));
async function run(id: string): Promise<PlacementView> {
  await app.json('POST', paths.placementRun(id));
  const hasEnded = (view: PlacementView) => !['waiting', 'making'].includes(view.run.state);
  return until('the end of a run', () => find(id), hasEnded);
}
const archive = async (id: string) =>
  unzipSync(new Uint8Array(await (await app.call('GET', paths.placementZip(id))).arrayBuffer()));
async function colourAt(bytes: Uint8Array, x: number, y: number): Promise<number[]> {
  const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
  return [...data.subarray((y * info.width + x) * info.channels, (y * info.width + x) * info.channels + 3)];
}

describe('a run over photos', () => {
  let id: string;
  it('is looked at before anything is written: variant, place and contrast of each', async () => {
    ({ id } = await add('Lower right'));
    const dark = await drop(id, 'dark.jpg', await photo('#181b20'));
    const light = await drop(id, 'light.jpg', await photo('#f2efe6'));
    const [onDark, onLight] = await look(id, [dark, light]);
    expect([onDark.items[0].variant, onLight.items[0].variant]).toEqual(['reversed', 'black']);
    expect(onDark).toMatchObject({ ground: dark.id, width: 900, height: 600, gaps: null, corners: null });
    expect(onDark.items[0].box).toEqual({ x: 900 - 24 - 162, y: 600 - 24 - 81, width: 162, height: 81 });
    expect(onDark.items[0].seen).toMatchObject({ shareAbove3: 1 });
    // A plain box of two by one has no thinner stroke than its height.
    expect(Math.abs((onDark.items[0].thinnestPx as number) - 81)).toBeLessThan(4);
    expect(onDark.items[0].tried.map((t) => t.variant)).toEqual(mark.recipe.variants.map((v) => v.id));
  });
  it('is written as it was seen, under names by pattern; what changed by hand is of that photo alone', async () => {
    const [dark, light] = (await find(id)).grounds;
    const change = { change: { 0: { at: 'upper-left', size: '300px', variant: 'colour' } } };
    const changed = await app.json<PlacementView>('PATCH', paths.runGround(light.id), change);
    expect(changed.grounds.map((g) => g.change !== null)).toEqual([false, true]);
    await look(id, [dark, light]);
    const made = await run(id);
    expect(made.run).toMatchObject({ state: 'ready', count: 2, done: 2 });
    const files = await archive(id);
    expect(Object.keys(files)).toEqual(['dark-badge.jpg', 'light-badge.jpg']);
    expect(Math.min(...(await colourAt(files['dark-badge.jpg'], 800, 540)))).toBeGreaterThan(245);
    const [r, g, b] = await colourAt(files['light-badge.jpg'], 100, 60);
    expect([r, g, b].map((v, c) => Math.abs(v - [0x1f, 0x5a, 0x45][c]) < 6)).toEqual([true, true, true]);
  });
  it('makes again only what changed', async () => {
    const before = (await find(id)).grounds.map((g) => g.isOutdated);
    expect(before).toEqual([false, false]);
    const [dark] = (await find(id)).grounds;
    await app.json('PATCH', paths.runGround(dark.id), { change: { 0: { opacity: 0.5 } } });
    await look(id, [dark]);
    expect((await find(id)).grounds.map((g) => g.isOutdated)).toEqual([true, false]);
    const kept = (await archive(id))['light-badge.jpg'];
    expect((await run(id)).run).toMatchObject({ state: 'ready', done: 2 });
    const files = await archive(id);
    expect(Buffer.from(files['light-badge.jpg']).equals(Buffer.from(kept))).toBe(true);
    const [grey] = await colourAt(files['dark-badge.jpg'], 800, 540);
    expect(Math.abs(grey - (0x18 + 255) / 2)).toBeLessThan(8);
  });
  it('tells the places where the mark would read better', async () => {
    const halves = await sharp({ create: { width: 800, height: 400, channels: 3, background: '#ffffff' } })
      .composite([
        { input: { create: { width: 400, height: 400, channels: 3, background: '#808080' } }, left: 400, top: 0 },
      ])
      .jpeg()
      .toBuffer();
    const ground = await drop(id, 'halves.jpg', new Uint8Array(halves));
    const [{ corners }] = await look(id, [ground], true);
    expect(corners).toHaveLength(9);
    expect(['upper-left', 'left', 'lower-left']).toContain(corners?.[0].at);
    expect(corners?.[0].seen.ratio).toBeGreaterThan(15);
  });
  it('has another one made like it, with its grounds', async () => {
    const copy = await app.json<PlacementView>('POST', paths.brandPlacements(brandId), {
      ...{ name: 'Another', rule: (await find(id)).rule, like: id },
    });
    expect(copy.grounds.map((g) => [g.name, g.change, g.made])).toEqual(
      ['dark.jpg', 'light.jpg', 'halves.jpg'].map((name) => [name, null, null]),
    );
    const cards = await app.json<PlacementCard[]>('GET', paths.brandPlacements(brandId));
    expect(cards.map((c) => [c.name, c.groundCount])).toEqual([
      ['Another', 3],
      ['Lower right', 3],
    ]);
  });
});

describe('a check of a placement', () => {
  const toColour = (placed: PlacementView) => ({ ...placed.rule.items[0], variant: 'colour' });
  it('is void once the rule has changed: the file shows what was asked for last', async () => {
    const placed = await add('Asked for last');
    const ground = await drop(placed.id, 'night.jpg', await photo('#181b20'));
    expect((await look(placed.id, [ground]))[0].items[0].variant).toBe('reversed');
    const changed = { basedOn: placed.edition, rule: { ...placed.rule, items: [toColour(placed)] } };
    await app.json('PATCH', paths.placement(placed.id), changed);
    expect((await run(placed.id)).grounds[0].isOutdated).toBe(false);
    const [r, g, b] = await colourAt((await archive(placed.id))['night-badge.jpg'], 800, 540);
    expect(Math.max(Math.abs(r - 0x1f), Math.abs(g - 0x5a), Math.abs(b - 0x45))).toBeLessThan(8);
  });
  it('is not stored over a state that came after it', async () => {
    const placed = await add('Slow check');
    const ground = await drop(placed.id, 'night.jpg', await photo('#181b20'));
    const slow = look(placed.id, [ground]);
    const changed = { basedOn: placed.edition, rule: { ...placed.rule, items: [toColour(placed)] } };
    await app.json('PATCH', paths.placement(placed.id), changed);
    await slow;
    await run(placed.id);
    const { rows } = await app.db.pool.query('select seen from run_ground where id = $1', [ground.id]);
    expect(rows[0].seen).toEqual(['colour']);
  });
  it('made by somebody who only looks changes neither files nor what counts as outdated', async () => {
    const placed = await add('Only looked at');
    const ground = await drop(placed.id, 'night.jpg', await photo('#181b20'));
    await run(placed.id);
    const before = await archive(placed.id);
    await look(placed.id, [ground], true);
    expect((await find(placed.id)).grounds[0].isOutdated).toBe(false);
    expect(await archive(placed.id)).toEqual(before);
  });
});

it('an exact frame of a photo tells its gaps, and is written flat', async () => {
  const strip = { strip: { colour: '#1f5a45', edge: 'lower', heightPx: 40 } };
  const own = rule({ at: 'upper' }, { frame: '640x360', fit: { x: 0, y: 0, width: 640, height: 320 } });
  const placed = await add('Title', { ...own, items: [...own.items, strip] });
  const ground = await drop(placed.id, 'wide.jpg', await photo('#806040', 1920, 1080));
  const [whole] = await look(placed.id, [ground]);
  expect(whole).toMatchObject({ width: 640, height: 360, gaps: null, photo: { x: 0, y: 0, width: 640, height: 320 } });
  expect(whole.items[1]).toMatchObject({ variant: null, box: { x: 0, y: 320, width: 640, height: 40 } });
  const short = { ...placed.rule, items: [placed.rule.items[0], { strip: { ...strip.strip, heightPx: 39 } }] };
  const { edition } = await app.json<PlacementView>('PATCH', paths.placement(placed.id), { basedOn: 1, rule: short });
  expect((await look(placed.id, [ground]))[0].gaps).toEqual({ px: 640, box: { x: 0, y: 320, width: 640, height: 1 } });
  const options = { ...placed.options, format: 'png', pattern: 'TITLE' };
  await app.json('PATCH', paths.placement(placed.id), { basedOn: edition, rule: placed.rule, options });
  await run(placed.id);
  const files = await archive(placed.id);
  expect(Object.keys(files)).toEqual(['TITLE.png']);
  expect(await sharp(files['TITLE.png']).metadata()).toMatchObject({ width: 640, height: 360, hasAlpha: false });
});

it('a clip is looked at over its length, and carries the mark', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'tassel-api-clip-'));
  try {
    const inputs = ['-f', 'lavfi', '-i', 'color=#f0f0e8:s=320x180:d=1', '-f', 'lavfi', '-i', 'sine=d=1'];
    const coded = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-shortest', join(folder, 'clip.mp4')];
    execFileSync('ffmpeg', ['-v', 'error', ...inputs, ...coded]);
    const { id } = await add('On a clip');
    const ground = await drop(id, 'clip.mp4', new Uint8Array(readFileSync(join(folder, 'clip.mp4'))));
    expect(ground).toMatchObject({ kind: 'clip', width: 320, height: 180, seconds: 1 });
    const [seen] = await look(id, [ground]);
    expect(seen.items[0]).toMatchObject({ variant: 'black' });
    expect(seen.items[0].overTime).toHaveLength(12);
    expect(seen.items[0].overTime[3].shares).toMatchObject({ black: 1, reversed: 0 });
    expect((await run(id)).run).toMatchObject({ state: 'ready' });
    expect(Object.keys(await archive(id))).toEqual(['clip-badge.mp4']);
    // A part of it, with the mark from its middle on.
    const clip = { from: 0.6, until: null, fade: 0, cutFrom: 0.2, cutUntil: 0.9 };
    const { options } = await find(id);
    await app.json('PATCH', paths.placement(id), { basedOn: 1, options: { ...options, clip } });
    expect((await run(id)).run).toMatchObject({ state: 'ready' });
    writeFileSync(join(folder, 'part.mp4'), (await archive(id))['clip-badge.mp4']);
    const frames = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', join(folder, 'part.mp4'), '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
      { maxBuffer: 1 << 28 },
    );
    const dark = Array.from(
      { length: frames.length / (320 * 180) },
      (_, k) => frames[k * 320 * 180 + 160 * 320 + 290] < 40,
    );
    expect([dark.length, dark.indexOf(true), dark.lastIndexOf(false)]).toEqual([18, 10, 9]);
    // The mark alone, for a video program.
    const overlay = await app.call('POST', paths.runGroundOverlay(ground.id), { form: 'webm', seconds: 0.4, fade: 0 });
    expect(overlay.headers.get('content-disposition')).toContain('on-a-clip.webm');
    writeFileSync(join(folder, 'o.webm'), new Uint8Array(await overlay.arrayBuffer()));
    const probe = [
      '-v',
      'error',
      '-show_entries',
      'stream=codec_name,width,height:stream_tags=alpha_mode',
      '-of',
      'csv',
    ];
    expect(execFileSync('ffprobe', [...probe, join(folder, 'o.webm')], { encoding: 'utf8' })).toContain(
      'vp9,320,180,1',
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

it('a placement outlives its mark, and says what is gone where it is to be laid', async () => {
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9H0z"/></svg>';
  const { mark: gone } = await app.takeIn(brandId, new TextEncoder().encode(svg), 'gone.svg');
  const { id } = await add('Of a mark that goes', { items: [{ mark: gone.id }] });
  const ground = await drop(id, 'light.jpg', await photo('#f2efe6'));
  await app.call('DELETE', paths.mark(gone.id));
  expect((await find(id)).grounds).toHaveLength(1);
  expect(await look(id, [ground])).toMatchObject({ error: { message: expect.stringContaining('was removed') } });
  expect((await run(id)).run).toMatchObject({ state: 'failed', problem: expect.stringContaining('was removed') });
});

describe('what cannot be', () => {
  it.each([
    [{ name: 'x', rule: { items: [] } }, 'items: expected a list'],
    [{ name: 'x', rule: { items: [{ mark: '00000000-0000-4000-8000-000000000000' }] } }, 'no such mark'],
    [{ name: 'Lower right', rule: null }, 'rule'],
  ])('%j is refused in words', async (body, words) => {
    const { error } = await app.json<ErrorBody>('POST', paths.brandPlacements(brandId), body);
    expect(error.message).toContain(words);
  });
  it('a name that is taken, a change of what was changed elsewhere, and a file that is no photo', async () => {
    const again = await app.json<ErrorBody>('POST', paths.brandPlacements(brandId), { name: 'Title', rule: rule() });
    expect(again.error).toMatchObject({ code: 'store/duplicate-name' });
    const { id } = await add('Once');
    const change = { basedOn: 1, rule: rule({ at: 'upper' }) };
    expect((await app.call('PATCH', paths.placement(id), change)).status).toBe(200);
    expect((await app.call('PATCH', paths.placement(id), change)).status).toBe(409);
    const text = await drop(id, 'words.jpg', new TextEncoder().encode('only words'));
    expect(text).toMatchObject({ error: { code: 'intake/mislabelled' } });
    const clip = await drop(id, 'words.mp4', new TextEncoder().encode('only words, of a clip'));
    expect(clip).toMatchObject({ error: { code: 'clip/damaged' } });
    expect((await find(id)).grounds).toEqual([]);
    expect(await app.json('POST', paths.placementRun(id))).toMatchObject({ error: { code: 'request/invalid' } });
  });
});

it('a picture of one colour is taken in opaque and laid like any other mark', async () => {
  const strip = sharp({ create: { width: 600, height: 120, channels: 3, background: '#1f5a45' } });
  const taken = (await app.takeIn(brandId, new Uint8Array(await strip.png().toBuffer()), 'strip.png')).mark;
  expect([taken.found.way, taken.recipe.stages.cutOut.way]).toEqual(['opaque', 'keep']);
  const items = [{ mark: taken.id, variant: 'colour', at: 'lower', inset: '0', size: '100%' }];
  const { id } = await add('A strip below', { items });
  const ground = await drop(id, 'light.jpg', await photo('#f2efe6'));
  const [seen] = await look(id, [ground]);
  expect(seen.items[0].box).toEqual({ x: 0, y: 420, width: 900, height: 180 });
  await run(id);
  const [made] = Object.values(await archive(id));
  expect(await colourAt(made, 450, 580).then((c) => c.every((v, k) => Math.abs(v - [31, 90, 69][k]) < 4))).toBe(true);
});
