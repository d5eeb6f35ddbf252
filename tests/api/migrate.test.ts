import { cp, mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { migrate } from '../../server/store/migrate';
import { createTestDatabase, projectDir } from '../support/testDatabase';

let db: Awaited<ReturnType<typeof createTestDatabase>>;
beforeAll(async () => {
  db = await createTestDatabase();
});
afterAll(() => db.drop());

it('changes nothing when run again, also by several processes at once', async () => {
  const folder = join(projectDir, 'server/migrations');
  await Promise.all([migrate(db.pool, folder), migrate(db.pool, folder), migrate(db.pool, folder)]);
  const files = (await readdir(folder)).length;
  expect((await db.pool.query('select version from schema_version order by version')).rows).toEqual(
    Array.from({ length: files }, (_, k) => ({ version: k + 1 })),
  );
});
it('leaves nothing of a migration that fails', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'migrations-'));
  await cp(join(projectDir, 'server/migrations'), folder, { recursive: true });
  await writeFile(join(folder, '9999_broken.sql'), 'create table half (id int); select broken;');
  await expect(migrate(db.pool, folder)).rejects.toThrow('broken');
  expect((await db.pool.query("select to_regclass('half') as t")).rows).toEqual([{ t: null }]);
  await rm(folder, { recursive: true });
});
it('refuses to start on a database newer than the code', async () => {
  await db.pool.query("insert into schema_version (version, name) values (77, 'future')");
  await expect(migrate(db.pool, join(projectDir, 'server/migrations'))).rejects.toThrow('at version 77');
});
