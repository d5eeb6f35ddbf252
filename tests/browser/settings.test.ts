import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { photographSheet } from '../../core/ink/testSheet';
import type { Raster } from '../../core/raster/raster';
import { runStages } from '../../core/recipe/runRecipe';
import { toJpeg } from '../../demo/capture';
import { decodePicture } from '../../codecs/decodePicture';
import { disc, drawMark, either, jpegOf, onGround, pixel, ring } from '../support/pictures';
import { type BrowserRig, startRig } from './rig';

let rig: BrowserRig;
beforeAll(async () => {
  rig = await startRig();
});
afterAll(() => rig?.stop());

const take = async (name: string, bytes: Uint8Array) =>
  (await rig.post<TakenIn>(`${paths.brandMarks(rig.brand.id)}?name=${name}`, bytes)).mark;
const look = async (mark: MarkView) => (await rig.get(paths.mark(mark.id))) as MarkView;
const cutOutOf = async (mark: MarkView) => (await look(mark)).recipe.stages.cutOut;
const fetched = async (path: string): Promise<Raster> =>
  (await decodePicture(new Uint8Array(await (await fetch(rig.url + path)).arrayBuffer()), 'x.png')).raster;
const masterOf = async (mark: MarkView) => fetched(paths.markMaster(mark.id, (await look(mark)).revision));
const badge = drawMark(420, 360, either(ring(210, 180, 150, 100), disc(210, 180, 40)), [31, 90, 69]);

// What the file shows is what the core makes of the stored recipe; see-through pixels carry the mark's colour besides.
function expectSame(file: Raster, own: Raster): void {
  expect([file.width, file.height]).toEqual([own.width, own.height]);
  for (let i = 0; i < own.data.length; i += 4) {
    if (file.data[i + 3] !== own.data[i + 3])
      expect.fail(`alpha differs at ${(i / 4) % own.width}, ${Math.floor(i / 4 / own.width)}`);
    if (
      own.data[i + 3] > 0 &&
      (file.data[i] !== own.data[i] || file.data[i + 1] !== own.data[i + 1] || file.data[i + 2] !== own.data[i + 2])
    )
      expect.fail(`colour differs at ${(i / 4) % own.width}, ${Math.floor(i / 4 / own.width)}`);
  }
}

describe('settings of the flat ground way', () => {
  it('are set by keyboard and number, undone and redone, and the file is what the core makes of them', async () => {
    const mark = await take('badge.jpg', await jpegOf(onGround(badge, [244, 239, 228]), 70));
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const slider = page.getByRole('slider', { name: 'Tolerance' });
    await slider.waitFor();
    const start = Number(await slider.getAttribute('aria-valuenow'));
    await slider.focus();
    await slider.press('ArrowRight');
    await expect.poll(async () => (await cutOutOf(mark)).tolerance).toBe(start + 1);
    await slider.press('PageUp');
    await expect.poll(async () => (await cutOutOf(mark)).tolerance).toBe(start + 9);
    for (const [name, value] of [
      ['Choke or spread', -1.5],
      ['Softness', 0.8],
      ['Clean-up', 0.5],
    ] as const) {
      const field = page.getByRole('spinbutton', { name });
      await field.fill(String(value));
      await field.press('Enter');
      const key = { 'Choke or spread': 'choke', Softness: 'softness', 'Clean-up': 'cleanUp' }[name] as 'choke';
      await expect.poll(async () => (await cutOutOf(mark))[key]).toBe(value);
    }
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await cutOutOf(mark)).cleanUp).toBe(1);
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect.poll(async () => (await cutOutOf(mark)).cleanUp).toBe(0.5);

    const { recipe } = await look(mark);
    const working = await fetched(paths.markPicture(mark.id, 'working'));
    const file = await masterOf(mark);
    expectSame(file, runStages(working, recipe.stages, { pictureKey: 'own', reduction: 1 }).master.raster);
    // Spread outwards by a pixel and a half, the ring is visible where it was not drawn.
    expect(pixel(file, 59, 180)[3]).toBeGreaterThan(60);
    expect(pixel(badge, 58, 180)[3]).toBe(0);

    await page.getByRole('button', { name: 'Back to automatic', exact: true }).click();
    await expect.poll(async () => (await cutOutOf(mark)).tolerance).toBeNull();
    await page.getByRole('button', { name: 'All back to automatic' }).click();
    await expect.poll(async () => cutOutOf(mark)).toMatchObject({ tolerance: null, choke: 0, softness: 0, cleanUp: 1 });
    expect(rig.problems).toEqual([]);
    await page.close();
  });
  it('refuse what is out of range by keeping the nearest that is not', async () => {
    const mark = await take('range.jpg', await jpegOf(onGround(badge, [255, 255, 255]), 80));
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const choke = page.getByRole('spinbutton', { name: 'Choke or spread' });
    await choke.waitFor();
    await choke.fill('70');
    await choke.press('Enter');
    await expect.poll(async () => (await cutOutOf(mark)).choke).toBe(5);
    await page.close();
  });
});

describe('settings of the ink on paper way', () => {
  it('level and weight are kept, and reach the file', async () => {
    const mark = await take('sheet.jpg', await toJpeg(photographSheet({ noise: 2 }, -3).picture, 90));
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const slider = page.getByRole('slider', { name: 'Cut level' });
    await slider.waitFor();
    const start = Number(await slider.getAttribute('aria-valuenow'));
    await slider.focus();
    await slider.press('PageUp');
    await expect.poll(async () => (await cutOutOf(mark)).level ?? 0).toBeGreaterThan(start + 0.03);
    const visible = (r: Raster) => r.data.reduce((n, v, i) => n + (i % 4 === 3 && v > 100 ? 1 : 0), 0);
    const before = await masterOf(mark);
    const weight = page.getByRole('spinbutton', { name: 'Weight' });
    await weight.fill('1.5');
    await weight.press('Enter');
    await expect.poll(async () => (await cutOutOf(mark)).weight).toBe(1.5);
    expect(visible(await masterOf(mark))).toBeGreaterThan(1.15 * visible(before));
    await page.getByRole('switch', { name: 'Keep printed lines' }).click();
    await expect.poll(async () => (await cutOutOf(mark)).keepLines).toBe(true);
    await page.getByRole('button', { name: 'All back to automatic' }).click();
    await expect.poll(async () => cutOutOf(mark)).toMatchObject({ level: null, weight: 0, keepLines: false });
    expect(rig.problems).toEqual([]);
    await page.close();
  });
});

it('the matte view shows the mark white and the ground black, the original as it came', async () => {
  const mark = await take('views.jpg', await jpegOf(onGround(badge, [214, 229, 238]), 95));
  const page = await rig.open(`/marks/${mark.id}/cutOut`);
  await page.getByRole('slider', { name: 'Tolerance' }).waitFor();
  // The disc in the middle of the mark, which stands in the middle of the picture's own part of the screen.
  const middle = async (): Promise<number[]> => {
    const shot = await page.screenshot({ clip: { x: 480, y: 400, width: 4, height: 4 } });
    return [...(await sharp(shot).removeAlpha().raw().toBuffer()).subarray(0, 3)];
  };
  await page.getByText('Matte', { exact: true }).click();
  await expect.poll(middle).toEqual([255, 255, 255]);
  await page.getByText('Original', { exact: true }).last().click();
  await expect
    .poll(async () => Math.max(...(await middle()).map((v, c) => Math.abs(v - [31, 90, 69][c]))))
    .toBeLessThan(8);
  await page.close();
});
