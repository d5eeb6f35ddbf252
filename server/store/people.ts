import type { ChangeView, PersonView, Role } from '../../contract/people';
import { CoreError } from '../../core/errors';
import type { Person } from './currentPerson';
import { type Db, isUniqueViolation, oneRow } from './db';

interface PersonRow {
  id: string;
  name: string;
  role: Role;
  secret: string;
  created_at: Date;
}

const toView = (r: PersonRow): PersonView => ({
  ...{ id: r.id, name: r.name, role: r.role, createdAt: r.created_at.toISOString() },
});

export async function listPeople(db: Db): Promise<PersonView[]> {
  return (await db.query<PersonRow>('select * from person order by lower(name)')).rows.map(toView);
}

/** Whether there is anybody who may let others in. */
export const hasKeeper = async (db: Db): Promise<boolean> =>
  (await db.query("select 1 from person where role = 'keeper' limit 1")).rowCount === 1;

/** @throws CoreError 'store/duplicate-name' */
export async function addPerson(
  db: Db,
  { name, role, secret }: { name: string; role: Role; secret: string },
): Promise<PersonView> {
  try {
    const { rows } = await db.query<PersonRow>(
      'insert into person (name, role, secret) values ($1, $2, $3) returning *',
      [name, role, secret],
    );
    return toView(rows[0]);
  } catch (error) {
    if (isUniqueViolation(error, 'person_name_unique'))
      throw new CoreError('store/duplicate-name', `There is somebody called "${name}" already.`);
    throw error;
  }
}

/** Another passphrase; whoever is signed in by the one before is not any more. @throws CoreError 'store/not-found' */
export async function changeSecret(db: Db, name: string, secret: string): Promise<void> {
  const { rows } = await db.query<{ id: string }>(
    'update person set secret = $2 where lower(name) = lower($1) returning id',
    [name, secret],
  );
  await db.query('delete from session where person_id = $1', [oneRow(rows, 'person').id]);
}

/** @throws CoreError 'store/not-found', 'people/last-keeper' */
export async function removePerson(db: Db, id: string): Promise<void> {
  const { rows } = await db.query<PersonRow>('select * from person where id = $1', [id]);
  const { role } = oneRow(rows, 'person');
  const others = await db.query("select 1 from person where role = 'keeper' and id <> $1 limit 1", [id]);
  if (role === 'keeper' && others.rowCount === 0)
    throw new CoreError('people/last-keeper', 'This is the last keeper. Without one nobody could let others in.');
  await db.query('delete from person where id = $1', [id]);
}

export async function findSecret(db: Db, name: string): Promise<{ id: string; secret: string } | null> {
  const { rows } = await db.query<PersonRow>('select * from person where lower(name) = lower($1)', [name]);
  return rows[0] ? { id: rows[0].id, secret: rows[0].secret } : null;
}

/** Somebody stays signed in for so long. */
export const SESSION_DAYS = 14;

export async function addSession(db: Db, tokenSha: string, personId: string): Promise<void> {
  await db.query('delete from session where ends_at < now()');
  await db.query(
    'insert into session (token_sha, person_id, ends_at) values ($1, $2, now() + make_interval(days => $3))',
    [tokenSha, personId, SESSION_DAYS],
  );
}

export async function findSession(db: Db, tokenSha: string): Promise<Person | null> {
  const { rows } = await db.query<Person>(
    `select p.id, p.name, p.role from session s join person p on p.id = s.person_id
     where s.token_sha = $1 and s.ends_at > now()`,
    [tokenSha],
  );
  return rows[0] ?? null;
}

export const endSession = (db: Db, tokenSha: string) =>
  db.query('delete from session where token_sha = $1', [tokenSha]);

export const logChange = (db: Db, madeBy: string, what: string) =>
  db.query('insert into change_log (made_by, what) values ($1, $2)', [madeBy, what.slice(0, 300)]);

const MOST_CHANGES = 200;

export async function listChanges(db: Db): Promise<ChangeView[]> {
  const { rows } = await db.query<{ id: string; made_by: string; what: string; made_at: Date }>(
    'select * from change_log order by id desc limit $1',
    [MOST_CHANGES],
  );
  return rows.map((r) => ({ id: Number(r.id), madeBy: r.made_by, what: r.what, madeAt: r.made_at.toISOString() }));
}
