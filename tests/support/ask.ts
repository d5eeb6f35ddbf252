import type { TestServer } from './testServer';

/** What a server answers, as JSON. @throws Error with its words for any failure */
export async function ask<T>(server: TestServer, method: string, path: string, body?: object | Uint8Array): Promise<T> {
  const isBytes = body instanceof Uint8Array;
  const answer = await fetch(server.url + path, {
    method,
    body: isBytes ? (body as Uint8Array<ArrayBuffer>) : body && JSON.stringify(body),
    headers: body && !isBytes ? { 'content-type': 'application/json' } : {},
  });
  if (answer.status >= 400) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
}
