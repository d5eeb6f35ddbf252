import { execFileSync } from 'node:child_process';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { renderSvgFile } from '../../codecs/renderSvg';
import { paths } from '../../contract/paths';
import type { Raster } from '../../core/raster/raster';
import type { MarkView, TakenIn } from '../../contract/views';
import { lockHouseSvg } from '../../demo/marks/lockHouse';
import { renderSvg } from '../../demo/render';
import { findExtents } from '../../core/raster/extents';
import { photographSheet } from '../../core/ink/testSheet';
import { toJpeg } from '../../demo/capture';
import { drawLogos, drawSheets } from '../../demo/scenario';
import { pixel } from '../support/pictures';
import { type BrowserRig, deliver, startRig } from './rig';

let rig: BrowserRig;
let page: Page;
let id: string;
beforeAll(async () => {
  rig = await startRig();
  const house = (await drawLogos()).find((m) => m.id === 'lock-house');
  const { mark } = await rig.post<TakenIn>(
    `${paths.brandMarks(rig.brand.id)}?name=lock-house.png`,
    house?.bytes as Uint8Array,
  );
  id = mark.id;
  page = await rig.open(`/marks/${id}/trace`);
});
afterAll(() => rig?.stop());

const viewOf = (svg: string) => /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) as RegExpExecArray;
const widthOf = (svg: string) => Number(viewOf(svg)[1]);
const heightOf = (svg: string) => Number(viewOf(svg)[2]);

const read = async () => (await rig.get(paths.mark(id))) as MarkView;

it('a concept in flat colours is traced, its lettering picked and left out, and delivered as an SVG', async () => {
  await page.getByText('All files', { exact: true }).click();
  await page.getByText(/^\d+ nodes$/).first().waitFor(); // prettier-ignore
  await expect.poll(async () => (await read()).recipe.stages.trace.use).toBe('all');
  expect(await page.getByRole('button', { name: /^Colour #/ }).count()).toBe(3);
  await page.getByRole('button', { name: 'Outlines and nodes' }).click();
  expect(await page.locator('.outline-nodes rect').count()).toBeGreaterThan(20);
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Pick on the picture' }).click();
  const box = (await page.locator('.picture').boundingBox()) as { x: number; y: number; width: number; height: number };
  const moveTo = (x: number, y: number) => page.mouse.move(box.x + box.width * x, box.y + box.height * y);
  const across = [0.3, 0.5, 0.7, 0.75, 0.7, 0.5, 0.3, 0.27];
  const down = [0.75, 0.74, 0.75, 0.85, 0.94, 0.95, 0.94, 0.85];
  const round = across.map((x, k) => [x, down[k]]);
  await moveTo(round[0][0], round[0][1]);
  await page.mouse.down();
  for (const [x, y] of round) await moveTo(x, y);
  await page.mouse.up();
  await page.getByText(/^\d+ of \d+ picked$/).waitFor();
  const pieces = page.getByRole('region', { name: 'Pieces of the outlines' });
  await pieces.getByRole('button', { name: 'Leave out' }).click();
  await expect.poll(async () => (await read()).recipe.stages.trace.pieces.length).toBeGreaterThan(8);

  const mark = await read();
  const line = { ...mark.recipe.files.lines[0], id: 'paths', format: { id: 'svg', params: {} } };
  const [file] = await deliver(rig, page, mark, [line]);
  const svg = new TextDecoder().decode(file.bytes);
  expect(svg.match(/<path/g)).toHaveLength(3);
  expect(svg).not.toMatch(/<image/);

  // Drawn by another program it is the house with no lettering below it, but for the door, which the ground runs into.
  const [w, h] = [widthOf(svg), heightOf(svg)];
  const truth = renderSvg(lockHouseSvg(1024), 1024, 1024);
  const isMeant = (x: number, y: number) => y < 775 && pixel(truth, x, y)[3] > 127;
  const all = [...Array(1024).keys()];
  const left = all.find((x) => all.some((y) => isMeant(x, y))) as number;
  const top = all.find((y) => all.some((x) => isMeant(x, y))) as number;
  const drawn = renderSvgFile(svg, Math.round(w), Math.round(h));
  let wrong = 0;
  for (let y = 0; y < drawn.height; y++) {
    for (let x = 0; x < drawn.width; x++) {
      const [tx, ty] = [x + left, y + top];
      const isDoor = tx > 420 && tx < 605 && ty > 475 && ty < 745;
      if (!isDoor && isMeant(tx, ty) !== pixel(drawn, x, y)[3] > 127) wrong++;
    }
  }
  // At half coverage a pixel at the edge may fall either way.
  expect(wrong / (drawn.width * drawn.height)).toBeLessThan(0.005);
  expect(rig.problems).toEqual([]);
});

it('of several tries one is taken, traced for vector files alone, and delivered as one blue path', async () => {
  // A smaller sheet than a telephone's, of three tries: how long a large one takes is no matter here.
  const tries = await toJpeg(photographSheet({ noise: 2 }, -4).picture, 90);
  const path = `${paths.brandMarks(rig.brand.id)}?name=tries.jpg`;
  const { mark: taken } = await rig.post<TakenIn>(path, tries);
  const sheet = await rig.open(`/marks/${taken.id}/crop`);
  await sheet.getByRole('button', { name: 'Take signature 3' }).click();
  await sheet.getByRole('button', { name: /^Trace/ }).click();
  await sheet.getByText('SVG and PDF', { exact: true }).click();
  await sheet.getByText(/^\d+ nodes$/).first().waitFor(); // prettier-ignore
  await sheet.getByRole('button', { name: /^Colour #/ }).first().click(); // prettier-ignore
  await sheet.getByRole('textbox', { name: 'Colour as text' }).fill('1f3fbf');
  await sheet.keyboard.press('Enter');
  await sheet.keyboard.press('Escape');
  const own = async () => (await rig.get(paths.mark(taken.id))) as MarkView;
  await expect.poll(async () => (await own()).recipe.stages.trace.changes[0]?.to).toBe('#1f3fbf');
  const mark = await own();
  const line = { ...mark.recipe.files.lines[0], variant: mark.recipe.variants[0].id };
  const size = { id: 'width', params: { widthPx: 800 } };
  const files = await deliver(rig, sheet, mark, [
    { ...line, id: 'a', size, format: { id: 'svg', params: {} } },
    { ...line, id: 'b', size, format: { id: 'png', params: {} } },
  ]);
  const svg = new TextDecoder().decode(files.find((f) => f.name.endsWith('.svg'))?.bytes);
  expect(execFileSync('xmllint', ['--noout', '-'], { input: svg }).length).toBe(0);
  expect([...svg.matchAll(/<path[^>]*fill="(#[0-9a-f]+)"/g)].map((m) => m[1])).toEqual(['#1f3fbf']);
  // The PNG stays pixels, soft at its edges, in the pen's own colour, and holds as much ink.
  const png = (await decodePicture(files.find((f) => f.name.endsWith('.png'))?.bytes as Uint8Array, 'b.png')).raster;
  expect(png.width).toBe(800);
  const inkOf = ({ data }: Raster) => data.reduce((sum, v, k) => (k % 4 === 3 ? sum + v / 255 : sum), 0);
  const drawn = renderSvgFile(svg, 800, Math.round((800 * heightOf(svg)) / widthOf(svg)));
  expect(Math.abs(inkOf(drawn) / inkOf(png) - 1)).toBeLessThan(0.06);
  const shades = new Set(png.data.filter((v, k) => k % 4 === 3 && v > 0));
  expect(shades.size).toBeGreaterThan(100);
});

it('one sign of a sheet of twelve is delivered in a box of 500 by 500', async () => {
  const [signs] = drawSheets();
  const path = `${paths.brandMarks(rig.brand.id)}?name=signs.svg`;
  const { mark: taken } = await rig.post<TakenIn>(path, signs.bytes);
  const sheet = await rig.open(`/marks/${taken.id}/crop`);
  await sheet.getByRole('button', { name: 'Take mark 7' }).click();
  const own = async () => (await rig.get(paths.mark(taken.id))) as MarkView;
  await expect.poll(async () => (await own()).revision).toBeGreaterThan(taken.revision);
  const mark = await own();
  const line = { ...mark.recipe.files.lines[0], variant: mark.recipe.variants[0].id };
  const size = { id: 'box', params: { widthPx: 500, heightPx: 500, paddingPct: 0 } };
  const [file] = await deliver(rig, sheet, mark, [{ ...line, id: 'a', size, format: { id: 'png', params: {} } }]);
  const { raster } = await decodePicture(file.bytes, 'sign.png');
  expect([raster.width, raster.height]).toEqual([500, 500]);
  const extents = findExtents(raster);
  expect(Math.max(extents?.width ?? 0, extents?.height ?? 0)).toBe(500);
  expect(rig.problems).toEqual([]);
});
