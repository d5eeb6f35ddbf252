import type { Context, MiddlewareHandler } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { CoreError } from '../../core/errors';

export const MOST_JSON_MB = 4;

/** Refuses a body as soon as more of it has come than the most. @param refuse  the error to answer with */
export const limitBody = (megabytes: number, refuse: (c: Context) => CoreError): MiddlewareHandler =>
  bodyLimit({
    maxSize: megabytes * 1024 * 1024,
    onError: (c) => {
      throw refuse(c);
    },
  });

/** For every route that reads JSON. */
export const limitJson = limitBody(
  MOST_JSON_MB,
  () => new CoreError('request/invalid', `The request is larger than ${MOST_JSON_MB} MB.`),
);

/** The request's JSON body. @throws CoreError 'request/invalid' */
export async function readJson(c: Context): Promise<unknown> {
  try {
    return await c.req.json();
  } catch (cause) {
    if (cause instanceof CoreError) throw cause;
    throw new CoreError('request/invalid', 'The request is not JSON.', {}, { cause });
  }
}
