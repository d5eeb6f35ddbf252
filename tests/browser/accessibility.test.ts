import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { DeliveryView, PdfView, PlacementView, TakenIn } from '../../contract/views';
import { photographSheet } from '../../core/ink/testSheet';
import { toJpeg } from '../../demo/capture';
import { mistyTowpath } from '../../demo/grounds/grounds';
import { drawYearlyReview } from '../../demo/yearlyReview';
import { trail } from '../support/trailIds';
import { disc, drawMark, either, onGround, pngOf, ring } from '../support/pictures';
import { type BrowserRig, ready, startRig } from './rig';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

let rig: BrowserRig;
let screens: string[];
beforeAll(async () => {
  rig = await startRig();
  const take = async (name: string, bytes: Uint8Array) =>
    (await rig.post<TakenIn>(`${paths.brandMarks(rig.brand.id)}?name=${name}`, bytes)).mark;
  // Small ones: what a screen says is the same, and it is there sooner.
  const shapes = either(ring(120, 120, 100, 60), disc(120, 120, 24), disc(224, 224, 2));
  const logo = await take('logo.png', await pngOf(onGround(drawMark(240, 240, shapes, [31, 90, 69]), [250, 250, 250])));
  const sheet = await take('sheet.jpg', await toJpeg(photographSheet({ noise: 2 }, -4).picture, 88));
  await rig.post<DeliveryView>(paths.markDeliveries(logo.id), { basedOn: logo.revision });
  const review = await drawYearlyReview();
  const pdf = await rig.post<PdfView>(`${paths.brandPdfs(rig.brand.id)}?name=${review.fileName}`, review.bytes);
  const rule = { items: [{ mark: logo.id }] };
  const placement = await rig.post<PlacementView>(paths.brandPlacements(rig.brand.id), { name: 'Lower right', rule });
  await rig.post(`${paths.placementGrounds(placement.id)}?name=sheet.jpg`, await toJpeg(mistyTowpath(300, 200), 88));
  screens = [
    '/placements',
    `/placements/${placement.id}`,
    `/placements/sheet?mark=${logo.id}`,
    `/placements/surface?mark=${logo.id}`,
    '/placements/document',
    `/pages/${pdf.sha}/2?name=${review.fileName}&pages=2`,
    '/marks',
    '/deliveries',
    '/brand',
    '/grounds',
    '/help/keys',
    '/help/command-line',
    '/walls',
    '/links',
    '/take-in/draw',
    '/take-in/type',
    ...trail.map((id) => `/marks/${logo.id}/${id}`),
    `/marks/${sheet.id}/crop`,
    `/marks/${sheet.id}/cutOut`,
  ];
});
afterAll(() => rig?.stop());

/** Faults that keep somebody from using a screen: all of them, or those that another theme can bring. */
async function seriousFaults(page: Page, which: 'all' | 'colours'): Promise<string[]> {
  await page.evaluate(axe);
  return page.evaluate(async (asked) => {
    const { violations } = await (
      window as unknown as { axe: { run: (o: object) => Promise<{ violations: Violation[] }> } }
    ).axe.run({
      runOnly:
        asked === 'colours'
          ? { type: 'rule', values: ['color-contrast'] }
          : ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
      ...(asked === 'all' ? { rules: { 'label-content-name-mismatch': { enabled: true } } } : {}),
    });
    interface Violation {
      id: string;
      impact: string;
      nodes: { html: string; failureSummary: string }[];
    }
    return violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical' || v.id === 'page-has-heading-one')
      .flatMap((v) =>
        v.nodes.map((n) => {
          const why = n.failureSummary.replace(/\s+/g, ' ');
          return `${v.id}: ${n.html.slice(0, 160)} — ${why.slice(0, 200)}`;
        }),
      );
  }, which);
}

/** Colours go over into the other theme's: what is on its way is no fault. */
async function settled(): Promise<void> {
  await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  const ending = document.getAnimations().filter((a) => a.effect?.getComputedTiming().iterations !== Infinity);
  await Promise.all(ending.map((a) => a.finished.catch(() => {})));
}

it('an automated audit finds no serious fault on any screen in either theme', async () => {
  const faults: string[] = [];
  const page = await rig.open('/marks');
  const themeOf = () => page.evaluate(() => document.documentElement.dataset.theme);
  for (const path of screens) {
    await page.goto(rig.url + path);
    await ready(page);
    const seen = new Set<string | undefined>();
    for (let k = 0; k < 2; k++) {
      seen.add(await themeOf());
      await page.evaluate(settled);
      faults.push(
        ...(await seriousFaults(page, k === 0 ? 'all' : 'colours')).map((f) => `${path}, ${[...seen].at(-1)}: ${f}`),
      );
      // The next screen begins in the theme that this one ends in.
      if (k === 0) await page.getByRole('button', { name: /^(Light|Dark) theme$/ }).click();
    }
    expect([...seen].sort()).toEqual(['dark', 'light']);
  }
  await page.close();
  expect(faults).toEqual([]);
});

it('the audit would find a fault', async () => {
  const page = await rig.open('/marks');
  await ready(page);
  await page.evaluate(() =>
    document
      .querySelector('main')
      ?.insertAdjacentHTML('beforeend', '<button></button><p style="color:#eee;background:#fff">pale</p>'),
  );
  const faults = await seriousFaults(page, 'all');
  expect(faults.map((f) => f.split(':')[0])).toEqual(expect.arrayContaining(['button-name', 'color-contrast']));
  await page.close();
});
