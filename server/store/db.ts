import type pg from 'pg';
import { CoreError, isCoreError } from '../../core/errors';
import { currentPerson } from './currentPerson';

export type Db = pg.Pool | pg.PoolClient;

// Named once: https://www.postgresql.org/docs/current/errcodes-appendix.html
export const UNIQUE_VIOLATION = '23505';
const FOREIGN_KEY_VIOLATION = '23503';
/**
 * Operator intervention: the server ends, or has just started and takes no connection yet; or it has no more to give.
 */
const ENDING = ['57P01', '57P02', '57P03', '53300'];
const DISK_FULL = '53100';
/** What the system says of a connection that is gone or cannot be made. */
const UNREACHABLE = ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOENT', 'EHOSTUNREACH', 'ENOTFOUND'];
const CONNECTION_EXCEPTION = /^08/;
const LOST =
  /connection terminated|connection ended|timeout exceeded when trying to connect|not queryable|client was closed/i;

/** Whether an error means that the database is away, not that a statement of ours is wrong. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown };
  if (
    typeof code === 'string' &&
    (ENDING.includes(code) || UNREACHABLE.includes(code) || CONNECTION_EXCEPTION.test(code))
  )
    return true;
  if (error instanceof AggregateError) return error.errors.some(isDatabaseAway);
  return typeof message === 'string' && LOST.test(message);
}

/** The fault that people are told of in place of a lost connection; any other error as it is. */
export function asKnown(error: unknown): unknown {
  if (isCoreError(error)) return error;
  if ((error as pg.DatabaseError | null)?.code === DISK_FULL)
    return new CoreError('store/full', undefined, {}, { cause: error });
  if (!isDatabaseAway(error)) return error;
  return new CoreError(
    'store/unavailable',
    'The database does not answer just now. Nothing is lost; Tassel goes on by itself as soon as it is back.',
    {},
    { cause: error },
  );
}

/** The only BEGIN in the program: all of `work`, or nothing. */
export async function withTransaction<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let isSound = true;
  try {
    await client.query('begin');
    const person = currentPerson.getStore();
    // Rows that are made name who made them, until the transaction ends.
    if (person) await client.query("select set_config('tassel.person', $1, true)", [person.name]);
    const result = await work(client);
    const { command } = await client.query('commit');
    // A statement that failed unseen makes PostgreSQL answer COMMIT with ROLLBACK, without an error.
    if (command !== 'COMMIT') throw new Error(`A transaction ended with ${command} instead of being kept.`);
    return result;
  } catch (error) {
    await client.query('rollback').catch(() => (isSound = false));
    throw error;
  } finally {
    client.release(!isSound);
  }
}

export const isUniqueViolation = (error: unknown, constraint: string): boolean =>
  (error as pg.DatabaseError)?.code === UNIQUE_VIOLATION && (error as pg.DatabaseError).constraint === constraint;

export const isForeignKeyViolation = (error: unknown): boolean =>
  (error as pg.DatabaseError)?.code === FOREIGN_KEY_VIOLATION;

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
