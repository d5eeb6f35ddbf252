import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, MarkCard } from '../../contract/views';
import { ask } from '../support/ask';
import { commandLine } from '../support/commandLine';
import { disc, drawMark, pngOf } from '../support/pictures';
import { type TestServer, createTestDatabase, startServer, stopServer } from '../support/testServer';

const { at, tassel } = commandLine('bundles');
let here: Awaited<ReturnType<typeof createTestDatabase>>;
let there: Awaited<ReturnType<typeof createTestDatabase>>;
let server: TestServer;
let brand: BrandView;
beforeAll(async () => {
  [here, there] = await Promise.all([createTestDatabase(), createTestDatabase()]);
  server = await startServer(here.config);
  brand = await ask<BrandView>(server, 'POST', paths.brands, { name: 'Lock keepers', palette: [] });
  for (const [name, r] of [
    ['badge', 80],
    ['sign', 60],
  ] as const) {
    const png = new Uint8Array(await pngOf(drawMark(240, 200, disc(120, 100, r), [31, 90, 69])));
    await ask(server, 'POST', `${paths.brandMarks(brand.id)}?name=${name}.png`, png);
  }
});
afterAll(async () => {
  await stopServer(server);
  await Promise.all([here.drop(), there.drop()]);
});

const addressOf = ({ config }: typeof here) => {
  const { host = '127.0.0.1', port, user, password, database } = config as unknown as Record<string, string>;
  const isSocket = host.startsWith('/');
  const who = `${encodeURIComponent(user)}${password ? `:${encodeURIComponent(password)}` : ''}`;
  return `postgres://${who}@${isSocket ? 'localhost' : host}:${port}/${database}${isSocket ? `?host=${host}` : ''}`;
};

it('a brand goes from a running server to another database and back, byte for byte the same', async () => {
  const out = await tassel('bundle', 'lock keepers', '--out', at('brand.zip'), '--server', server.url);
  expect(out.code, out.stderr).toBe(0);
  const database = addressOf(there);
  const taken = await tassel('unbundle', at('brand.zip'), '--database', database, '--json');
  expect(taken.code, taken.stderr).toBe(0);
  expect(JSON.parse(taken.stdout)).toMatchObject({ kind: 'brand', marks: [{ name: 'Badge' }, { name: 'Sign' }] });
  const again = await tassel('bundle', 'Lock keepers', '--out', at('again.zip'), '--database', database);
  expect(again.code, again.stderr).toBe(0);
  expect(Buffer.compare(readFileSync(at('again.zip')), readFileSync(at('brand.zip')))).toBe(0);
});

it('a mark goes by name or id, into a brand that is named', async () => {
  const [{ id }] = await ask<MarkCard[]>(server, 'GET', paths.brandMarks(brand.id));
  const own = ['--server', server.url];
  expect((await tassel('bundle', id, '--out', at('mark.zip'), ...own)).code).toBe(0);
  const other = await ask<BrandView>(server, 'POST', paths.brands, { name: 'Others', palette: [] });
  expect((await tassel('unbundle', at('mark.zip'), '--brand', 'others', ...own)).code).toBe(0);
  expect(await ask<MarkCard[]>(server, 'GET', paths.brandMarks(other.id))).toHaveLength(1);
});

it('says what is wrong in one line, and writes nothing', async () => {
  const own = ['--server', server.url];
  const none = await tassel('bundle', 'nobody', '--out', at('never.zip'), ...own);
  expect([none.code, none.stderr]).toEqual([1, expect.stringContaining('no mark and no brand called "nobody"')]);
  const odd = await tassel('unbundle', at('brand.zip').replace('brand.zip', 'missing.zip'), ...own);
  expect(odd.stderr).toContain('missing.zip');
  const nowhere = await tassel('bundle', 'x', '--out', at('never.zip'), '--server', 'http://127.0.0.1:9');
  expect(nowhere.stderr).toContain('Nothing answers at http://127.0.0.1:9');
  const both = await tassel('bundle', 'x', '--out', at('never.zip'), ...own, '--database', 'postgres://a@b/c');
  expect([both.code, both.stderr]).toEqual([2, expect.stringContaining('not both')]);
  expect((await tassel('bundle', 'x', '--out', 'y', '--database', 'nonsense')).stderr).toContain('--database takes');
});
