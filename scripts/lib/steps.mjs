// Steps shared by start, dev, test, bench and screenshots. Nothing here needs node_modules.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, statfsSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { isRunning, startDatabase } from './database.mjs';
import { ensurePackages } from './system.mjs';

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
    ...['bundles', 'command-line', 'errors'].map((page) => `docs/reference/${page}.md`),
  ]);
  if (!force && readStamp('build') === stamp && existsSync(join(projectDir, 'dist/web/index.html'))) return;
  say('Building');
  run(process.execPath, ['scripts/build.mjs']);
  writeStamp('build', stamp);
}

/** glibc otherwise keeps up to eight heaps a processor, and none of what was once taken is given back. */
export const MEMORY_ENV = { MALLOC_ARENA_MAX: '2', MALLOC_TRIM_THRESHOLD_: '131072', MALLOC_MMAP_THRESHOLD_: '131072' };

/** Little left: a delivery or a large original may not fit any more. */
const LITTLE_DISK_BYTES = 2 * 1024 ** 3;

/** Says plainly when the disk is nearly full. */
export function warnOfFullDisk(folder, readDisk = statfsSync) {
  const { bavail, bsize } = readDisk(folder);
  const free = bavail * bsize;
  if (free >= LITTLE_DISK_BYTES) return null;
  const left = `${(free / 1024 ** 3).toFixed(1)} GB are free in ${folder}`;
  const line = `The disk is nearly full: ${left}. Make room, or files cannot be stored.`;
  say(line);
  return line;
}

/**
 * Does something with the application's own database and the file named on the command line, and says what came of it.
 */
export async function withApplicationDatabase(usage, work) {
  const file = process.argv[2];
  try {
    if (!file) throw new Error(`Name a file: ${usage}`);
    ensurePackages(['postgresql'], say);
    const wasRunning = isRunning(projectDir, 'postgres', say);
    const database = await startDatabase({ projectDir, name: 'postgres', firstPort: 54480, say });
    try {
      say(work({ connection: database.connection, database: 'tassel' }, resolve(process.env.INIT_CWD ?? '.', file)));
    } finally {
      if (!wasRunning) await database.stop();
    }
  } catch (error) {
    say(error.message);
    process.exit(1);
  }
}

/** Starts the built server; resolves with its address once it listens. */
export function startServer({ env, onExit, quiet = false, port = 0 }) {
  const child = spawn(process.execPath, ['dist/server/main.mjs'], {
    cwd: projectDir,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, ...MEMORY_ENV, NODE_ENV: 'production', TASSEL_PORT: String(port), ...env },
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
