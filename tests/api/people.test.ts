import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeView, MeView, PersonView } from '../../contract/people';
import { paths } from '../../contract/paths';
import type { BrandView, ErrorBody, HistoryEntry, TakenIn } from '../../contract/views';
import { hashPassphrase, isPassphrase } from '../../server/people/passphrase';
import { createSlowDown } from '../../server/people/slowDown';
import { addPerson } from '../../server/store/people';
import { quantile } from '../support/load';
import { disc, drawMark, pngOf } from '../support/pictures';
import { createTestApp, type TestApp } from '../support/testApp';
import { createTestDatabase, projectDir } from '../support/testDatabase';

let app: TestApp;
const SECRET = 'nine locks and a weir';
beforeAll(async () => {
  app = await createTestApp({ guarded: true });
  await addPerson(app.db.pool, { name: 'Odile', role: 'keeper', secret: await hashPassphrase(SECRET) });
  await addPerson(app.db.pool, { name: 'Bram', role: 'looker', secret: await hashPassphrase(`${SECRET} too`) });
});
afterAll(() => app.close());

const HOST = 'tassel.example:8080';
const ask = (method: string, path: string, { body, cookie, ...headers }: Record<string, unknown> = {}) =>
  app.raw(path, {
    method,
    headers: {
      host: HOST,
      ...(body ? { 'content-type': 'application/json' } : {}),
      ...(cookie ? { cookie } : {}),
      ...(headers as Record<string, string>),
    },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
const signIn = async (name: string, passphrase: string) => ask('POST', '/sign-in', { body: { name, passphrase } });
const cookieOf = async (name: string, passphrase: string) => {
  const answer = await signIn(name, passphrase);
  expect(answer.status).toBe(200);
  return (answer.headers.get('set-cookie') as string).split(';')[0];
};

describe('beyond this machine', () => {
  it('no route but proof links, live addresses and signing in answers to who has not signed in', async () => {
    const OPEN = /^\/(proof|live)\/|^\/sign-(in|out)$/;
    const routes = app.app.routes.filter((r) => r.method !== 'ALL' || r.path.includes('api'));
    expect(routes.length).toBeGreaterThan(90);
    const walked = new Set<string>();
    for (const { method, path } of routes) {
      const asked = path
        .replace(/:size\{[^}]*\}/, 'working.png')
        .replace(/:\w+(\{[^}]*\})?/g, 'x'.repeat(36))
        .replace('*', 'x');
      const verb = method === 'ALL' ? 'GET' : method;
      if (OPEN.test(asked)) continue;
      walked.add(`${verb} ${path}`);
      const answer = await ask(verb, asked, verb === 'GET' ? {} : { body: {} });
      expect(answer.status, `${verb} ${asked}`).toBe(401);
      const text = await answer.text();
      // Neither what is there nor what is not.
      expect(text).toMatch(/people\/sign-in|name="passphrase"/);
    }
    expect(walked.size).toBeGreaterThan(80);
    for (const path of ['/', '/marks', '/assets/x.js', '/healthz', '/readyz', '/favicon.svg', '/api', '/nothing'])
      expect((await ask('GET', path)).status, path).toBe(401);
    const never = 'A'.repeat(32);
    for (const path of [paths.proofData(never), paths.live(never, 'x.png')])
      expect((await ask('GET', path)).status, path).toBe(404);
  });
  it('a name and its passphrase open it by a strict cookie, from a page and from a program', async () => {
    const answer = await signIn('odile', SECRET);
    const set = answer.headers.get('set-cookie') as string;
    expect(set).toMatch(/HttpOnly/);
    expect(set).toMatch(/SameSite=Strict/);
    const cookie = set.split(';')[0];
    expect(await (await ask('GET', paths.me, { cookie })).json()).toEqual({ name: 'Odile', role: 'keeper' } as MeView);
    // What is kept of it opens nothing.
    const { rows } = await app.db.pool.query<{ token_sha: string }>('select token_sha from session');
    expect(rows.map((r) => r.token_sha)).not.toContain(cookie.split('=')[1]);
    const form = await app.raw('/sign-in', {
      method: 'POST',
      headers: { host: HOST, 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ name: 'Odile', passphrase: SECRET, next: '//evil.example' }).toString(),
    });
    expect([form.status, form.headers.get('location')]).toEqual([303, '/']);
    await ask('POST', '/sign-out', { cookie });
    expect((await ask('GET', paths.me, { cookie })).status).toBe(401);
  });
  it('another site’s page cannot sign in or change anything', async () => {
    const cookie = await cookieOf('Odile', SECRET);
    const cross = { 'sec-fetch-site': 'cross-site', origin: 'https://evil.example' };
    expect((await ask('POST', paths.brands, { body: { name: 'X' }, cookie, ...cross })).status).toBe(403);
    expect((await ask('POST', '/sign-in', { body: { name: 'Odile', passphrase: SECRET }, ...cross })).status).toBe(403);
  });
  it('every change carries who made it', async () => {
    const cookie = await cookieOf('Odile', SECRET);
    const brand = (await (
      await ask('POST', paths.brands, { body: { name: 'Lock keepers' }, cookie })
    ).json()) as BrandView;
    const png = new Uint8Array(await pngOf(drawMark(120, 100, disc(60, 50, 40), [31, 90, 69])));
    const taken = await app.raw(`${paths.brandMarks(brand.id)}?name=badge.png`, {
      ...{ method: 'POST', body: png, headers: { host: HOST, cookie } },
    });
    const { mark } = (await taken.json()) as TakenIn;
    const history = (await (await ask('GET', paths.markHistory(mark.id), { cookie })).json()) as HistoryEntry[];
    expect(history[0].madeBy).toBe('Odile');
    const changes = (await (await ask('GET', paths.changes, { cookie })).json()) as ChangeView[];
    expect(changes.map((c) => [c.madeBy, c.what])).toEqual(
      expect.arrayContaining([
        ['Odile', `POST ${paths.brands}`],
        ['Odile', `POST ${paths.brandMarks(brand.id)}`],
      ]),
    );
  });
  it('a looker looks at everything and changes nothing', async () => {
    const cookie = await cookieOf('Bram', `${SECRET} too`);
    expect((await ask('GET', paths.brands, { cookie })).status).toBe(200);
    const answer = await ask('POST', paths.brands, { body: { name: 'Other' }, cookie });
    expect(answer.status).toBe(403);
    expect(((await answer.json()) as ErrorBody).error.message).toBe(
      'Bram may look at everything here, and change nothing.',
    );
    expect((await ask('GET', paths.people, { cookie })).status).toBe(403);
  });
  it('keepers let others in, and the last of them cannot go', async () => {
    const cookie = await cookieOf('Odile', SECRET);
    const add = (body: object) => ask('POST', paths.people, { body, cookie });
    expect((await add({ name: 'Ines', role: 'looker', passphrase: 'short' })).status).toBe(422);
    const added = (await (
      await add({ name: 'Ines', role: 'looker', passphrase: 'a boat in the reeds' })
    ).json()) as PersonView;
    expect((await add({ name: 'ines', role: 'keeper', passphrase: 'a boat in the reeds' })).status).toBe(409);
    expect((await ask('DELETE', paths.person(added.id), { cookie })).status).toBe(204);
    const people = (await (await ask('GET', paths.people, { cookie })).json()) as PersonView[];
    const own = people.find((p) => p.name === 'Odile') as PersonView;
    expect((await ask('DELETE', paths.person(own.id), { cookie })).status).toBe(409);
  });
  it('200 wrong passphrases do not slow others, and soon cost nothing', async () => {
    const cookie = await cookieOf('Odile', SECRET);
    // What checking one passphrase costs: on the loop itself, whoever asks in the meantime would wait for it.
    const checked = performance.now();
    await signIn('nobody-known', 'a wrong guess');
    const oneGuess = performance.now() - checked;
    const statuses: number[] = [];
    let isOver = false;
    const others: number[] = [];
    const guess = async () => {
      for (let k = 0; k < 200; k++) statuses.push((await signIn(`nobody-${k % 7}`, `wrong guess ${k}`)).status);
      isOver = true;
    };
    const work = async () => {
      while (!isOver) {
        const begun = performance.now();
        expect((await ask('GET', paths.brands, { cookie })).status).toBe(200);
        others.push(performance.now() - begun);
        await new Promise((r) => setTimeout(r, 5));
      }
    };
    await Promise.all([guess(), work()]);
    expect(new Set(statuses)).toEqual(new Set([401, 429]));
    expect(statuses.filter((s) => s === 401).length).toBeLessThan(30);
    expect(quantile(others, 0.5)).toBeLessThan(oneGuess / 2);
  });
});

describe('guessing', () => {
  it('is slowed more with every wrong try from one address, for that address alone, and forgotten in time', () => {
    let now = 0;
    const slow = createSlowDown(() => now);
    for (let k = 0; k < 4; k++) slow.wrong('Odile', 'a');
    expect(slow.wait('Odile', 'a')).toBe(0);
    slow.wrong('Odile', 'a');
    const first = slow.wait('odile', 'a');
    expect(first).toBeGreaterThan(0);
    now += first;
    slow.wrong('Odile', 'a');
    expect(slow.wait('Odile', 'a')).toBeGreaterThan(first);
    expect(slow.wait('Odile', 'b')).toBe(0);
    expect(slow.wait('Bram', 'a')).toBe(0);
    for (let k = 0; k < 20; k++) slow.wrong(`x${k}`, 'a');
    expect(slow.wait('Bram', 'a')).toBeGreaterThan(0);
    now += 3_600_000;
    expect(slow.wait('Odile', 'a')).toBe(0);
  });
});

it('a passphrase is kept by scrypt with a salt of its own, and known again', async () => {
  const [one, other] = await Promise.all([hashPassphrase(SECRET), hashPassphrase(SECRET)]);
  expect(one).toMatch(/^scrypt\$32768\$8\$1\$/);
  expect(one).not.toBe(other);
  expect(await isPassphrase(SECRET, one)).toBe(true);
  expect(await isPassphrase(`${SECRET}.`, one)).toBe(false);
  expect(await isPassphrase(SECRET, null)).toBe(false);
  await expect(hashPassphrase('short')).rejects.toMatchObject({ code: 'people/weak' });
});

it.each([
  ['beyond this machine', { TASSEL_HOST: '0.0.0.0' }],
  ['behind a proxy', { TASSEL_ASK_NAMES: '1' }],
])('without a keeper the server does not listen %s, and says what to do', async (_, where) => {
  const db = await createTestDatabase();
  const child = spawn(process.execPath, [join(projectDir, 'dist/server/main.mjs')], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: {
      ...process.env,
      ...{ TASSEL_DATABASE: JSON.stringify(db.config), TASSEL_PORT: '0', TASSEL_DEMO: '0', ...where },
    },
  });
  let [said, told] = ['', ''];
  child.stdout.on('data', (d: Buffer) => (said += d.toString()));
  child.stderr.on('data', (d: Buffer) => (told += d.toString()));
  const code = await new Promise((r) => child.once('exit', r));
  expect(code).toBe(1);
  expect(said).not.toContain('listening');
  expect(told).toMatch(/npm run people -- add NAME/);
  await db.drop();
});
