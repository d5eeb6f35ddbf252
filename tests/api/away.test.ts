import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, ErrorBody, MarkView, TakenIn } from '../../contract/views';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type OwnCluster, createOwnCluster } from '../support/ownCluster';
import { type TestServer, startServer, stopServer } from '../support/testServer';
import { until } from '../support/until';

let cluster: OwnCluster;
let server: TestServer;
let brand: BrandView;
let mark: MarkView;
const badge = onGround(drawMark(500, 500, ring(250, 250, 200, 120), [31, 90, 69]), [255, 255, 255]);

async function ask<T>(path: string, method = 'GET', body?: object | Uint8Array): Promise<{ status: number; body: T }> {
  const isBytes = body instanceof Uint8Array;
  const response = await fetch(server.url + path, {
    method,
    body: isBytes ? (body as Uint8Array<ArrayBuffer>) : body && JSON.stringify(body),
    headers: body && !isBytes ? { 'content-type': 'application/json' } : {},
  });
  return { status: response.status, body: (await response.json()) as T };
}
const find = async (id: string) => (await ask<DeliveryView>(paths.delivery(id))).body;
const ended = (id: string) =>
  until(
    'the end of a delivery',
    () => find(id),
    ({ state }) => ['ready', 'failed'].includes(state),
  );

beforeAll(async () => {
  cluster = await createOwnCluster('away');
  server = await startServer(cluster.config);
  brand = (await ask<BrandView>(paths.brands, 'POST', { name: 'Away', palette: [] })).body;
  const taken = await ask<TakenIn>(`${paths.brandMarks(brand.id)}?name=badge.png`, 'POST', await pngOf(badge));
  mark = taken.body.mark;
});
afterAll(async () => {
  if (server) await stopServer(server);
  await cluster?.remove();
});

/** A delivery of many files that has begun. */
async function beginLong(): Promise<DeliveryView> {
  const lines = Array.from({ length: 14 }, (_, k) => ({
    id: `l${k}`,
    variant: 'colour',
    purpose: 'print',
    size: { id: 'width', params: { widthPx: 1200 + 10 * k, paddingPct: 0 } },
    format: { id: 'png', params: {} },
  }));
  const recipe = { ...mark.recipe, files: { ...mark.recipe.files, lines } };
  mark = (await ask<MarkView>(paths.markRecipe(mark.id), 'PUT', { basedOn: mark.revision, why: 'many', recipe })).body;
  const { body } = await ask<DeliveryView>(paths.markDeliveries(mark.id), 'POST', { basedOn: mark.revision });
  await until(
    'two files',
    () => find(body.id),
    ({ doneCount }) => doneCount > 1,
  );
  return body;
}

describe('a server whose database goes away in the middle of a delivery', () => {
  it.each(['stop', 'kill'] as const)('lives on, says so, and goes on by itself (%s)', async (way) => {
    const delivery = await beginLong();
    await cluster[way]();
    const during = await ask<ErrorBody>(paths.brands);
    expect(during.status).toBe(503);
    expect(during.body.error.message).toContain('goes on by itself');
    expect((await ask(paths.alive)).status).toBe(200);
    expect((await ask(paths.ready)).status).toBe(503);
    await new Promise((r) => setTimeout(r, 1000));
    await cluster.start();
    await until(
      'readiness',
      () => ask(paths.ready),
      ({ status }) => status === 200,
    );
    expect(server.child.exitCode).toBeNull();
    expect(await ended(delivery.id)).toMatchObject({ state: 'ready', doneCount: 14 });

    // Its lock is taken again: another process finds it alive.
    const { Client } = await import('pg').then((m) => m.default);
    const client = new Client(cluster.config);
    await client.connect();
    const { rows } = await client.query<{ free: boolean }>(
      'select pg_try_advisory_lock(lock_key) as free from runner order by started_at desc limit 1',
    );
    await client.end();
    expect(rows).toEqual([{ free: false }]);
  });
  it('gets its notices again, without waiting to look for itself', async () => {
    const { body } = await ask<DeliveryView>(paths.markDeliveries(mark.id), 'POST', { basedOn: mark.revision });
    const stream = await fetch(server.url + paths.deliveryEvents(body.id));
    const text = await stream.text();
    const counts = [...text.matchAll(/data: (.*)/g)].map((m) => (JSON.parse(m[1]) as DeliveryView).doneCount);
    // Looking for itself every two seconds it would have missed most of them.
    expect(new Set(counts).size).toBeGreaterThan(7);
  });
});

describe('a second web server on the same database', () => {
  it('shows at once what was changed at the first, and told of its deliveries', async () => {
    const second = await startServer(cluster.config);
    try {
      const name = 'Changed at the first';
      await ask(paths.mark(mark.id), 'PATCH', { basedOn: mark.details, name });
      const seen = (await (await fetch(second.url + paths.mark(mark.id))).json()) as MarkView;
      expect(seen.name).toBe(name);
      const { body } = await ask<DeliveryView>(paths.markDeliveries(mark.id), 'POST', { basedOn: mark.revision });
      const text = await (await fetch(second.url + paths.deliveryEvents(body.id))).text();
      expect(text).toContain('"state":"ready"');
    } finally {
      await stopServer(second);
    }
  });
});

it('a server that is told to stop gives its jobs back and ends', async () => {
  const delivery = await beginLong();
  await stopServer(server);
  expect(server.child.exitCode).toBe(0);
  server = await startServer(cluster.config);
  expect((await ended(delivery.id)).state).toBe('ready');
});
