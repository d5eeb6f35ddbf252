// npm run people -- list | add NAME [keeper|looker] | passphrase NAME | remove NAME: who may sign in where Tassel
// listens beyond this machine. The passphrase is read from standard input.
import { spawnSync } from 'node:child_process';
import { ensurePackages } from './lib/system.mjs';
import { isRunning, startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say } from './lib/steps.mjs';

ensurePackages(['postgresql'], say);
ensureModules();
ensureBuild();
const wasRunning = isRunning(projectDir, 'postgres', say);
const database = await startDatabase({ projectDir, name: 'postgres', firstPort: 54480, say });
const { status } = spawnSync(process.execPath, ['dist/server/people.mjs', ...process.argv.slice(2)], {
  cwd: projectDir,
  stdio: 'inherit',
  env: { ...process.env, TASSEL_DATABASE: JSON.stringify({ ...database.connection, database: 'tassel' }) },
});
if (!wasRunning) await database.stop();
process.exit(status ?? 1);
