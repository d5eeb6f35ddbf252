import type pg from 'pg';
import { isCoreError } from '../../core/errors';
import { slug, uniqueNames } from '../../core/recipe/fileNames';
import { type PlannedFile, planFiles } from '../../core/recipe/planFiles';
import { type Recipe, readRecipe } from '../../core/recipe/recipe';
import { MOST_ZIP_BYTES } from '../../codecs/zipStream';
import type { BrandView, MarkView } from '../../contract/views';
import type { CorePool, Waiter } from '../corePool';
import { sourceOf } from '../sources';
import { findBrand } from '../store/brands';
import { isDatabaseAway, withTransaction } from '../store/db';
import {
  type DeliveryPart,
  type MadeFile,
  beginDelivery,
  failDelivery,
  findDelivery,
  findDeliveryParts,
  finishDelivery,
  keepFile,
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

/** A file that is to be made, with all that its making asks for. */
interface Order {
  readonly position: number;
  readonly mark: MarkView;
  readonly brand: BrandView;
  readonly pictures: MarkPictures;
  readonly recipe: Recipe;
  readonly file: PlannedFile;
  /** A folder of its own for each of several marks. */
  readonly folder: string;
}

async function makeAll({ pool, core }: DeliveryDeps, id: string, waiter: Waiter): Promise<void> {
  const { createdAt } = await findDelivery(pool, id);
  const orders = await listOrders(pool, await findDeliveryParts(pool, id), createdAt.slice(0, 10));
  const made = new Map((await listMadeFiles(pool, id)).map((f) => [f.position, f]));
  const left = orders.filter((o) => !made.has(o.position));
  let isOver = false;
  const turn = async () => {
    for (let next = left.shift(); next && !isOver; next = left.shift()) {
      const file = await makeOne(core, next, waiter);
      made.set(file.position, file);
      if (isOver || (await keepFile(pool, id, file))) await announce(pool, id);
      else isOver = true;
    }
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
  const files = [...made.values()].sort((a, b) => a.position - b.position);
  if (files.reduce((sum, f) => sum + f.size, 0) > MOST_ZIP_BYTES * ROOM) {
    await failDelivery(pool, id, 'These files come to more than 3.5 GB. Make them in two deliveries, or smaller.');
    return;
  }
  const names = uniqueNames(files.map((f) => f.name));
  await withTransaction(pool, (tx) => finishDelivery(tx, id, names));
}

/** Names and receipts take their part of an archive too. */
const ROOM = 0.85;

async function listOrders(pool: pg.Pool, parts: readonly DeliveryPart[], date: string): Promise<Order[]> {
  const orders: Omit<Order, 'position'>[] = [];
  for (const { markId, revision, recipe: raw } of parts) {
    const mark = await findMark(pool, markId);
    const brand = await findBrand(pool, mark.brandId);
    const recipe = readRecipe(raw);
    const folder = parts.length > 1 ? `${slug(mark.name) || 'mark'}/` : '';
    const shared = { mark, brand, recipe, folder, pictures: await findMarkPictures(pool, markId) };
    const names = { brand: brand.name, mark: mark.name, date, version: revision };
    for (const file of planFiles(recipe, names)) orders.push({ ...shared, file });
  }
  return orders.map((order, position) => ({ ...order, position }));
}

async function makeOne(core: CorePool, order: Order, waiter: Waiter): Promise<MadeFile> {
  const { position, mark, brand, pictures, recipe, file, folder } = order;
  const { line, variant } = file;
  const task = {
    ...{ source: sourceOf(pictures, 'working'), recipe, variant: variant.id, order: file.order },
    ...{ name: `${variant.name} of ${mark.name}, file ${position + 1}`, palette: brand.palette },
  };
  const { widthPx, heightPx, ppi, ...made } = await core.makeFile(task, pictures, waiter);
  const name = `${folder}${file.name({ width: Math.round(widthPx), height: Math.round(heightPx), ppi })}`;
  return { ...made, position, name, markId: mark.id, variant: variant.name, purpose: line.purpose };
}

/** Tells every web server that a delivery has moved on. */
export const announce = (pool: pg.Pool, id: string) => pool.query("select pg_notify('tassel_delivery', $1)", [id]);
