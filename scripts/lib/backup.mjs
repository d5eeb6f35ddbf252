// Backup and return of the whole database by PostgreSQL's own programs, with a check of every blob.
import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { closeSync, existsSync, openSync, readSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { findPostgresBin } from './system.mjs';

/** Runs one of PostgreSQL's programs on a database. @throws Error with what it said */
function program(name, { connection, database }, args) {
  const { host, port, user, password } = connection;
  const where = ['-h', host, '-p', String(port), '-U', user, '-d', database];
  const done = spawnSync(join(findPostgresBin(), name), [...where, ...args], {
    encoding: 'utf8',
    env: { ...process.env, PGPASSWORD: password },
    maxBuffer: 64 * 1024 * 1024,
  });
  if (done.status !== 0) throw new Error(`${name} failed: ${(done.stderr || done.error || '').toString().trim()}`);
  return done.stdout.trim();
}

const ask = (where, sql) => program('psql', where, ['-XAt', '-v', 'ON_ERROR_STOP=1', '-c', sql]);
const quoted = (name) => `"${name.replaceAll('"', '""')}"`;

/** Blobs whose bytes are not what their name says. @returns how many there are in all @throws Error naming some */
function checkBlobs(where, what) {
  const wrong = ask(where, "select sha256 from blob where encode(sha256(bytes), 'hex') <> sha256 limit 5");
  if (wrong) throw new Error(`${what} holds blobs whose bytes are damaged: ${wrong.split('\n').join(', ')}`);
  return Number(ask(where, 'select count(*) from blob'));
}

/**
 * Writes everything that a database holds to a file, whole or not at all.
 * @returns how many marks and blobs it holds
 * @throws Error when the file is there already, or when a blob's bytes are not what they were
 */
export function backUp(where, file) {
  if (existsSync(file)) throw new Error(`${file} is there already. Choose another name, or remove it first.`);
  const blobs = checkBlobs(where, 'The database');
  const marks = Number(ask(where, 'select count(*) from mark'));
  const part = `${file}.part`;
  try {
    program('pg_dump', where, ['-Fc', '-Z', '1', '--no-owner', '-f', part]);
    renameSync(part, file);
  } finally {
    rmSync(part, { force: true });
  }
  return { marks, blobs };
}

const isBackup = (file) => {
  const head = Buffer.alloc(5);
  const opened = openSync(file, 'r');
  try {
    readSync(opened, head, 0, 5, 0);
  } finally {
    closeSync(opened);
  }
  return head.toString('latin1') === 'PGDMP';
};

/**
 * Brings back what a backup holds. What the database held before stays under another name; when anything is wrong with
 * the backup, nothing changes.
 * @returns how many marks and blobs came back, and under which name the former state stays, or null where there was
 *   none
 */
export function bringBack(where, file) {
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  if (!isBackup(file)) throw new Error(`${file} is no backup of Tassel: make one with npm run backup -- FILE.`);
  const admin = { ...where, database: 'postgres' };
  const fresh = `${where.database}_return_${randomBytes(4).toString('hex')}`;
  ask(admin, `create database ${quoted(fresh)}`);
  try {
    const inside = { ...where, database: fresh };
    program('pg_restore', inside, ['--exit-on-error', '--no-owner', file]);
    const blobs = checkBlobs(inside, file);
    const marks = Number(ask(inside, 'select count(*) from mark'));
    return { blobs, marks, former: swap(admin, where.database, fresh) };
  } catch (error) {
    ask(admin, `drop database if exists ${quoted(fresh)} with (force)`);
    throw error;
  }
}

function swap(admin, name, fresh) {
  const isThere = ask(admin, `select 1 from pg_database where datname = '${name.replaceAll("'", "''")}'`) === '1';
  const former = `${name}_before_${new Date().toISOString().replace(/\D/g, '').slice(0, 14)}`;
  try {
    if (isThere) ask(admin, `alter database ${quoted(name)} rename to ${quoted(former)}`);
  } catch (error) {
    throw new Error('Tassel is running. Stop it, then bring the backup back.', { cause: error });
  }
  ask(admin, `alter database ${quoted(fresh)} rename to ${quoted(name)}`);
  return isThere ? former : null;
}
