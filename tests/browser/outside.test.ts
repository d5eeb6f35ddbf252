import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { LiveView } from '../../contract/live';
import { paths } from '../../contract/paths';
import type { ProofView } from '../../contract/proofs';
import type { BrandView, MarkView, TakenIn } from '../../contract/views';
import { disc, drawMark, onGround, pngOf } from '../support/pictures';
import { type BrowserRig, startRig } from './rig';

let rig: BrowserRig;
let page: Page;
let mark: MarkView;
beforeAll(async () => {
  rig = await startRig();
  const boxed = onGround(drawMark(400, 300, disc(200, 150, 120), [31, 90, 69]), [255, 255, 255]);
  const bytes = new Uint8Array(await pngOf(boxed));
  ({ mark } = await rig.post<TakenIn>(`${paths.brandMarks(rig.brand.id)}?name=badge.png`, bytes));
  page = await rig.open(`/marks/${mark.id}/variants`);
});
afterAll(() => rig?.stop());

it('a proof link is made, looked at on a phone, answered, and closed', async () => {
  await page.getByRole('button', { name: 'Proof link' }).click();
  await page.getByRole('button', { name: 'Make the link' }).click();
  const address = await page.getByRole('link', { name: /\/proof\// }).getAttribute('href');
  await page.getByRole('button', { name: 'Done', exact: true }).click();

  const outside = await rig.open(address as string);
  await outside.setViewportSize({ width: 390, height: 844 });
  await outside.getByRole('heading', { name: 'Badge' }).waitFor();
  // Nothing reaches beyond the side of a phone.
  const overflow = () => outside.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(await overflow()).toBeLessThanOrEqual(0);
  await outside.getByRole('button', { name: 'Dark' }).click();
  await outside.getByRole('button', { name: 'Pin a note on Colour' }).click({ position: { x: 40, y: 30 } });
  await outside.getByRole('textbox', { name: 'Note' }).fill('A little rounder');
  await outside.getByLabel('Your name').fill('Odile');
  await outside.getByRole('button', { name: 'Pass it on' }).click();
  await outside.getByText('Your note was passed on.').waitFor();
  await outside.getByRole('button', { name: 'Say yes' }).click();
  await outside.getByRole('button', { name: 'Say yes' }).click();
  await outside.getByText('You said yes. Thank you.').waitFor();
  expect(await overflow()).toBeLessThanOrEqual(0);

  await page.goto(`${rig.url}/links`);
  await page.getByText('A little rounder').waitFor();
  const [proof] = (await rig.get(paths.brandProofs(rig.brand.id))) as ProofView[];
  expect(proof.answers.map((a) => a.kind)).toEqual(['note', 'yes']);
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await page.getByText(/, closed/).waitFor();
  await outside.reload();
  await outside.getByText('This link shows nothing, or nothing any more.').waitFor();
  expect(rig.problems).toEqual([]);
});

it('a size line gets a live address, which follows the mark', async () => {
  await page.goto(`${rig.url}/marks/${mark.id}/files`);
  await page.getByRole('button', { name: 'Give it one' }).click();
  await page.getByRole('link', { name: 'Open', exact: true }).waitFor();
  const [live] = (await rig.get(paths.brandLive(rig.brand.id))) as LiveView[];
  const get = () => fetch(rig.url + live.path);
  await expect.poll(async () => (await get()).status).toBe(200);
  const first = await get();
  expect((await sharp(new Uint8Array(await first.arrayBuffer())).metadata()).hasAlpha).toBe(true);
  const width = page.getByLabel('Width', { exact: true });
  await width.fill('120');
  await width.press('Enter');
  const widthOf = async () => (await sharp(new Uint8Array(await (await get()).arrayBuffer())).metadata()).width;
  await expect.poll(widthOf).toBe(120);
  expect((await get()).headers.get('etag')).not.toBe(first.headers.get('etag'));
});

it('the brand is saved as a bundle and taken in again as another brand', async () => {
  await page.goto(`${rig.url}/brand`);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save all as a bundle' }).click();
  const path = await (await download).path();
  const files = unzipSync(new Uint8Array(readFileSync(path)));
  expect(Object.keys(files)).toEqual(expect.arrayContaining(['bundle.json', 'SHA256SUMS', 'masters/m1-badge.png']));
  const take = async (file: { name: string; buffer: Buffer }, into: string) => {
    await page.getByLabel('Bundle to import').setInputFiles({ ...file, mimeType: 'application/zip' });
    const dialog = page.getByRole('dialog');
    await dialog.getByText(into, { exact: true }).click();
    await dialog.getByRole('button', { name: 'Import' }).click();
  };
  await take({ name: 'badge.zip', buffer: Buffer.from('no bundle at all') }, 'Into a new brand');
  await page.getByText(/^badge\.zip is not taken in\./).waitFor();
  await take({ name: 'h.zip', buffer: readFileSync(path) }, 'Into a new brand');
  await page.getByRole('button', { name: /^Harrowmere 2/ }).waitFor();
  // A mark of the first brand goes into the one that is open, and nowhere else.
  const [{ id }] = (await rig.get(paths.brandMarks(rig.brand.id))) as { id: string }[];
  const one = Buffer.from(await (await fetch(rig.url + paths.markBundle(id))).arrayBuffer());
  await page.goto(`${rig.url}/brand`);
  await take({ name: 'one.zip', buffer: one }, 'Into Harrowmere 2');
  await page.getByText('one.zip: 1 mark imported into Harrowmere 2').waitFor();
  const brands = (await rig.get(paths.brands)) as BrandView[];
  expect(brands.map((b) => [b.name, b.markCount])).toEqual([
    ['Harrowmere', 1],
    ['Harrowmere 2', 2],
  ]);
  expect(rig.problems).toEqual([]);
});
