// Steps shared by start, dev, test, bench and screenshots. Nothing here needs node_modules.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const projectDir = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
export const say = (line) => console.log(`tassel: ${line}`);

const stampFile = (name) => join(projectDir, '.cache', `${name}.stamp`);
const readStamp = (name) => (existsSync(stampFile(name)) ? readFileSync(stampFile(name), 'utf8') : '');
function writeStamp(name, value) {
  mkdirSync(join(projectDir, '.cache'), { recursive: true });
  writeFileSync(stampFile(name), value);
}

export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: projectDir, stdio: 'inherit', ...options });
  if (done.status !== 0)
    throw new Error(`${command} ${args.slice(0, 3).join(' ')} ended with ${done.status ?? done.signal}`);
}

/** `npm ci`, unless node_modules was made from this very lock file. */
export function ensureModules() {
  const lock = createHash('sha256')
    .update(readFileSync(join(projectDir, 'package-lock.json')))
    .digest('hex');
  if (existsSync(join(projectDir, 'node_modules/.package-lock.json')) && readStamp('modules') === lock) return;
  say('Installing npm packages');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeStamp('modules', lock);
}

/** Every file under the folders, as `path size mtime`, hashed: changes whenever a source file does. */
export function sourceStamp(folders) {
  const hash = createHash('sha256');
  const walk = (path) => {
    const stat = statSync(path);
    if (stat.isDirectory()) for (const name of readdirSync(path).sort()) walk(join(path, name));
    else if (!/\.test\.tsx?$/.test(path)) hash.update(`${path} ${stat.size} ${stat.mtimeMs}\n`);
  };
  for (const folder of folders) walk(join(projectDir, folder));
  return hash.digest('hex');
}

/** Builds server and web when their sources changed since the last build. */
export function ensureBuild({ force = false } = {}) {
  const stamp = sourceStamp([
    'core',
    'contract',
    'codecs',
    'server',
    'worker',
    'web',
    'demo',
    'package-lock.json',
    'scripts',
  ]);
  if (!force && readStamp('build') === stamp && existsSync(join(projectDir, 'dist/web/index.html'))) return;
  say('Building');
  run(process.execPath, ['scripts/build.mjs']);
  writeStamp('build', stamp);
}

/** Starts the built server; resolves with its address once it listens. */
export function startServer({ env, onExit, quiet = false, port = 0 }) {
  const child = spawn(process.execPath, ['dist/server/main.mjs'], {
    cwd: projectDir,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, NODE_ENV: 'production', TASSEL_PORT: String(port), ...env },
  });
  child.on('exit', (code, signal) => onExit?.(code, signal));
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (chunk) => {
      if (!quiet) process.stdout.write(chunk);
      if (text === null) return;
      text += chunk;
      const found = /listening on (http:\/\/\S+)/.exec(text);
      if (found) {
        text = null;
        resolve({ child, url: found[1] });
      }
    });
    child.once('exit', (code) => reject(new Error(`The server ended at start with ${code}`)));
  });
}
