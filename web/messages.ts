import { CoreError, type ErrorCode } from '../core/errors';

/** Words for codes whose own message does not say what a person can do; the others speak for themselves. */
export const words: Partial<Record<ErrorCode, string>> = {
  'server/internal': 'Something went wrong inside Tassel. Nothing was lost. Try again.',
  'raster/size-mismatch': 'The picture’s data does not fit its size. Take the file in again.',
  'registry/unknown': 'This mark uses something that this version does not know. Update Tassel.',
};

/** What an error says to a person; with what the log calls the request, where only the log knows more. */
export function wordsFor(error: unknown): string {
  if (error instanceof CoreError) {
    const { request } = error.details;
    const own = words[error.code] ?? error.message;
    return error.code === 'server/internal' && request ? `${own} (Request ${String(request)})` : own;
  }
  return error instanceof Error ? error.message : String(error);
}

/** What somebody else made of it meanwhile, where that is what an error says. */
export function newerState<T>(error: unknown): T | null {
  return error instanceof CoreError && error.code === 'store/conflict' ? ((error.details.current as T) ?? null) : null;
}
