import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { ChangeView } from '../../contract/people';
import { hashPassphrase } from '../../server/people/passphrase';
import { addBrand } from '../../server/store/brands';
import { withTransaction } from '../../server/store/db';
import { addPerson } from '../../server/store/people';
import { launchBrowser } from '../support/browser.mjs';
import { disc, drawMark, onGround, pngOf } from '../support/pictures';
import { type TestServer, createTestDatabase, startServer, stopServer } from '../support/testServer';
import { HANGS_MS } from '../support/until';
import { dropFiles } from './rig';

// As from another machine: by a name that is not this one's, without TLS, where browsers keep much from a page.
const NAME = 'locks.invalid';
const SECRET = 'a boat in the reeds';

let db: Awaited<ReturnType<typeof createTestDatabase>>;
let server: TestServer;
let browser: Browser;
let address: string;
beforeAll(async () => {
  db = await createTestDatabase();
  await withTransaction(db.pool, (tx) => addBrand(tx, 'Harrowmere Locks', []));
  for (const [name, role] of [
    ['Odile', 'keeper'],
    ['Ines', 'looker'],
  ] as const)
    await addPerson(db.pool, { name, role, secret: await hashPassphrase(SECRET) });
  server = await startServer(db.config, { asksNames: true });
  browser = await launchBrowser([`--host-resolver-rules=MAP ${NAME} 127.0.0.1`]);
  address = server.url.replace('127.0.0.1', NAME);
});
afterAll(async () => {
  await browser?.close();
  if (server) await stopServer(server);
  await db?.drop();
});

async function open(): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  context.setDefaultTimeout(HANGS_MS);
  const page = await context.newPage();
  await page.goto(`${address}/marks`);
  return page;
}
async function signIn(page: Page, name: string, secret: string): Promise<void> {
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Passphrase').fill(secret);
  await page.getByRole('button', { name: 'Sign in' }).click();
}

/** Who was sent a link has no name here, and may answer all the same. */
async function openAsGuest(path: string | null): Promise<void> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  context.setDefaultTimeout(HANGS_MS);
  const page = await context.newPage();
  await page.goto(new URL(path as string, address).href);
  await page.getByRole('heading', { name: 'lock' }).waitFor();
  await page.getByRole('button', { name: 'Say yes' }).click();
  await page.getByLabel('Your name').fill('A guest');
  await page.getByRole('button', { name: 'Say yes' }).click();
  await page.getByText('You said yes. Thank you.').waitFor();
  await page.goto(`${address}/marks`);
  await page.getByLabel('Passphrase').waitFor();
  await context.close();
}

describe('from another machine', () => {
  it('a keeper signs in, takes a file in, cuts it out, shows it to a guest, and signs out', async () => {
    const page = await open();
    await signIn(page, 'Odile', 'a guess');
    await page.getByText('This name and passphrase do not belong together.').waitFor();
    await signIn(page, 'Odile', SECRET);
    await page.getByRole('button', { name: 'Sign out' }).waitFor();
    expect(new URL(page.url()).pathname).toBe('/marks');
    expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
    const badge = onGround(drawMark(300, 260, disc(150, 130, 90), [31, 90, 69]), [250, 248, 240]);
    await dropFiles(page, [{ name: 'lock.png', type: 'image/png', bytes: await pngOf(badge) }]);
    await page.waitForURL(/\/marks\/[^/]+\/cutOut/);
    await page.getByRole('slider', { name: 'Tolerance' }).waitFor();
    await page.goto(page.url().replace(/cutOut$/, 'variants'));
    await page.getByRole('button', { name: 'Proof link' }).click();
    await page.getByRole('button', { name: 'Make the link' }).click();
    await openAsGuest(await page.getByRole('link', { name: /\/proof\// }).getAttribute('href'));
    await page.goto(`${address}/people`);
    await page.getByText('Ines').first().waitFor();
    const changes = (await page.evaluate(async (path) => (await fetch(path)).json(), paths.changes)) as ChangeView[];
    expect(changes.map((c) => c.madeBy)).toContain('Odile');
    await page.getByRole('button', { name: 'Sign out' }).click();
    await page.getByLabel('Passphrase').waitFor();
    await page.goto(`${address}/marks`);
    await page.getByLabel('Passphrase').waitFor();
    await page.context().close();
  });
  it('a looker looks, and is told that nothing can be changed', async () => {
    const page = await open();
    await signIn(page, 'Ines', SECRET);
    await page.getByRole('link', { name: /^lock/i }).waitFor();
    const status = await page.evaluate(
      async (path) =>
        (
          await fetch(path, {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: JSON.stringify({ name: 'Mine', palette: [] }),
          })
        ).status,
      paths.brands,
    );
    expect(status).toBe(403);
    await page.context().close();
  });
});
