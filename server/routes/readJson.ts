import type { Context, MiddlewareHandler } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { CoreError } from '../../core/errors';
import { parseJson } from '../parseJson';

/** Requests are parsed on the event loop, so they are small; a drawing on the pad is parsed in a thread. */
const MOST_JSON_MB = 1;
const MOST_DRAWN_MB = 4;

/** Refuses a body as soon as more of it has come than the most. @param refuse  the error to answer with */
export const limitBody = (megabytes: number, refuse: (c: Context) => CoreError): MiddlewareHandler =>
  bodyLimit({
    maxSize: megabytes * 1024 * 1024,
    onError: (c) => {
      throw refuse(c);
    },
  });

const tooLarge = (megabytes: number) => () =>
  new CoreError('request/invalid', `The request is larger than ${megabytes} MB.`);

/** For every route that reads JSON. */
export const limitJson = limitBody(MOST_JSON_MB, tooLarge(MOST_JSON_MB));
/** For drawings on the pad, which hold every point of every stroke. */
export const limitDrawn = limitBody(MOST_DRAWN_MB, tooLarge(MOST_DRAWN_MB));

/** The request's JSON body. @throws CoreError 'request/invalid' */
export async function readJson(c: Context): Promise<unknown> {
  return parseJson(await readText(c));
}

async function readText(c: Context): Promise<string> {
  try {
    return await c.req.text();
  } catch (cause) {
    if (cause instanceof CoreError) throw cause;
    throw new CoreError('request/invalid', 'The request broke off.', {}, { cause });
  }
}
