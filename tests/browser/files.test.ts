import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, MarkView, TakenIn } from '../../contract/views';
import { disc, drawMark, either, onGround, pngOf, ring } from '../support/pictures';
import { setFormat } from './lines';
import { type BrowserRig, startRig } from './rig';

let rig: BrowserRig;
const folder = mkdtempSync(join(tmpdir(), 'tassel-files-'));
const takeIn = async (name: string, hole: number): Promise<MarkView> => {
  const mark = drawMark(400, 350, either(ring(200, 175, 150, 115), disc(200, 175, hole / 2)), [31, 90, 69]);
  const bytes = new Uint8Array(await pngOf(onGround(mark, [250, 250, 250])));
  return (await rig.post<TakenIn>(`${paths.brandMarks(rig.brand.id)}?name=${name}.png`, bytes)).mark;
};
beforeAll(async () => {
  rig = await startRig();
});
afterAll(async () => {
  await rig?.stop();
  rmSync(folder, { recursive: true, force: true });
});

const rows = (page: Page) => page.getByRole('row');

/** What a program of the system calls a file, and whether it had anything to say. */
function seenBy(name: string, bytes: Uint8Array): { format: string; said: string } {
  const path = join(folder, name.replaceAll('/', '_'));
  writeFileSync(path, bytes);
  const { stdout, stderr } = spawnSync('identify', ['-format', '%m %wx%h', path], { encoding: 'utf8' });
  return { format: stdout.split(' ')[0], said: stderr };
}

describe('a standard set of lines', () => {
  it('is put together on one mark, taken by another, and leaves as one archive of files that others open', async () => {
    const [first, second] = [await takeIn('first', 90), await takeIn('second', 140)];
    const page = await rig.open(`/marks/${first.id}/files`);
    await page.getByRole('button', { name: 'Make 3 files' }).waitFor();
    for (const purpose of ['stamp', 'mask pair', 'key colour'])
      await page.getByRole('button', { name: purpose, exact: true }).click();
    await page.getByRole('button', { name: 'Make 15 files' }).waitFor();
    expect(await rows(page).count()).toBe(1 + 12);
    await setFormat(page, 1, 'WebP');
    await setFormat(page, 2, 'AVIF');
    await setFormat(page, 10, 'JPEG');
    const name = rows(page).nth(4).getByRole('textbox', { name: 'Name of the file' });
    await name.fill('STAMP.PNG');
    await name.press('Enter');
    await rows(page).nth(4).locator('input[title="STAMP.PNG"]').waitFor();
    await page.getByRole('button', { name: 'set from these' }).click();
    await page.getByRole('button', { name: 'use its 12 lines' }).waitFor();
    const [brand] = (await rig.get(paths.brands)) as BrandView[];
    expect(brand.standardLines).toHaveLength(12);

    await page.goto(`${rig.url}/marks/${second.id}/files`);
    await page.getByRole('button', { name: 'use its 12 lines' }).click();
    await page.getByRole('button', { name: 'Make 15 files' }).click();
    const link = page.getByRole('link', { name: /^Download/ });
    await link.waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    const zip = unzipSync(new Uint8Array(readFileSync(await download.path())));
    const files = Object.entries(zip).filter(([file]) => !file.startsWith('receipt'));
    expect(files).toHaveLength(15);
    const formats = files.map(([file, bytes]) => {
      const { format, said } = seenBy(file, bytes);
      expect([file, said]).toEqual([file, '']);
      return format;
    });
    // It knows AVIF as a kind of HEIC.
    const counts = Object.fromEntries([...new Set(formats)].map((f) => [f, formats.filter((g) => g === f).length]));
    expect(counts).toEqual({ WEBP: 1, HEIC: 1, PNG: 6, TIFF: 6, JPEG: 1 });
    expect(Object.keys(zip)).toContain('STAMP.PNG');
    const receipt = JSON.parse(new TextDecoder().decode(zip['receipt.json'])) as { files: { file: string }[] };
    expect(receipt.files.map((f) => f.file).sort()).toEqual(files.map(([file]) => file).sort());
    expect(rig.problems).toEqual([]);
    await page.close();
  });

  it('shows the chosen file at its true pixels, tells what is wrong with it, and mends it in one press', async () => {
    const mark = await takeIn('third', 60);
    const page = await rig.open(`/marks/${mark.id}/files`);
    await page.getByRole('button', { name: 'Make 3 files' }).waitFor();
    const width = page.getByRole('spinbutton', { name: 'Width' });
    await width.fill('900');
    await width.press('Enter');
    const finding = page.locator('.finding', { hasText: 'Enlarged 3.0 times' });
    await finding.waitFor();
    await page.getByText('True pixels').click();
    const canvas = page.getByRole('img', { name: /on White$/ }).last();
    await expect.poll(async () => canvas.evaluate((c) => (c as HTMLCanvasElement).width)).toBe(900);
    await finding.getByRole('button').first().click();
    await finding.waitFor({ state: 'detached' });
    expect(await width.inputValue()).toBe('300');
    // By keyboard: down to the next line, whose page is then shown.
    await rows(page).nth(1).press('ArrowDown');
    await page.getByRole('img', { name: /black-300\.png on White/ }).waitFor();
    await page.close();
  });
});
