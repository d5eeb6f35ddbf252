import type { ErrorBody } from '../contract/views';
import { CoreError, type ErrorCode, isCoreError } from '../core/errors';
import { asKnown } from './store/db';

type Status = 400 | 401 | 403 | 404 | 409 | 413 | 422 | 429 | 500 | 503 | 507;

/** The HTTP status of every code. */
export const statusOf: Record<ErrorCode, Status> = {
  'raster/size-mismatch': 422,
  'params/invalid': 422,
  'registry/unknown': 422,
  'recipe/invalid': 422,
  'recipe/too-new': 422,
  'intake/no-page': 422,
  'intake/no-paths': 422,
  'trace/nothing': 422,
  'cutout/nothing-left': 422,
  'cutout/no-flat-ground': 422,
  'cutout/no-ink': 422,
  'cutout/no-such-mark': 422,
  'crop/empty': 422,
  'crop/too-large': 422,
  'memory/too-little': 413,
  'type/empty': 422,
  'type/no-glyph': 422,
  'draw/empty': 422,
  'size/impossible': 422,
  'format/needs-paths': 422,
  'work/stopped': 409,
  'work/too-long': 422,
  'format/needs-ground': 422,
  'format/no-opacity': 422,
  'format/no-spot': 422,
  'format/not-for-purpose': 422,
  'purpose/too-large': 422,
  'names/invalid': 422,
  'names/clash': 422,
  'names/empty': 422,
  'intake/empty': 422,
  'intake/unsupported': 422,
  'intake/mislabelled': 422,
  'intake/damaged': 422,
  'intake/too-large': 413,
  'intake/too-many-pixels': 413,
  'intake/too-small': 422,
  'placement/invalid': 422,
  'placement/length': 422,
  'wall/problems': 409,
  'wall/unchecked': 409,
  'clip/damaged': 422,
  'clip/too-long': 413,
  'document/refused': 422,
  'document/damaged': 422,
  'document/no-line': 422,
  'bundle/invalid': 422,
  'bundle/too-new': 422,
  'file/not-readable': 422,
  'file/not-writable': 500,
  'file/read-back': 500,
  'cli/usage': 400,
  'store/not-found': 404,
  'store/conflict': 409,
  'store/duplicate-name': 409,
  'store/unavailable': 503,
  'store/full': 507,
  'people/sign-in': 401,
  'people/wrong': 401,
  'people/slow-down': 429,
  'people/only-looks': 403,
  'people/weak': 422,
  'people/last-keeper': 409,
  'request/invalid': 400,
  'request/forbidden-origin': 403,
  'server/internal': 500,
};

/**
 * The answer to any error. Our own bugs are told apart from what a person can mend, and keep their details to the log.
 * @param request  what the log calls the request
 */
export function toAnswer(error: unknown, request?: string): { status: Status; body: ErrorBody } {
  const told = asKnown(error);
  const known = isCoreError(told)
    ? told
    : new CoreError(
        'server/internal',
        'Something went wrong inside Tassel. Nothing was lost; try again, and look at the server log if it stays.',
      );
  return {
    status: statusOf[known.code],
    body: { error: { code: known.code, message: known.message, details: known.details, request } },
  };
}
