import { decode } from 'fast-png';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { drawingOfPath } from '../core/artwork/drawingOfPath';
import { writeDrawing } from '../core/artwork/readDrawing';
import { PathBuilder } from '../core/vector/path';
import { photographSheet } from '../core/ink/testSheet';
import { casts } from '../core/casts';
import { formatHost } from '../codecs/formatHost';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { purposes } from '../core/purposes';
import { type FileOrder, ordersOf, treated } from '../core/recipe/fileOrder';
import { makeFile } from '../core/recipe/makeFile';
import { sizes } from '../core/sizes';
import type { RectPx } from '../core/params';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { surrounds } from '../core/surrounds';
import { initialRecipe, lineOf, partOf, readRecipe, variantOf } from '../core/recipe/recipe';
import { makeVariant, runStages } from '../core/recipe/runRecipe';
import { type StageValues, stageIds } from '../core/stages';
import type { Raster } from '../core/raster/raster';
import { takeMark } from '../core/recipe/takeMark';
import { openSvg } from '../codecs/readSvg';
import { drawSheets } from '../demo/scenario';
import { findCandidates } from './findCandidates';
import { decodePicture } from '../codecs/decodePicture';
import { encodeWorkingPng } from '../codecs/encodePng';
import { resizeRaster } from '../core/raster/resize';
import { seededRandom } from '../core/seededRandom';
import { createStageCache } from '../core/recipe/stageCache';
import { disc, drawMark, either, onGround, pixel, ring } from '../tests/support/pictures';
import type { Answers, Envelope, Reply, Request } from './protocol';

// A bitmap of the tests is the picture itself.
interface Picture {
  width: number;
  height: number;
  data: Uint8ClampedArray | Uint8Array;
  close(): void;
}
const bitmapOf = (r: { width: number; height: number; data: Uint8ClampedArray | Uint8Array }): Picture => ({
  ...r,
  close() {},
});

class Canvas {
  private drawn: Picture | null = null;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {}
  getContext() {
    return {
      drawImage: (p: Picture) => {
        this.drawn = p;
      },
      getImageData: () => ({
        width: this.width,
        height: this.height,
        data: Uint8ClampedArray.from((this.drawn as Picture).data),
      }),
    };
  }
}
class Data {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}

const served = new Map<string, Uint8Array>();
const replies = new Map<number, (reply: Reply) => void>();
const scope = {
  onmessage: null as ((e: { data: Envelope }) => void) | null,
  postMessage: (reply: Reply) => replies.get(reply.id)?.(reply),
};
const host = globalThis as unknown as Record<string, unknown>;
const before = Object.fromEntries(
  ['self', 'fetch', 'createImageBitmap', 'OffscreenCanvas', 'ImageData'].map((k) => [k, host[k]]),
);

beforeAll(async () => {
  host.self = scope;
  host.fetch = async (url: string) =>
    served.has(url) ? new Response(served.get(url) as Uint8Array<ArrayBuffer>) : new Response('', { status: 404 });
  host.createImageBitmap = async (from: Blob | Data, size: { resizeWidth?: number; resizeHeight?: number } = {}) => {
    if (size.resizeWidth)
      return bitmapOf({ width: size.resizeWidth, height: size.resizeHeight as number, data: new Uint8Array(0) });
    if (from instanceof Data) return bitmapOf({ width: from.width, height: from.height, data: from.data.slice() });
    const png = decode(new Uint8Array(await from.arrayBuffer()));
    const data = new Uint8Array(png.width * png.height * 4).fill(255);
    for (let i = 0; i < png.width * png.height; i++)
      for (let c = 0; c < 3; c++) data[i * 4 + c] = png.data[i * png.channels + c];
    return bitmapOf({ width: png.width, height: png.height, data });
  };
  host.OffscreenCanvas = Canvas;
  host.ImageData = Data;
  await import('./entry');
});
afterAll(() => Object.assign(host, before));

let last = 0;
function ask<T extends Request['type']>(
  request: Extract<Request, { type: T }>,
  stop?: SharedArrayBuffer,
): Promise<Answers[T]> {
  const id = ++last;
  return new Promise((resolve, reject) => {
    replies.set(id, (reply) => {
      if ('step' in reply) return;
      if (reply.ok) resolve(reply.value as Answers[T]);
      else reject(Object.assign(new Error(reply.error.message), reply.error));
    });
    scope.onmessage?.({ data: { id, request: request as Request, stop } });
  });
}
async function openPicture(name: string, raster: Raster, reduction = 1) {
  served.set(`/${name}.png`, new Uint8Array(await encodeWorkingPng(raster)));
  return ask<'open'>({ type: 'open', source: { key: name, kind: 'picture', url: `/${name}.png`, reduction } });
}

const recipe = initialRecipe();
const flat: StageValues = recipe.stages;
const paper: StageValues = { ...flat, cutOut: { ...flat.cutOut, way: 'paper' } };
const mark = drawMark(240, 200, either(ring(120, 100, 80, 50), disc(120, 100, 20)), [31, 90, 69]);
const badge = onGround(mark, [244, 239, 228]);
const white = { id: 'white', hex: '#ffffff', url: null };
const black = { id: 'black', hex: '#000000', url: null };

describe('the browser’s worker', () => {
  it('says that no picture is open before one is, and that one cannot be loaded', async () => {
    await expect(ask<'matte'>({ type: 'matte', values: flat, open: null })).rejects.toMatchObject({
      code: 'server/internal',
      message: 'No picture is open',
    });
    await expect(
      ask<'open'>({ type: 'open', source: { key: 'none', kind: 'picture', url: '/none.png', reduction: 1 } }),
    ).rejects.toMatchObject({ code: 'store/not-found' });
  });
  it('opens a picture, with its alpha where it has one', async () => {
    const opened = await openPicture('badge', badge);
    expect([opened.width, opened.height]).toEqual([240, 200]);
    expect(new Uint8Array((opened.original as unknown as Picture).data)).toEqual(badge.data);
    await openPicture('clear', mark);
    const { data } = await ask<'master'>({
      type: 'master',
      values: { ...flat, cutOut: { ...flat.cutOut, way: 'keep' } },
    });
    for (let i = 3; i < data.length; i += 4) expect(data[i]).toBe(mark.data[i]);
  });
  it('gives the master that the core gives, trimmed for the screen and whole for checks', async () => {
    await openPicture('badge', badge);
    const done = await ask<'stages'>({
      type: 'stages',
      values: flat,
      grounds: [white, black],
      open: null,
      hasBeads: true,
    });
    const own = runStages(badge, flat, { pictureKey: 'x', reduction: 1 });
    expect(done.shown.frame).toEqual({ width: 240, height: 200 });
    expect(done.shown.extents).toEqual({ x: 40, y: 20, width: 160, height: 160 });
    expect(done.cropped).toBeNull();
    expect(done.facts).toMatchObject({ way: 'flat', groundHex: '#f4efe4', areas: [{ decision: 'open' }] });
    expect(done.findings).toEqual(own.findings);
    expect(done.contrast.white.ratio).toBeGreaterThan(done.contrast.black.ratio);
    const shown = done.shown.bitmap as unknown as Picture;
    expect([shown.width, shown.height]).toEqual([160, 160]);
    const master = await ask<'master'>({ type: 'master', values: flat });
    expect(master.data).toEqual(own.master.raster.data);
  });
  it('raises in the faint view what is hardly there, and nothing that is clear', async () => {
    const open = { type: 'matte', values: flat, open: null } as const;
    const plain = (await ask<'matte'>(open)) as unknown as Picture;
    const raised = (await ask<'matte'>({ ...open, isRaised: true })) as unknown as Picture;
    let soft = 0;
    for (let i = 0; i < plain.data.length; i += 4) {
      const [before, after] = [plain.data[i], raised.data[i]];
      if (before > 0 && before < 60) soft++;
      if (before === 0) expect(after).toBe(0);
      else expect(after).toBeGreaterThanOrEqual(Math.max(96, before));
    }
    expect(soft).toBeGreaterThan(0);
  });
  it('shows the matte as grey, opaque', async () => {
    const matte = (await ask<'matte'>({ type: 'matte', values: flat, open: null })) as unknown as Picture;
    const { data } = await ask<'master'>({ type: 'master', values: flat });
    for (let i = 0; i < data.length; i += 4)
      expect([matte.data[i], matte.data[i + 1], matte.data[i + 2], matte.data[i + 3]]).toEqual([
        data[i + 3],
        data[i + 3],
        data[i + 3],
        255,
      ]);
  });
  it('tells the numbers of a pixel, and nothing beside the picture', async () => {
    expect(await ask<'probe'>({ type: 'probe', values: flat, x: 55.5, y: 100.5 })).toEqual({
      original: '#1f5a45',
      ground: '#f4efe4',
      unmixed: '#1f5a45',
      alpha: 1,
    });
    expect(await ask<'probe'>({ type: 'probe', values: flat, x: 5, y: 5 })).toEqual({
      original: '#f4efe4',
      ground: '#f4efe4',
      unmixed: null,
      alpha: 0,
    });
    for (const [x, y] of [
      [-1, 5],
      [5, -0.5],
      [240, 5],
      [5, 200],
    ])
      expect(await ask<'probe'>({ type: 'probe', values: flat, x, y })).toBeNull();
  });
  it('tells the solid colour beside an outline, and nothing where none is', async () => {
    const around = (x: number, y: number) => [x, y, x + 6, y, x + 6, y + 6, x, y + 6];
    expect(await ask<'beside'>({ type: 'beside', values: flat, points: around(52, 97) })).toBe('#1f5a45');
    expect(await ask<'beside'>({ type: 'beside', values: flat, points: around(2, 2) })).toBeNull();
  });
  it('shows a file as it will be, with what is on it and about how many bytes it will have', async () => {
    await openPicture('page', badge);
    const order = {
      ...ordersOf(lineOf('own', 'black', purposes.get('web')))[0],
      size: partOf(sizes, 'width', { widthPx: 80 }),
    };
    const ask1 = (change: Partial<FileOrder>) =>
      ask<'page'>({ type: 'page', recipe, variant: 'black', palette: [], order: { ...order, ...change } });
    const page = await ask1({});
    expect([page.width, page.height, page.facts.extents]).toEqual([80, 80, { x: 0, y: 0, width: 80, height: 80 }]);
    const variant = recipe.variants.find((v) => v.id === 'black') as (typeof recipe.variants)[0];
    const drawn = makeVariant(artworkOfRaster(badge), recipe, variant, { pictureKey: 'p', pictureOnly: true });
    const { bytes } = await makeFile(drawn, order, formatHost);
    expect(page.bytes / bytes.length).toBeGreaterThan(0.6);
    expect(page.bytes / bytes.length).toBeLessThan(1.6);
    expect([page.keyClash, page.paths]).toEqual([null, null]);
    const key = await ask1({ purpose: { id: 'keyColour', params: { key: 'green' } } });
    expect([key.facts.alphaRange, key.keyClash]).toEqual([[255, 255], 0]);
    expect((await ask1({ format: partOf(formats, 'tiff') })).bytes).toBe(80 * 80 * 4 + 900);
    await expect(ask1({ format: partOf(formats, 'jpeg') })).rejects.toMatchObject({ code: 'format/needs-ground' });
  });
  it('tells the flat colours of the master', async () => {
    expect(await ask<'colours'>({ type: 'colours', values: flat })).toEqual(['#1f5a45']);
  });
  it('draws every variant trimmed, at the size of the full picture', async () => {
    await openPicture('half', badge, 2);
    const variants = await ask<'variants'>({ type: 'variants', recipe, palette: [], grounds: [white, black] });
    expect(variants.map((v) => v.id)).toEqual(recipe.variants.map((v) => v.id));
    for (const v of variants) expect([v.width, v.height]).toEqual([320, 320]);
    const reversed =
      variants[
        recipe.variants.findIndex((v) => v.fill.id === 'oneColour' && JSON.stringify(v.fill.params).includes('#ffffff'))
      ];
    const shown = reversed.bitmap as unknown as Picture;
    expect(pixel({ width: shown.width, height: shown.height, data: new Uint8Array(shown.data) }, 15, 80)).toEqual([
      255, 255, 255, 255,
    ]);
    // Its enclosed area is open in the master as well: there is nothing to ask.
    expect(reversed.hasLightInsides).toBe(false);
    expect(variants[0].hasLightInsides).toBeUndefined();
    const areas = [{ x: 160, y: 200, decision: 'solid' as const }];
    const solid = { ...recipe, stages: { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, areas } } };
    const asked = await ask<'variants'>({ type: 'variants', recipe: solid, palette: [], grounds: [] });
    expect(asked.find((v) => v.id === reversed.id)?.hasLightInsides).toBe(true);
    expect(reversed.contrast.black.ratio).toBeCloseTo(21, 0);
    expect(reversed.contrast.white.ratio).toBeCloseTo(1, 1);
  });
  it.each([
    ...fills.all.map((d) => ({ id: d.id, variant: { fill: partOf(fills, d.id), surrounds: [], casts: [] } })),
    ...surrounds.all.map((d) => ({ id: d.id, variant: { surrounds: [partOf(surrounds, d.id)], casts: [] } })),
    ...casts.all.map((d) => ({ id: d.id, variant: { surrounds: [], casts: [partOf(casts, d.id)] } })),
  ])('shows the very pixels that a file is made of: $id, reduced as a reduced one', async ({ variant }) => {
    for (const reduction of [1, 3]) {
      const key = `same-${reduction}`;
      await openPicture(key, badge, reduction);
      const one = { ...variantOf('own', 'Own', partOf(fills, 'asIs')), ...variant };
      const whole = { ...recipe, variants: [one] };
      const [shown] = await ask<'variants'>({ type: 'variants', recipe: whole, palette: [], grounds: [] });
      const drawn = makeVariant(artworkOfRaster(badge, reduction), whole, one, { pictureKey: key, pictureOnly: true });
      const meant = cropRaster(drawn.raster, findExtents(drawn.raster) as RectPx);
      const { width, height, data } = shown.bitmap as unknown as Picture;
      expect([width, height]).toEqual([meant.width, meant.height]);
      expect(Buffer.compare(Buffer.from(data), Buffer.from(meant.data))).toBe(0);
    }
  });
  it('measures frames and places in full-size pixels when the picture is a reduced one', async () => {
    await openPicture('half', badge, 2);
    const {
      shown: { frame, extents },
      facts,
    } = await ask<'stages'>({ type: 'stages', values: flat, grounds: [], open: null, hasBeads: true });
    expect(frame).toEqual({ width: 480, height: 400 });
    expect(extents).toEqual({ x: 80, y: 40, width: 320, height: 320 });
    expect(facts).toMatchObject({ areas: [{ bounds: { width: expect.any(Number) } }] });
    const [area] = (facts as unknown as { areas: { x: number; y: number; bounds: { width: number } }[] }).areas;
    expect(Math.abs(area.x - 240)).toBeLessThan(100);
    expect(area.bounds.width).toBeGreaterThan(180);
  });
  it('lists the signatures of a whole sheet even while one of them is cropped', async () => {
    const { picture } = photographSheet({ noise: 3, falloff: 0.3 }, -5);
    await openPicture('sheet', picture);
    const all = await ask<'candidates'>({ type: 'candidates', values: paper, gap: null });
    expect(all.marks).toHaveLength(3);
    expect([all.width, all.height, all.sheet]).toEqual([picture.width, picture.height, null]);
    const [first] = all.marks;
    const cropped: StageValues = { ...paper, crop: { ...paper.crop, rect: first.region, turn: first.angleDeg } };
    expect(
      (await ask<'candidates'>({ type: 'candidates', values: cropped, gap: null })).marks.map((m) => m.region),
    ).toEqual(all.marks.map((m) => m.region));
    const one = await ask<'stages'>({ type: 'stages', values: cropped, grounds: [], open: null, hasBeads: true });
    expect(one.cropped).not.toBeNull();
    expect(one.shown.frame.width).toBeLessThan(picture.width);
  });
  it('offers nothing where there is no ink, and says why a cut-out cannot be made', async () => {
    await openPicture(
      'blank',
      onGround(
        drawMark(160, 120, () => 0, [0, 0, 0]),
        [240, 240, 236],
      ),
    );
    expect((await ask<'candidates'>({ type: 'candidates', values: paper, gap: null })).marks).toEqual([]);
    await expect(
      ask<'stages'>({ type: 'stages', values: paper, grounds: [], open: null, hasBeads: true }),
    ).rejects.toMatchObject({
      code: 'cutout/no-ink',
    });
    const nothing = await ask<'stages'>({ type: 'stages', values: flat, grounds: [white], open: null, hasBeads: true });
    expect([nothing.shown.bitmap, nothing.shown.extents]).toEqual([null, null]);
  });
  it('gives every stage’s own output: bead, facts and findings, and sends only beads that changed', async () => {
    await openPicture('beads', badge);
    const first = await ask<'stages'>({ type: 'stages', values: flat, grounds: [], open: 'crop', hasBeads: true });
    expect(Object.keys(first.perStage)).toEqual(stageIds);
    // The crop hands the whole sheet on; the cut-out leaves the mark.
    expect([first.perStage.crop.bead?.width, first.perStage.crop.bead?.height]).toEqual([132, 110]);
    expect([first.perStage.cutOut.bead?.width, first.perStage.cutOut.bead?.height]).toEqual([132, 132]);
    expect(first.perStage.cutOut.findings.every((f) => f.stage === 'cutOut')).toBe(true);
    expect(first.shown.extents).toEqual({ x: 0, y: 0, width: 240, height: 200 });
    expect(first.master?.extents).toEqual({ x: 40, y: 20, width: 160, height: 160 });
    const choked: StageValues = { ...flat, cutOut: { ...flat.cutOut, choke: 2 } };
    const next = await ask<'stages'>({ type: 'stages', values: choked, grounds: [], open: null, hasBeads: true });
    expect([next.perStage.crop.bead, next.master]).toEqual([undefined, null]);
    expect(next.perStage.cutOut.bead).toBeDefined();
  });
  it('lists the pictures of a drawn sheet, and one of them is taken without what lies behind', async () => {
    const { drawing } = openSvg(drawSheets()[0].bytes, 'signs.svg');
    const source = artworkOfDrawing(drawing, 4);
    const keep = { ...initialRecipe().stages, cutOut: { ...initialRecipe().stages.cutOut, way: 'keep' as const } };
    const found = await findCandidates(source, { values: keep, gap: null }, { pictureKey: 'signs' });
    expect(found.marks).toHaveLength(12);
    const apart = await findCandidates(source, { values: keep, gap: 0.002 }, { pictureKey: 'signs' });
    expect(apart.marks.length).toBeGreaterThan(12);
    const { master } = runStages(source, takeMark(keep, found.marks[5], found), { pictureKey: 'signs' });
    expect(master.drawing?.shapes).toHaveLength(3);
    expect(master.drawing?.shapes.some((s) => s.paint.kind === 'colour' && s.paint.hex === '#ffffff')).toBe(false);
  });
  it('opens a drawing, keeps it paths, and renders it as core does at any reduction', async () => {
    const drawing = drawingOfPath(new PathBuilder().moveTo(0, 0).lineTo(90, 20).lineTo(40, 60).done(), '#1f5a45', 300);
    served.set('/drawing.json', writeDrawing(drawing));
    for (const reduction of [1, 2.5]) {
      await ask<'open'>({
        type: 'open',
        source: { key: `d${reduction}`, kind: 'drawing', url: '/drawing.json', reduction },
      });
      const values: StageValues = { ...flat, cutOut: { ...flat.cutOut, way: 'keep' } };
      const { shown } = await ask<'stages'>({ type: 'stages', values, grounds: [], open: null, hasBeads: false });
      expect([shown.hasPaths, shown.exactExtents]).toEqual([true, { x: 0, y: 0, width: 300, height: 200 }]);
      const master = await ask<'master'>({ type: 'master', values });
      expect(master.data).toEqual(artworkOfDrawing(drawing, reduction).raster.data);
    }
  });
  it('breaks off when told to stop', async () => {
    await openPicture('stopped', badge);
    const stop = new SharedArrayBuffer(4);
    new Int32Array(stop)[0] = 1;
    const choked: StageValues = { ...flat, cutOut: { ...flat.cutOut, choke: 1.7 } };
    await expect(ask<'matte'>({ type: 'matte', values: choked, open: null }, stop)).rejects.toMatchObject({
      code: 'work/stopped',
    });
  });
});

describe('a preview of a file', () => {
  // 300 ways to show a mark: every fill, what stands round it and what is cast, traced or not, of a logo and of ink.
  const SEED = 2026;
  const COUNT = 300;
  const partsOf = (random: () => number, registry: typeof surrounds | typeof casts) =>
    registry.all.flatMap((d) => (random() < 0.2 ? [partOf(registry, d.id)] : []));
  const sources = {
    logo: { picture: resizeRaster(badge, 90, 75), way: 'flat' as const },
    signature: { picture: resizeRaster(photographSheet({ noise: 2 }).picture, 140, 100), way: 'paper' as const },
  };
  it('is the file to the byte', { timeout: 240_000 }, async () => {
    const random = seededRandom(SEED);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
    let [compared, refused] = [0, 0];
    const cache = createStageCache(64 << 20);
    for (let k = 0; k < COUNT; k++) {
      const name = k < COUNT / 2 ? 'logo' : 'signature';
      const { picture, way } = sources[name];
      if (k === 0 || k === COUNT / 2) await openPicture(name, picture);
      const use = pick(['off', 'off', 'all', 'vector'] as const);
      const fill = partOf(fills, pick(fills.ids));
      const pen = 'pen' in fill.params ? { pen: pick(['solid', 'pressure']) } : {};
      const variant = {
        ...{ id: 'own', name: 'Own', surrounds: partsOf(random, surrounds), casts: partsOf(random, casts) },
        fill: { ...fill, params: { ...fill.params, ...pen } },
      };
      const stages = {
        ...recipe.stages,
        cutOut: { ...recipe.stages.cutOut, way, ink: random() < 0.3 ? ['#b3431e'] : [] },
        trace: { ...recipe.stages.trace, use },
      };
      const own = readRecipe({ ...recipe, stages, variants: [variant], files: { pattern: '{mark}', lines: [] } });
      const line = { ...lineOf('l', 'own', purposes.get(pick(['web', 'icon', 'stamp', 'maskPair', 'keyColour']))) };
      const [order] = ordersOf({ ...line, size: partOf(sizes, 'width', { widthPx: 70 + Math.floor(random() * 60) }) });
      const asked = { ...order, format: partOf(formats, 'png') };
      const page = await ask<'page'>({ type: 'page', recipe: own, variant: 'own', palette: [], order: asked }).catch(
        (error: Error & { code?: string }) => error,
      );
      // As the server makes it, from the very same picture.
      const { raster } = await decodePicture(Buffer.from(await encodeWorkingPng(picture)), 'working.png');
      const file = await Promise.resolve()
        .then(() =>
          makeFile(
            makeVariant(artworkOfRaster(raster), own, treated(own.variants[0], asked), {
              ...{ pictureKey: name, pictureOnly: true, cache },
            }),
            asked,
            formatHost,
          ),
        )
        .catch((error: Error) => error);
      if (page instanceof Error || file instanceof Error) {
        expect([(page as Error).message, (file as Error).message][0]).toBe((file as Error).message);
        refused++;
        continue;
      }
      const { raster: back } = await decodePicture(Buffer.from(file.bytes), 'file.png');
      const bitmap = page.bitmap as unknown as Picture;
      expect([k, bitmap.width, bitmap.height]).toEqual([k, back.width, back.height]);
      expect(Buffer.compare(Buffer.from(bitmap.data), Buffer.from(back.data)), `${k}: ${JSON.stringify(own)}`).toBe(0);
      compared++;
    }
    expect([compared + refused, compared > COUNT * 0.9]).toEqual([COUNT, true]);
  });
});
