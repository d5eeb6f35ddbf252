import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { type DemoMark, drawLogos } from '../../demo/scenario';
import { decodePicture } from '../../codecs/decodePicture';
import { chunkTypes } from '../../codecs/readBackPng';
import { artworkOfDrawing } from '../../core/artwork/artwork';
import { readDrawing } from '../../core/artwork/readDrawing';
import type { Raster } from '../../core/raster/raster';
import { findExtents } from '../../core/raster/extents';
import { type BrowserRig, dropFiles, startRig } from './rig';
import { drawMark, jpegOf, onGround, pixel, pngOf, ring } from '../support/pictures';

let rig: BrowserRig;
let badge: DemoMark;

beforeAll(async () => {
  [rig, badge] = await Promise.all([
    startRig(),
    drawLogos().then((all) => all.find((m) => m.id === 'badge') as DemoMark),
  ]);
});
afterAll(() => rig?.stop());

describe('a logo on an off-white box', () => {
  it('comes back transparent in colour, black and reversed in four actions: drop, Files, make, download', async () => {
    const page = await rig.open('/marks');
    await page.getByText('Drop files here').waitFor();
    await dropFiles(page, [{ name: badge.fileName, type: badge.mediaType, bytes: badge.bytes }]); // 1
    await page.getByText('Taken in.', { exact: false }).first().waitFor();
    await page.getByRole('button', { name: /^Black · \d/ }).waitFor();
    await page
      .getByRole('navigation', { name: 'Stages' })
      .getByRole('button', { name: /^Files/ })
      .click(); // 2
    await page.getByRole('button', { name: 'Make 3 files' }).click(); // 3
    const link = page.getByRole('link', { name: /^Download/ });
    await link.waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]); // 4
    const zip = unzipSync(new Uint8Array(readFileSync(await download.path())));
    const names = Object.keys(zip).sort();
    expect(names).toEqual([
      'receipt.json',
      'receipt.txt',
      expect.stringMatching(/^trust-badge-black-\d+\.png$/),
      expect.stringMatching(/^trust-badge-colour-\d+\.png$/),
      expect.stringMatching(/^trust-badge-reversed-\d+\.png$/),
    ]);
    // The lines that a mark starts with never enlarge it: the ring is 952 of the drawing's 1000 units, 900 px wide.
    const width = Number(/-(\d+)\.png/.exec(names[2])?.[1]);
    expect(width).toBeGreaterThan(700);
    expect(width).toBeLessThanOrEqual(900);
    expect(new TextDecoder().decode(zip['receipt.txt'])).not.toContain('enlarged');
    await page.getByRole('list', { name: 'Receipt' }).getByText(names[4]).waitFor();
    await page.close();

    const opened: Record<string, Raster> = {};
    for (const name of ['black', 'colour', 'reversed']) {
      const bytes = zip[`trust-badge-${name}-${width}.png`];
      expect(bytes[28], `${name} is not interlaced`).toBe(0);
      expect(
        chunkTypes(bytes).filter((c) => !['IHDR', 'sRGB', 'PLTE', 'tRNS', 'IDAT', 'IEND'].includes(c)),
        name,
      ).toEqual([]);
      opened[name] = (await decodePicture(bytes, `${name}.png`)).raster;
      expect(opened[name].width).toBe(width);
      const extents = findExtents(opened[name]);
      expect(extents, `${name} is trimmed`).toMatchObject({ x: 0, y: 0, width, height: opened[name].height });
    }
    checkBadge(opened);
  });

  it('the wipe, the views, undo after a reload and the tolerance handle do what they say', async () => {
    const { mark } = await rig.post<TakenIn>(
      `${paths.brandMarks(rig.brand.id)}?name=ring.png`,
      await pngOf(onGround(drawMark(400, 300, ring(200, 150, 120, 80), [31, 90, 69]), [255, 255, 255])),
    );
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const chart = page.getByRole('slider', { name: 'Tolerance' });
    await chart.waitFor();
    const before = Number(await chart.getAttribute('aria-valuenow'));
    await chart.focus();
    await page.keyboard.press('PageUp');
    await expect.poll(() => chart.getAttribute('aria-valuenow')).toBe(String(before + 8));
    await page.getByText('saved').waitFor();
    await page.reload();
    await expect
      .poll(() => page.getByRole('slider', { name: 'Tolerance' }).getAttribute('aria-valuenow'))
      .toBe(String(before + 8));
    await page.keyboard.press('Control+z');
    await expect
      .poll(() => page.getByRole('slider', { name: 'Tolerance' }).getAttribute('aria-valuenow'))
      .toBe(String(before));
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect
      .poll(() => page.getByRole('slider', { name: 'Tolerance' }).getAttribute('aria-valuenow'))
      .toBe(String(before + 8));

    const areas = page.getByRole('region', { name: 'Enclosed areas' });
    await areas.getByText('solid', { exact: true }).click();
    await expect
      .poll(
        async () =>
          ((await (await fetch(rig.url + paths.mark(mark.id))).json()) as MarkView).recipe.stages.cutOut.areas,
      )
      .toHaveLength(1);
    await page.getByText('Matte', { exact: true }).click();
    await page.getByRole('img', { name: /, matte$/ }).waitFor();
    expect(await darkestOnScreen(page)).toBeLessThan(10);
    await page.close();
  });

  it('refused files are named, and the others come in', async () => {
    const page = await rig.open('/marks');
    await page.getByText('Drop files here').waitFor();
    const good = await pngOf(onGround(drawMark(200, 200, ring(100, 100, 80, 40), [200, 30, 60]), [250, 250, 250]));
    await dropFiles(page, [
      { name: 'broken.png', type: 'image/png', bytes: good.subarray(0, 150) },
      { name: 'good.png', type: 'image/png', bytes: good },
      { name: 'empty.jpg', type: 'image/jpeg', bytes: new Uint8Array(0) },
    ]);
    const list = page.getByRole('region', { name: 'Taken in' });
    await list.getByText('broken.png is damaged', { exact: false }).waitFor();
    await list.getByText('empty.jpg is empty', { exact: false }).waitFor();
    await list.getByText('Flat ground #fafafa', { exact: false }).waitFor();
    await page.getByRole('link', { name: /^Good logo/ }).waitFor();
    await page.close();
  });

  it('no page reported an error', () => expect(rig.problems).toEqual([]));
});

describe('screen and file', () => {
  it('agree byte for byte: the browser’s worker and the server make the same master', async () => {
    let page: Page | null = null;
    for (const [name, bytes] of [
      ['ring.jpg', await jpegOf(onGround(drawMark(420, 360, ring(210, 180, 150, 90), [31, 90, 69]), [244, 239, 228]))],
      ['alpha.png', await pngOf(drawMark(120, 90, ring(60, 45, 30, 18), [3, 90, 200]))],
      ['paths.svg', new TextEncoder().encode(PATHS)],
    ] as const) {
      const taken = await rig.post<TakenIn>(`${paths.brandMarks(rig.brand.id)}?name=${name}`, bytes);
      const mark = name.endsWith('.svg') ? taken.mark : await withStrokes(taken.mark);
      page ??= await rig.open(`/marks/${mark.id}/cutOut`);
      const worker = page.workers()[0] ?? (await page.waitForEvent('worker'));
      const fromBrowser = await page.evaluate(
        async ({ script, source, values }) => {
          const own = new Worker(script, { type: 'module' });
          const ask = (id: number, request: object) =>
            new Promise<{ ok: boolean; value: { width: number; height: number; data: Uint8Array } }>((resolve) => {
              own.onmessage = (e) => resolve(e.data);
              own.postMessage({ id, request });
            });
          await ask(1, { type: 'open', source });
          const { value } = await ask(2, { type: 'master', values });
          const digest = await crypto.subtle.digest('SHA-256', value.data as Uint8Array<ArrayBuffer>);
          return {
            width: value.width,
            sha: [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join(''),
          };
        },
        {
          script: worker.url(),
          source: { key: 'x', kind: mark.source, url: sourceUrl(mark), reduction: 1 },
          values: mark.recipe.stages,
        },
      );
      const png = new Uint8Array(await (await fetch(rig.url + paths.markMaster(mark.id, mark.revision))).arrayBuffer());
      const { raster } = await decodePicture(png, 'master.png');
      expect(fromBrowser.width).toBe(raster.width);
      // Clear pixels differ by design: the file carries the mark's colour past its edge. All else must be the same.
      const shaOf = await masterSha(raster, mark);
      expect(fromBrowser.sha, name).toBe(shaOf);
    }
    await page?.close();
  });
});

/** A mark with strokes of every kind by hand, so that they too are compared. */
async function withStrokes(mark: MarkView): Promise<MarkView> {
  const at = (share: number) => Math.round(mark.width * share);
  const brush = (kind: 'rub' | 'back' | 'solid' | 'open', y: number) =>
    ({ kind, size: at(0.07), hardness: 0.4, points: [at(0.2), at(y), 1, at(0.6), at(y + 0.05), 0.6] }) as const;
  const loop = [at(0.3), at(0.3), at(0.6), at(0.33), at(0.4), at(0.5)];
  const edits = [
    brush('rub', 0.3),
    brush('back', 0.32),
    brush('solid', 0.4),
    brush('open', 0.5),
    { kind: 'cover', points: loop, colour: '#b5322b' } as const,
  ];
  const { stages } = mark.recipe;
  const recipe = { ...mark.recipe, stages: { ...stages, tidy: { ...stages.tidy, edits } } };
  const answer = await fetch(rig.url + paths.markRecipe(mark.id), {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ basedOn: mark.revision, why: 'strokes', recipe }),
  });
  expect(answer.status).toBe(200);
  return (await answer.json()) as MarkView;
}

const PATHS =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 40"><path d="M3 36C20 -20 60 ' +
  '70 87 4L80 38Z" fill="#1f5a45"/><circle cx="45" cy="20" r="9" fill="#b5322b" ' +
  'fill-opacity="0.6"/></svg>';

const sourceUrl = (mark: MarkView) =>
  mark.source === 'drawing' ? paths.markDrawing(mark.id) : paths.markPicture(mark.id, 'working');

/** The server's master with clear pixels as the stage leaves them: computed by the same core on the server's side. */
async function masterSha(raster: Raster, mark: MarkView): Promise<string> {
  const { runStages } = await import('../../core/recipe/runRecipe');
  const { createHash } = await import('node:crypto');
  const bytes = new Uint8Array(await (await fetch(rig.url + sourceUrl(mark))).arrayBuffer());
  const source =
    mark.source === 'drawing' ? artworkOfDrawing(readDrawing(bytes)) : (await decodePicture(bytes, 'w.png')).raster;
  const own = runStages(source, mark.recipe.stages, { pictureKey: 'w', reduction: 1 }).master.raster;
  for (let i = 0; i < own.data.length; i += 4) {
    if (own.data[i + 3] !== raster.data[i + 3]) throw new Error('The server’s file differs from the stage');
    if (
      own.data[i + 3] > 0 &&
      (own.data[i] !== raster.data[i] ||
        own.data[i + 1] !== raster.data[i + 1] ||
        own.data[i + 2] !== raster.data[i + 2])
    )
      throw new Error('The server’s file differs from the stage');
  }
  return createHash('sha256').update(own.data).digest('hex');
}

const darkestOnScreen = (page: Page) =>
  page.evaluate(() => {
    const canvas = document.querySelector('.picture-canvas') as HTMLCanvasElement;
    const { data } = (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(20, 20, 40, 40);
    return Math.max(...data.filter((_, i) => i % 4 < 3));
  });

/**
 * What the badge's files must hold, by the drawing: positions in the drawing's 1000 units, files trimmed to its ring.
 */
function checkBadge({ black, colour, reversed }: Record<string, Raster>): void {
  const at = (r: Raster, x: number, y: number) =>
    pixel(r, Math.round(((x - 24) / 952) * r.width), Math.round(((y - 24) / 952) * r.height));
  expect(at(colour, 500, 450)[0], 'the heron is red').toBeGreaterThan(150);
  expect(at(colour, 524, 304), 'the white eye stays').toEqual([255, 255, 255, 255].map((v) => expect.closeTo(v, -1.3)));
  expect(at(colour, 600, 690)[3], 'the white waterline stays').toBeGreaterThan(240);
  for (const [x, y] of [
    [430, 280],
    [700, 420],
    [300, 560],
    [590, 760],
    [500, 62],
  ]) {
    for (const r of [black, colour, reversed]) expect(at(r, x, y)[3], `the gap at ${x}, ${y} is see-through`).toBe(0);
  }
  for (let i = 0; i < reversed.data.length; i += 4) {
    if (reversed.data[i + 3] === 0) continue;
    for (let c = 0; c < 3; c++)
      if (reversed.data[i + c] !== 255) throw new Error('The reversed variant holds a pixel that is not white');
  }
  // A fringe on black would be light, half-clear pixels far from the mark's edge.
  let stray = 0;
  for (let y = 0; y < reversed.height; y++)
    for (let x = 0; x < reversed.width; x++) {
      const distance = Math.hypot(x - reversed.width / 2, y - reversed.height / 2) / reversed.width;
      if (distance > 0.354 && distance < 0.378 && pixel(reversed, x, y)[3] > 12) stray++;
    }
  expect(stray, 'nothing between wheel and lettering').toBe(0);
}
