import { afterEach, describe, expect, it, vi } from 'vitest';
import { CoreError } from '../../core/errors';
import { wordsFor } from '../messages';
import { send, upload } from './http';

const answer = (make: (path: string, init: RequestInit) => Response | Promise<Response>) => {
  const calls: { path: string; init: RequestInit }[] = [];
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    calls.push({ path, init });
    return make(path, init);
  });
  return calls;
};
const json = (value: unknown, status = 200) =>
  new Response(JSON.stringify(value), { status, headers: { 'content-type': 'application/json' } });
const fault = async (work: Promise<unknown>): Promise<CoreError> =>
  work.then(
    () => {
      throw new Error('should have failed');
    },
    (e: CoreError) => e,
  );

afterEach(() => vi.unstubAllGlobals());

describe('speaking to the server', () => {
  it('sends JSON where there is something to send, and reads the answer', async () => {
    const calls = answer(() => json({ id: 7 }));
    expect(await send('GET', '/api/x')).toEqual({ id: 7 });
    expect(await send('PUT', '/api/x', { a: [1, 2] })).toEqual({ id: 7 });
    expect(calls[0].init).toEqual({ method: 'GET' });
    expect(calls[1].init).toMatchObject({
      method: 'PUT',
      body: '{"a":[1,2]}',
      headers: { 'Content-Type': 'application/json' },
    });
  });
  it('an answer without a body is nothing, not a fault', async () => {
    answer(() => new Response(null, { status: 204 }));
    expect(await send('DELETE', '/api/x')).toBeUndefined();
  });
  it('passes on what the server says is wrong, with its code and details', async () => {
    answer(() =>
      json(
        {
          error: {
            code: 'store/conflict',
            message: 'This mark was changed in another window.',
            details: { revision: 4 },
          },
        },
        409,
      ),
    );
    const error = await fault(send('PUT', '/api/x', {}));
    expect(error).toBeInstanceOf(CoreError);
    expect(error).toMatchObject({ code: 'store/conflict', details: { revision: 4 } });
    expect(wordsFor(error)).toBe('This mark was changed in another window.');
  });
  it.each([
    ['<html>Bad gateway</html>', 502],
    ['', 500],
    ['{"error":null}', 503],
  ])('an answer of %j is told by its number, in words for people', async (body, status) => {
    answer(() => new Response(body, { status }));
    const error = await fault(send('GET', '/api/x'));
    expect(error).toMatchObject({ code: 'server/internal', message: `The server answered ${status}.` });
    expect(wordsFor(error)).toMatch(/Nothing was lost/);
  });
  it('says when the server cannot be reached', async () => {
    answer(() => Promise.reject(new TypeError('fetch failed')));
    expect(await fault(send('GET', '/api/x'))).toMatchObject({
      code: 'server/internal',
      message: expect.stringContaining('cannot be reached'),
    });
  });
  it('uploads a file as it is; a cancelled upload is cancelled, not a fault of the server', async () => {
    const file = new File([new Uint8Array([1, 2, 3])], 'm.png');
    const calls = answer(() => json({ isDuplicate: false }, 201));
    await upload('/api/brands/1/marks?name=m.png', file, new AbortController().signal);
    expect(calls[0].init.body).toBe(file);
    const stop = new AbortController();
    stop.abort();
    answer(() => Promise.reject(new DOMException('stopped', 'AbortError')));
    expect((await fault(upload('/x', file, stop.signal))).name).toBe('AbortError');
  });
});
