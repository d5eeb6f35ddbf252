import { join } from 'node:path';
import { pino } from 'pino';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, TakenIn } from '../../contract/views';
import { createApp } from '../../server/app';
import { createCorePool } from '../../server/corePool';
import { listenForDeliveries } from '../../server/deliveryEvents';
import { startJobs } from '../../server/jobs/runner';
import { createLiveFiles } from '../../server/liveFiles';
import { createDoor } from '../../server/people/door';
import { createPictureMaker } from '../../server/sources';
import { createTestDatabase, projectDir } from './testDatabase';
import { until } from './until';

/** The whole server on a real database, without a port. */
/** @param options  `guarded` as where Tassel listens beyond this machine */
export async function createTestApp(options: { readonly guarded?: boolean } = {}) {
  const db = await createTestDatabase();
  const log = pino({ level: 'silent' });
  const core = createCorePool({ entry: join(projectDir, 'dist/server/coreWorker.mjs'), database: db.config });
  const pictures = createPictureMaker({ pool: db.pool, core });
  const jobs = await startJobs({ pool: db.pool, core, pictures, database: db.config }, log);
  const events = await listenForDeliveries(db.config, log);
  const live = createLiveFiles(db.pool, events, log);
  const door = options.guarded ? createDoor(db.pool) : null;
  const app = createApp({ pool: db.pool, core, pictures, jobs, events, live, log, door, webDir: null, proofDir: null });

  const call = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
    const isBytes = body instanceof Uint8Array;
    const init: RequestInit = {
      method,
      headers: {
        host: 'localhost',
        ...(body !== undefined && !isBytes ? { 'content-type': 'application/json' } : {}),
        ...headers,
      },
    };
    if (body !== undefined) init.body = isBytes ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body);
    return app.request(path, init);
  };
  const json = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
    (await call(method, path, body)).json() as Promise<T>;
  return {
    app,
    db,
    core,
    call,
    /** A request as it is. */
    raw: async (path: string, init: object) => app.request(path, init),
    json,
    addBrand: (name = 'Test brand') => json<BrandView>('POST', paths.brands, { name, palette: [] }),
    takeIn: (brandId: string, bytes: Uint8Array, name: string) =>
      json<TakenIn>('POST', `${paths.brandMarks(brandId)}?name=${encodeURIComponent(name)}`, bytes),
    waitFor: async (id: string): Promise<DeliveryView> => {
      const find = () => json<DeliveryView>('GET', paths.delivery(id));
      return until('the end of a delivery', find, ({ state }) => state !== 'waiting' && state !== 'making');
    },
    close: async () => {
      await jobs.stop();
      await live.close();
      await events.close();
      await core.close();
      await db.drop();
    },
  };
}
export type TestApp = Awaited<ReturnType<typeof createTestApp>>;
