import { createHash, randomBytes } from 'node:crypto';
import type pg from 'pg';
import type { Context, MiddlewareHandler } from 'hono';
import { getCookie } from 'hono/cookie';
import { CoreError } from '../../core/errors';
import { addSession, findSecret, findSession, logChange } from '../store/people';
import { currentPerson } from '../store/currentPerson';
import { isPassphrase } from './passphrase';
import { signInPage } from './signInPage';
import { type SlowDown, createSlowDown } from './slowDown';

export const COOKIE = 'tassel-session';
const TOKEN_BYTES = 32;

export const tokenSha = (token: string): string => createHash('sha256').update(token).digest('hex');

/** What only looks, though it is asked for by POST. */
const LOOKS = [/^\/api\/placements\/[^/]+\/look$/, /^\/api\/walls\/[^/]+\/look$/, /^\/api\/marks\/[^/]+\/board$/];
const isRead = (method: string) => method === 'GET' || method === 'HEAD';

/** Who is let in where Tassel listens beyond this machine. */
export interface Door {
  /** Lets nobody past who is not signed in, and lookers only look. */
  readonly guard: MiddlewareHandler;
  /** @returns a new session's token, or what is wrong */
  signIn(name: string, passphrase: string, address: string): Promise<{ token: string } | { problem: CoreError }>;
}

/** Tries that are worked on at the same time; more are told to come again. */
const MOST_TRIES = 8;

export function createDoor(pool: pg.Pool, slow: SlowDown = createSlowDown()): Door {
  let trying = 0;
  return {
    guard: async (c, next) => {
      const token = getCookie(c, COOKIE);
      const person = token ? await findSession(pool, tokenSha(token)) : null;
      if (!person) return refuse(c);
      const { method, path } = c.req;
      if (person.role === 'looker' && !isRead(method) && !LOOKS.some((l) => l.test(path)))
        throw new CoreError('people/only-looks', `${person.name} may look at everything here, and change nothing.`);
      await currentPerson.run(person, next);
      if (!isRead(method) && c.res.status < 400 && !LOOKS.some((l) => l.test(path)))
        await logChange(pool, person.name, `${method} ${path}`).catch(() => {});
      return undefined;
    },
    async signIn(name, passphrase, address) {
      const waitMs = slow.wait(name, address);
      if (waitMs > 0 || trying >= MOST_TRIES) return { problem: tooMany(Math.max(waitMs, 1000)) };
      trying++;
      try {
        const known = await findSecret(pool, name);
        if (!(await isPassphrase(passphrase, known?.secret ?? null)) || !known) {
          slow.wrong(name, address);
          return { problem: new CoreError('people/wrong', 'This name and passphrase do not belong together.') };
        }
        slow.right(name, address);
        const token = randomBytes(TOKEN_BYTES).toString('base64url');
        await addSession(pool, tokenSha(token), known.id);
        return { token };
      } finally {
        trying--;
      }
    },
  };
}

const tooMany = (waitMs: number) => {
  const seconds = Math.ceil(waitMs / 1000);
  return new CoreError('people/slow-down', `Too many wrong tries. Wait ${seconds} s, then try again.`, { seconds });
};

function refuse(c: Context): Response {
  const { path, method } = c.req;
  if (path.startsWith('/api/') || !isRead(method))
    throw new CoreError('people/sign-in', 'Sign in first; nothing is shown to who has not.');
  c.header('Cache-Control', 'no-store');
  return c.html(signInPage({ next: path, name: '', problem: null }), 401);
}
