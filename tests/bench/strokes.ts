// How fast a brush answers on a mark of 8 megapixels, and how a recipe of 200 strokes grows: npm run bench --
// --strokes.
import type { Page } from 'playwright-core';
import { paths } from '../../contract/paths';
import type { BrandView, MarkView, TakenIn } from '../../contract/views';
import { badgeSvg } from '../../demo/marks/badge';
import { compositeOn, renderSvg } from '../../demo/render';
import { encodePng } from '../../codecs/encodePng';
import { launchBrowser } from '../support/browser.mjs';

const STROKES = 200;
const MOVES = 12;
const url = process.argv[2];
const browser = await launchBrowser();
const post = async <T>(path: string, body: string | Uint8Array<ArrayBuffer>, type: string) =>
  (await (await fetch(url + path, { method: 'POST', headers: { 'content-type': type }, body })).json()) as T;
const brand = await post<BrandView>(
  paths.brands,
  JSON.stringify({ name: `Strokes ${Date.now()}`, palette: [] }),
  'application/json',
);
const picture = compositeOn(renderSvg(badgeSvg(2830), 2830, 2830), [255, 255, 255]);
const png = new Uint8Array(await encodePng(picture));
const { mark } = await post<TakenIn>(`${paths.brandMarks(brand.id)}?name=large.png`, png, 'image/png');
const read = async () => (await (await fetch(url + paths.mark(mark.id))).json()) as MarkView;

const page: Page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await page.goto(`${url}/marks/${mark.id}/tidy`);
await page.getByRole('button', { name: 'Rub out', exact: true }).click();
await page.getByText('settling to full size').waitFor({ state: 'detached', timeout: 60_000 });

// From the pointer's own time to the frame after it was drawn.
await page.evaluate(() => {
  const w = window as unknown as { late: number[] };
  w.late = [];
  window.addEventListener('pointermove', (event) => {
    requestAnimationFrame(() => w.late.push(performance.now() - event.timeStamp));
  });
});
const box = await page.locator('.picture').boundingBox();
if (!box) throw new Error('There is no picture');
const sizeBefore = JSON.stringify((await read()).recipe).length;
for (let k = 0; k < STROKES; k++) {
  const [x, y] = [box.x + 260 + (k % 20) * 22, box.y + 60 + Math.floor(k / 20) * 42];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let m = 1; m <= MOVES; m++) await page.mouse.move(x + m * 1.2, y + 6 * Math.sin(m / 2));
  await page.mouse.up();
}
const late = (await page.evaluate(() => (window as unknown as { late: number[] }).late)).sort((a, b) => a - b);
for (let tries = 0; tries < 300 && (await read()).recipe.stages.tidy.edits.length < STROKES; tries++)
  await new Promise((r) => setTimeout(r, 200));
const { recipe } = await read();
const grown = (JSON.stringify(recipe).length - sizeBefore) / STROKES;
const largest = Math.max(...recipe.stages.tidy.edits.map((edit) => JSON.stringify(edit).length));
const at = (share: number) => late[Math.min(late.length - 1, Math.floor(late.length * share))].toFixed(0);
const ranks = [0.5, 0.95, 0.99, 1].map(at).join(', ');
console.log(`${recipe.stages.tidy.edits.length} strokes on 8 megapixels, in the browser
from the pointer to the frame        ${ranks} ms at 50, 95, 99 and 100 % of ${late.length}
a revision grows by                  ${Math.round(grown)} bytes a stroke, ${largest} at most`);
await browser.close();
