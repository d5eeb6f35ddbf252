import { serve } from '@hono/node-server';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { createApp } from './app';
import { listenForDeliveries } from './deliveryEvents';
import { onStop, openEnvironment, settings } from './environment';
import { prepareQueue, startJobs } from './jobs/runner';
import { createLiveFiles } from './liveFiles';
import { createDoor } from './people/door';
import { hasKeeper } from './store/people';
import { seedDemo } from './seed';

/** How long running requests may take to end when the server is told to. */
const END_MS = 8_000;

const { pool, core, pictures, log, close } = await openEnvironment();
const { database, webDir, proofDir } = settings;
if (settings.hasDemo) await seedDemo({ pool, core }, log);
if (!settings.runsJobs) await prepareQueue(pool, log);
const jobs = settings.runsJobs ? await startJobs({ pool, core, pictures, database }, log) : null;
const events = await listenForDeliveries(database, log);
const isLoopback = /^(127\.\d+\.\d+\.\d+|localhost|::1|\[::1\])$/.test(settings.host);
const isGuarded = settings.asksNames || !isLoopback;
if (isGuarded && !(await hasKeeper(pool))) {
  process.stderr.write(
    `Tassel does not listen on ${settings.host} for others yet: whoever reaches it could change everything. ` +
      'Give somebody a passphrase first: npm run people -- add NAME\n',
  );
  await events.close();
  await jobs?.stop();
  await close();
  process.exit(1);
}
const door = isGuarded ? createDoor(pool) : null;
const live = createLiveFiles(pool, events, log);
const hasPage = existsSync(join(webDir, 'index.html'));
const app = createApp({
  ...{ pool, core, pictures, jobs, events, live, door, log },
  ...{ webDir: hasPage ? webDir : null, proofDir: hasPage ? proofDir : null },
});

const server = serve({ fetch: app.fetch, hostname: settings.host, port: settings.port }, (info) => {
  process.stdout.write(`listening on http://${settings.host}:${info.port}\n`);
}) as Server;

onStop(async () => {
  const ended = new Promise<void>((resolve) => server.close(() => resolve()));
  server.closeIdleConnections();
  // Streams of a delivery's progress never end by themselves.
  const late = new Promise<void>((resolve) => setTimeout(resolve, END_MS).unref());
  await live.close();
  await events.close();
  await Promise.all([Promise.race([ended, late]), jobs?.stop()]);
  server.closeAllConnections();
  await close();
});
