// How fast the screen answers on a 24-megapixel JPEG on white: first result, tolerance while dragging, settling.
import { paths } from '../contract/paths';
import type { BrandView } from '../contract/views';
import { toJpeg } from '../demo/capture';
import { badgeSvg } from '../demo/marks/badge';
import { compositeOn, renderSvg } from '../demo/render';
import { launchBrowser } from '../tests/support/browser.mjs';

const url = process.argv[2];
const bytes = await toJpeg(compositeOn(renderSvg(badgeSvg(2600), 6000, 4000, '-1700 -700 6000 4000'), [255, 255, 255]), 88);
await fetch(url + paths.brands, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name: `Bench ${Date.now()}`, palette: [] }) }).then((r) => r.json() as Promise<BrandView>);
const browser = await launchBrowser();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await page.goto(`${url}/marks`);
await page.getByText('Drop files here').waitFor();
// The longest time in which the page could not have answered a key: measured by a timer that should fire every 10 ms.
await page.evaluate(() => {
  const w = window as unknown as { worst: number };
  w.worst = 0;
  let last = performance.now();
  setInterval(() => {
    const now = performance.now();
    w.worst = Math.max(w.worst, now - last - 10);
    last = now;
  }, 10);
});
const file = await page.evaluateHandle((base64) => {
  const data = new DataTransfer();
  data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], 'big.jpg', { type: 'image/jpeg' }));
  return data;
}, bytes.toString('base64'));
await page.evaluate(() => { (window as unknown as { worst: number }).worst = 0; });
const dropped = Date.now();
await page.dispatchEvent('.marks', 'drop', { dataTransfer: file });
await page.getByRole('button', { name: /^White, contrast \d/ }).waitFor({ timeout: 60_000 });
const first = Date.now() - dropped;
await page.getByText('settling to full size').waitFor({ timeout: 20_000 }).catch(() => {});
await page.getByText('settling to full size').waitFor({ state: 'detached', timeout: 60_000 });
const settledFirst = Date.now() - dropped;

const chart = page.getByRole('slider', { name: 'Tolerance' });
const box = (await chart.boundingBox()) as { x: number; y: number; width: number; height: number };
const answers: number[] = [];
await page.mouse.move(box.x + box.width * 0.3, box.y + 20);
await page.mouse.down();
for (let k = 0; k < 12; k++) {
  // From the move to a new picture: the engine answers with a new result object, seen as a change of the proof's contrast or areas.
  const waiting = page.evaluate(() => new Promise<number>((resolve) => {
    const began = performance.now();
    const seen = new MutationObserver(() => resolve(performance.now() - began));
    seen.observe(document.querySelector('.tolerance') as Element, { subtree: true, attributes: true });
  }));
  await page.mouse.move(box.x + box.width * (0.3 + 0.02 * (k + 1)), box.y + 20);
  answers.push(await waiting);
  await page.waitForTimeout(300);
}
const quick = await page.evaluate(() => performance.getEntriesByName('tassel-quick').map((e) => e.duration));
await page.mouse.up();
const released = Date.now();
await page.getByText('settling to full size').waitFor({ timeout: 5000 }).catch(() => {});
await page.getByText('settling to full size').waitFor({ state: 'detached', timeout: 60_000 });
const settled = Date.now() - released;
const worst = await page.evaluate(() => (window as unknown as { worst: number }).worst);
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];
console.log(`\n24-megapixel JPEG on white, in the browser
first result after the drop          ${(first / 1000).toFixed(2)} s
settled to full size after the drop  ${(settledFirst / 1000).toFixed(2)} s
tolerance while dragging: preview    ${Math.round(median(quick))} ms median, ${Math.round(Math.max(...quick))} ms worst of ${quick.length}
tolerance: settled after release     ${(settled / 1000).toFixed(2)} s
page blocked at most                 ${Math.round(worst)} ms`);
await browser.close();
