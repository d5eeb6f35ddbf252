// npm start: set-up, database, demo data, build, serve. Ctrl+C stops the server, then the database.
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say, startServer, warnOfFullDisk } from './lib/steps.mjs';

const DEFAULT_PORT = 4480;
try {
  ensurePackages(['postgresql', ...READER_PACKAGES], say);
  ensureModules();
  warnOfFullDisk(projectDir);
  ensureBuild();
  const database = await startDatabase({ projectDir, name: 'postgres', firstPort: 54480, say });
  const wanted = Number(process.env.TASSEL_PORT ?? DEFAULT_PORT);
  const port = await freePort(wanted);
  if (port !== wanted) say(`Port ${wanted} is taken, using ${port}`);
  const env = {
    TASSEL_DATABASE: JSON.stringify({ ...database.connection, database: 'tassel' }),
    TASSEL_DEMO: process.env.TASSEL_DEMO ?? '1',
  };
  let child = null;
  let ending = null;
  // Whoever asks again waits for the same end: the database is stopped before the process is over.
  const end = (code) => (ending ??= endAll(code));
  const endAll = async (code) => {
    if (child && child.exitCode === null && child.signalCode === null) {
      child.kill('SIGTERM');
      await new Promise((r) => child.once('exit', r));
    }
    await database.stop();
    process.exit(code);
  };
  process.on('SIGINT', () => end(0));
  process.on('SIGTERM', () => end(0));
  process.on('SIGHUP', () => end(0));
  const server = await startServer({ env, port, onExit: (code, signal) => end(code ?? (signal ? 1 : 0)) }).catch(
    async (error) => {
      say(error.message);
      return end(1);
    },
  );
  child = server.child;
  say(`Tassel is ready: ${server.url}`);
} catch (error) {
  say(error.message);
  process.exit(1);
}
