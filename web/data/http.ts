import type { ErrorBody } from '../../contract/views';
import { CoreError } from '../../core/errors';

/** Speaks to the server in JSON. @throws CoreError as the server answers, or saying that it cannot be reached */
export async function send<T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
): Promise<T> {
  const init: RequestInit = { method };
  if (body !== undefined) {
    init.body = JSON.stringify(body);
    init.headers = { 'Content-Type': 'application/json' };
  }
  return read<T>(await reach(path, init));
}

const TRY_AGAIN_MS = 1000;
const MOST_TRIES = 60;

/** Does something again for as long as the database is away. */
export async function outlasting<T>(work: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await work();
    } catch (error) {
      if (!isAway(error) || tries >= MOST_TRIES) throw error;
      await new Promise((r) => setTimeout(r, TRY_AGAIN_MS));
    }
  }
}

/** Whether the server is there but its database is not, which passes. */
export const isAway = (error: unknown): boolean => error instanceof CoreError && error.code === 'store/unavailable';

/** Sends a file's bytes as they are. */
export const upload = async <T>(path: string, file: File, signal: AbortSignal): Promise<T> =>
  read<T>(await reach(path, { method: 'POST', body: file, signal }));

/**
 * Asks for a file by JSON, and hands it to the browser to be kept.
 * @returns the headers of the answer
 * @throws CoreError as `send`
 */
export async function download(path: string, body: unknown): Promise<Headers> {
  const headers = { 'Content-Type': 'application/json' };
  const response = await reach(path, { method: 'POST', headers, body: JSON.stringify(body) });
  if (!response.ok) await read(response);
  const name = /filename="([^"]*)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'file';
  const url = URL.createObjectURL(await response.blob());
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), KEPT_MS);
  return response.headers;
}
/** So long a browser may take to begin with a download. */
const KEPT_MS = 10_000;

/** A picture that is made by JSON. @throws CoreError as `send` */
export async function pictureFor(path: string, body: unknown, signal: AbortSignal): Promise<Blob> {
  const headers = { 'Content-Type': 'application/json' };
  const response = await reach(path, { method: 'POST', headers, body: JSON.stringify(body), signal });
  if (!response.ok) await read(response);
  return response.blob();
}

async function reach(path: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(path, init);
  } catch (cause) {
    if (init.signal?.aborted) throw cause;
    throw new CoreError(
      'server/internal',
      'The server cannot be reached. Check that Tassel is running, then try again.',
      {},
      { cause },
    );
  }
}

async function read<T>(response: Response): Promise<T> {
  if (response.status === 204) return undefined as T;
  const value = await response.json().catch(() => null);
  if (response.ok) return value as T;
  const error = (value as ErrorBody | null)?.error;
  // Signed out meanwhile: the address itself now shows the page that asks for a name.
  if (error?.code === 'people/sign-in') window.location.reload();
  throw new CoreError(
    error?.code ?? 'server/internal',
    error?.message ?? `The server answered ${response.status}.`,
    error?.request ? { ...error.details, request: error.request } : (error?.details ?? {}),
  );
}
