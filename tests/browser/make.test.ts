import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView } from '../../contract/views';
import { findExtents } from '../../core/raster/extents';
import type { Raster } from '../../core/raster/raster';
import { decodePicture } from '../../codecs/decodePicture';
import { pixel } from '../support/pictures';
import { setFormat } from './lines';
import { type BrowserRig, startRig } from './rig';

let rig: BrowserRig;
beforeAll(async () => {
  rig = await startRig();
});
afterAll(() => rig?.stop());

const markOf = async (page: Page): Promise<MarkView> => {
  await page.waitForURL(/\/marks\/[^/]+\/cutOut/);
  return (await rig.get(paths.mark(/marks\/([^/]+)/.exec(page.url())?.[1] as string))) as MarkView;
};
const masterOf = async (mark: MarkView): Promise<Raster> =>
  (
    await decodePicture(
      new Uint8Array(await (await fetch(rig.url + paths.markMaster(mark.id, mark.revision))).arrayBuffer()),
      'm.png',
    )
  ).raster;

/** A stroke by mouse across the pad; shares of its width and height. */
async function stroke(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
  const box = (await page.getByRole('img', { name: 'Sign here' }).boundingBox()) as {
    x: number;
    y: number;
    width: number;
    height: number;
  };
  const at = ([u, v]: readonly [number, number]) => [box.x + u * box.width, box.y + v * box.height] as const;
  await page.mouse.move(...at(points[0]));
  await page.mouse.down();
  for (const p of points.slice(1)) await page.mouse.move(...at(p));
  await page.mouse.up();
}
const line = (from: readonly [number, number], to: readonly [number, number], steps = 24) =>
  Array.from(
    { length: steps + 1 },
    (_, k) => [from[0] + ((to[0] - from[0]) * k) / steps, from[1] + ((to[1] - from[1]) * k) / steps] as const,
  );
const inkIn = (r: Raster) => r.data.reduce((n, v, i) => n + (i % 4 === 3 && v > 127 ? 1 : 0), 0);

type Extents = NonNullable<ReturnType<typeof findExtents>>;

describe('the pad', () => {
  /** How long the same stroke is for its breadth, as the pad draws by itself. */
  let usual = 0;
  it('steps back, clears, keeps several tries, and makes a mark of the chosen one in its colour', async () => {
    const page = await rig.open('/take-in/draw');
    const make = page.getByRole('button', { name: 'Make the mark' });
    await page.getByRole('img', { name: 'Sign here' }).waitFor();
    expect(await make.isDisabled()).toBe(true);
    await stroke(page, line([0.2, 0.5], [0.8, 0.5]));
    await stroke(page, line([0.5, 0.2], [0.5, 0.8]));
    await page.getByRole('button', { name: 'Undo' }).click(); // the upright one goes
    await page.getByRole('button', { name: 'Another try' }).click();
    expect(await make.isDisabled(), 'the new try is empty').toBe(true);
    await stroke(page, line([0.3, 0.3], [0.6, 0.7]));
    await page.getByRole('button', { name: 'Clear' }).click();
    await page.getByRole('button', { name: 'Try 1' }).click();
    await page.getByRole('radio', { name: 'Enamel cream' }).click();
    await page.getByText('dark pad', { exact: true }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill('One line');
    await make.click();
    const mark = await markOf(page);
    expect(mark).toMatchObject({ name: 'One line', kind: 'signature', found: { way: 'vector' } });
    const raster = await masterOf(mark);
    // One level line: far wider than tall, and cream.
    const extents = findExtents(raster) as Extents;
    usual = extents.width / extents.height;
    expect(usual).toBeGreaterThan(15);
    expect(pixel(raster, Math.round(raster.width / 2), Math.round(extents.y + extents.height / 2))).toEqual([
      0xe9, 0xdd, 0xc4, 255,
    ]);
    await page.close();
  });
  it('makes strokes broader by the ink width', async () => {
    const page = await rig.open('/take-in/draw');
    await stroke(page, line([0.2, 0.5], [0.8, 0.5]));
    await page.getByRole('slider', { name: 'Ink width' }).focus();
    for (let k = 0; k < 12; k++) await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: 'Make the mark' }).click();
    const { width, height } = findExtents(await masterOf(await markOf(page))) as Extents;
    await page.close();
    expect(width / height).toBeLessThan(usual / 1.4);
  });
});

describe('paths from the screen to the file', () => {
  it(
    'a typed mark, asked to be a signature, leaves as SVG, PDF and a PNG of 3000 px that ' +
      'no pixel was enlarged for',
    async () => {
      const page = await rig.open('/take-in/type');
      await page.getByRole('textbox', { name: 'Text' }).fill('Ferry');
      await page.getByRole('radiogroup', { name: 'Kind' }).getByText('signature').click();
      await page.getByRole('button', { name: 'Make the mark' }).click();
      const mark = await markOf(page);
      expect(mark).toMatchObject({ kind: 'signature', source: 'drawing' });
      await page
        .getByRole('navigation', { name: 'Stages' })
        .getByRole('button', { name: /^Files/ })
        .click();
      const row = (k: number) => page.getByRole('row').nth(k + 1);
      for (const [k, format] of ['SVG', 'PDF'].entries()) {
        await setFormat(page, k + 1, format);
        await row(k).locator(`input[title$=".${format.toLowerCase()}"]`).waitFor();
      }
      await row(2).click();
      const width = page.getByRole('spinbutton', { name: 'Width' });
      await width.fill('3000');
      await width.press('Enter');
      await row(2).locator('input[title$="-3000.png"]').waitFor();
      await page.getByRole('button', { name: 'Make 3 files' }).click();
      const link = page.getByRole('link', { name: /^Download/ });
      await link.waitFor();
      const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
      const zip = unzipSync(new Uint8Array(readFileSync(await download.path())));
      const named = (ending: string) => zip[Object.keys(zip).find((name) => name.endsWith(ending)) as string];
      const svg = new TextDecoder().decode(named('.svg'));
      expect(svg.match(/<\w+/g)).toEqual(['<svg', '<path']);
      expect(new TextDecoder('latin1').decode(named('.pdf').subarray(0, 8))).toMatch(/^%PDF-1/);
      const { raster } = await decodePicture(named('.png'), 'ferry.png');
      expect(raster.width).toBe(3000);
      // Drawn at its size: edges take one pixel, so hardly any of what is visible is half-clear.
      let [visible, half] = [0, 0];
      for (let i = 3; i < raster.data.length; i += 4) {
        if (raster.data[i] > 0) visible++;
        if (raster.data[i] > 0 && raster.data[i] < 255) half++;
      }
      expect(half / visible).toBeLessThan(0.06);
      expect(new TextDecoder().decode(zip['receipt.txt'])).not.toContain('enlarged');
      await page.close();
    },
  );
});

describe('typing', () => {
  it('sets several lines, says what a typeface lacks, and makes a mark of paths', async () => {
    const page = await rig.open('/take-in/type');
    const text = page.getByRole('textbox', { name: 'Text' });
    await text.fill('Лок');
    await page.getByText('This typeface has no', { exact: false }).waitFor();
    await text.fill('Odile');
    await page.getByRole('button', { name: 'add ©' }).click();
    await page.getByRole('radio', { name: 'Bricolage Grotesque' }).click();
    await page.getByRole('img', { name: 'The mark as it will be' }).locator('path').waitFor();
    await page.getByRole('button', { name: 'Make the mark' }).click();
    const mark = await markOf(page);
    expect(mark).toMatchObject({ name: 'Odile ©', kind: 'logo' });
    const svg = await (await fetch(rig.url + paths.markOriginal(mark.id))).text();
    expect(svg).toContain('<path');
    expect(inkIn(await masterOf(mark))).toBeGreaterThan(50_000);
    await page.close();
  });
  it('can be photographed: the made-up photograph comes back as ink on paper, set level', async () => {
    const page = await rig.open('/take-in/type');
    await page.getByRole('textbox', { name: 'Text' }).fill('Odile Farrant');
    await page.getByText('a photograph', { exact: true }).click();
    await page.getByText('ruled', { exact: true }).click();
    const width = page.getByRole('spinbutton', { name: 'Width' });
    await width.fill('900');
    await width.press('Enter');
    await page.getByRole('button', { name: 'Simulate the photograph and take it in' }).click();
    const mark = await markOf(page);
    expect(mark.found).toMatchObject({ way: 'paper', format: 'JPEG' });
    await page.getByRole('slider', { name: 'Cut level' }).waitFor();
    const raster = await masterOf(mark);
    expect(inkIn(raster) / (raster.width * raster.height)).toBeLessThan(0.35);
    await page.close();
  });
});

it('no page reported an error', () => expect(rig.problems).toEqual([]));
