import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import pg from 'pg';
import { migrate } from '../../server/store/migrate';

const TEMPLATE = 'tassel_template';
const LOCK = 815;
export const projectDir = join(import.meta.dirname ?? '.', '../..');

/** Settings of the test cluster; `npm test` hands them over. */
export function clusterConfig(): pg.ClientConfig {
  const text = process.env.TASSEL_TEST_DATABASE;
  if (!text) throw new Error('No test database: run these tests with npm test');
  return JSON.parse(text) as pg.ClientConfig;
}

/** A database of its own, cloned from a migrated template. */
export async function createTestDatabase(): Promise<{
  config: pg.ClientConfig & { database: string };
  pool: pg.Pool;
  drop: () => Promise<void>;
}> {
  const cluster = clusterConfig();
  const admin = new pg.Client({ ...cluster, database: 'postgres' });
  await admin.connect();
  await admin.query('select pg_advisory_lock($1)', [LOCK]); // several test files start at once
  if ((await admin.query('select 1 from pg_database where datname = $1', [TEMPLATE])).rowCount === 0)
    await admin.query(`create database ${TEMPLATE}`);
  const template = new pg.Pool({ ...cluster, database: TEMPLATE, max: 2 });
  await migrate(template, join(projectDir, 'server/migrations'));
  await template.end();
  const database = `t_${randomBytes(6).toString('hex')}`;
  await admin.query(`create database ${database} template ${TEMPLATE}`);
  await admin.query('select pg_advisory_unlock($1)', [LOCK]);
  const config = { ...cluster, database };
  const pool = new pg.Pool({ ...config, max: 12 });
  pool.on('error', () => {});
  pool.on('connect', (client) => client.on('error', () => {}));
  return {
    config,
    pool,
    drop: async () => {
      await pool.end();
      await admin.query(`drop database if exists ${database} with (force)`);
      await admin.end();
    },
  };
}
