import { afterAll, beforeAll, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { toJpeg } from '../../demo/capture';
import { compositeOn, renderSvg } from '../../demo/render';
import { decodePicture } from '../../codecs/decodePicture';
import { pixel } from '../support/pictures';
import { type BrowserRig, startRig } from './rig';

const places = [
  [200, 300],
  [400, 300],
  [300, 180],
] as const;
const star = ([x, y]: readonly [number, number]) =>
  `<path d="M${Array.from({ length: 10 }, (_, k) => `${x + (k % 2 ? 37 : 80) * Math.sin((k * Math.PI) / 5)} ${y - (k % 2 ? 37 : 80) * Math.cos((k * Math.PI) / 5)}`).join('L')}Z" ` +
  'fill="#f4efe4"/>';

let rig: BrowserRig;
beforeAll(async () => {
  rig = await startRig();
});
afterAll(() => rig?.stop());

it(
  'three unsure areas are gone through and decided by keyboard alone, and the file ' + 'holds what was decided',
  async () => {
    const picture = compositeOn(
      renderSvg(`<circle cx="300" cy="280" r="212" fill="#1f5a45"/>${places.map(star).join('')}`, 600, 600),
      [244, 239, 228],
    );
    const { mark } = await rig.post<TakenIn>(
      `${paths.brandMarks(rig.brand.id)}?name=stars.jpg`,
      await toJpeg(picture, 88),
    );
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const unsure = page.getByRole('region', { name: 'Enclosed areas' });
    await unsure.getByText('3 unsure').waitFor();
    const chosen = async () => ((await rig.get(paths.mark(mark.id))) as MarkView).recipe.stages.cutOut.areas;
    for (let k = 1; k <= 3; k++) {
      await page.keyboard.press('Alt+ArrowDown');
      await expect
        .poll(() => page.evaluate(() => document.activeElement?.getAttribute('aria-label')))
        .toMatch(/^Area \d is solid; make it open$/);
      await page.keyboard.press('Enter');
      await expect.poll(chosen).toHaveLength(k);
      // The screen has the new result before the next one is looked for.
      if (k < 3) await unsure.getByText(`${3 - k} unsure`).waitFor();
    }
    // The last one was right as it was: a second Enter puts it back, and now it is decided.
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.getAttribute('aria-label')))
      .toMatch(/is open; make it solid$/);
    await page.keyboard.press('Enter');
    await expect.poll(async () => (await chosen()).filter((a) => a.decision === 'solid').length).toBe(1);
    await expect.poll(() => unsure.getByText('unsure', { exact: false }).count()).toBe(0);

    const { revision } = (await rig.get(paths.mark(mark.id))) as MarkView;
    const file = new Uint8Array(await (await fetch(rig.url + paths.markMaster(mark.id, revision))).arrayBuffer());
    const { raster } = await decodePicture(file, 'master.png');
    const decided = await chosen();
    for (const [x, y] of places) {
      const own = decided.find((a) => Math.hypot(a.x - x, a.y - y) < 50);
      const [r, , , alpha] = pixel(raster, x, y);
      expect(alpha, `the star at ${x}, ${y} is ${own?.decision}`).toBe(own?.decision === 'open' ? 0 : 255);
      if (own?.decision === 'solid') expect(r).toBeGreaterThan(235);
      // Its rim is green to the last pixel: no light fringe round what was cut open.
      if (own?.decision === 'open')
        for (let k = -60; k <= 60; k++) {
          const [pr, pg, , pa] = pixel(raster, x + k, y);
          if (pa > 60) expect(pg - pr, `at ${x + k}, ${y}`).toBeGreaterThan(25);
        }
    }
    expect(decided.filter((a) => a.decision === 'open')).toHaveLength(2);
    expect(rig.problems).toEqual([]);
    await page.context().close();
  },
);
