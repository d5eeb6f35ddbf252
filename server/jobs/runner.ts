import { createHash, randomBytes } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { type Runner, makeWorkerUtils, run } from 'graphile-worker';
import type pg from 'pg';
import type { Logger } from 'pino';
import { type DeliveryDeps, makeDelivery } from './makeDelivery';

export interface JobRunner {
  addDelivery(id: string): Promise<void>;
  stop(): Promise<void>;
}

/**
 * Runs the queue's jobs in this process. A process that dies leaves its jobs locked; their lock is lifted as soon as
 * another process finds the dead one's advisory lock free, at its start and every ten seconds.
 */
export async function startJobs(deps: DeliveryDeps, log: Logger): Promise<JobRunner> {
  const { pool } = deps;
  const utils = await makeWorkerUtils({ pgPool: pool });
  await utils.migrate();
  const lock = await holdLock(pool);
  const events = new EventEmitter();
  // Jobs are locked under the name of the pool or of one of its workers, so both are written down.
  const enlist = (id: string) =>
    void pool.query('insert into runner (worker_id, lock_key) values ($1, $2) on conflict do nothing', [id, lock.key]);
  events.on('pool:create', ({ workerPool }: { workerPool: { id: string } }) => enlist(workerPool.id));
  events.on('worker:create', ({ worker }: { worker: { workerId: string } }) => enlist(worker.workerId));
  await releaseDead(pool, utils.forceUnlockWorkers.bind(utils));
  const runner: Runner = await run({
    pgPool: pool,
    concurrency: 2,
    noHandleSignals: true,
    pollInterval: 1000,
    events: events as never,
    taskList: { makeDelivery: async (payload) => makeDelivery(deps, (payload as { id: string }).id) },
    logger: quietLogger(log),
  });
  const timer = setInterval(() => {
    releaseDead(pool, utils.forceUnlockWorkers.bind(utils)).catch((error: unknown) =>
      log.warn({ error }, 'could not look for dead runners'),
    );
  }, 10_000);
  return {
    addDelivery: async (id) => {
      await utils.addJob('makeDelivery', { id }, { maxAttempts: 5, jobKey: id });
    },
    stop: async () => {
      clearInterval(timer);
      await runner.stop();
      await utils.release();
      lock.release();
    },
  };
}

async function holdLock(pool: pg.Pool): Promise<{ key: string; release: () => void }> {
  const key = createHash('sha256').update(randomBytes(16)).digest().readBigInt64BE().toString();
  const client = await pool.connect();
  client.on('error', () => {}); // the pool reports a lost connection itself
  await client.query('select pg_advisory_lock($1::bigint)', [key]);
  return { key, release: () => client.release(true) };
}

async function releaseDead(pool: pg.Pool, unlock: (ids: string[]) => Promise<void>): Promise<void> {
  const client = await pool.connect();
  try {
    const { rows } = await client.query<{ lock_key: string; worker_ids: string[] }>(
      'select lock_key, array_agg(worker_id) as worker_ids from runner group by lock_key',
    );
    for (const { lock_key: key, worker_ids: ids } of rows) {
      const { rows: tried } = await client.query<{ free: boolean }>('select pg_try_advisory_lock($1::bigint) as free', [
        key,
      ]);
      if (!tried[0].free) continue;
      await unlock(ids);
      await client.query('delete from runner where lock_key = $1', [key]);
      await client.query('select pg_advisory_unlock($1::bigint)', [key]);
    }
    // A process killed before it could write its name down: nobody known holds these.
    const { rows: orphans } = await client.query<{ locked_by: string }>(
      `select distinct locked_by from graphile_worker.jobs
       where locked_by is not null and locked_at < now() - interval '30 seconds'
          and locked_by not in (select worker_id from runner)`,
    );
    if (orphans.length) await unlock(orphans.map((o) => o.locked_by));
  } finally {
    client.release();
  }
}

function quietLogger(log: Logger) {
  return new (class {
    scope() {
      return this;
    }
    error(message: string) {
      log.error(message);
    }
    warn(message: string) {
      log.warn(message);
    }
    info() {}
    debug() {}
  })() as never;
}
