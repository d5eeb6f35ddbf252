import { zipSync, unzipSync, strToU8 } from 'fflate';
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BundleTaken } from '../../contract/bundles';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, ErrorBody, HistoryEntry, MarkCard, MarkView } from '../../contract/views';
import type { WallCard, WallView } from '../../contract/walls';
import { seededRandom } from '../../core/seededRandom';
import { disc, drawMark, onGround, pngOf } from '../support/pictures';
import { createTestApp, type TestApp } from '../support/testApp';

let here: TestApp;
let there: TestApp;
let brand: BrandView;
let mark: MarkView;
beforeAll(async () => {
  [here, there] = await Promise.all([createTestApp(), createTestApp()]);
  brand = await here.addBrand('Lock keepers');
  await here.call('PATCH', paths.brand(brand.id), {
    ...{ basedOn: 1, palette: [{ name: 'Canal green', hex: '#1f5a45' }], pattern: '{mark}-{variant}' },
  });
  const boxed = onGround(drawMark(300, 200, disc(150, 100, 80), [31, 90, 69]), [255, 255, 255]);
  ({ mark } = await here.takeIn(brand.id, new Uint8Array(await pngOf(boxed)), 'badge.png'));
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#b5322b"/></svg>';
  const { mark: sign } = await here.takeIn(brand.id, new TextEncoder().encode(svg), 'sign.svg');
  const { recipe, revision } = mark;
  const cutOut = { ...recipe.stages.cutOut, choke: 0.5 };
  const next = { ...recipe, stages: { ...recipe.stages, cutOut } };
  const body = { basedOn: revision, why: 'Choke a little', recipe: next };
  mark = await here.json<MarkView>('PUT', paths.markRecipe(mark.id), body);
  const rule = { items: [{ mark: sign.id, at: 'lower-left' }] };
  await here.json('POST', paths.brandPlacements(brand.id), { name: 'Lower left', rule });
  const wall = await here.json<WallView>('POST', paths.brandWalls(brand.id), { name: 'Both' });
  await here.json('POST', paths.wallSlots(wall.id), { marks: [mark.id, sign.id] });
  await here.json('POST', paths.brandGrounds(brand.id), { name: 'Fog', hex: '#e8e6df' });
});
afterAll(() => Promise.all([here.close(), there.close()]));

const bytesOf = async (app: TestApp, path: string) => {
  const answer = await app.call('GET', path);
  expect(
    answer.status,
    await answer
      .clone()
      .text()
      .then((t) => t.slice(0, 200)),
  ).toBe(200);
  return new Uint8Array(await answer.arrayBuffer());
};
const takeIn = (app: TestApp, bytes: Uint8Array, name = 'lock keepers.zip') =>
  app.call('POST', `${paths.bundles}?name=${encodeURIComponent(name)}`, bytes);
const counts = async (app: TestApp) => {
  const tables = ['brand', 'mark', 'recipe_revision', 'former_original', 'ground', 'placement', 'wall', 'wall_slot'];
  const { rows } = await app.db.pool.query(
    `select ${tables.map((t) => `(select count(*) from ${t}) as ${t}`).join(', ')}`,
  );
  return rows[0] as Record<string, string>;
};
/** Every delivered file of a brand's marks. */
async function deliver(app: TestApp, brandId: string): Promise<Record<string, Uint8Array>> {
  const marks = await app.json<MarkCard[]>('GET', paths.brandMarks(brandId));
  const asked = await app.json<DeliveryView>('POST', paths.brandDeliveries(brandId), {
    marks: marks.map((m) => ({ id: m.id, basedOn: m.revision })),
  });
  expect((await app.waitFor(asked.id)).state).toBe('ready');
  const files = unzipSync(await bytesOf(app, paths.deliveryZip(asked.id)));
  return Object.fromEntries(Object.entries(files).filter(([name]) => !name.startsWith('receipt')));
}
/** The same archive with something else in its manifest, its sums written anew. */
function altered(bundle: Uint8Array, change: (manifest: Record<string, never>) => void, level: 0 | 6 = 6): Uint8Array {
  const files = unzipSync(bundle);
  const manifest = JSON.parse(new TextDecoder().decode(files['bundle.json']));
  change(manifest);
  files['bundle.json'] = strToU8(JSON.stringify(manifest));
  delete files.SHA256SUMS;
  const sums = Object.entries(files).map(([path, b]) => `${createHash('sha256').update(b).digest('hex')}  ${path}\n`);
  return zipSync({ ...files, SHA256SUMS: strToU8(sums.join('')) }, { level });
}

describe('a brand as a bundle', () => {
  let bundle: Uint8Array;
  let taken: BundleTaken;
  it('is an open archive whose sums can be checked by other programs', async () => {
    bundle = await bytesOf(here, paths.brandBundle(brand.id));
    const files = unzipSync(bundle);
    const sums = new TextDecoder().decode(files.SHA256SUMS).trim().split('\n');
    expect(sums).toHaveLength(Object.keys(files).length - 1);
    for (const line of sums) {
      const [sum, path] = line.split('  ');
      expect(createHash('sha256').update(files[path]).digest('hex'), path).toBe(sum);
    }
    const manifest = JSON.parse(new TextDecoder().decode(files['bundle.json']));
    expect(manifest).toMatchObject({ format: 'tassel-bundle', version: 1, kind: 'brand' });
    expect(manifest.marks.map((m: { master: object }) => m.master)).toEqual([
      { png: 'masters/m1-badge.png', svg: null },
      { png: 'masters/m2-sign.png', svg: 'masters/m2-sign.svg' },
    ]);
  });
  it('comes out of another installation as the same bytes, and so do its files', async () => {
    const answer = await takeIn(there, bundle);
    expect(answer.status, await answer.clone().text()).toBe(201);
    taken = (await answer.json()) as BundleTaken;
    expect(taken).toMatchObject({ kind: 'brand', differ: [], marks: [{ name: 'Badge' }, { name: 'Sign' }] });
    const again = await bytesOf(there, paths.brandBundle(taken.brandId));
    expect(Buffer.compare(again, bundle)).toBe(0);
    const [ours, theirs] = await Promise.all([deliver(here, brand.id), deliver(there, taken.brandId)]);
    expect(Object.keys(theirs).sort()).toEqual(Object.keys(ours).sort());
    expect(Object.keys(ours).length).toBeGreaterThan(4);
    for (const [name, bytes] of Object.entries(ours)) expect(Buffer.compare(theirs[name], bytes), name).toBe(0);
  });
  it('brings history, wall, placement and grounds along', async () => {
    const [badge] = taken.marks;
    const history = await there.json<HistoryEntry[]>('GET', paths.markHistory(badge.id));
    expect(history.map((h) => h.why)).toEqual(['Choke a little', 'Taken in']);
    const undone = await there.json<MarkView>('POST', paths.markStep(badge.id, 'undo'), {
      basedOn: history[0].revision,
    });
    expect(undone.recipe.stages.cutOut.choke).toBe(0);
    const [wall] = await there.json<WallCard[]>('GET', paths.brandWalls(taken.brandId));
    expect(wall).toMatchObject({ name: 'Both', slotCount: 2 });
    const placements = await there.json<{ name: string; items: { mark: string }[] }[]>(
      'GET',
      paths.brandPlacements(taken.brandId),
    );
    expect(placements).toMatchObject([{ name: 'Lower left', items: [{ mark: taken.marks[1].id }] }]);
  });
  it('taken in twice is a brand of its own each time', async () => {
    const second = (await (await takeIn(there, bundle)).json()) as BundleTaken;
    const names = (await there.json<BrandView[]>('GET', paths.brands)).map((b) => b.name);
    expect(names).toEqual(['Lock keepers', 'Lock keepers 2']);
    expect(second.brandId).not.toBe(taken.brandId);
  });
  it('200 mutated ones are refused by name, and nothing of them stays', async () => {
    const random = seededRandom(7);
    const before = await counts(there);
    const mutate = (k: number): Uint8Array => {
      const bytes = bundle.slice();
      if (k % 8 === 0) return bytes.subarray(0, Math.floor(random() * bytes.length));
      if (k % 8 === 1) return new Uint8Array([...bytes, ...bytes.subarray(0, 1 + Math.floor(random() * 40))]);
      if (k % 8 === 2) {
        const [at, length] = [Math.floor(random() * bytes.length), 1 + Math.floor(random() * 60)];
        bytes.fill(Math.floor(random() * 256), at, at + length);
        if (Buffer.compare(bytes, bundle) !== 0) return bytes;
      }
      const at = Math.floor(random() * bytes.length);
      bytes[at] ^= 1 + Math.floor(random() * 255);
      return bytes;
    };
    for (let k = 0; k < 200; k++) {
      const answer = await takeIn(there, mutate(k), `mutant-${k}.zip`);
      const { error } = (await answer.json()) as ErrorBody;
      expect(answer.status, `${k}: ${JSON.stringify(error)}`).toBe(422);
      expect(error.message).toMatch(new RegExp(`^mutant-${k}\\.zip is not taken in\\. `));
    }
    expect(await counts(there)).toEqual(before);
  });
  it.each<[string, (m: Record<string, never>) => void, RegExp]>([
    ['a newer version', (m) => Object.assign(m, { version: 2 }), /of version 2; this program reads 1/],
    ['another format', (m) => Object.assign(m, { format: 'zip' }), /manifest is not right at format/],
    ['an unknown field', (m) => Object.assign(m, { extra: 1 }), /extra/],
    [
      'a mark of no file',
      (m) => Object.assign(m.marks[0], { original: { path: 'originals/none', name: 'x.png' } }),
      /originals\/none is named in the manifest but is not there/,
    ],
    [
      'a way out of the folder',
      (m) => Object.assign(m.marks[0], { original: { path: '../../etc/passwd', name: 'x.png' } }),
      /not right at marks\[0\]\.original\.path/,
    ],
    [
      'a recipe that cannot be',
      (m) =>
        Object.assign(
          (m.marks[0] as never as { revisions: { recipe: { stages: { cutOut: object } } }[] }).revisions[0].recipe
            .stages.cutOut,
          { tolerance: 'x' },
        ),
      /Revision 1 of Badge cannot be read/,
    ],
    [
      'a history that runs in a ring',
      (m) => Object.assign((m.marks[0] as never as { revisions: object[] }).revisions[0], { parent: 1 }),
      /comes before the one that it changed/,
    ],
    [
      'a wall of a mark that is not there',
      (m) => Object.assign((m.walls[0] as never as { slots: object[] }).slots[0], { mark: 'm9' }),
      /names the mark m9/,
    ],
    [
      'a placement of such a mark',
      (m) => Object.assign((m.placements[0] as never as { rule: { items: object[] } }).rule.items[0], { mark: 'm9' }),
      /names the mark m9/,
    ],
    ['two marks of one key', (m) => Object.assign(m.marks[1], { key: 'm1' }), /share a key/],
  ])('with %s is refused by name', async (_, change, message) => {
    const before = await counts(there);
    const answer = await takeIn(there, altered(bundle, change), 'odd.zip');
    expect(answer.status).toBe(422);
    expect(((await answer.json()) as ErrorBody).error.message).toMatch(message);
    expect(await counts(there)).toEqual(before);
  });
  it('packed anew and compressed by another program is taken in, and what is no bundle is not', async () => {
    expect(
      (
        await takeIn(
          there,
          altered(bundle, () => {}),
        )
      ).status,
    ).toBe(201);
    for (const bytes of [new Uint8Array(0), strToU8('hello'), zipSync({ 'a.txt': strToU8('x') })]) {
      const { error } = (await (await takeIn(there, bytes, 'odd.zip')).json()) as ErrorBody;
      expect(error.message).toMatch(/^odd\.zip is not taken in\. /);
    }
    // What its directory says of the size is looked at before anything is unpacked.
    const huge = zipSync({ 'bomb.bin': new Uint8Array(1024 * 1024) }, { level: 9 });
    const view = new DataView(huge.buffer, huge.byteOffset, huge.length);
    const directory = view.getUint32(huge.length - 6, true);
    view.setUint32(directory + 24, 900 * 1024 * 1024, true);
    const { error } = (await (await takeIn(there, huge, 'bomb.zip')).json()) as ErrorBody;
    expect(error.message).toMatch(/unpacks to more than 800 MB/);
  });
});

describe('a mark as a bundle', () => {
  it('goes to the brand of its own name, or to one that is named, beside one of the same original', async () => {
    const bundle = await bytesOf(here, paths.markBundle(mark.id));
    const own = (await (await takeIn(here, bundle, 'badge.zip')).json()) as BundleTaken;
    expect(own).toMatchObject({ kind: 'mark', brandId: brand.id, marks: [{ name: 'Badge' }] });
    const { id } = await there.addBrand('Others');
    const path = `${paths.bundles}?name=badge.zip&brand=${id}`;
    const taken = (await (await there.call('POST', path, bundle)).json()) as BundleTaken;
    expect([taken.brandId, taken.brandName]).toEqual([id, 'Others']);
    // A brand of its own, though one of its name is there.
    const apart = (await (
      await here.call('POST', `${paths.bundles}?name=badge.zip&brand=new`, bundle)
    ).json()) as BundleTaken;
    expect([apart.brandId === brand.id, apart.brandName]).toEqual([false, `${brand.name} 2`]);
    expect(Buffer.compare(await bytesOf(here, paths.markBundle(own.marks[0].id)), bundle)).toBe(0);
    const [one, other] = await Promise.all([
      bytesOf(here, paths.markMaster(mark.id)),
      bytesOf(there, paths.markMaster(taken.marks[0].id)),
    ]);
    expect(Buffer.compare(one, other)).toBe(0);
  });
});
