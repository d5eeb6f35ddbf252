// npm run dev: database, server that restarts on change, and the web application with hot reload.
import { cpSync } from 'node:fs';
import { context } from 'esbuild';
import { createServer } from 'vite';
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureModules, projectDir, say, startServer } from './lib/steps.mjs';
import { serverBuild, threadBuild } from './build.mjs';

ensurePackages(['postgresql', ...READER_PACKAGES], say);
ensureModules();
const API_PORT = 4490;
const database = await startDatabase({ projectDir, name: 'postgres', firstPort: 54480, say });
const env = { TASSEL_DATABASE: JSON.stringify({ ...database.connection, database: 'tassel' }), TASSEL_DEMO: '1' };
let server = null;
const restartNow = async () => {
  if (server) {
    const ended = new Promise((r) => server.once('exit', r));
    server.kill('SIGTERM');
    await ended;
  }
  server = (await startServer({ env, port: API_PORT }).catch((error) => (say(error.message), null)))?.child ?? null;
};
// Both builds end at about the same time: one start after another.
let turn = Promise.resolve();
const restart = () => (turn = turn.then(restartNow));
cpSync(`${projectDir}/server/migrations`, `${projectDir}/dist/server/migrations`, { recursive: true });
const onEnd = (result) => (result.errors.length === 0 ? void restart() : undefined);
const plugins = [{ name: 'restart', setup: (b) => b.onEnd(onEnd) }];
const builders = await Promise.all([serverBuild, threadBuild].map((b) => context({ ...b, plugins })));
await Promise.all(builders.map((b) => b.watch()));
process.env.TASSEL_API_PORT = String(API_PORT);
const vite = await createServer({ root: `${projectDir}/web`, configFile: `${projectDir}/web/vite.config.ts` });
await vite.listen();
vite.printUrls();
const end = async () => {
  await vite.close();
  await Promise.all(builders.map((b) => b.dispose()));
  server?.kill('SIGTERM');
  await database.stop();
  process.exit(0);
};
process.on('SIGINT', () => void end());
process.on('SIGTERM', () => void end());
