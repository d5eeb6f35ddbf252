// npm run worker: a job runner alone, beside the one in the web server. Ctrl+C gives its jobs back.
import { spawn } from 'node:child_process';
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { MEMORY_ENV, ensureBuild, ensureModules, projectDir, say } from './lib/steps.mjs';

try {
  ensurePackages(['postgresql', ...READER_PACKAGES], say);
  ensureModules();
  ensureBuild();
  const { connection } = await startDatabase({ projectDir, name: 'postgres', firstPort: 54480, say });
  const TASSEL_DATABASE = JSON.stringify({ ...connection, database: 'tassel' });
  const child = spawn(process.execPath, ['dist/server/worker.mjs'], {
    cwd: projectDir,
    stdio: 'inherit',
    env: { ...process.env, ...MEMORY_ENV, NODE_ENV: 'production', TASSEL_DATABASE },
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill('SIGTERM'));
  child.on('exit', (code) => process.exit(code ?? 1));
} catch (error) {
  say(error.message);
  process.exit(1);
}
