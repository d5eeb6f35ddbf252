// A private PostgreSQL cluster on loopback, in a folder of its own.
import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, createConnection } from 'node:net';
import { dirname, join } from 'node:path';
import { databaseAccount, findPostgresBin } from './system.mjs';

const USER = 'tassel';

/** Runs a PostgreSQL binary as the right account; PostgreSQL refuses root. */
function asDatabaseUser(account, file, args) {
  if (!account) return [file, args];
  return ['setpriv', [`--reuid=${account.uid}`, `--regid=${account.gid}`, '--clear-groups', file, ...args]];
}

const reachable = (account, folder) => {
  const [cmd, args] = asDatabaseUser(account, 'test', ['-x', folder]);
  return spawnSync(cmd, args, { cwd: '/' }).status === 0;
};

/**
 * Where the cluster lives: inside the project, or, when the database account cannot reach it there
 * (a clone under a 0700 folder), in a folder under /var/tmp named by a hash of the project's path.
 */
function chooseFolder(projectDir, name, account, say) {
  const inside = join(projectDir, '.data', name);
  if (!account) return inside;
  mkdirSync(dirname(inside), { recursive: true });
  if (reachable(account, dirname(inside))) return inside;
  const hash = createHash('sha256').update(inside).digest('hex').slice(0, 12);
  const outside = `/var/tmp/tassel-${hash}`;
  if (!existsSync(outside)) say(`The database account cannot reach this folder, so its data goes to ${outside}`);
  return outside;
}

export const freePort = (from, tries = 60) =>
  new Promise((resolve, reject) => {
    const attempt = (port) => {
      const probe = createServer();
      probe.once('error', () =>
        port - from >= tries ? reject(new Error(`No free port from ${from} to ${port}`)) : attempt(port + 1),
      );
      probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(port)));
    };
    attempt(from);
  });

const accepts = (port) =>
  new Promise((resolve) => {
    const socket = createConnection({ host: '127.0.0.1', port });
    const end = (ok) => (socket.destroy(), resolve(ok));
    socket.once('connect', () => end(true));
    socket.once('error', () => end(false));
  });

const sleep = (ms) => new Promise((r) => setTimeout(r, ms));

/** Pid and port of the postmaster that owns the folder, or null when none is alive. */
function running(folder) {
  try {
    const lines = readFileSync(join(folder, 'data/postmaster.pid'), 'utf8').split('\n');
    const pid = Number(lines[0]);
    process.kill(pid, 0);
    const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    return command.includes('postgres') ? { pid, port: Number(lines[3]) } : null;
  } catch {
    return null;
  }
}

/** Whether the cluster is up: whoever only joined it leaves it so. */
export function isRunning(projectDir, name, say) {
  return running(chooseFolder(projectDir, name, databaseAccount(), say)) !== null;
}

/**
 * Starts (or joins) the cluster.
 * @param options.durable  false turns off fsync, for tests only
 * @returns connection settings and `stop()`, which ends the server with a fast shutdown
 */
export async function startDatabase({ projectDir, name, firstPort, durable = true, say }) {
  const bin = findPostgresBin();
  const account = databaseAccount();
  const folder = chooseFolder(projectDir, name, account, say);
  const data = join(folder, 'data');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  if (account) chownSync(folder, account.uid, account.gid);
  const passwordFile = join(folder, 'password');
  if (!existsSync(join(data, 'PG_VERSION'))) createCluster({ bin, account, folder, data, passwordFile, say });
  const password = readFileSync(passwordFile, 'utf8').trim();

  let server = running(folder);
  if (!server) {
    rmSync(join(data, 'postmaster.pid'), { force: true });
    server = await launch({ bin, account, folder, data, firstPort, durable });
  }
  const deadline = Date.now() + 30_000;
  while (!(await accepts(server.port))) {
    if (Date.now() > deadline)
      throw new Error(`PostgreSQL did not answer on port ${server.port}; its log: ${join(folder, 'log')}`);
    await sleep(40);
  }
  return {
    connection: { host: '127.0.0.1', port: server.port, user: USER, password },
    pid: server.pid,
    stop: () => stopServer(folder),
  };
}

function createCluster({ bin, account, folder, data, passwordFile, say }) {
  say('Creating the database');
  rmSync(data, { recursive: true, force: true });
  writeFileSync(passwordFile, randomBytes(18).toString('base64url'), { mode: 0o600 });
  if (account) chownSync(passwordFile, account.uid, account.gid);
  const args = [
    '-D',
    data,
    '-U',
    USER,
    '--pwfile',
    passwordFile,
    '--auth=scram-sha-256',
    '-E',
    'UTF8',
    '--locale=C.UTF-8',
    '--no-sync',
  ];
  const [cmd, all] = asDatabaseUser(account, join(bin, 'initdb'), args);
  const done = spawnSync(cmd, all, { cwd: '/', encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`initdb failed: ${done.stderr || done.error}`);
  chmodSync(folder, 0o700);
}

async function launch({ bin, account, folder, data, firstPort, durable }) {
  const port = await freePort(firstPort);
  // The path of a Unix socket may have 107 bytes at most, so sockets stand apart from the project.
  const sockets = `/var/tmp/tassel-s-${createHash('sha256').update(folder).digest('hex').slice(0, 10)}`;
  mkdirSync(sockets, { recursive: true, mode: 0o700 });
  if (account) chownSync(sockets, account.uid, account.gid);
  const set = {
    listen_addresses: '127.0.0.1',
    port,
    unix_socket_directories: sockets,
    logging_collector: 'off',
    shared_buffers: '128MB',
    max_connections: 60,
    max_wal_size: '2GB',
  };
  if (!durable) Object.assign(set, { fsync: 'off', synchronous_commit: 'off', full_page_writes: 'off' });
  const args = ['-D', data, ...Object.entries(set).flatMap(([k, v]) => ['-c', `${k}=${v}`])];
  const [cmd, all] = asDatabaseUser(account, join(bin, 'postgres'), args);
  // Its own process group: a Ctrl+C in the terminal must reach the web server first, and us, not the database.
  const child = spawn(cmd, all, { cwd: '/', detached: true, stdio: 'ignore' });
  child.unref();
  let failed = null;
  child.once('exit', (code) => (failed = code));
  const deadline = Date.now() + 30_000;
  for (;;) {
    const found = running(folder);
    if (found) return found;
    if (failed !== null || Date.now() > deadline)
      throw new Error(`PostgreSQL did not start (exit ${failed}); data in ${data}`);
    await sleep(40);
  }
}

async function stopServer(folder) {
  const server = running(folder);
  if (!server) return;
  process.kill(server.pid, 'SIGINT'); // fast shutdown: roll back, write, end
  const deadline = Date.now() + 20_000;
  while (running(folder) && Date.now() < deadline) await sleep(40);
}
