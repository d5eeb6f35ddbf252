import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Browser, Page } from 'playwright-core';
import { paths } from '../../contract/paths';
import { expect } from 'vitest';
import type { BrandView, MarkView } from '../../contract/views';
import { launchBrowser } from '../support/browser.mjs';
import { createTestDatabase, startServer, stopServer } from '../support/testServer';
import { HANGS_MS } from '../support/until';

/** A real server on a database of its own, a browser, and one empty brand. */
export interface BrowserRig {
  readonly url: string;
  readonly brand: BrandView;
  /** What pages reported as errors. */
  readonly problems: string[];
  open(path: string): Promise<Page>;
  post<T>(path: string, body: object | Uint8Array): Promise<T>;
  get(path: string): Promise<unknown>;
  stop(): Promise<void>;
}

const KEPT_BY_PAGES = 'local_storage,indexeddb,cookies';

export async function startRig(): Promise<BrowserRig> {
  const db = await createTestDatabase();
  const server = await startServer(db.config);
  const browser: Browser = await launchBrowser();
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    reducedMotion: 'reduce',
  });
  context.setDefaultTimeout(HANGS_MS);
  const problems: string[] = [];
  const post = async <T>(path: string, body: object | Uint8Array): Promise<T> => {
    const isBytes = body instanceof Uint8Array;
    const response = await fetch(server.url + path, {
      method: 'POST',
      body: isBytes ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
      headers: isBytes ? {} : { 'content-type': 'application/json' },
    });
    return (await response.json()) as T;
  };
  const brand = await post<BrandView>(paths.brands, {
    name: 'Harrowmere',
    palette: [{ name: 'Enamel cream', hex: '#e9ddc4' }],
  });
  return {
    url: server.url,
    brand,
    problems,
    post,
    get: async (path) => (await fetch(server.url + path)).json(),
    open: async (path) => {
      const page = await context.newPage();
      // As on a first visit, but for the scripts: those are fetched and compiled once.
      const devtools = await context.newCDPSession(page);
      await devtools.send('Storage.clearDataForOrigin', { origin: server.url, storageTypes: KEPT_BY_PAGES });
      page.on('pageerror', (error) => problems.push(error.message));
      await page.goto(server.url + path);
      return page;
    },
    stop: async () => {
      await browser.close();
      await stopServer(server);
      await db.drop();
    },
  };
}

/** When a page has its heading and nothing of it is being worked out: until then what stands on it may still move. */
export const ready = (page: Page) =>
  page.waitForFunction(
    () =>
      document.querySelector('h1') !== null &&
      document.querySelector('.measuring, .waiting, .picture-wait, .is-working') === null,
  );

/** Gives a mark size lines, makes them on its Files stage and downloads the ZIP. @returns its files but the receipt */
export async function deliver(
  rig: BrowserRig,
  page: Page,
  { id }: Pick<MarkView, 'id'>,
  lines: MarkView['recipe']['files']['lines'],
): Promise<{ name: string; bytes: Uint8Array }[]> {
  // The page may still be storing what was done last: the lines go into the newest recipe, or again into a newer one.
  await expect
    .poll(async () => {
      const { revision, recipe } = (await rig.get(paths.mark(id))) as MarkView;
      const { status } = await fetch(rig.url + paths.markRecipe(id), {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          basedOn: revision,
          why: 'Other lines',
          // Tests ask for these very sizes.
          recipe: { ...recipe, files: { ...recipe.files, lines: lines.map((l) => ({ ...l, fitted: undefined })) } },
        }),
      });
      return status;
    })
    .toBe(200);
  await page.goto(`${rig.url}/marks/${id}/files`);
  await page.getByRole('button', { name: /^Make \d+ files?$/ }).click();
  const download = page.waitForEvent('download');
  await page.getByText(/^Download .*\.zip$/).click();
  const zip = unzipSync(readFileSync(await (await download).path()));
  return Object.entries(zip).flatMap(([name, bytes]) => (name.startsWith('receipt') ? [] : [{ name, bytes }]));
}

/** Drops files on the page as a hand would: a drop event with files in it. */
export async function dropFiles(
  page: Page,
  files: readonly { name: string; type: string; bytes: Uint8Array }[],
  onto = '.marks',
): Promise<void> {
  const transfer = await page.evaluateHandle(
    (list) => {
      const data = new DataTransfer();
      for (const f of list)
        data.items.add(new File([Uint8Array.from(atob(f.base64), (c) => c.charCodeAt(0))], f.name, { type: f.type }));
      return data;
    },
    files.map((f) => ({ name: f.name, type: f.type, base64: Buffer.from(f.bytes).toString('base64') })),
  );
  await page.dispatchEvent(onto, 'drop', { dataTransfer: transfer });
}
