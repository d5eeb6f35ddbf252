import { createHash, randomBytes } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { type JobHelpers, type Runner, makeWorkerUtils, run } from 'graphile-worker';
import pg from 'pg';
import type { Logger } from 'pino';
import type { PictureMaker } from '../sources';
import { failAbandoned } from '../store/deliveries';
import { announce } from '../store/deliveries';
import { failAbandonedRuns } from '../store/placements';
import { type DeliveryDeps, makeDelivery } from './makeDelivery';
import { makeLive } from './makeLive';
import { makeRun } from './makeRun';
import { collect, lookAt } from './upkeep';

export interface JobRunner {
  /** Whether jobs are taken just now: not while the database is away. */
  readonly isRunning: boolean;
  /** Ends running jobs, or gives them back for others to take. */
  stop(): Promise<void>;
}

export interface RunnerDeps extends DeliveryDeps {
  readonly pictures: PictureMaker;
  /** For the connection that holds the lock: one of its own, so that its end is the end of nothing else. */
  readonly database: pg.ClientConfig;
}

const LOOK_FOR_DEAD_MS = 5_000;
const TRY_AGAIN_MS = 500;
/** Running jobs have so long to end before they are given back. */
const STOP_MS = 4_000;
/** At night, and at the next start when the night was missed. */
const NIGHTLY = '17 3 * * * collect ?fill=1d&max=3 {"id":"all"}';

/**
 * Runs the queue's jobs in this process for as long as it lives: when the database goes away, jobs end there, and go on
 * as soon as it is back.
 *
 * A process that dies leaves its jobs locked; their lock is lifted as soon as another process finds the dead one's
 * advisory lock free, at its start and every few seconds.
 */
export async function startJobs(deps: RunnerDeps, log: Logger): Promise<JobRunner> {
  let current: Running | null = await begin(deps, log);
  let isStopped = false;
  const loop = (async () => {
    while (!isStopped) {
      if (current) {
        await current.ended;
        const over = current;
        current = null;
        await over.stop();
        if (!isStopped) log.warn('the queue stopped: the database is away');
      } else {
        current = await begin(deps, log).catch(() => null);
        if (current) log.warn('the queue goes on');
        else await new Promise((r) => setTimeout(r, TRY_AGAIN_MS));
      }
    }
  })();
  return {
    get isRunning() {
      return current !== null;
    },
    stop: async () => {
      isStopped = true;
      const last = current;
      last?.letGo();
      await loop;
      if (current && current !== last) await current.stop();
    },
  };
}

/** Makes the queue's tables where no process has run jobs on this database yet: jobs are put in all the same. */
export async function prepareQueue(pool: pg.Pool, log: Logger): Promise<void> {
  const utils = await makeWorkerUtils({ pgPool: pool, logger: quietLogger(log) });
  try {
    await utils.migrate();
  } finally {
    await utils.release();
  }
}

/** One stretch of running jobs, from one loss of the database to the next. */
interface Running {
  /** Settles when the connection is lost or `letGo` is called. */
  readonly ended: Promise<void>;
  letGo(): void;
  stop(): Promise<void>;
}

async function begin(deps: RunnerDeps, log: Logger): Promise<Running> {
  const { pool } = deps;
  const utils = await makeWorkerUtils({ pgPool: pool, logger: quietLogger(log) });
  try {
    await utils.migrate();
    const lock = await holdLock(deps.database);
    const look = () => lookForDead(pool, utils.forceUnlockWorkers.bind(utils));
    const runners = await look()
      .then(() => runQueues(deps, lock.key, log))
      .catch(async (error: unknown) => {
        await lock.release();
        throw error;
      });
    let letGo = () => {};
    const ended = new Promise<void>((resolve) => {
      letGo = resolve;
      lock.lost.then(resolve, resolve);
      for (const runner of runners) runner.promise.then(resolve, resolve);
    });
    const timer = setInterval(() => {
      look().catch((error: unknown) => log.warn({ err: error }, 'could not look for dead runners'));
    }, LOOK_FOR_DEAD_MS);
    return {
      ended,
      letGo,
      stop: async () => {
        clearInterval(timer);
        await inTime(Promise.all(runners.map((runner) => runner.stop())), 2 * STOP_MS);
        await inTime(Promise.resolve(utils.release()), STOP_MS);
        await lock.release();
      },
    };
  } catch (error) {
    await inTime(Promise.resolve(utils.release()), STOP_MS);
    throw error;
  }
}

/** Waits for an ending that may never come, or may fail because what it ends is gone. */
const inTime = (work: Promise<unknown>, mostMs: number): Promise<void> =>
  Promise.race([
    work.then(
      () => {},
      () => {},
    ),
    new Promise<void>((r) => setTimeout(r, mostMs).unref()),
  ]);

/**
 * Files are made one delivery at a time for each thread that the queue may have: two would only take each other's
 * master out of the thread's memory. What a screen waits for has places of its own.
 */
async function runQueues(deps: RunnerDeps, lockKey: string, log: Logger): Promise<Runner[]> {
  const { pool, core } = deps;
  const events = new EventEmitter();
  // Jobs are locked under the name of the pool or of one of its workers, so both are written down.
  const enlist = (id: string) =>
    void pool
      .query('insert into runner (worker_id, lock_key) values ($1, $2) on conflict do nothing', [id, lockKey])
      .catch((error: unknown) => log.warn({ err: error }, 'could not write down a runner'));
  events.on('pool:create', ({ workerPool }: { workerPool: { id: string } }) => enlist(workerPool.id));
  events.on('worker:create', ({ worker }: { worker: { workerId: string } }) => enlist(worker.workerId));
  const idOf = (payload: unknown) => (payload as { id: string }).id;
  const common = {
    pgPool: pool,
    noHandleSignals: true,
    pollInterval: 1000,
    events: events as never,
    preset: { worker: { gracefulShutdownAbortTimeout: STOP_MS } },
    logger: quietLogger(log),
  };
  const files = await run({
    ...common,
    concurrency: Math.max(1, core.threads - 1),
    taskList: {
      makeDelivery: (payload, { job, abortSignal }: JobHelpers) =>
        makeDelivery(deps, idOf(payload), { number: job.attempts, signal: abortSignal }),
      makeRun: (payload, { job, abortSignal }: JobHelpers) =>
        makeRun(deps, idOf(payload), { number: job.attempts, signal: abortSignal }),
    },
  });
  const looks = await run({
    ...common,
    concurrency: 2,
    crontab: NIGHTLY,
    taskList: {
      lookAt: (payload) => lookAt(deps, idOf(payload)),
      makeLive: (payload, { job, abortSignal }: JobHelpers) =>
        makeLive(deps, idOf(payload), { number: job.attempts, signal: abortSignal }),
      collect: () => collect(pool, log),
    },
  });
  return [files, looks];
}

interface Lock {
  readonly key: string;
  /** Settles when the connection that holds the lock is gone, and the lock with it. */
  readonly lost: Promise<void>;
  release(): Promise<void>;
}

async function holdLock(database: pg.ClientConfig): Promise<Lock> {
  const key = createHash('sha256').update(randomBytes(16)).digest().readBigInt64BE().toString();
  const client = new pg.Client({ ...database, connectionTimeoutMillis: 5000, keepAlive: true });
  const lost = new Promise<void>((resolve) => {
    client.on('error', () => resolve());
    client.on('end', () => resolve());
  });
  await client.connect();
  await client.query('select pg_advisory_lock($1::bigint)', [key]);
  return { key, lost, release: () => inTime(client.end(), STOP_MS) };
}

async function lookForDead(pool: pg.Pool, unlock: (ids: string[]) => Promise<void>): Promise<void> {
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
  for (const id of await failAbandoned(pool)) await announce(pool, id);
  await failAbandonedRuns(pool);
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
