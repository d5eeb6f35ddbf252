import { join } from 'node:path';
import { pino } from 'pino';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createCorePool } from '../../server/corePool';
import { DEMO_BRAND, seedDemo } from '../../server/seed';
import { listBrands } from '../../server/store/brands';
import { listMarks } from '../../server/store/marks';
import { createTestDatabase, projectDir } from '../support/testDatabase';

const log = pino({ level: 'silent' });
let db: Awaited<ReturnType<typeof createTestDatabase>>;
let core: ReturnType<typeof createCorePool>;
beforeAll(async () => {
  db = await createTestDatabase();
  core = createCorePool({ entry: join(projectDir, 'dist/server/coreWorker.mjs'), database: db.config });
});
afterAll(async () => {
  await core?.close();
  await db?.drop();
});

it('two processes that start at once draw the demo scenario once, and a later one leaves it alone', async () => {
  const deps = { pool: db.pool, core };
  await Promise.all([seedDemo(deps, log), seedDemo(deps, log)]);
  await seedDemo(deps, log);
  const brands = await listBrands(db.pool);
  expect(brands.map((b) => b.name)).toEqual([DEMO_BRAND]);
  const marks = await listMarks(db.pool, brands[0].id);
  expect(marks).toHaveLength(10);
  expect(new Set(marks.map((m) => m.name)).size).toBe(10);
}, 150_000);
