import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openSvg } from '../../codecs/readSvg';
import { renderSvgFile } from '../../codecs/renderSvg';
import { paths } from '../../contract/paths';
import type { MarkView } from '../../contract/views';
import { drawYearlyReview } from '../../demo/yearlyReview';
import { decodePicture } from '../../codecs/decodePicture';
import { findExtents } from '../../core/raster/extents';
import { type BrowserRig, deliver, dropFiles, startRig } from './rig';

let rig: BrowserRig;
let page: Page;
let pages: string;
beforeAll(async () => {
  rig = await startRig();
  page = await rig.open('/marks');
});
afterAll(() => rig?.stop());

it('a mark is picked from a page of a PDF file and delivered as SVG and PNG', async () => {
  const review = await drawYearlyReview();
  await page.locator('.drop-card').waitFor();
  await dropFiles(page, [{ name: review.fileName, type: 'application/pdf', bytes: review.bytes }]);
  await page.getByRole('link', { name: 'Page 2' }).click();
  await page.waitForURL(/\/pages\/.*\/2/);
  pages = page.url();
  await page.getByRole('button', { name: 'Drawn picture 2' }).click();
  await page.getByText('38.1 × 28.5 mm').waitFor();
  await page.getByLabel('Name').fill('Otterling Moorings');
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.waitForURL(/\/marks\/[0-9a-f-]+\/cutOut/);
  const id = /marks\/([0-9a-f-]+)/.exec(page.url())?.[1] as string;
  const mark = (await rig.get(paths.mark(id))) as MarkView;
  expect(mark).toMatchObject({ name: 'Otterling Moorings', source: 'drawing' });
  expect(mark.found.notes).toEqual(['from page 2 of yearly-review.pdf']);

  const line = mark.recipe.files.lines[0];
  const size = { id: 'width', params: { widthPx: 540 } };
  const files = await deliver(rig, page, mark, [
    { ...line, id: 'a', variant: mark.recipe.variants[0].id, size, format: { id: 'svg', params: {} } },
    { ...line, id: 'b', variant: mark.recipe.variants[0].id, size, format: { id: 'png', params: {} } },
  ]);
  const svg = new TextDecoder().decode(files.find((f) => f.name.endsWith('.svg'))?.bytes);
  // Two of its six pieces share a colour, and are one path.
  expect(openSvg(new TextEncoder().encode(svg), 'a.svg').drawing.shapes).toHaveLength(5);
  // Read by another program: the rope's red, and the page's own proportions.
  const shown = renderSvgFile(svg, 540, 403);
  const png = files.find((f) => f.name.endsWith('.png'))?.bytes as Uint8Array;
  const { raster } = await decodePicture(png, 'b.png');
  expect(raster.width).toBe(540);
  expect(Math.abs(raster.height - (540 * 80.667) / 108)).toBeLessThan(1);
  expect(findExtents(raster)).toEqual({ x: 0, y: 0, width: raster.width, height: raster.height });
  expect(shown.data[3]).toBe(0);
  expect(rig.problems).toEqual([]);
});

it('what lies in a rectangle is picked, and a picture on a page becomes a mark of pixels', async () => {
  await page.goto(pages);
  await page.locator('.page-sheet').waitFor();
  const sheet = (await page.locator('.page-sheet').boundingBox()) as { x: number; y: number; width: number };
  const k = sheet.width / 595;
  await page.mouse.move(sheet.x + 370 * k, sheet.y + 600 * k);
  await page.mouse.down();
  await page.mouse.move(sheet.x + 440 * k, sheet.y + 700 * k, { steps: 4 });
  await page.mouse.move(sheet.x + 510 * k, sheet.y + 730 * k, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => page.locator('.page-object.is-picked').count()).toBe(6);
  await page.keyboard.press('Escape');
  expect(await page.locator('.page-object.is-picked').count()).toBe(0);

  await page.getByRole('button', { name: /Picture 1, made of pixels/ }).click();
  await page.getByText('a picture of pixels').waitFor();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.waitForURL(/\/marks\/[0-9a-f-]+\/cutOut/);
  const id = /marks\/([0-9a-f-]+)/.exec(page.url())?.[1] as string;
  expect((await rig.get(paths.mark(id))) as MarkView).toMatchObject({ source: 'picture', width: 900, height: 420 });
});

it('a locked file is refused by name, beside others that are taken in', async () => {
  await page.goto(`${rig.url}/marks`);
  await page.locator('.drop-card').waitFor();
  const { bytes } = await drawYearlyReview();
  const folder = mkdtempSync(join(tmpdir(), 'tassel-'));
  writeFileSync(join(folder, 'open.pdf'), bytes);
  const locked = execFileSync('qpdf', [join(folder, 'open.pdf'), '--encrypt', 'secret', 'owner', '256', '--', '-']);
  rmSync(folder, { recursive: true });
  await dropFiles(page, [
    { name: 'locked.pdf', type: 'application/pdf', bytes: locked },
    { name: 'cut.pdf', type: 'application/pdf', bytes: locked.subarray(0, 300) },
  ]);
  await page.getByText('locked.pdf is locked by a password').waitFor();
  await page.getByText(/cut\.pdf is damaged/).waitFor();
});
