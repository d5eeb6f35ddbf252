import { CoreError, type ErrorCode } from '../core/errors';

/** Words for codes whose own message does not say what a person can do; the others speak for themselves. */
export const words: Partial<Record<ErrorCode, string>> = {
  'server/internal': 'Something went wrong inside Tassel. Nothing was lost. Try again.',
  'raster/size-mismatch': 'The picture’s data does not fit its size. Take the file in again.',
  'registry/unknown': 'This mark uses something that this version does not know. Update Tassel.',
};

/** What an error says to a person. */
export function wordsFor(error: unknown): string {
  if (error instanceof CoreError) return words[error.code] ?? error.message;
  return error instanceof Error ? error.message : String(error);
}
