import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { pixel } from '../support/pictures';
import { type BrowserRig, deliver, startRig } from './rig';

let rig: BrowserRig;
let page: Page;
let id: string;
const sign =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 60"><path fill="#1f5a45" d="M10 10H70V50H10Z"/>' +
  '<circle cx="40" cy="30" r="8" fill="#ffffff"/></svg>';
beforeAll(async () => {
  rig = await startRig();
  const path = `${paths.brandMarks(rig.brand.id)}?name=sign.svg`;
  const { mark } = await rig.post<TakenIn>(path, new TextEncoder().encode(sign));
  id = mark.id;
  page = await rig.open(`/marks/${id}/variants`);
});
afterAll(() => rig?.stop());

const read = async () => (await rig.get(paths.mark(id))) as MarkView;

it('a reversed variant gets a rim, and is delivered as paths with the light inside left open', async () => {
  await page.getByRole('button', { name: 'Open Reversed' }).click();
  await page.getByRole('button', { name: 'rim', exact: true }).click();
  await expect.poll(async () => (await read()).recipe.variants[2].surrounds.length).toBe(1);
  await page.getByRole('button', { name: 'Colour #FFFFFF' }).nth(1).click();
  await page.getByRole('textbox', { name: 'Colour as text' }).last().fill('6a2a5b');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await read()).recipe.variants[2].surrounds[0].params.colour).toBe('#6a2a5b');
  // Its number on white is that of the rim, which is what stands beside the ground.
  await page.getByText('On every ground').click();
  await page.getByRole('button', { name: /^Reversed on White/ }).waitFor();
  const board = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Board as PDF' }).click();
  expect((await board).suggestedFilename()).toBe('sign-board.pdf');

  const mark = await read();
  const line = { ...mark.recipe.files.lines[0], variant: mark.recipe.variants[2].id };
  const size = { id: 'width', params: { widthPx: 680 } };
  const files = await deliver(rig, page, mark, [
    { ...line, id: 'a', size, format: { id: 'svg', params: {} } },
    { ...line, id: 'b', size, format: { id: 'png', params: {} } },
  ]);
  const svg = new TextDecoder().decode(files.find((f) => f.name.endsWith('.svg'))?.bytes);
  expect([...svg.matchAll(/fill="(#[0-9a-f]+)"/g)].map((m) => m[1])).toEqual(['#6a2a5b', '#ffffff']);
  const { raster } = await decodePicture(files.find((f) => f.name.endsWith('.png'))?.bytes as Uint8Array, 'b.png');
  expect(raster.width).toBe(680);
  const row = raster.height >> 1;
  expect(pixel(raster, 6, row)).toEqual([106, 42, 91, 255]);
  expect(pixel(raster, 100, row)).toEqual([255, 255, 255, 255]);
  expect(pixel(raster, 340, row)[3]).toBe(0);
  expect(rig.problems).toEqual([]);
});

it('a shadow is told to end the paths before a vector file is asked for', async () => {
  await page.goto(`${rig.url}/marks/${id}/variants`);
  await page.getByRole('button', { name: 'Open Reversed' }).click();
  await page.getByRole('button', { name: 'shadow', exact: true }).click();
  await page.getByText('For PNG alone: shadow ends the paths').waitFor();
  await expect.poll(async () => (await read()).recipe.variants[2].casts.length).toBe(1);
  await page.getByRole('button', { name: /^Files/ }).click();
  await page.getByText('SVG holds paths, and what fades out softly is made of pixels').first().waitFor();
});
