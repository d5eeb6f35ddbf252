// npm run screenshots: one picture of each main view, from the demo data, into docs/screenshots/.
import { mkdirSync } from 'node:fs';
import { ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say, startServer } from './lib/steps.mjs';

ensurePackages(['postgresql', 'chromium'], say);
ensureModules();
ensureBuild();
const { launchBrowser } = await import('../tests/support/browser.mjs');
const database = await startDatabase({ projectDir, name: 'postgres-shots', firstPort: 57480, say });
const env = { TASSEL_DATABASE: JSON.stringify({ ...database.connection, database: `shots_${Date.now()}` }), TASSEL_DEMO: '1' };
const { child, url } = await startServer({ env, quiet: true });
const out = `${projectDir}/docs/screenshots`;
mkdirSync(out, { recursive: true });
const browser = await launchBrowser();
try {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const [brand] = await (await fetch(`${url}/api/brands`)).json();
  const marks = await (await fetch(`${url}/api/brands/${brand.id}/marks`)).json();
  const badge = marks.find((m) => m.name === 'Trust badge').id;
  const room = async (name) => {
    await page.goto(`${url}/marks`);
    await page.evaluate((r) => localStorage.setItem('tassel-room', r), name);
  };
  const shot = async (path, name, ready, before) => {
    await page.goto(url + path);
    await ready();
    if (before) await before();
    await page.waitForTimeout(600); // pictures fade in without an event of their own
    await page.screenshot({ path: `${out}/${name}.png` });
    console.log(`${name}.png`);
  };
  const picturesDone = () => page.waitForFunction(() => [...document.querySelectorAll('.mark-card img')].length >= 5 && [...document.querySelectorAll('.mark-card img')].every((i) => i.complete && i.naturalWidth > 0));
  const benchDone = () => page.getByRole('button', { name: /^White, contrast \d/ }).waitFor();
  await room('light');
  await shot('/marks', 'marks', picturesDone);
  await shot(`/marks/${badge}/cutOut`, 'bench-cut-out', benchDone);
  await shot(`/marks/${badge}/crop`, 'bench-crop', benchDone, () => page.getByRole('button', { name: 'Close round the mark' }).click());
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByText('whole', { exact: true }).waitFor();
  await shot(`/marks/${badge}/original`, 'bench-original', benchDone);
  await shot(`/marks/${badge}/variants`, 'variants', () => page.getByText('21.0 : 1').first().waitFor());
  await shot(`/marks/${badge}/files`, 'files', () => page.getByRole('button', { name: 'Make 3 files' }).waitFor(), async () => {
    await page.getByRole('button', { name: 'Make 3 files' }).click();
    await page.getByRole('region', { name: 'Receipt' }).waitFor({ timeout: 60_000 });
  });
  await shot('/deliveries', 'deliveries', () => page.getByRole('table').waitFor());
  await room('dark');
  await shot('/marks', 'marks-dark-room', picturesDone);
  await shot(`/marks/${badge}/cutOut`, 'bench-dark-room', benchDone);
} finally {
  await browser.close();
  child.kill('SIGTERM');
  await new Promise((r) => child.once('exit', r));
  await database.stop();
}
