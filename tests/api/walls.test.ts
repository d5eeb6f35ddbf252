import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWall } from '../../bench/walls';
import { paths } from '../../contract/paths';
import type { ProofPage, ProofView } from '../../contract/proofs';
import type { ErrorBody, GroundView, MarkView } from '../../contract/views';
import {
  type SlotView,
  WALL_RECEIPT_HEADER,
  type WallCard,
  type WallReceipt,
  type WallView,
} from '../../contract/walls';
import { findExtents } from '../../core/raster/extents';
import { decodePicture } from '../../codecs/decodePicture';
import { disc, drawMark, pngOf } from '../support/pictures';
import { createTestApp, type TestApp } from '../support/testApp';

let app: TestApp;
let brandId: string;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
});
afterAll(() => app.close());

const newWall = (name: string, rule?: object) =>
  app.json<WallView>('POST', paths.brandWalls(brandId), { name, ...(rule ? { rule } : {}) });
const drop = (id: string, name: string, bytes: Uint8Array) =>
  app.json<WallView>('POST', `${paths.wallFiles(id)}?name=${encodeURIComponent(name)}`, bytes);
const look = async (wall: WallView) => {
  const answer = await app.call('POST', paths.wallLook(wall.id), { slots: wall.slots.map((s) => s.id) });
  expect(answer.status, await answer.clone().text()).toBe(200);
  return (await answer.json()) as WallView;
};
const mend = (id: string) => app.json<WallView>('POST', paths.wallMend(id), {});
const out = async (id: string, form: string, problems?: string) =>
  new Uint8Array(await (await app.call('POST', paths.wallOut(id), { form, problems })).arrayBuffer());
const named = (wall: WallView, file: string) => wall.slots.find((s) => s.file === file) as SlotView;
const boxed = async (ink: [number, number, number]) =>
  new Uint8Array(
    await sharp(await pngOf(drawMark(500, 320, disc(250, 160, 150), ink)))
      .flatten({ background: '#ffffff' })
      .png()
      .toBuffer(),
  );

describe('a wall', () => {
  let wall: WallView;
  const faults = new Map<string, string | null>();
  it('takes files in as marks and says of each what is wrong with it', async () => {
    wall = await newWall('Partners');
    for (const { name, picture, fault } of (await makeWall(31)).filter((l) => !/sound-[234]/.test(l.name))) {
      faults.set(name, fault);
      wall = await drop(wall.id, name, new Uint8Array(await pngOf(picture)));
    }
    expect(wall.slots.every((s) => s.look === null && s.problems.length === 0)).toBe(true);
    wall = await look(wall);
    for (const slot of wall.slots) {
      const fault = faults.get(slot.file);
      if (fault) expect(slot.problems, slot.file).toContain(fault);
      else expect(slot.problems, slot.file).toEqual([]);
      // What nothing is wrong with is its mark at once; a copy among the others is found beside them.
      if (fault !== 'duplicate') expect(slot.shows, slot.file).toBe(fault ? 'file' : 'mark');
    }
  });
  it('shows each as a picture that a browser may keep', async () => {
    const { look: own } = wall.slots[0];
    const answer = await app.call('GET', own?.picture ?? '');
    expect(answer.headers.get('cache-control')).toContain('immutable');
    const { width } = await sharp(new Uint8Array(await answer.arrayBuffer())).metadata();
    expect(width).toBeLessThanOrEqual(720);
  });
  it('is mended in one press: boxes cut out, fringes taken off, stretched ones set right, copies gone', async () => {
    const before = wall;
    wall = await mend(wall.id);
    expect(wall.slots).toHaveLength(before.slots.length - 1);
    const left = wall.slots.flatMap((s) => s.problems.map((p) => `${s.file}: ${p}`));
    // A pale mark on white has no variant but black to turn to, which it has.
    expect(left).toEqual([]);
    expect(wall.slots.every((s) => s.shows === 'mark')).toBe(true);
    const [was, is] = [named(before, 'with-stretched.png'), named(wall, 'with-stretched.png')];
    const ratio = (s: SlotView) => (s.look?.width ?? 0) / (s.look?.height ?? 1);
    // How far is told by the strokes alone here, so that it is an estimate; it is what the look proposed.
    expect(Math.abs(Math.log(was.look?.stretch ?? 1))).toBeGreaterThan(0.1);
    expect(ratio(is) * (was.look?.stretch ?? 1)).toBeCloseTo(ratio(was), 1);
    expect(named(wall, 'with-enlarged.png').look?.hasPaths).toBe(true);
    expect(named(wall, 'with-lost.png').variant).not.toBeNull();
    const mark = await app.json<MarkView>('GET', paths.mark(named(wall, 'with-fringe.png').markId));
    expect(mark.recipe.stages.cutOut.oldGround).toEqual(['#ffffff']);
    expect(mark.canUndo).toBe(true);
  });
  it('is written as files under their names, a picture, a page and a PDF', async () => {
    const files = unzipSync(await out(wall.id, 'files'));
    for (const { file, look: own } of wall.slots) {
      const stem = file.replace(/\.\w+$/, '');
      const { raster } = await decodePicture(files[`${stem}@2x.png`], file);
      expect([raster.width, raster.height]).toEqual([720, 360]);
      const box = findExtents(raster);
      expect(box?.x, file).toBeGreaterThanOrEqual(35);
      expect(files[`${stem}.svg`] !== undefined, file).toBe(own?.hasPaths);
    }
    expect(Object.keys(files)).toEqual(expect.arrayContaining(['wall.png', 'wall.html', 'wall.pdf']));
    expect(Buffer.from(await out(wall.id, 'pdf')).toString('latin1', 0, 5)).toBe('%PDF-');
    const cards = await app.json<WallCard[]>('GET', paths.brandWalls(brandId));
    expect(cards[0]).toMatchObject({ name: 'Partners', slotCount: wall.slots.length });
    expect(cards[0].pictures).toHaveLength(6);
  });
  it('shows its marks in one colour or greys, on another ground, and levels them by a rule', async () => {
    const marks = wall.slots.slice(0, 3).map((s) => s.markId);
    wall = await app.json<WallView>('POST', paths.wallSlots((await newWall('Dressed')).id), { marks });
    const { rule } = wall;
    const dress = async (change: object) => {
      const { edition } = await app.json<WallView>('GET', paths.wall(wall.id));
      const body = { basedOn: edition, rule: { ...rule, ...change } };
      wall = await look(await app.json<WallView>('PATCH', paths.wall(wall.id), body));
      const { raster } = await decodePicture(await out(wall.id, 'picture', 'keep'), 'wall.png');
      return raster;
    };
    const one = await dress({ dress: 'one', colour: '#b5322b', ground: '#f4efe4' });
    // Every pixel is a mixture of the two colours.
    let [far, odd] = [0, 0];
    for (let k = 0; k < one.data.length; k += 4) {
      const share = (one.data[k + 1] - 0xef) / (0x32 - 0xef);
      far = Math.max(far, Math.abs(one.data[k] - (0xf4 + share * (0xb5 - 0xf4))));
    }
    expect(far).toBeLessThan(3);
    const grey = await dress({ dress: 'greys', ground: '#101010' });
    for (let k = 0; k < grey.data.length; k += 4) if (grey.data[k] !== grey.data[k + 1]) odd++;
    expect(odd).toBe(0);
  });
});

describe('the export of a wall', () => {
  const receiptOf = (files: Record<string, Uint8Array>) =>
    JSON.parse(new TextDecoder().decode(files['receipt.json'])) as WallReceipt;
  it('goes by the server’s own check: problems are refused, fixed, or kept when asked', async () => {
    const { id, rule, edition } = await newWall('Just changed');
    await look(await drop(id, 'boxed.png', await boxed([31, 90, 69])));
    // Nobody has checked the wall as it is now, and nobody says what is to become of its problems.
    await app.json('PATCH', paths.wall(id), { basedOn: edition, rule: { ...rule, widthPx: 240 } });
    const refused = await app.call('POST', paths.wallOut(id), { form: 'files' });
    expect(refused.status).toBe(409);
    expect(((await refused.json()) as ErrorBody).error.message).toMatch(/^1 logo has a problem: boxed\.png\./);
    // The disc alone is round; with its box it has the box's shape.
    const shape = async (files: Record<string, Uint8Array>) => {
      const box = findExtents((await decodePicture(files['boxed@2x.png'], 'boxed')).raster);
      return (box?.width ?? 0) / (box?.height ?? 1);
    };
    const kept = unzipSync(await out(id, 'files', 'keep'));
    expect(receiptOf(kept)).toMatchObject({
      fixed: [],
      withProblems: [{ file: 'boxed.png', problems: ['white-box'] }],
    });
    const answer = await app.call('POST', paths.wallOut(id), { form: 'files', problems: 'fix' });
    expect(JSON.parse(answer.headers.get(WALL_RECEIPT_HEADER) ?? '')).toMatchObject({ logos: 1, fixed: 1 });
    const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
    expect(receiptOf(files)).toMatchObject({
      fixed: [{ file: 'boxed.png', problems: ['white-box'] }],
      ...{ withProblems: [], withoutSvg: ['boxed.png'] },
    });
    expect(new TextDecoder().decode(files['receipt.txt'])).toContain('boxed.png: white-box');
    expect([await shape(kept), await shape(files)].map((v) => Math.round(v * 10) / 10)).toEqual([1.6, 1]);
  });
});

describe('a wall on a photo', () => {
  it('stands on it slot by slot, in the picture, the page and the PDF', async () => {
    const photo = await sharp({ create: { width: 900, height: 600, channels: 3, background: '#203a2c' } })
      .jpeg()
      .toBuffer();
    const path = `${paths.brandGroundPhotos(brandId)}?name=${encodeURIComponent('Lock by night.jpg')}`;
    const ground = await app.json<GroundView>('POST', path, new Uint8Array(photo));
    const { id, rule, edition } = await newWall('By night');
    await app.json('PATCH', paths.wall(id), { basedOn: edition, rule: { ...rule, groundId: ground.id } });
    const pale = new Uint8Array(await pngOf(drawMark(500, 320, disc(250, 160, 158), [244, 239, 228])));
    const wall = await look(await drop(id, 'moon.png', pale));
    expect(wall.slots[0].problems).toEqual([]);
    const files = unzipSync(await out(id, 'files'));
    expect(Object.keys(files)).toEqual(expect.arrayContaining(['wall-ground.jpg', 'moon.png', 'wall.pdf']));
    expect(new TextDecoder().decode(files['wall.html'])).toContain('url(wall-ground.jpg)');
    const { raster } = await decodePicture(files['wall.png'], 'wall.png');
    const near = [0x20, 0x3a, 0x2c].map((v, c) => Math.abs(raster.data[c] - v));
    expect(Math.max(...near)).toBeLessThan(6);
    // Whoever looks at its proof sees it as a whole on the photo, and each mark by itself.
    const proof = await app.json<ProofView>('POST', paths.proofs, { kind: 'wall', targetId: id });
    const page = await app.json<ProofPage>('GET', paths.proofData(proof.path.split('/').pop() as string));
    expect(page.pictures.map((p) => p.title)).toEqual(['The whole wall', 'Moon']);
    const whole = await app.call('GET', page.pictures[0].picture as string);
    const shown = await decodePicture(new Uint8Array(await whole.arrayBuffer()), 'whole.png');
    expect([...shown.raster.data.subarray(0, 4)]).toEqual([...raster.data.subarray(0, 4)]);
    // Without its photo it stands on its colour, and what cannot be seen there is told.
    await app.call('DELETE', paths.ground(ground.id));
    expect((await look(await app.json<WallView>('GET', paths.wall(id)))).slots[0].problems).toEqual(['lost']);
  });
});

describe('a file that a mark had before', () => {
  it('is told to be older, and gives way to the newest', async () => {
    const [old, fresh] = [await boxed([31, 90, 69]), await boxed([181, 50, 43])];
    const { mark } = await app.takeIn(brandId, old, 'osier.png');
    await app.call('POST', `${paths.markOriginal(mark.id)}?name=osier-new.png&basedOn=${mark.revision}`, fresh);
    const wall = await look(await drop((await newWall('Older')).id, 'osier.png', old));
    expect(wall.slots[0].markId).toBe(mark.id);
    expect(wall.slots[0].problems).toEqual(['white-box', 'older']);
    const mended = await mend(wall.id);
    expect(mended.slots[0].problems).toEqual([]);
    const { data, info } = await sharp(await out(wall.id, 'picture'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const middle = ((info.height >> 1) * info.width + (info.width >> 1)) * info.channels;
    expect([...data.subarray(middle, middle + 3)].map((v, k) => Math.abs(v - [181, 50, 43][k]) < 4)).not.toContain(
      false,
    );
  });
});

describe('a wall of marks', () => {
  it('is filled from the brand, in any order, each as any of its variants', async () => {
    const marks = await app.json<MarkView[]>('GET', paths.brandMarks(brandId));
    const { id } = await newWall('From marks');
    let wall = await app.json<WallView>('POST', paths.wallSlots(id), { marks: marks.slice(0, 3).map((m) => m.id) });
    expect(wall.slots.map((s) => s.shows)).toEqual(['mark', 'mark', 'mark']);
    const [first, second, third] = wall.slots.map((s) => s.id);
    wall = await app.json<WallView>('PATCH', paths.wallSlot(third), { position: 0 });
    expect(wall.slots.map((s) => s.id)).toEqual([third, first, second]);
    const { variants } = wall.slots[0];
    wall = await app.json<WallView>('PATCH', paths.wallSlot(third), { variant: variants[0].id });
    expect(wall.slots[0].variant).toBe(variants[0].id);
    wall = await app.json<WallView>('DELETE', paths.wallSlot(first));
    expect(wall.slots).toHaveLength(2);
  });
  it('refuses what does not fit, by name', async () => {
    const wall = await newWall('Odd');
    const refused = async (method: string, path: string, body: object, message: RegExp) => {
      const answer = await app.call(method, path, body);
      expect(answer.status).toBeGreaterThanOrEqual(400);
      expect(answer.status).toBeLessThan(500);
      expect(((await answer.json()) as ErrorBody).error.message).toMatch(message);
    };
    await refused('POST', paths.brandWalls(brandId), { name: 'Odd' }, /There is a wall called "Odd" already/);
    await refused('POST', paths.brandWalls(brandId), { name: 'X', rule: { widthPx: 2 } }, /from 8 to 8192 px/);
    await refused('POST', paths.brandWalls(brandId), { name: 'X', rule: { colours: 2 } }, /no "colours"/);
    await refused('PATCH', paths.wall(wall.id), { basedOn: 9, name: 'Y' }, /changed in another window/);
    await refused('POST', paths.wallOut(wall.id), { form: 'files' }, /This wall is empty/);
    const { edition } = wall;
    await refused(
      'PATCH',
      paths.wall(wall.id),
      { basedOn: edition, rule: { padding: { value: 60, unit: '%' } } },
      /half/,
    );
    expect((await app.call('DELETE', paths.wall(wall.id))).status).toBe(204);
    expect((await app.call('GET', paths.wall(wall.id))).status).toBe(404);
  });
});
