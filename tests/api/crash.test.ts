import { afterAll, beforeAll, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, MarkView, TakenIn } from '../../contract/views';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type TestServer, createTestDatabase, startServer, stopServer } from '../support/testServer';
import { until } from '../support/until';

let db: Awaited<ReturnType<typeof createTestDatabase>>;
beforeAll(async () => {
  db = await createTestDatabase();
});
const running: TestServer[] = [];
afterAll(async () => {
  for (const server of running) await stopServer(server);
  await db.drop();
});

async function ask<T>(url: string, method = 'GET', body?: object | Uint8Array): Promise<T> {
  const isBytes = body instanceof Uint8Array;
  const response = await fetch(url, {
    method,
    body: isBytes ? (body as Uint8Array<ArrayBuffer>) : body && JSON.stringify(body),
    headers: body && !isBytes ? { 'content-type': 'application/json' } : {},
  });
  return (await response.json()) as T;
}

it(
  'a server killed in the middle of a delivery loses nothing: the next one ends the ' +
    'job, and no half file is ever reachable',
  async () => {
    const first = await startServer(db.config);
    running.push(first);
    const brand = await ask<BrandView>(first.url + paths.brands, 'POST', { name: 'Crash', palette: [] });
    const png = await pngOf(onGround(drawMark(500, 500, ring(250, 250, 200, 120), [31, 90, 69]), [255, 255, 255]));
    const { mark } = await ask<TakenIn>(`${first.url}${paths.brandMarks(brand.id)}?name=badge.png`, 'POST', png);
    const lines = Array.from({ length: 12 }, (_, k) => ({
      id: `l${k}`,
      variant: 'colour',
      purpose: 'print',
      size: { id: 'width', params: { widthPx: 1200 + 10 * k, paddingPct: 0 } },
      format: { id: 'png', params: {} },
    }));
    const saved = await ask<MarkView>(first.url + paths.markRecipe(mark.id), 'PUT', {
      basedOn: mark.revision,
      why: 'many',
      recipe: { ...mark.recipe, files: { ...mark.recipe.files, lines } },
    });
    const asked = await ask<DeliveryView>(first.url + paths.markDeliveries(mark.id), 'POST', {
      basedOn: saved.revision,
    });
    const begun = () => ask<DeliveryView>(first.url + paths.delivery(asked.id));
    const seen = await until('two files', begun, ({ doneCount }) => doneCount >= 2);
    expect(seen.state).toBe('making');
    await stopServer(first, 'SIGKILL');

    const left = await db.pool.query('select state, zip_sha from delivery where id = $1', [asked.id]);
    expect(left.rows).toEqual([{ state: 'making', zip_sha: null }]);
    // What is made already is kept, and nobody reaches it.
    const kept = await db.pool.query('select position, blob_sha from delivered_file order by position');
    expect(kept.rowCount).toBeGreaterThanOrEqual(2);

    const second = await startServer(db.config);
    running.push(second);
    const find = () => ask<DeliveryView>(second.url + paths.delivery(asked.id));
    const done = await until('the delivery of the next server', find, ({ state }) => state === 'ready');
    expect(done.files).toHaveLength(12);
    const all = await db.pool.query('select position, blob_sha from delivered_file order by position');
    for (const row of kept.rows) expect(all.rows).toContainEqual(row);
    expect((await ask<MarkView>(second.url + paths.mark(mark.id))).revision).toBe(saved.revision);
  },
);
