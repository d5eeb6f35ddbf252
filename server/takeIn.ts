import type pg from 'pg';
import { CoreError } from '../core/errors';
import type { PickRequest } from '../contract/requests';
import type { MarkView, TakenIn } from '../contract/views';
import { startWith } from '../core/recipe/startWith';
import { scaleRecipe } from '../core/recipe/scaleRecipe';
import type { CorePool, Waiter } from './corePool';
import type { Known, PreparedMark } from './prepareMark';
import { findBrand } from './store/brands';
import { isForeignKeyViolation, withTransaction } from './store/db';
import { addJob } from './store/jobs';
import { addMark, findMark, findMarkByOriginal, replaceOriginal } from './store/marks';

export interface TakeInDeps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
}

/**
 * Takes a file in: a thread prepares it and keeps its blobs, then the mark is stored with its proposed recipe. All or
 * nothing: blobs that no mark came to refer to are collected after a day.
 * @throws CoreError 'intake/…' naming the file
 */
export async function takeIn(
  { pool, core }: TakeInDeps,
  brandId: string,
  file: { bytes: Uint8Array; name: string; known?: Known },
  waiter?: Waiter,
): Promise<TakenIn> {
  return storePrepared(pool, brandId, await core.prepareFile({ brandId, ...file }, waiter));
}

/** The same of what was drawn or typed. @param body  the request as it came, JSON */
export async function takeInMade(
  { pool, core }: TakeInDeps,
  brandId: string,
  body: Uint8Array,
  waiter?: Waiter,
): Promise<TakenIn> {
  return storePrepared(pool, brandId, await core.prepareMade({ brandId, body }, waiter));
}

/** The same of what was picked on a page of a PDF file. */
export async function takeInPicked(
  { pool, core }: TakeInDeps,
  brandId: string,
  picked: PickRequest,
  waiter?: Waiter,
): Promise<TakenIn> {
  return storePrepared(pool, brandId, await core.preparePicked({ brandId, ...picked }, waiter));
}

/**
 * Gives a mark a newer file for its original.
 * @throws CoreError 'intake/…' naming the file, 'store/conflict' when the mark was changed meanwhile
 */
export async function takeNewOriginal(
  { pool, core }: TakeInDeps,
  mark: MarkView,
  file: { bytes: Uint8Array; name: string; basedOn: number },
  waiter?: Waiter,
): Promise<MarkView> {
  const { bytes, name, basedOn } = file;
  const known = { isReplacement: true };
  const prepared = await core.prepareFile({ brandId: mark.brandId, bytes, name, known }, waiter);
  if (!('mark' in prepared)) throw new Error('A replacement is never taken for a mark of its own');
  return withTransaction(pool, async (tx) => {
    const replaced = await replaceOriginal(tx, mark.id, basedOn, prepared.mark, scaleRecipe);
    await addJob(tx, 'lookAt', mark.id);
    return replaced;
  });
}

async function storePrepared(pool: pg.Pool, brandId: string, prepared: PreparedMark): Promise<TakenIn> {
  if ('duplicateOf' in prepared) return { mark: await findMark(pool, prepared.duplicateOf), isDuplicate: true };
  const { startSet, pattern } = await findBrand(pool, brandId);
  const mark = {
    ...prepared.mark,
    recipe: startWith(prepared.mark.recipe, { startSet, pattern, isSignature: prepared.mark.kind === 'signature' }),
  };
  const id = await withTransaction(pool, (tx) => addMark(tx, mark)).catch((error: unknown) => {
    if (isForeignKeyViolation(error)) throw new CoreError('store/not-found', 'This brand was removed meanwhile.');
    throw error;
  });
  if (id) return { mark: await findMark(pool, id), isDuplicate: false };
  // Somebody took in the same file at the same moment.
  const there = await findMarkByOriginal(pool, brandId, mark.originalSha);
  if (!there)
    throw new CoreError('store/conflict', 'The same file was taken in and removed at this moment. Try again.');
  return { mark: await findMark(pool, there), isDuplicate: true };
}
