import { zip } from 'fflate';
import type pg from 'pg';
import { isCoreError } from '../../core/errors';
import { uniqueNames } from '../../core/recipe/fileNames';
import { readRecipe } from '../../core/recipe/recipe';
import { readBackZip } from '../../codecs/readBackZip';
import type { CorePool } from '../corePool';
import type { MadeFile } from '../coreTasks';
import { readSource } from '../sources';
import { planFiles } from '../planFiles';
import { keepBlob } from '../store/blobs';
import { withTransaction } from '../store/db';
import {
  beginDelivery,
  countDone,
  failDelivery,
  findDelivery,
  findDeliveryRecipe,
  finishDelivery,
} from '../store/deliveries';
import { findMark } from '../store/marks';
import { findBrand } from '../store/brands';
import { writeReceipt } from './receipt';

export interface DeliveryDeps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
}

/**
 * Makes all files of a delivery, reads every one back, and makes the delivery reachable whole, in one transaction.
 * May be run again after a crash at any moment: nothing is visible before the end.
 */
export async function makeDelivery({ pool, core }: DeliveryDeps, id: string): Promise<void> {
  if (!(await beginDelivery(pool, id))) return;
  await announce(pool, id);
  try {
    await makeAll({ pool, core }, id);
  } catch (error) {
    if (!isCoreError(error)) throw error; // our bug or a lost connection: the queue tries again
    await failDelivery(pool, id, error.message);
  }
  await announce(pool, id);
}

interface Made extends MadeFile {
  readonly name: string;
  readonly variant: string;
  readonly purpose: string;
}

async function makeAll({ pool, core }: DeliveryDeps, id: string): Promise<void> {
  const delivery = await findDelivery(pool, id);
  const mark = await findMark(pool, delivery.markId);
  const recipe = readRecipe(await findDeliveryRecipe(pool, id));
  const brand = await findBrand(pool, mark.brandId);
  const source = await readSource(pool, mark.id, 'working');
  const plan = planFiles(recipe, { brand: brand.name, mark: mark.name });

  const made: Made[] = [];
  for (const { line, variant, name } of plan) {
    const task = { source, recipe, line, name: name({ width: 1, height: 1 }), palette: brand.palette };
    const file = await core.makeFile(task);
    const size = { width: Math.round(file.widthPx), height: Math.round(file.heightPx) };
    made.push({ ...file, name: name(size), variant: variant.name, purpose: line.purpose });
    if (!(await countDone(pool, id, made.length))) return;
    await announce(pool, id);
  }
  const names = uniqueNames(made.map((f) => f.name));
  const named = made.map((f, k) => ({ ...f, name: names[k] }));
  const entries = new Map(named.map((f) => [f.name, f.bytes]));
  entries.set('receipt.txt', new TextEncoder().encode(writeReceipt(mark, named)));
  const packed = await pack(entries);
  readBackZip(packed, entries, delivery.zipName);
  await withTransaction(pool, async (tx) => {
    const files = [];
    for (const f of named)
      files.push({
        name: f.name,
        variant: f.variant,
        purpose: f.purpose,
        receipt: f.receipt,
        blobSha: await keepBlob(tx, f.bytes, f.mediaType),
      });
    const zipSha = await keepBlob(tx, packed, 'application/zip');
    await finishDelivery(tx, id, zipSha, files);
  });
}

// Stored, not compressed: PNG is compressed already.
const pack = (entries: ReadonlyMap<string, Uint8Array>): Promise<Uint8Array> =>
  new Promise((resolve, reject) => {
    zip(Object.fromEntries(entries), { level: 0, mtime: new Date(2026, 0, 1) }, (error, bytes) =>
      error ? reject(error) : resolve(bytes),
    );
  });

/** Tells every web server that a delivery has moved on. */
export const announce = (pool: pg.Pool, id: string) => pool.query("select pg_notify('tassel_delivery', $1)", [id]);
