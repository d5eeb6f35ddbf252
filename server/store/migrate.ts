import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type pg from 'pg';
import { withTransaction } from './db';

const LOCK = 7_215_331; // any number, the same in every process

/**
 * Brings the database up to the code: every file of `folder` once, in order, each in its own transaction.
 * @throws Error when the database is newer than the code
 */
export async function migrate(pool: pg.Pool, folder: string): Promise<void> {
  const files = (await readdir(folder)).filter((f) => /^\d{4}_\w+\.sql$/.test(f)).sort();
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [LOCK]);
    await client.query(
      'create table if not exists schema_version (version integer primary key, name text ' +
        'not null, applied_at timestamptz not null default now())',
    );
    const { rows } = await client.query<{ version: number }>('select version from schema_version order by version');
    const newest = rows.at(-1)?.version ?? 0;
    if (newest > files.length)
      throw new Error(
        `The database is at version ${newest}, this program knows ${files.length}. Start a newer Tassel.`,
      );
    for (const file of files.slice(newest)) {
      const sql = await readFile(join(folder, file), 'utf8');
      await withTransaction(pool, async (tx) => {
        await tx.query('insert into schema_version (version, name) values ($1, $2)', [Number(file.slice(0, 4)), file]);
        await tx.query(sql);
      });
    }
  } finally {
    await client.query('select pg_advisory_unlock($1)', [LOCK]).catch(() => {});
    client.release();
  }
}
