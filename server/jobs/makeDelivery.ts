import type pg from 'pg';
import { isCoreError } from '../../core/errors';
import { uniqueNames } from '../../core/recipe/fileNames';
import { planFiles } from '../../core/recipe/planFiles';
import { readRecipe } from '../../core/recipe/recipe';
import type { CorePool, Waiter } from '../corePool';
import { sourceOf } from '../sources';
import { findBlob } from '../store/blobs';
import { findBrand } from '../store/brands';
import { isDatabaseAway, withTransaction } from '../store/db';
import {
  type MadeFile,
  beginDelivery,
  countDone,
  failDelivery,
  findDelivery,
  findDeliveryRecipe,
  finishDelivery,
} from '../store/deliveries';
import { findMark, findMarkPictures } from '../store/marks';
import { writeReceipt } from './receipt';

export interface DeliveryDeps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
}

/** What the queue tells of the attempt under way. */
export interface Attempt {
  readonly number: number;
  /** Raised when this process is to end. */
  readonly signal?: AbortSignal;
}

/** A fault of ours that comes back is not tried for ever. */
const MOST_TRIES = 3;

/**
 * Makes all files of a delivery, reads every one back, and makes the delivery reachable whole, in one transaction.
 * May be run again after a crash at any moment: nothing is visible before the end.
 */
export async function makeDelivery({ pool, core }: DeliveryDeps, id: string, attempt: Attempt): Promise<void> {
  if (!(await beginDelivery(pool, id))) return;
  await announce(pool, id);
  try {
    await makeAll({ pool, core }, id, { waiting: 'queue', signal: attempt.signal });
  } catch (error) {
    const isOver = isCoreError(error) && !['store/unavailable', 'work/stopped'].includes(error.code);
    // A lost connection or the end of this process is nobody's fault: the queue tries again.
    if (!isOver && (isDatabaseAway(error) || isCoreError(error) || attempt.number < MOST_TRIES)) throw error;
    await failDelivery(pool, id, reasonOf(error));
  }
  await announce(pool, id);
}

function reasonOf(error: unknown): string {
  if (!isCoreError(error)) return OUR_FAULT;
  return error.code === 'store/not-found' ? 'The mark was removed before its files were made.' : error.message;
}

const OUR_FAULT =
  'Something went wrong inside Tassel while these files were made. Try again; the server log knows more.';

/** An archive of more cannot be put together in the memory there is. */
const MOST_DELIVERY_BYTES = 320 * 1024 * 1024;

async function makeAll({ pool, core }: DeliveryDeps, id: string, waiter: Waiter): Promise<void> {
  const delivery = await findDelivery(pool, id);
  const mark = await findMark(pool, delivery.markId);
  const pictures = await findMarkPictures(pool, mark.id);
  const recipe = readRecipe(await findDeliveryRecipe(pool, id));
  const brand = await findBrand(pool, mark.brandId);
  const source = sourceOf(pictures, 'working');
  const date = delivery.createdAt.slice(0, 10);
  const plan = planFiles(recipe, { brand: brand.name, mark: mark.name, date, version: delivery.revision });

  const made: MadeFile[] = [];
  let bytes = 0;
  for (const { line, variant, order, name } of plan) {
    const task = {
      source,
      recipe,
      variant: variant.id,
      order,
      name: `${variant.name}, line ${made.length + 1}`,
      palette: brand.palette,
    };
    const { receipt, blobSha, widthPx, heightPx, ppi } = await core.makeFile(task, pictures, waiter);
    const page = { width: Math.round(widthPx), height: Math.round(heightPx), ppi };
    made.push({ name: name(page), variant: variant.name, purpose: line.purpose, receipt, blobSha });
    bytes += (await findBlob(pool, blobSha)).size;
    if (bytes > MOST_DELIVERY_BYTES) {
      await failDelivery(pool, id, 'These files come to more than 320 MB. Make them in two deliveries, or smaller.');
      return;
    }
    if (!(await countDone(pool, id, made.length))) return;
    await announce(pool, id);
  }
  const names = uniqueNames(made.map((f) => f.name));
  const files = made.map((f, k) => ({ ...f, name: names[k] }));
  const receipt = writeReceipt(mark, files);
  const zipSha = await core.packFiles({ name: delivery.zipName, files, receipt, bytes }, waiter);
  await withTransaction(pool, (tx) => finishDelivery(tx, id, zipSha, files));
}

/** Tells every web server that a delivery has moved on. */
export const announce = (pool: pg.Pool, id: string) => pool.query("select pg_notify('tassel_delivery', $1)", [id]);
