import pg from 'pg';
import type { Role } from '../contract/people';
import { isCoreError } from '../core/errors';
import { hashPassphrase } from './people/passphrase';
import { settings } from './environment';
import { ensureDatabase } from './store/ensureDatabase';
import { migrate } from './store/migrate';
import { addPerson, changeSecret, listPeople, removePerson } from './store/people';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

// npm run people: who may sign in, set where the database is. The passphrase comes on standard input.
const [verb = 'list', name = '', role = 'keeper'] = process.argv.slice(2);

const USAGE = `npm run people -- list
npm run people -- add NAME [keeper|looker]     the passphrase on standard input
npm run people -- passphrase NAME              a new one
npm run people -- remove NAME`;

async function readPassphrase(): Promise<string> {
  if (process.stdin.isTTY) process.stderr.write('Passphrase, then Enter: ');
  let text = '';
  for await (const chunk of process.stdin) {
    text += String(chunk);
    if (text.includes('\n')) break;
  }
  return text.split(/\r?\n/)[0];
}

async function run(pool: pg.Pool): Promise<string> {
  const people = await listPeople(pool);
  if (verb === 'list')
    return people.length === 0 ? 'Nobody yet.' : people.map((p) => `${p.name}  ${p.role}`).join('\n');
  if (!name || !['add', 'passphrase', 'remove'].includes(verb)) throw new Error(USAGE);
  if (verb === 'add') {
    if (role !== 'keeper' && role !== 'looker') throw new Error(USAGE);
    const secret = await hashPassphrase(await readPassphrase());
    await addPerson(pool, { name, role: role as Role, secret });
    return `${name} may sign in as ${role}.`;
  }
  if (verb === 'passphrase') {
    await changeSecret(pool, name, await hashPassphrase(await readPassphrase()));
    return `${name} has a new passphrase, and is signed out everywhere.`;
  }
  const found = people.find((p) => p.name.toLowerCase() === name.toLowerCase());
  if (!found) throw new Error(`There is nobody called "${name}".`);
  await removePerson(pool, found.id);
  return `${found.name} may not sign in any more.`;
}

const { database } = settings;
await ensureDatabase(database);
const pool = new pg.Pool({ ...database, max: 2 });
try {
  await migrate(pool, join(dirname(fileURLToPath(import.meta.url)), 'migrations'));
  process.stdout.write(`${await run(pool)}\n`);
} catch (error) {
  process.stderr.write(`${isCoreError(error) || error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await pool.end();
}
