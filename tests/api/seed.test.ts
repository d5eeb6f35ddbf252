import { join } from 'node:path';
import { pino } from 'pino';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createCorePool } from '../../server/corePool';
import { DEMO_BRAND, hangPartners, seedDemo } from '../../server/seed';
import { addBrand, listBrands } from '../../server/store/brands';
import { withTransaction } from '../../server/store/db';
import { listMarks } from '../../server/store/marks';
import { listSlots, listWalls } from '../../server/store/walls';
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
  let drawn = 0;
  // The whole of it takes a minute; what matters here is who draws.
  const draw: typeof seedDemo = async () => {
    drawn++;
    await new Promise((r) => setTimeout(r, 200));
    await withTransaction(db.pool, (tx) => addBrand(tx, DEMO_BRAND, []));
  };
  await Promise.all([seedDemo(deps, log, draw), seedDemo(deps, log, draw)]);
  await seedDemo(deps, log, draw);
  expect(drawn).toBe(1);
  expect((await listBrands(db.pool)).map((b) => b.name)).toEqual([DEMO_BRAND]);
});

it('the partners hang on a wall in their order, each as its file came', async () => {
  const [brand] = await listBrands(db.pool);
  await hangPartners({ pool: db.pool, core }, brand.id);
  const [wall] = await listWalls(db.pool, brand.id);
  expect(wall).toMatchObject({ name: 'Towpath partners', slotCount: 12 });
  const slots = await listSlots(db.pool, wall.id);
  expect(slots.map((s) => s.file).slice(0, 3)).toEqual(['mill-and-weir.svg', 'osier.png', 'northcut-barges.jpg']);
  expect(new Set((await listMarks(db.pool, brand.id)).map((m) => m.name)).size).toBe(12);
});
