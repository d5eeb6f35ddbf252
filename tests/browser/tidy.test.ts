import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import type { Raster } from '../../core/raster/raster';
import { lockHouseSvg } from '../../demo/marks/lockHouse';
import { renderSvg } from '../../demo/render';
import { drawLogos } from '../../demo/scenario';
import { pixel } from '../support/pictures';
import { type BrowserRig, startRig } from './rig';

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
  page = await rig.open(`/marks/${id}/tidy`);
  await page.getByText('12 pieces').first().waitFor();
});
afterAll(() => rig?.stop());

const read = async () => (await rig.get(paths.mark(id))) as MarkView;
const tidyOf = async () => (await read()).recipe.stages.tidy;
async function master(): Promise<Raster> {
  const { revision } = await read();
  const bytes = await (await fetch(rig.url + paths.markMaster(id, revision))).arrayBuffer();
  return (await decodePicture(new Uint8Array(bytes), 'master.png')).raster;
}

/** Where a place of the working picture lies on the screen: the picture is shown whole. */
async function onScreen(x: number, y: number): Promise<[number, number]> {
  const box = await page.locator('.picture').boundingBox();
  if (!box) throw new Error('There is no picture');
  const scale = Math.min((box.width - 56) / 1024, (box.height - 56) / 1024, 2);
  return [box.x + box.width / 2 + (x - 512) * scale, box.y + box.height / 2 + (y - 512) * scale];
}
async function draw(...places: [number, number][]): Promise<void> {
  const [first, ...rest] = await Promise.all(places.map(([x, y]) => onScreen(x, y)));
  await page.mouse.move(...first);
  await page.mouse.down();
  for (const at of rest) await page.mouse.move(...at, { steps: 8 });
  await page.mouse.up();
}
const choose = (name: string) => page.getByRole('button', { name, exact: true }).click();

describe('the lock house', () => {
  it('is cleaned in four actions: its lettering dropped, its door brought back', async () => {
    await choose('Drop pieces');
    await draw([190, 790], [920, 790], [925, 930], [190, 930], [185, 800]);
    await expect.poll(async () => (await tidyOf()).drop.length).toBe(10);
    await choose('Solid in here');
    await draw([425, 480], [600, 485], [598, 731], [428, 730], [424, 490]);
    await expect.poll(async () => (await tidyOf()).edits.length).toBe(1);

    const seen = await master();
    const drawn = renderSvg(lockHouseSvg(1024), 1024, 1024);
    for (let y = 790; y < 1024; y++) for (let x = 0; x < 1024; x++) expect(pixel(seen, x, y)[3]).toBe(0);
    let worst = 0;
    for (let y = 490; y < 740; y++)
      for (let x = 420; x < 605; x++) worst = Math.max(worst, Math.abs(pixel(seen, x, y)[3] - pixel(drawn, x, y)[3]));
    expect(worst).toBeLessThanOrEqual(3);
    await page.getByText('2 pieces, 10 dropped').waitFor();
  });
  it('is rubbed at by brush and brought back; each is one step of the history', async () => {
    const before = await master();
    await choose('Rub out');
    await draw([300, 650], [380, 660]);
    await expect.poll(async () => (await tidyOf()).edits.length).toBe(2);
    expect(pixel(await master(), 340, 655)[3]).toBe(0);
    expect(JSON.stringify((await tidyOf()).edits[1]).length).toBeLessThan(2000);
    await choose('Bring back');
    // Larger than what rubbed out: the soft rim of that is to come back whole.
    await page.getByLabel('Brush size').fill('60');
    await page.keyboard.press('Tab');
    await draw([290, 650], [390, 660]);
    await expect.poll(async () => (await tidyOf()).edits.length).toBe(3);
    expect(Buffer.compare((await master()).data, before.data)).toBe(0);
    for (let k = 2; k >= 1; k--) {
      await page.keyboard.press('Escape');
      await page.keyboard.press('Control+z');
      await expect.poll(async () => (await tidyOf()).edits.length).toBe(k);
    }
    expect(Buffer.compare((await master()).data, before.data)).toBe(0);
  });
  it('shows what a size limit would take, and drops a piece by a press on it', async () => {
    await page.getByLabel('Drop specks below').first().fill('100');
    await page.keyboard.press('Enter');
    await expect.poll(async () => (await tidyOf()).specksBelow).toBe(100);
    const [x, y] = await onScreen(512, 755);
    await page.mouse.click(x, y);
    await expect.poll(async () => (await tidyOf()).drop.length).toBe(11);
    expect(pixel(await master(), 512, 755)[3]).toBe(0);
    expect(rig.problems).toEqual([]);
  });
});
