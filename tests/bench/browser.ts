// How fast the screen answers: a 24-megapixel JPEG on white with its tolerance, a 12-megapixel photograph of ink with
// its cut level.
import type { Page } from 'playwright-core';
import { paths } from '../../contract/paths';
import type { BrandView } from '../../contract/views';
import { toJpeg } from '../../demo/capture';
import { badgeSvg } from '../../demo/marks/badge';
import { compositeOn, renderSvg } from '../../demo/render';
import { launchBrowser } from '../support/browser.mjs';
import { makeTestCapture } from '../../bench/testCaptures';

const url = process.argv[2];
const browser = await launchBrowser();
await fetch(url + paths.brands, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ name: `Bench ${Date.now()}`, palette: [] }),
}).then((r) => r.json() as Promise<BrandView>);
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];
const settle = async (page: Page) => {
  await page
    .getByText('settling to full size')
    .waitFor({ timeout: 5000 })
    .catch(() => {});
  await page.getByText('settling to full size').waitFor({ state: 'detached', timeout: 60_000 });
};

/** Drops a file, waits for its first result, drags a slider, and prints how long each took. */
async function measure(title: string, name: string, bytes: Uint8Array, slider: string): Promise<void> {
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
  const file = await page.evaluateHandle(
    ({ base64, fileName }) => {
      const data = new DataTransfer();
      data.items.add(
        new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], fileName, { type: 'image/jpeg' }),
      );
      return data;
    },
    { base64: Buffer.from(bytes).toString('base64'), fileName: name },
  );
  await page.evaluate(() => {
    (window as unknown as { worst: number }).worst = 0;
  });
  const dropped = Date.now();
  await page.dispatchEvent('.marks', 'drop', { dataTransfer: file });
  await page
    .getByText(/^White · \d/)
    .first()
    .waitFor({ timeout: 60_000 });
  const first = Date.now() - dropped;
  await settle(page);
  const settledFirst = Date.now() - dropped;

  const box = (await page.getByRole('slider', { name: slider }).boundingBox()) as {
    x: number;
    y: number;
    width: number;
    height: number;
  };
  const before = await page.evaluate(() => performance.getEntriesByName('tassel-quick').length);
  await page.mouse.move(box.x + box.width * 0.3, box.y + 20);
  await page.mouse.down();
  for (let k = 0; k < 30; k++) {
    await page.mouse.move(box.x + box.width * (0.3 + 0.01 * (k + 1)), box.y + 20);
    await page.waitForTimeout(150);
  }
  const quick = (await page.evaluate(() => performance.getEntriesByName('tassel-quick').map((e) => e.duration))).slice(
    before,
  );
  await page.mouse.up();
  const released = Date.now();
  await settle(page);
  const settled = Date.now() - released;
  const worst = await page.evaluate(() => (window as unknown as { worst: number }).worst);
  const slowest = Math.round(Math.max(...quick));
  const dragging = `${Math.round(median(quick))} ms median, ${slowest} ms worst of ${quick.length}`;
  console.log(`\n${title}, in the browser
first result after the drop          ${(first / 1000).toFixed(2)} s
settled to full size after the drop  ${(settledFirst / 1000).toFixed(2)} s
${`${slider} while dragging`.padEnd(36)} ${dragging}
${`${slider}, settled after release`.padEnd(36)} ${(settled / 1000).toFixed(2)} s
page blocked at most                 ${Math.round(worst)} ms`);
  await page.context().close();
}

const badge = await toJpeg(
  compositeOn(renderSvg(badgeSvg(2600), 6000, 4000, '-1700 -700 6000 4000'), [255, 255, 255]),
  88,
);
await measure('A 24-megapixel JPEG on white', 'big.jpg', badge, 'Tolerance');
// One signature, so that its bench opens at once.
const capture = await makeTestCapture(1004, [4000]);
await measure(
  `A ${((capture.picture.width * capture.picture.height) / 1e6).toFixed(0)}-megapixel photograph of ink`,
  'ink.jpg',
  await toJpeg(capture.picture, 88),
  'Cut level',
);
await browser.close();
