import type pg from 'pg';
import { CoreError } from '../../core/errors';

export type Db = pg.Pool | pg.PoolClient;

// Named once: https://www.postgresql.org/docs/current/errcodes-appendix.html
export const UNIQUE_VIOLATION = '23505';
export const INVALID_TEXT = '22P02';

/** The only BEGIN in the program: all of `work`, or nothing. */
export async function withTransaction<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('begin');
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch(() => {});
    throw error;
  } finally {
    client.release();
  }
}

export const isUniqueViolation = (error: unknown, constraint: string): boolean =>
  (error as pg.DatabaseError)?.code === UNIQUE_VIOLATION && (error as pg.DatabaseError).constraint === constraint;

/** @throws CoreError 'store/not-found' when there is no row */
export function oneRow<T>(rows: T[], what: string): T {
  if (rows.length === 0)
    throw new CoreError('store/not-found', `There is no such ${what}, or it was removed.`, { what });
  return rows[0];
}

const UUID = /^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/i;

/** An id from outside, checked before it reaches SQL. @throws CoreError 'store/not-found' */
export function asId(value: string | undefined, what: string): string {
  if (!value || !UUID.test(value)) throw new CoreError('store/not-found', `There is no such ${what}.`, { what });
  return value;
}
