import { afterAll, beforeAll, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { toJpeg } from '../../demo/capture';
import { compositeOn, renderSvg } from '../../demo/render';
import { textPath } from '../../demo/text';
import { decodePicture } from '../../codecs/decodePicture';
import { pixel } from '../support/pictures';
import { type BrowserRig, startRig } from './rig';

const CREAM = [244, 239, 228] as const;
const cream = '#f4efe4';
/** A bird of five patches with a ring line round it, in a filled disc; under it letters drawn by an outline. */
const bird =
  '<circle cx="300" cy="230" r="212" fill="#1f5a45"/>' +
  `<circle cx="300" cy="230" r="192" fill="none" stroke="${cream}" stroke-width="5"/><g fill="${cream}">` +
  '<ellipse cx="290" cy="260" rx="110" ry="62"/><circle cx="404" cy="180" r="38"/>' +
  '<path d="M176 250q-56 -30 -50 -72q40 8 62 46Z"/><rect x="250" y="332" width="14" height="44"/>' +
  '<rect x="310" y="332" width="14" height="44"/></g><circle cx="416" cy="172" r="8" fill="#1f5a45"/>';
const letters =
  `<path d="${textPath('BADGER', 'grotesque', 120, 46, 590, 8)}" fill="none" stroke="#1f5a45" ` + `stroke-width="4"/>`;

let rig: BrowserRig;
beforeAll(async () => {
  rig = await startRig();
});
afterAll(() => rig?.stop());

it('one answer opens a whole figure, another leaves outlined letters white, and the file holds both', async () => {
  const picture = compositeOn(renderSvg(bird + letters, 600, 640), CREAM);
  const { mark } = await rig.post<TakenIn>(
    `${paths.brandMarks(rig.brand.id)}?name=badger.jpg`,
    await toJpeg(picture, 92),
  );
  const page = await rig.open(`/marks/${mark.id}/cutOut`);
  const list = page.getByRole('region', { name: 'Enclosed areas' });
  await list.getByText('2 questions').waitFor();
  await list.getByText(/^figure in a filled shape, \d+ areas$/).waitFor();
  await list.getByText(/^outlined letters, \d+ areas$/).waitFor();
  const chosen = async () => ((await rig.get(paths.mark(mark.id))) as MarkView).recipe.stages.cutOut.areas;

  // By keyboard: to the first question, and all of it open.
  await page.keyboard.press('Alt+ArrowDown');
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '');
  await expect.poll(focused).toMatch(/^Area \d and \d more are solid; make them open$/);
  const isFigure = (await list.locator('.is-unsure').first().textContent()) === (await focused()).match(/\d/)?.[0];
  await page.keyboard.press('Enter');
  await list.getByText('1 question', { exact: true }).waitFor();
  await expect.poll(async () => (await chosen()).length).toBeGreaterThan(4);
  const first = (await chosen()).length;
  expect(isFigure).toBe(true);
  // By pointer: the other one stays solid, and is decided.
  const other = list.getByRole('radiogroup', { name: /^(outlined letters|figure in a filled shape), \d+ areas$/ });
  await other.getByText('solid').click();
  await expect.poll(async () => (await chosen()).length).toBe(first);
  await other.getByText('open').click();
  await expect.poll(async () => (await chosen()).length).toBeGreaterThan(first + 4);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await list.getByText('1 question', { exact: true }).waitFor();

  const { revision } = (await rig.get(paths.mark(mark.id))) as MarkView;
  const file = new Uint8Array(await (await fetch(rig.url + paths.markMaster(mark.id, revision))).arrayBuffer());
  const { raster } = await decodePicture(file, 'master.png');
  const alpha = (x: number, y: number) => pixel(raster, x, y)[3];
  // The figure, its tail and the ring line round it are open; the eye and the disc stay.
  for (const [x, y] of [
    [290, 260],
    [404, 205],
    [155, 215],
    [257, 355],
    [300, 38],
  ])
    expect(alpha(x, y), `${x}, ${y}`).toBe(0);
  expect([alpha(416, 172), alpha(300, 110)]).toEqual([255, 255]);
  // White inside the letters' strokes; through their counters and between them the ground shows.
  expect(pixel(raster, 60, 560)[3]).toBe(255);
  expect(pixel(raster, 60, 560)[0]).toBeGreaterThan(235);
  expect(rig.problems).toEqual([]);
  await page.close();
});
