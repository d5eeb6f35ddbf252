import { serve } from '@hono/node-server';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { createApp } from './app';
import { listenForDeliveries } from './deliveryEvents';
import { onStop, openEnvironment, settings } from './environment';
import { startJobs } from './jobs/runner';
import { seedDemo } from './seed';

/** How long running requests may take to end when the server is told to. */
const END_MS = 8_000;

const { pool, core, pictures, log, close } = await openEnvironment();
const { database, webDir } = settings;
if (settings.hasDemo) await seedDemo({ pool, core }, log);
const jobs = settings.runsJobs ? await startJobs({ pool, core, pictures, database }, log) : null;
const events = await listenForDeliveries(database, log);
const hasPage = existsSync(join(webDir, 'index.html'));
const app = createApp({ pool, core, pictures, jobs, events, log, webDir: hasPage ? webDir : null });

const server = serve({ fetch: app.fetch, hostname: settings.host, port: settings.port }, (info) => {
  process.stdout.write(`listening on http://${settings.host}:${info.port}\n`);
}) as Server;

onStop(async () => {
  const ended = new Promise<void>((resolve) => server.close(() => resolve()));
  server.closeIdleConnections();
  // Streams of a delivery's progress never end by themselves.
  const late = new Promise<void>((resolve) => setTimeout(resolve, END_MS).unref());
  await events.close();
  await Promise.all([Promise.race([ended, late]), jobs?.stop()]);
  server.closeAllConnections();
  await close();
});
