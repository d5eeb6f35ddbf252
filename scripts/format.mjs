// Formats everything with Prettier; with --check only says what is not formatted.
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { format, resolveConfig } from 'prettier';
import { projectDir } from './lib/steps.mjs';

const isCheck = process.argv.includes('--check');
const folder = join(projectDir, 'core/kernels/assembly');
const config = { ...(await resolveConfig(join(folder, 'index.ts'))), parser: 'typescript' };

// AssemblyScript puts decorators on functions, which Prettier's parser refuses: they are comments while it works.
const DECORATOR = /@(inline|unmanaged)\b/g;
const HIDDEN = /\/\* as:(inline|unmanaged) \*\//g;

let unformatted = 0;
for (const name of readdirSync(folder)) {
  const path = join(folder, name);
  const text = readFileSync(path, 'utf8');
  const done = (await format(text.replace(DECORATOR, '/* as:$1 */'), config)).replace(HIDDEN, '@$1');
  if (done === text) continue;
  unformatted++;
  if (isCheck) console.error(`[warn] core/kernels/assembly/${name}`);
  else writeFileSync(path, done);
}

const prettier = join(projectDir, 'node_modules/prettier/bin/prettier.cjs');
const args = [prettier, '.', isCheck ? '--check' : '--write', '--log-level', 'warn'];
const { status } = spawnSync(process.execPath, args, { cwd: projectDir, stdio: 'inherit' });
process.exitCode = isCheck && unformatted > 0 ? 1 : status;
