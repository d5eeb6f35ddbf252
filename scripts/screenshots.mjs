// npm run screenshots: one picture of each main view, from the demo data, into docs/screenshots/.
import { mkdirSync } from 'node:fs';
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say, startServer } from './lib/steps.mjs';

ensurePackages(['postgresql', ...READER_PACKAGES, 'chromium'], say);
ensureModules();
ensureBuild();
const { tsImport } = await import('tsx/esm/api');
const { drawYearlyReview } = await tsImport('../demo/yearlyReview.ts', import.meta.url);
const { drawMooringAgreement } = await tsImport('../demo/mooringAgreement.ts', import.meta.url);
const { launchBrowser } = await import('../tests/support/browser.mjs');
const database = await startDatabase({ projectDir, name: 'postgres-shots', firstPort: 57480, say });
const env = {
  TASSEL_DATABASE: JSON.stringify({ ...database.connection, database: `shots_${Date.now()}` }),
  TASSEL_DEMO: '1',
};
const { child, url } = await startServer({ env, quiet: true });
const out = `${projectDir}/docs/screenshots`;
mkdirSync(out, { recursive: true });
const browser = await launchBrowser();
try {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const [brand] = await (await fetch(`${url}/api/brands`)).json();
  const marks = await (await fetch(`${url}/api/brands/${brand.id}/marks`)).json();
  const find = (name) => marks.find((m) => m.name === name).id;
  const badge = find('Trust badge');
  const theme = async (name) => {
    await page.goto(`${url}/marks`);
    await page.evaluate((t) => localStorage.setItem('tassel-theme', t), name);
  };
  const shot = async (path, name, ready, before) => {
    await page.goto(url + path);
    await ready();
    if (before) await before();
    await page.waitForTimeout(600); // pictures fade in without an event of their own
    await page.screenshot({ path: `${out}/${name}.png` });
    console.log(`${name}.png`);
  };
  // Two tries by a mouse that runs along loops.
  const drawOnPad = async () => {
    const box = await page.getByRole('img', { name: 'Sign here' }).boundingBox();
    const run = async (points) => {
      await page.mouse.move(box.x + points[0][0], box.y + points[0][1]);
      await page.mouse.down();
      for (const [x, y] of points.slice(1)) await page.mouse.move(box.x + x, box.y + y);
      await page.mouse.up();
    };
    for (const turn of [0, 0.7]) {
      if (turn) await page.getByRole('button', { name: 'Another try' }).click();
      await run(
        Array.from({ length: 110 }, (_, k) => [
          140 + k * 5 + 38 * Math.sin(k * 0.33 + turn),
          235 + (80 - k * 0.45) * Math.cos(k * 0.33 + turn) - k * 0.3,
        ]),
      );
      await run(Array.from({ length: 40 }, (_, k) => [210 + k * 12, 372 - 26 * Math.sin(k / 13)]));
    }
  };
  const picturesDone = () =>
    page.waitForFunction(
      () =>
        [...document.querySelectorAll('.mark-card img')].length >= 8 &&
        [...document.querySelectorAll('.mark-card img')].every((i) => i.complete && i.naturalWidth > 0),
    );
  const benchDone = () => page.getByRole('button', { name: /^White · \d/ }).waitFor();
  await theme('light');
  await shot('/marks', 'marks', picturesDone);
  await shot(`/marks/${badge}/cutOut`, 'bench-cut-out', benchDone);
  await shot(`/marks/${badge}/crop`, 'bench-crop', benchDone, () =>
    page.getByRole('button', { name: 'Crop to the mark' }).click(),
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByText('whole', { exact: true }).waitFor();
  await shot(
    `/marks/${find('Lock-house concept')}/tidy`,
    'bench-tidy',
    () => page.getByText('12 pieces').first().waitFor(),
    async () => {
      await page.getByRole('button', { name: 'Drop pieces' }).click();
      const at = await page.locator('.picture').boundingBox();
      const place = (x, y) => [at.x + at.width * x, at.y + at.height * y];
      await page.mouse.move(...place(0.34, 0.74));
      await page.mouse.down();
      for (const to of [place(0.73, 0.74), place(0.73, 0.86), place(0.34, 0.86), place(0.34, 0.75)])
        await page.mouse.move(...to, { steps: 8 });
      await page.mouse.up();
      await page.getByText('2 pieces, 10 dropped').waitFor();
    },
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByText('12 pieces').first().waitFor();
  await shot(
    `/marks/${find('Lock-house concept')}/trace`,
    'bench-trace',
    () => page.getByText('All files', { exact: true }).waitFor(),
    async () => {
      await page.getByText('All files', { exact: true }).click();
      await page.getByRole('button', { name: 'Outlines and nodes' }).click();
      await page.locator('.outline-nodes').waitFor();
    },
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByText('pixels', { exact: true }).first().waitFor();
  await shot(`/marks/${badge}/variants`, 'variants', async () => {
    await page.getByText('On every ground').click();
    await page.getByText('21.0 : 1').first().waitFor({ timeout: 60_000 });
  });
  await shot('/brand', 'brand', () => page.getByText('lock-house-reversed-1200.png').waitFor());
  await shot(
    `/marks/${badge}/files`,
    'files',
    () => page.getByText(/^3 files, about/).waitFor({ timeout: 60_000 }),
    async () => {
      for (const purpose of ['stamp', 'key colour']) {
        await page.getByLabel('Variants to add lines for').click();
        await page.locator('.ant-select-item-option').getByText('Colour', { exact: true }).last().click();
        await page.keyboard.press('Escape');
        await page.getByRole('button', { name: purpose, exact: true }).click();
        await page.getByLabel('Variants to add lines for').click();
        await page.locator('.ant-select-item-option').getByText('Colour', { exact: true }).last().click();
        await page.keyboard.press('Escape');
      }
      await page.getByRole('button', { name: 'Make 5 files' }).click();
      await page.getByRole('list', { name: 'Receipt' }).waitFor({ timeout: 60_000 });
      await page.getByRole('row').nth(5).click();
      await page.getByRole('img', { name: /colour-1920\.png on White/ }).waitFor({ timeout: 30_000 });
    },
  );
  const candidates = () => page.getByRole('button', { name: /^Signature 5; press/ }).waitFor({ timeout: 60_000 });
  await shot(`/marks/${find('Odile Farrant')}/crop`, 'bench-sheet', candidates, async () => {
    await page.getByRole('button', { name: 'Take signature 3' }).click();
    await page.getByText('rendering at full size').waitFor({ state: 'detached', timeout: 60_000 });
  });
  await shot(`/marks/${find('Odile Farrant')}/cutOut`, 'bench-ink', async () => {
    await page.getByRole('slider', { name: 'Cut level' }).waitFor({ timeout: 60_000 });
    await page.getByText('rendering at full size').waitFor({ state: 'detached', timeout: 60_000 });
  });
  await shot(
    '/take-in/draw',
    'draw',
    () => page.getByRole('img', { name: 'Sign here' }).waitFor(),
    () => drawOnPad(),
  );
  const review = await drawYearlyReview();
  const sent = await fetch(`${url}/api/brands/${brand.id}/pdfs?name=${review.fileName}`, {
    method: 'POST',
    body: review.bytes,
  });
  const { sha } = await sent.json();
  await shot(`/pages/${sha}/2?name=${review.fileName}&pages=2`, 'pages', () =>
    page.getByRole('button', { name: 'Drawn picture 2' }).click(),
  );
  const [placement] = await (await fetch(`${url}/api/brands/${brand.id}/placements`)).json();
  await shot(
    `/placements/${placement.id}`,
    'place',
    () => page.getByRole('button', { name: /^towpath\.mp4: / }).waitFor({ timeout: 60_000 }),
    async () => {
      await page.getByRole('button', { name: /^Lock by night/ }).click();
      await page
        .getByText(/^Reversed · /)
        .first()
        .waitFor();
    },
  );
  await shot(
    `/placements/sheet?mark=${badge}`,
    'place-sheet',
    () => page.getByText('Mark on paper').waitFor(),
    async () => {
      await page.getByRole('combobox', { name: 'Mat', exact: true }).click();
      await page.locator('.ant-select-item-option').getByText('11x14in, 9.5x7.5in').click();
      await page.getByText('Under the mat, a side').waitFor();
    },
  );
  const agreement = await drawMooringAgreement();
  await shot(
    `/placements/document?mark=${find('Bram Tolliver')}`,
    'place-document',
    () => page.getByText('Choose a PDF file').waitFor(),
    async () => {
      const file = { name: agreement.fileName, mimeType: 'application/pdf', buffer: Buffer.from(agreement.bytes) };
      await page.getByLabel('Choose a document').setInputFiles(file);
      await page.getByAltText('Signature').waitFor({ timeout: 60_000 });
      await page.getByRole('textbox', { name: 'Date' }).fill('2 March 2031');
    },
  );
  await shot('/deliveries', 'deliveries', () => page.getByRole('table').waitFor());
  const post = async (path, body) =>
    (
      await fetch(url + path, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      })
    ).json();
  const [wall] = await (await fetch(`${url}/api/brands/${brand.id}/walls`)).json();
  await shot(`/walls/${wall.id}`, 'wall', async () => {
    await page.getByText('6 to mend').waitFor({ timeout: 60_000 });
    await page.getByRole('button', { name: 'Northcut Barges, white box' }).click();
    await page.getByText('being looked at').first().waitFor({ state: 'detached', timeout: 60_000 });
  });
  const proof = await post('/api/proofs', { kind: 'variants', targetId: badge, endsOn: '2099-12-24' });
  const said = { kind: 'note', picture: 0, x: 0.62, y: 0.3, who: 'Odile Farrant', words: 'A little more red here.' };
  await post(`${proof.path}/answers`, said);
  await post(`${proof.path}/answers`, { kind: 'yes', who: 'Bram Tolliver' });
  await post('/api/proofs', { kind: 'wall', targetId: wall.id });
  const { recipe } = await (await fetch(`${url}/api/marks/${badge}`)).json();
  const live = await post('/api/live', { markId: badge, lineId: recipe.files.lines[0].id });
  while ((await fetch(url + live.path)).status !== 200) await new Promise((r) => setTimeout(r, 200));
  await page.setViewportSize({ width: 390, height: 844 });
  await shot(proof.path, 'proof', () => page.getByRole('button', { name: 'Say yes' }).waitFor());
  await page.setViewportSize({ width: 1280, height: 800 });
  await theme('dark');
  await shot('/links', 'links-dark', () => page.getByText(/times?, last/).waitFor({ timeout: 20_000 }));
} finally {
  await browser.close();
  child.kill('SIGTERM');
  await new Promise((r) => child.once('exit', r));
  await database.stop();
}
