import { serve } from '@hono/node-server';
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { pino } from 'pino';
import { createApp } from './app';
import { createCorePool } from './corePool';
import { listenForDeliveries } from './deliveryEvents';
import { startJobs } from './jobs/runner';
import { seedDemo } from './seed';
import { ensureDatabase } from './store/ensureDatabase';
import { migrate } from './store/migrate';

// The one place of the server that reads the environment.
const here = dirname(fileURLToPath(import.meta.url));
const log = pino({ level: process.env.TASSEL_LOG ?? 'warn' }, pino.destination(2));
const connection = JSON.parse(process.env.TASSEL_DATABASE ?? '{}') as pg.ClientConfig & { database: string };
const host = process.env.TASSEL_HOST ?? '127.0.0.1';
const webDir = join(here, '../web');

await ensureDatabase(connection);
const pool = new pg.Pool({ ...connection, max: 20 });
pool.on('connect', (client) => client.on('error', () => {})); // reported by the pool; without a listener Node would end
pool.on('error', (error) => log.warn({ err: error }, 'a database connection was lost'));
await migrate(pool, join(here, 'migrations'));
const core = createCorePool(join(here, 'coreWorker.mjs'));
if (process.env.TASSEL_DEMO === '1') await seedDemo({ pool, core }, log);
const jobs = await startJobs({ pool, core }, log);
const events = await listenForDeliveries(connection, log);
const app = createApp({
  pool,
  core,
  jobs,
  events,
  log,
  webDir: existsSync(join(webDir, 'index.html')) ? webDir : null,
});

const server = serve({ fetch: app.fetch, hostname: host, port: Number(process.env.TASSEL_PORT ?? 4480) }, (info) => {
  process.stdout.write(`listening on http://${host}:${info.port}\n`);
});

let isEnding = false;
async function end(): Promise<void> {
  if (isEnding) return;
  isEnding = true;
  server.close();
  (server as { closeAllConnections?: () => void }).closeAllConnections?.();
  await jobs.stop();
  await events.close();
  await core.close();
  await pool.end();
  process.exit(0);
}
process.on('SIGTERM', () => void end());
process.on('SIGINT', () => void end());
