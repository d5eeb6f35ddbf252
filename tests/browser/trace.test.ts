import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { renderSvgFile } from '../../codecs/renderSvg';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { lockHouseSvg } from '../../demo/marks/lockHouse';
import { renderSvg } from '../../demo/render';
import { drawLogos } from '../../demo/scenario';
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
  // Its garbled lettering is dropped: see tidy.test.ts for how by hand.
  const { stages } = mark.recipe;
  const outside = [[60, 60, 1000, 60, 1000, 775, 60, 775]];
  await fetch(rig.url + paths.markRecipe(id), {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      basedOn: mark.revision,
      why: 'Lettering gone',
      recipe: { ...mark.recipe, stages: { ...stages, tidy: { ...stages.tidy, outside } } },
    }),
  });
  page = await rig.open(`/marks/${id}/trace`);
}, 120_000);
afterAll(() => rig?.stop());

const read = async () => (await rig.get(paths.mark(id))) as MarkView;

it('a concept in flat colours is traced, recoloured, and delivered as an SVG of three paths', async () => {
  await page.getByText('Outlines', { exact: true }).click();
  await page.getByText(/^\d+ nodes$/).first().waitFor({ timeout: 30_000 }); // prettier-ignore
  await expect.poll(async () => (await read()).recipe.stages.trace.use).toBe('all');
  expect(await page.getByRole('button', { name: /^Colour #/ }).count()).toBe(3);
  await page.getByRole('button', { name: 'Outlines and nodes' }).click();
  expect(await page.locator('.outline-nodes rect').count()).toBeGreaterThan(20);
  await page.keyboard.press('Escape');

  const mark = await read();
  const line = { ...mark.recipe.files.lines[0], id: 'paths', format: { id: 'svg', params: {} } };
  const [file] = await deliver(rig, page, mark, [line]);
  const svg = new TextDecoder().decode(file.bytes);
  expect(svg.match(/<path/g)).toHaveLength(3);
  expect(svg).not.toMatch(/<image/);

  // Drawn by another program it is the house with no lettering below it, but for the door, which the ground runs into.
  const [, w, h] = (/viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) as RegExpExecArray).map(Number);
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
}, 120_000);
