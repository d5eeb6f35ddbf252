import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { paths } from '../../contract/paths';
import type { DeliveryView, MarkCard, MarkView } from '../../contract/views';
import { drawLogos } from '../../demo/scenario';
import { readFileSync } from 'node:fs';
import { type BrowserRig, startRig } from './rig';

let rig: BrowserRig;
let page: Page;
beforeAll(async () => {
  rig = await startRig();
  page = await rig.open('/marks');
  await page.getByText('Drop files here').waitFor();
});
afterAll(() => rig?.stop());

/** What has the focus, as somebody who cannot see the screen is told. */
const focused = (): Promise<string> =>
  page.evaluate(() => {
    const e = document.activeElement as HTMLElement | null;
    const label = e?.getAttribute('aria-label') ?? (e as HTMLInputElement | null)?.labels?.[0]?.textContent;
    const group = e?.closest('[role=radiogroup]')?.getAttribute('aria-label');
    return group ? `${group}: ${label ?? ''}` : (label ?? e?.textContent ?? '').trim();
  });

/** Presses Tab until something of this name has the focus. */
async function tabTo(name: RegExp): Promise<void> {
  const met = new Set<string>();
  for (let k = 0; k < 300; k++) {
    await page.keyboard.press('Tab');
    const now = await focused();
    met.add(now);
    if (name.test(now)) return;
  }
  throw new Error(`Nothing called ${String(name)} is reached by Tab, only ${[...met].join(' | ')}`);
}
async function press(name: RegExp): Promise<void> {
  await tabTo(name);
  await page.keyboard.press('Enter');
}
const read = async (id: string) => (await rig.get(paths.mark(id))) as MarkView;

it('the whole job of the badge is done without a mouse, from the file to the ZIP', async () => {
  const badge = (await drawLogos()).find((m) => m.id === 'badge');
  // The mouse is nowhere on the page: whatever happens from here on is done by keys.
  const chooser = page.waitForEvent('filechooser');
  await tabTo(/choose files/i);
  await page.keyboard.press('Enter');
  await (
    await chooser
  ).setFiles({ name: 'badge.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(badge?.bytes as Uint8Array) });
  await page.getByText('White · 8').first().waitFor();
  const [{ id }] = (await rig.get(paths.brandMarks(rig.brand.id))) as MarkCard[];

  // An enclosed area is opened, looked at, and made solid again.
  await press(/^Cut out/);
  await page.getByRole('heading', { name: 'Cut out' }).waitFor();
  const before = (await read(id)).revision;
  await tabTo(/^(Area \d+|\d+ areas alike.*): (open|solid)$/);
  const wasSolid = / solid/i.test(await focused());
  await page.keyboard.press(wasSolid ? 'ArrowLeft' : 'ArrowRight');
  await expect.poll(async () => (await read(id)).revision).not.toBe(before);
  const opened = (await read(id)).recipe.stages.cutOut;
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await read(id)).recipe.stages.cutOut).not.toEqual(opened);
  await page.locator('button:enabled', { hasText: 'Redo' }).waitFor();
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => (await read(id)).recipe.stages.cutOut).toEqual(opened);
  await page.keyboard.press('Control+z');

  // A corner is rubbed out by brush and taken back.
  await press(/^Tidy/);
  await page.getByRole('heading', { name: 'Tidy' }).waitFor();
  await press(/^Rub out$/);
  await tabTo(/^Draw over what is to go/);
  for (const key of ['Space', 'Shift+ArrowRight', 'ArrowDown', 'Space']) await page.keyboard.press(key);
  await expect.poll(async () => (await read(id)).recipe.stages.tidy.edits.length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await read(id)).recipe.stages.tidy.edits.length).toBe(0);

  await press(/^Variants/);
  await page
    .getByText(/Filled in|As it is/i)
    .first()
    .waitFor();
  await press(/Files\d+ to make/);
  await press(/^Make \d+ files?$/);
  const download = page.waitForEvent('download');
  await page.getByText(/^Download .*\.zip$/).waitFor();
  await press(/^Download .*\.zip$/);
  const zip = unzipSync(readFileSync(await (await download).path()));
  const [{ id: made }] = (await rig.get(paths.brandDeliveries(rig.brand.id))) as DeliveryView[];
  expect(((await rig.get(paths.delivery(made))) as DeliveryView).state).toBe('ready');
  const [name] = Object.keys(zip).filter((file) => file.endsWith('.png'));
  const { raster } = await decodePicture(zip[name], name);
  const alphas = new Set(raster.data.filter((_, i) => i % 4 === 3));
  expect(alphas.has(0) && alphas.has(255)).toBe(true);
  expect(rig.problems).toEqual([]);
});
