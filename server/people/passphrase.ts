import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { CoreError } from '../../core/errors';

/** Costs of scrypt: 32 MB and about a tenth of a second for each try (RFC 7914; OWASP, "Password Storage"). */
const COST = { N: 2 ** 15, r: 8, p: 1 };
const KEY_BYTES = 32;
const SALT_BYTES = 16;
const MOST_MEMORY = 256 * 1024 * 1024;
/** Shorter ones are guessed. */
export const LEAST_LENGTH = 10;

const derive = (passphrase: string, salt: Buffer, cost: typeof COST): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    scrypt(passphrase.normalize('NFKC'), salt, KEY_BYTES, { ...cost, maxmem: MOST_MEMORY }, (error, key) =>
      error ? reject(error) : resolve(key),
    ),
  );

/** A passphrase as it is kept. @throws CoreError 'people/weak' for one that is too short */
export async function hashPassphrase(passphrase: string): Promise<string> {
  if ([...passphrase].length < LEAST_LENGTH)
    throw new CoreError('people/weak', `A passphrase has at least ${LEAST_LENGTH} characters; a few words do well.`);
  const salt = randomBytes(SALT_BYTES);
  const key = await derive(passphrase, salt, COST);
  return ['scrypt', COST.N, COST.r, COST.p, salt.toString('base64'), key.toString('base64')].join('$');
}

/** For names that nobody has: the answer takes as long as for any other. */
const NOBODYS = ['scrypt', COST.N, COST.r, COST.p, randomBytes(SALT_BYTES).toString('base64'), ''].join('$');

/** Whether a passphrase is the one that was kept. @param kept  null where there is no such person */
export async function isPassphrase(passphrase: string, kept: string | null): Promise<boolean> {
  const [kind, N, r, p, salt, key] = (kept ?? NOBODYS).split('$');
  if (kind !== 'scrypt') return false;
  const cost = { N: Number(N), r: Number(r), p: Number(p) };
  const own = await derive(passphrase, Buffer.from(salt, 'base64'), cost);
  const known = Buffer.from(key, 'base64');
  return kept !== null && known.length === own.length && timingSafeEqual(own, known);
}
