import type { Context } from 'hono';
import { CoreError } from '../../core/errors';

const MOST_JSON = 4 * 1024 * 1024;

/** The request's JSON body. @throws CoreError 'request/invalid' */
export async function readJson(c: Context): Promise<unknown> {
  if (Number(c.req.header('content-length') ?? 0) > MOST_JSON)
    throw new CoreError('request/invalid', 'The request is larger than 4 MB.');
  try {
    return await c.req.json();
  } catch (cause) {
    throw new CoreError('request/invalid', 'The request is not JSON.', {}, { cause });
  }
}
