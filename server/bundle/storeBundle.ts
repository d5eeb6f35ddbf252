import type pg from 'pg';
import type { RunOptions } from '../../contract/views';
import { type Placement, isStrip, readPlacement } from '../../core/placements/readPlacement';
import { readWallRule } from '../../core/wall/wallRule';
import { addBrand, addGround, changeBrand, findBrand, listBrands } from '../store/brands';
import { type Db, withTransaction } from '../store/db';
import { addJob } from '../store/jobs';
import { addBundledMark } from '../store/bundles';
import { addPlacement, listPlacements } from '../store/placements';
import { addSlot, addWall, changeSlot, listSlots, listWalls } from '../store/walls';
import { NEW_BRAND } from '../../contract/bundles';
import type { BundledBrand, Manifest } from '../../contract/bundleManifest';
import type { ReadBundle } from '../bundleTasks';

export interface StoredBundle {
  readonly brandId: string;
  readonly brandName: string;
  readonly marks: readonly { readonly id: string; readonly name: string }[];
}

/** The first of some names that is free: itself, or with a number. */
function freeName(name: string, taken: ReadonlySet<string>, most: number): string {
  for (let n = 1; ; n++) {
    const end = n === 1 ? '' : ` ${n}`;
    const own = `${name.slice(0, most - end.length)}${end}`;
    if (!taken.has(own)) return own;
  }
}

/**
 * Stores a bundle that was read, all of it in one transaction.
 * @param into  the brand that it goes to; `new` for a brand of its own; null for the brand of a mark's own name where
 *   there is one
 */
export const storeBundle = (pool: pg.Pool, read: ReadBundle, into: string | null): Promise<StoredBundle> =>
  withTransaction(pool, async (tx) => {
    const { manifest, marks, shas } = read;
    const brandId = into && into !== NEW_BRAND ? into : await addOwnBrand(tx, manifest, into === NEW_BRAND);
    const { name: brandName } = await findBrand(tx, brandId);
    const ids = new Map<string, string>();
    for (const [k, own] of manifest.marks.entries()) {
      const former = own.former.map((f) => ({ sha: shas[f.path], name: f.name, replacedAt: f.replacedAt }));
      const id = await addBundledMark(tx, { ...marks[k], brandId }, own, former);
      await addJob(tx, 'lookAt', id);
      ids.set(own.key, id);
    }
    if (manifest.kind === 'brand') await addRest(tx, brandId, read, ids);
    return { brandId, brandName, marks: manifest.marks.map((m) => ({ id: ids.get(m.key) as string, name: m.name })) };
  });

/** A mark goes to the brand of its own name, where there is one; a whole brand is always one of its own. */
async function addOwnBrand(tx: Db, { kind, brand }: Manifest, isNew: boolean): Promise<string> {
  const there = await listBrands(tx);
  const same = there.find((b) => b.name === brand.name);
  if (kind === 'mark' && same && !isNew) return same.id;
  const id = await addBrand(tx, freeName(brand.name, new Set(there.map((b) => b.name)), 120), brand.palette);
  const { gradients, pattern, startSet, standardLines, ownPurposes } = brand;
  await changeBrand(tx, id, 1, { gradients, pattern, startSet, standardLines, ownPurposes } as BundledBrand as never);
  return id;
}

async function addRest(tx: Db, brandId: string, { manifest, shas }: ReadBundle, marks: ReadonlyMap<string, string>) {
  const grounds = new Map<string, string>();
  for (const { key, file, ...ground } of manifest.grounds) {
    const added = await addGround(tx, brandId, { ...ground, blobSha: file && shas[file] });
    grounds.set(key, added.id);
  }
  const placed = new Set((await listPlacements(tx, brandId)).map((p) => p.name));
  for (const { name, rule, options } of manifest.placements) {
    const own = freeName(name, placed, 200);
    placed.add(own);
    const read = rule as unknown as Placement;
    const items = read.items.map((i) => (isStrip(i) ? i : { ...i, mark: marks.get(i.mark) as string }));
    await addPlacement(tx, brandId, {
      ...{ name: own, rule: readPlacement({ ...read, items }), options: options as unknown as RunOptions },
    });
  }
  const hung = new Set((await listWalls(tx, brandId)).map((w) => w.name));
  for (const { name, rule, slots } of manifest.walls) {
    const own = freeName(name, hung, 200);
    hung.add(own);
    const { groundId } = rule as { groundId: string | null };
    const wall = await addWall(
      tx,
      brandId,
      own,
      readWallRule({ ...rule, groundId: groundId && (grounds.get(groundId) ?? null) }),
    );
    for (const [at, slot] of slots.entries()) {
      const markId = marks.get(slot.mark) as string;
      await addSlot(tx, wall, { markId, file: slot.file, originalSha: shas[slot.original], shows: null, at });
    }
    for (const [k, row] of (await listSlots(tx, wall)).entries()) {
      const { shows, variant, squeeze } = slots[k];
      await changeSlot(tx, row.id, { ...(shows ? { shows } : {}), variant, squeeze });
    }
  }
}
