import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { type Logger, pino } from 'pino';
import { type CorePool, createCorePool } from './corePool';
import { type PictureMaker, createPictureMaker } from './sources';
import { isDatabaseAway } from './store/db';
import { ensureDatabase } from './store/ensureDatabase';
import { migrate } from './store/migrate';

// The one place of the server that reads the environment.
const here = dirname(fileURLToPath(import.meta.url));
const { env } = process;

export const settings = {
  database: JSON.parse(env.TASSEL_DATABASE ?? '{}') as pg.ClientConfig & { database: string },
  host: env.TASSEL_HOST ?? '127.0.0.1',
  port: Number(env.TASSEL_PORT ?? 4480),
  /** Names are asked for on loopback too: a proxy on this machine lets others reach it. */
  asksNames: env.TASSEL_ASK_NAMES === '1',
  hasDemo: env.TASSEL_DEMO === '1',
  /** Whether this web server also runs jobs; `npm run worker` starts a runner alone. */
  runsJobs: env.TASSEL_JOBS !== '0',
  webDir: join(here, '../web'),
  proofDir: join(here, '../proof'),
} as const;

export interface Environment {
  readonly pool: pg.Pool;
  readonly core: CorePool;
  readonly pictures: PictureMaker;
  readonly log: Logger;
  /** Ends threads and connections. */
  close(): Promise<void>;
}

/** Statements of ours take milliseconds; one that waits this long waits for something that will not come. */
const STATEMENT_MS = 30_000;
const WAIT_FOR_DATABASE_MS = 60_000;

/** Connections, threads and an up-to-date database, as every process of the server needs them. */
export async function openEnvironment(): Promise<Environment> {
  const log = pino({ level: env.TASSEL_LOG ?? 'warn' }, pino.destination(2));
  const { database } = settings;
  await waitForDatabase(database, log);
  const pool = new pg.Pool({
    ...database,
    max: 20,
    connectionTimeoutMillis: 5000,
    statement_timeout: STATEMENT_MS,
    keepAlive: true,
  });
  // The pool reports it; without a listener Node would end.
  pool.on('connect', (client) => client.on('error', () => {}));
  pool.on('error', (error) => log.warn({ err: error }, 'a database connection was lost'));
  await migrate(pool, join(here, 'migrations'));
  const memoryBytes = env.TASSEL_MEMORY_MB ? Number(env.TASSEL_MEMORY_MB) * 1024 * 1024 : undefined;
  const core = createCorePool({ entry: join(here, 'coreWorker.mjs'), database, memoryBytes });
  // Whatever was not foreseen is written down; what is stored is whole at any moment, so the process goes on.
  process.on('unhandledRejection', (error) => log.error({ err: error }, 'a failure that nobody waited for'));
  return {
    pool,
    core,
    pictures: createPictureMaker({ pool, core }),
    log,
    close: async () => {
      await core.close();
      await pool.end().catch(() => {});
    },
  };
}

async function waitForDatabase(database: pg.ClientConfig & { database: string }, log: Logger): Promise<void> {
  const until = Date.now() + WAIT_FOR_DATABASE_MS;
  for (;;) {
    try {
      await ensureDatabase(database);
      return;
    } catch (error) {
      if (!isDatabaseAway(error) || Date.now() > until) throw error;
      log.warn('the database does not answer yet');
      await new Promise((r) => setTimeout(r, 500));
    }
  }
}

/** Runs `end` once, on the first request to stop; a second one ends at once. */
export function onStop(end: () => Promise<void>): void {
  let isEnding = false;
  const stop = () => {
    if (isEnding) process.exit(1);
    isEnding = true;
    end().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}
