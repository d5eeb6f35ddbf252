import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { PlacementView, TakenIn } from '../../contract/views';
import { drawMooringAgreement } from '../../demo/mooringAgreement';
import { type BrowserRig, startRig } from './rig';

let rig: BrowserRig;
const folder = mkdtempSync(join(tmpdir(), 'tassel-place-'));
const at = (name: string) => join(folder, name);
const INK = [0x1f, 0x5a, 0x45];
let markId: string;
beforeAll(async () => {
  rig = await startRig();
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#1f5a45"/></svg>';
  const { mark } = await rig.post<TakenIn>(
    `${paths.brandMarks(rig.brand.id)}?name=badge.svg`,
    new TextEncoder().encode(svg),
  );
  markId = mark.id;
  for (const [name, background] of [
    ['dark', '#181b20'],
    ['light', '#f2efe6'],
  ]) {
    const photo = sharp({ create: { width: 900, height: 600, channels: 3, background } });
    writeFileSync(at(`${name}.jpg`), await photo.jpeg().toBuffer());
  }
  const inputs = ['-f', 'lavfi', '-i', 'color=#e8e8e0:s=640x360:r=25:d=2', '-f', 'lavfi', '-i', 'sine=d=2'];
  const coded = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-shortest', at('towpath.mp4')];
  execFileSync('ffmpeg', ['-v', 'error', ...inputs, ...coded]);
  writeFileSync(at('agreement.pdf'), (await drawMooringAgreement()).bytes);
});
afterAll(async () => {
  await rig?.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function begin(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'on photos and clips' }).click();
  await page.waitForURL(/\/placements\/[0-9a-f-]{36}$/);
  return page.url().split('/').pop() as string;
}
const choose = (page: Page, label: string, ...names: string[]) =>
  page.getByLabel(label, { exact: true }).setInputFiles(names.map(at));
async function downloaded(page: Page, press: () => Promise<void>): Promise<Uint8Array> {
  const [file] = await Promise.all([page.waitForEvent('download'), press()]);
  return new Uint8Array(readFileSync(await file.path()));
}
async function colourAt(bytes: Uint8Array, x: number, y: number): Promise<number[]> {
  const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
  return [...data.subarray((y * info.width + x) * info.channels, (y * info.width + x) * info.channels + 3)];
}
const isNear = (a: readonly number[], b: readonly number[]) => a.every((v, k) => Math.abs(v - b[k]) < 8);

describe('placing', () => {
  it('on photos: each in its best variant, one moved by hand, written and read', async () => {
    const page = await rig.open('/placements');
    const id = await begin(page);
    await choose(page, 'Choose photos and clips', 'dark.jpg', 'light.jpg');
    const strip = page.getByRole('group', { name: 'Grounds of this run' });
    await strip.getByRole('button', { name: /^dark\.jpg: Reversed/ }).waitFor();
    await strip.getByRole('button', { name: /^light\.jpg: Black/ }).waitFor();
    // The sentence says the rule; a part of it is changed where it stands, for all.
    await page.getByRole('button', { name: /^Size: 18 % wide/ }).click();
    await page.getByRole('spinbutton', { name: 'Size' }).fill('30');
    await page.keyboard.press('Enter');
    await page.getByText('270 × 135 px').waitFor();
    await page.keyboard.press('Escape');
    // The second photo by keys, then its mark by hand, for it alone.
    await strip.getByRole('button', { name: /^dark/ }).focus();
    await page.keyboard.press('ArrowRight');
    await page.getByText('this one alone', { exact: true }).click();
    // Its own look by the new rule is known.
    const facts = page.locator('.place-facts');
    await facts.getByText(/^Black · /).waitFor();
    await facts.getByText('270 × 135 px').waitFor();
    const room = page.locator('.place-room');
    const scale = Number(await room.getAttribute('data-scale'));
    const canvas = (await page.locator('.konvajs-content').boundingBox()) as { x: number; y: number };
    const on = (x: number, y: number) => [canvas.x + x * scale, canvas.y + y * scale] as const;
    await page.mouse.move(...on(741, 508));
    await page.mouse.down();
    for (const share of [0.25, 0.5, 0.75, 1]) await page.mouse.move(...on(741 - 441 * share, 508 - 208 * share));
    await page.mouse.up();
    await page.getByRole('button', { name: 'as the others again' }).waitFor();
    await page.getByRole('button', { name: 'Export 2 files' }).click();
    const link = page.getByRole('link', { name: /^Download all/ });
    await link.waitFor();
    const zip = unzipSync(await downloaded(page, () => link.click()));
    expect(Object.keys(zip)).toEqual(['dark-badge.jpg', 'light-badge.jpg']);
    const view = (await rig.get(paths.placement(id))) as PlacementView;
    const own = view.grounds[1].change?.['0'].at as { x: number; y: number };
    // Where the hand let go, less what the middle of the photo drew it by.
    expect([own.x, own.y].map((v) => (Math.abs(v - 300) < 14 ? 300 : v))).toEqual([300, 300]);
    expect(isNear(await colourAt(zip['dark-badge.jpg'], 800, 500), [255, 255, 255])).toBe(true);
    expect(isNear(await colourAt(zip['light-badge.jpg'], own.x, own.y), [0, 0, 0])).toBe(true);
    expect(isNear(await colourAt(zip['light-badge.jpg'], 800, 500), [0xf2, 0xef, 0xe6])).toBe(true);
    await page.close();
  });
  it('with a strip: added once the photo is checked, it is told as being checked, and lies on the file', async () => {
    const page = await rig.open('/placements');
    const id = await begin(page);
    await choose(page, 'Choose photos and clips', 'light.jpg');
    const strip = page.getByRole('group', { name: 'Grounds of this run' });
    await strip.getByRole('button', { name: /^light\.jpg: Black/ }).waitFor();
    await page.getByRole('button', { name: 'Add a strip' }).click();
    await page.getByRole('tab', { name: 'Strip' }).waitFor();
    // Nothing is exported before the strip was checked with the rest.
    await page.getByRole('button', { name: 'Export 1 file' }).click();
    const link = page.getByRole('link', { name: /^Download light/ });
    await link.waitFor();
    const { rule } = (await rig.get(paths.placement(id))) as PlacementView;
    expect(rule.items).toHaveLength(2);
    const file = await downloaded(page, () => link.click());
    expect(isNear(await colourAt(file, 20, 590), [0xe9, 0xdd, 0xc4])).toBe(true);
    expect(rig.problems).toEqual([]);
    await page.close();
  });
  it('on a clip: it plays with the mark, contrast is told over its length, and it is burnt in', async () => {
    const page = await rig.open('/placements');
    await begin(page);
    await choose(page, 'Choose photos and clips', 'towpath.mp4');
    await page.getByRole('figure', { name: 'Contrast over the length of the clip' }).waitFor();
    const beyond = await page.locator('.place-side').evaluate((e) => e.scrollWidth - e.clientWidth);
    expect(beyond, 'nothing of the panel lies beyond the window').toBe(0);
    const video = page.locator('video');
    await video.evaluate((v: HTMLVideoElement) => v.play());
    await page.waitForFunction(() => (document.querySelector('video') as HTMLVideoElement).currentTime > 0.2);
    await page.getByRole('button', { name: 'Export 1 file' }).click();
    const link = page.getByRole('link', { name: /^Download towpath/ });
    await link.waitFor();
    writeFileSync(at('made.mp4'), await downloaded(page, () => link.click()));
    const frames = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', at('made.mp4'), '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
      { maxBuffer: 1 << 30 },
    );
    const bytes = 640 * 360 * 3;
    expect(frames.length).toBe(50 * bytes);
    for (let k = 0; k < 50; k++) expect(frames[k * bytes + (320 * 640 + 580) * 3]).toBeLessThan(30);
    await page.close();
  });
  it('on a document: its line is found, and it is signed there', async () => {
    const page = await rig.open(`/placements/document?mark=${markId}`);
    await choose(page, 'Choose a document', 'agreement.pdf');
    await page.getByRole('radio', { name: /Signature, Odile Farrant/, checked: true }).waitFor();
    await page.getByAltText('Signature').waitFor();
    const signed = await downloaded(page, () => page.getByRole('button', { name: 'Sign it' }).click());
    await page.getByText('read back as they were').waitFor();
    writeFileSync(at('signed.pdf'), signed);
    execFileSync('qpdf', ['--check', at('signed.pdf')]);
    const texts = ['agreement.pdf', 'signed.pdf'].map((name) => execFileSync('pdftotext', [at(name), '-']).toString());
    expect(texts[0]).toBe(texts[1]);
    execFileSync('pdftoppm', ['-r', '72', '-f', '2', '-l', '2', '-png', '-singlefile', at('signed.pdf'), at('page')]);
    // Over the middle of the line, whose left end is at 64 and which is 210 points long.
    expect(isNear(await colourAt(readFileSync(at('page.png')), 64 + 105, 630), [0, 0, 0])).toBe(true);
    await page.close();
  });
  it('on a print sheet: in the opening of a mat, as a page of the very size', async () => {
    const page = await rig.open(`/placements/sheet?mark=${markId}`);
    await page.getByRole('combobox', { name: 'Mat', exact: true }).click();
    await page.locator('.ant-select-item-option').getByText('11x14in, 9.5x7.5in').click();
    await page.getByText('6.3 mm').waitFor();
    const pdf = await downloaded(page, () => page.getByRole('button', { name: 'Make the sheet' }).click());
    writeFileSync(at('sheet.pdf'), pdf);
    expect(execFileSync('pdfinfo', [at('sheet.pdf')], { encoding: 'utf8' })).toMatch(/Page size: +720 x 576 pts/);
    execFileSync('pdftoppm', ['-r', '50', '-png', '-singlefile', at('sheet.pdf'), at('sheet')]);
    expect(isNear(await colourAt(readFileSync(at('sheet.png')), 250, 200), INK)).toBe(true);
    expect(isNear(await colourAt(readFileSync(at('sheet.png')), 20, 20), [255, 255, 255])).toBe(true);
    await page.close();
  });
});

it('no page reported an error', () => expect(rig.problems).toEqual([]));
