import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { paths } from '../../contract/paths';
import type { WallCard, WallReceipt, WallView } from '../../contract/walls';
import { measureOptics } from '../../core/wall/opticalSize';
import { findExtents } from '../../core/raster/extents';
import { drawPartners } from '../../demo/partners';
import { type BrowserRig, dropFiles, startRig } from './rig';

let rig: BrowserRig;
let page: Page;
beforeAll(async () => {
  rig = await startRig();
  page = await rig.open('/walls');
});
afterAll(() => rig?.stop());

const types = { svg: 'image/svg+xml', jpg: 'image/jpeg', png: 'image/png' };
const wallOf = async () => {
  const [{ id }] = (await rig.get(paths.brandWalls(rig.brand.id))) as WallCard[];
  return (await rig.get(paths.wall(id))) as WallView;
};

it('the towpath partners are looked at, mended, levelled and delivered in few actions', async () => {
  const partners = await drawPartners();
  let actions = 0;
  const act = async <T>(work: Promise<T>): Promise<T> => {
    actions++;
    return work;
  };
  await page.getByText('No wall yet').waitFor();
  const files = partners.map(({ fileName, bytes }) => {
    const ending = fileName.split('.').pop() as keyof typeof types;
    return { name: fileName, type: types[ending], bytes };
  });
  // All together on the list of walls: that is the wall.
  await act(dropFiles(page, files, '.walls'));
  await page.waitForURL(/\/walls\/[0-9a-f-]+/);
  await page.getByText('12 logos').waitFor();
  await page.getByText('6 to mend').waitFor();
  await page.getByRole('button', { name: 'Northcut Barges, white box' }).waitFor();
  await page.getByRole('button', { name: 'Reedling, empty margins' }).waitFor();
  await page.getByRole('button', { name: 'Heronry, stretched' }).waitFor();
  const asked = await wallOf();
  expect(asked.slots.filter((s) => s.problems.includes('white-box'))).toHaveLength(3);
  expect(asked.slots.find((s) => s.file === 'wharfside-radio.png')?.problems).toEqual(['enlarged']);

  const download = page.waitForEvent('download');
  await act(page.getByRole('button', { name: 'Fix 6 and export 12 logos' }).click());
  const zip = unzipSync(readFileSync(await (await download).path()));
  expect(actions).toBeLessThanOrEqual(10);
  const receipt = JSON.parse(new TextDecoder().decode(zip['receipt.json'])) as WallReceipt;
  expect(receipt.fixed.map((f) => f.file)).toContain('wharfside-radio.png');
  expect(receipt.withoutSvg).not.toContain('wharfside-radio.png');
  await page.getByText(/ of 12 logos exported and checked\. 6 fixed/).waitFor();

  const sizes = [];
  for (const { fileName } of partners) {
    const stem = fileName.replace(/\.\w+$/, '');
    const { raster } = await decodePicture(zip[`${stem}@2x.png`], stem);
    expect([raster.width, raster.height]).toEqual([720, 360]);
    // No white box is left: the corners of what is visible are clear, and there is air all round.
    const box = findExtents(raster);
    expect(box && box.x >= 35 && box.y >= 35 && box.x + box.width <= 685, fileName).toBe(true);
    expect(raster.data[3]).toBe(0);
    sizes.push(measureOptics(raster).size);
  }
  const mean = sizes.reduce((a, b) => a + b) / sizes.length;
  const spread = Math.sqrt(sizes.reduce((s, v) => s + (v - mean) ** 2, 0) / sizes.length) / mean;
  expect(spread).toBeLessThan(0.12);
  for (const stem of ['mill-and-weir', 'pollard-rope', 'wharfside-radio']) expect(zip[`${stem}.svg`]).toBeDefined();
  expect(new TextDecoder().decode(zip['wall.html'])).toContain('alt="Quay lane bakery"');
  await page.getByText('12 logos', { exact: true }).waitFor();
  await expect.poll(async () => (await wallOf()).slots.flatMap((s) => s.problems)).toEqual([]);
  expect(rig.problems).toEqual([]);
});

it('a slot is changed by hand: its variant, its place, the size of all, and it goes', async () => {
  await page.getByRole('button', { name: 'Tillerhand', exact: true }).click();
  await page.getByLabel('Variant shown').click();
  await page.getByTitle('Reversed').click();
  await expect
    .poll(async () => (await wallOf()).slots.find((s) => s.file === 'tillerhand.png')?.variant)
    .toBe('reversed');
  await page.getByRole('button', { name: 'Tillerhand, hardly seen' }).waitFor();
  const handle = page.getByRole('button', { name: 'Move Osier' });
  await handle.scrollIntoViewIfNeeded();
  const from = (await handle.boundingBox()) as { x: number; y: number };
  const to = (await page.getByRole('button', { name: 'Move Mill and weir' }).boundingBox()) as { x: number; y: number };
  await page.mouse.move(from.x + 4, from.y + 4);
  await page.mouse.down();
  await page.mouse.move(from.x - 20, from.y + 4, { steps: 4 });
  await page.mouse.move(to.x + 4, to.y + 4, { steps: 8 });
  await page.mouse.up();
  await expect.poll(async () => (await wallOf()).slots[0].file).toBe('osier.png');
  await page.getByLabel('Slot', { exact: true }).fill('200x200');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await wallOf()).rule).toMatchObject({ widthPx: 200, heightPx: 200 });
  await page.getByRole('button', { name: 'Take it down' }).click();
  await expect.poll(async () => (await wallOf()).slots).toHaveLength(11);
  expect(rig.problems).toEqual([]);
});

it('right after a change the button waits for the check, and no white box is exported', async () => {
  const [northcut] = (await drawPartners()).filter((p) => /northcut/.test(p.fileName));
  const other = await rig.open('/walls');
  await dropFiles(other, [{ name: 'boxed.jpg', type: 'image/jpeg', bytes: northcut.bytes }], '.walls');
  await other.getByRole('button', { name: 'Fix 1 and export 1 logo' }).waitFor();
  await other.getByLabel('Slot', { exact: true }).fill('240x160');
  await other.keyboard.press('Enter');
  const download = other.waitForEvent('download');
  await other
    .getByRole('button', { name: /export/i })
    .first()
    .click();
  const zip = unzipSync(readFileSync(await (await download).path()));
  const { raster } = await decodePicture(zip['boxed@2x.png'], 'boxed');
  expect([raster.width, raster.height, raster.data[3]]).toEqual([480, 320, 0]);
  expect(findExtents(raster)?.x).toBeGreaterThanOrEqual(30);
  await other.close();
});
