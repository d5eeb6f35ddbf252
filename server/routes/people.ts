import { type Context, Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { paths } from '../../contract/paths';
import { type MeView, addPersonRequest, signInRequest } from '../../contract/people';
import { checkBody } from '../../contract/requests';
import { CoreError } from '../../core/errors';
import type { AppDeps } from '../deps';
import { statusOf } from '../errors';
import { currentPerson } from '../store/currentPerson';
import { COOKIE, tokenSha } from '../people/door';
import { hashPassphrase } from '../people/passphrase';
import { signInPage } from '../people/signInPage';
import { asId } from '../store/db';
import { SESSION_DAYS, addPerson, endSession, listChanges, listPeople, removePerson } from '../store/people';
import { limitJson, readJson } from './readJson';

/** Only a page of this very address, never another site's. */
const isOwnPath = (path: string) => /^\/(?![/\\])[^\s]*$/.test(path);

const addressOf = (c: Context): string => {
  const { incoming } = (c.env ?? {}) as { incoming?: { socket?: { remoteAddress?: string } } };
  return incoming?.socket?.remoteAddress ?? 'unknown';
};

const isSecure = (c: Context) =>
  new URL(c.req.url).protocol === 'https:' || c.req.header('x-forwarded-proto') === 'https';

/** Signing in and out: the one door that is open to everybody. */
export function signInRoutes({ pool, door }: AppDeps) {
  const keep = (c: Context, token: string) =>
    setCookie(c, COOKIE, token, {
      ...{ httpOnly: true, sameSite: 'Strict', path: '/', secure: isSecure(c) },
      maxAge: SESSION_DAYS * 24 * 3600,
    });
  const routes = new Hono();
  if (!door) return routes;
  return routes
    .get('/sign-in', (c) => {
      c.header('Cache-Control', 'no-store');
      return c.html(signInPage({ next: '/', name: '', problem: null }));
    })
    .post('/sign-in', limitJson, async (c) => {
      const origin = c.req.header('origin');
      const host = c.req.header('host');
      const isSame = !origin || origin === `http://${host}` || origin === `https://${host}`;
      if (!isSame || c.req.header('sec-fetch-site') === 'cross-site')
        throw new CoreError('request/forbidden-origin', 'This request came from another site and was refused.');
      c.header('Cache-Control', 'no-store');
      const isForm = (c.req.header('content-type') ?? '').startsWith('application/x-www-form-urlencoded');
      const given = isForm ? ((await c.req.parseBody()) as Record<string, string>) : await readJson(c);
      const { next = '/', ...who } = given as { next?: string; name?: string; passphrase?: string };
      const { name, passphrase } = await checkBody(signInRequest, who);
      const ended = await door.signIn(name, passphrase, addressOf(c));
      if ('token' in ended) {
        keep(c, ended.token);
        return isForm ? c.redirect(isOwnPath(next) ? next : '/', 303) : c.json({ name });
      }
      if (!isForm) throw ended.problem;
      const page = signInPage({ next: isOwnPath(next) ? next : '/', name, problem: ended.problem.message });
      return c.html(page, statusOf[ended.problem.code]);
    })
    .post('/sign-out', async (c) => {
      const token = getCookie(c, COOKIE);
      if (token) await endSession(pool, tokenSha(token));
      deleteCookie(c, COOKIE, { path: '/' });
      return c.redirect('/sign-in', 303);
    });
}

/** Who works here, and what each changed: for keepers. */
export function peopleRoutes({ pool, door }: AppDeps) {
  const asKeeper = () => {
    if (door && currentPerson.getStore()?.role !== 'keeper')
      throw new CoreError('people/only-looks', 'Only a keeper sees and changes who works here.');
  };
  return new Hono()
    .get(paths.me, (c) => {
      const person = currentPerson.getStore();
      const me: MeView = person ? { name: person.name, role: person.role } : { name: null, role: 'keeper' };
      return c.json(me);
    })
    .get(paths.people, async (c) => {
      asKeeper();
      return c.json(await listPeople(pool));
    })
    .post(paths.people, limitJson, async (c) => {
      asKeeper();
      const { name, role, passphrase } = await checkBody(addPersonRequest, await readJson(c));
      return c.json(await addPerson(pool, { name, role, secret: await hashPassphrase(passphrase) }), 201);
    })
    .delete(paths.person(':id'), async (c) => {
      asKeeper();
      await removePerson(pool, asId(c.req.param('id'), 'person'));
      return c.body(null, 204);
    })
    .get(paths.changes, async (c) => {
      asKeeper();
      return c.json(await listChanges(pool));
    });
}
