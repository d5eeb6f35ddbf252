import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import { backUp, bringBack } from '../../scripts/lib/backup.mjs';
import { warnOfFullDisk } from '../../scripts/lib/steps.mjs';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';
import { clusterConfig } from '../support/testDatabase';

let app: TestApp;
const folder = mkdtempSync(join(tmpdir(), 'tassel-backup-'));
const file = join(folder, 'all.tassel');
const connection = clusterConfig();
const target = `returned_${Date.now()}`;
const made: string[] = [];
const from = () => ({ connection, database: app.db.config.database });
const query = async (database: string, sql: string) => {
  const client = new pg.Client({ ...connection, database });
  await client.connect();
  try {
    return (await client.query(sql)).rows as Record<string, unknown>[];
  } finally {
    await client.end();
  }
};

beforeAll(async () => {
  app = await createTestApp();
  const brand = await app.addBrand();
  const badge = onGround(drawMark(120, 120, ring(60, 60, 50, 20), [9, 80, 60]), [255, 255, 250]);
  const { mark } = await app.takeIn(brand.id, await pngOf(badge), 'badge.png');
  await app.waitFor(
    (await app.json<{ id: string }>('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision })).id,
  );
});
afterAll(async () => {
  await app?.close();
  for (const name of [target, ...made]) await query('postgres', `drop database if exists "${name}" with (force)`);
  rmSync(folder, { recursive: true, force: true });
});

describe('a backup', () => {
  it('holds every mark and blob, and brings them back into an empty place', async () => {
    expect(backUp(from(), file)).toMatchObject({ marks: 1 });
    expect(bringBack({ connection, database: target }, file)).toMatchObject({ marks: 1, former: null });
    const all = 'select sha256, md5(bytes) as sum from blob order by sha256';
    expect(await query(target, all)).toEqual(await query(app.db.config.database, all));
    expect(await query(target, 'select recipe from recipe_revision')).toHaveLength(1);
  });
  it('brought back over another state leaves that under another name', async () => {
    await query(target, 'delete from delivery; delete from mark');
    const { former, marks } = bringBack({ connection, database: target }, file);
    made.push(former as string);
    expect(marks).toBe(1);
    expect(await query(former as string, 'select id from mark')).toEqual([]);
    expect(await query(target, 'select id from mark')).toHaveLength(1);
  });
  it('does not write over a file, and leaves no half of one', () => {
    const before = readFileSync(file);
    expect(() => backUp(from(), file)).toThrow('is there already');
    expect(readFileSync(file).equals(before)).toBe(true);
    expect(() => backUp(from(), join(folder, 'no/such/folder.tassel'))).toThrow('pg_dump failed');
  });
  it('that is damaged or none at all changes nothing', async () => {
    const half = join(folder, 'half.tassel');
    writeFileSync(half, readFileSync(file));
    truncateSync(half, Math.floor(readFileSync(file).length / 2));
    expect(() => bringBack({ connection, database: target }, half)).toThrow('pg_restore failed');
    writeFileSync(half, 'no backup');
    expect(() => bringBack({ connection, database: target }, half)).toThrow('is no backup');
    expect(() => bringBack({ connection, database: target }, join(folder, 'none'))).toThrow('no file');
    expect(await query(target, 'select id from mark')).toHaveLength(1);
    const left = await query('postgres', `select datname from pg_database where datname like '${target}_return%'`);
    expect(left).toEqual([]);
  });
  it('is not made of a database whose blobs are not what they were', async () => {
    await query(target, "update blob set bytes = bytes || '\\x00' where sha256 = (select min(sha256) from blob)");
    expect(() => backUp({ connection, database: target }, join(folder, 'bad.tassel'))).toThrow('damaged');
  });
});

it('npm start says plainly when the disk is nearly full', () => {
  expect(warnOfFullDisk('/x', () => ({ bavail: 300, bsize: 1024 ** 2 }))).toContain(
    'nearly full: 0.3 GB are free in /x',
  );
  expect(warnOfFullDisk('/x', () => ({ bavail: 9000, bsize: 1024 ** 2 }))).toBeNull();
});
