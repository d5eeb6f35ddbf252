import type pg from 'pg';
import { isCoreError } from '../../core/errors';
import { slug, uniqueNames } from '../../core/recipe/fileNames';
import { planFiles } from '../../core/recipe/planFiles';
import { readRecipe } from '../../core/recipe/recipe';
import { MOST_ZIP_BYTES } from '../../codecs/zipStream';
import type { CorePool, Waiter } from '../corePool';
import type { FilesTask } from '../coreTasks';
import { sourceOf } from '../sources';
import { findBrand } from '../store/brands';
import { isDatabaseAway, withTransaction } from '../store/db';
import {
  type DeliveryPart,
  announce,
  beginDelivery,
  failDelivery,
  findDelivery,
  findDeliveryParts,
  finishDelivery,
  listMadeFiles,
} from '../store/deliveries';
import { type MarkPictures, findMark, findMarkPictures } from '../store/marks';

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
 * May be run again after a crash at any moment: what is made already is kept, and nothing is visible before the end.
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

/** Files of one mark that are to be made one after another, so that they share its master. */
interface Batch {
  readonly task: FilesTask;
  readonly pictures: MarkPictures;
  readonly what: string;
}

async function makeAll({ pool, core }: DeliveryDeps, id: string, waiter: Waiter): Promise<void> {
  const { createdAt, fileCount } = await findDelivery(pool, id);
  const made = new Set((await listMadeFiles(pool, id)).map((f) => f.position));
  const parts = await findDeliveryParts(pool, id);
  const batches = await listBatches(pool, { id, parts, made, date: createdAt.slice(0, 10), threads: core.threads });
  let isOver = false;
  const turn = async () => {
    for (let next = batches.shift(); next && !isOver; next = batches.shift())
      if (!(await core.makeFiles(next.task, next.what, next.pictures, waiter))) isOver = true;
  };
  const turns = Array.from({ length: core.threads }, () =>
    turn().catch((error: unknown) => {
      isOver = true;
      throw error;
    }),
  );
  // All come to their end before anything is said of the whole.
  const failed = (await Promise.allSettled(turns)).find((t) => t.status === 'rejected');
  if (failed) throw failed.reason;
  if (isOver) return;
  const files = await listMadeFiles(pool, id);
  if (files.length < fileCount) throw new Error(`The delivery ${id} has ${files.length} files, not ${fileCount}`);
  if (files.reduce((sum, f) => sum + f.size, 0) > MOST_ZIP_BYTES * ROOM) {
    await failDelivery(pool, id, 'These files come to more than 3.5 GB. Make them in two deliveries, or smaller.');
    return;
  }
  const names = uniqueNames(files.map((f) => f.name));
  await withTransaction(pool, (tx) => finishDelivery(tx, id, names));
}

/** Names and receipts take their part of an archive too. */
const ROOM = 0.85;

interface Plan {
  readonly id: string;
  readonly parts: readonly DeliveryPart[];
  /** Files that are made already. */
  readonly made: ReadonlySet<number>;
  readonly date: string;
  readonly threads: number;
}

/** What is left to be made: a batch for each mark, or several where there are fewer marks than threads. */
async function listBatches(pool: pg.Pool, { id, parts, made, date, threads }: Plan): Promise<Batch[]> {
  const batches: Batch[] = [];
  const share = Math.ceil(threads / parts.length);
  let first = 0;
  for (const { markId, revision, recipe: raw } of parts) {
    const mark = await findMark(pool, markId);
    const brand = await findBrand(pool, mark.brandId);
    const pictures = await findMarkPictures(pool, markId);
    const recipe = readRecipe(raw);
    const names = { brand: brand.name, mark: mark.name, date, version: revision };
    const count = planFiles(recipe, names).length;
    const left = Array.from({ length: count }, (_, k) => k).filter((k) => !made.has(first + k));
    const task = {
      ...{ delivery: id, markId, source: sourceOf(pictures, 'working'), recipe, palette: brand.palette, names, first },
      folder: parts.length > 1 ? `${slug(mark.name) || 'mark'}/` : '',
    };
    const length = Math.ceil(left.length / share);
    for (let k = 0; k < left.length; k += length)
      batches.push({ task: { ...task, wanted: left.slice(k, k + length) }, pictures, what: `Files of ${mark.name}` });
    first += count;
  }
  return batches;
}
