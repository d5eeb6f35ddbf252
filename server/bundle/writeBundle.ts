import { createHash } from 'node:crypto';
import type pg from 'pg';
import { crc32 } from 'node:zlib';
import type { ZipEntry } from '../../codecs/zipStream';
import { isStrip } from '../../core/placements/readPlacement';
import { slug } from '../../core/recipe/fileNames';
import { cutToLength } from '../../core/text/cutText';
import type { CorePool, Waiter } from '../corePool';
import { type PictureMaker, sourceOf } from '../sources';
import { readBlob } from '../store/blobs';
import { findBrand, findGroundPhoto, listGrounds } from '../store/brands';
import { type WholeMark, findWholeMark, listMarkIds } from '../store/bundles';
import { findMark, findMarkPictures } from '../store/marks';
import { findPlacement, listPlacements } from '../store/placements';
import { findWall, listSlots, listWalls } from '../store/walls';
import {
  BUNDLE_FORMAT,
  BUNDLE_VERSION,
  type BundledMark,
  type BundledWall,
  MANIFEST,
  type Manifest,
  SUMS,
} from '../../contract/bundleManifest';

interface Deps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
  readonly pictures: PictureMaker;
}

/** Files of a bundle: those in hand, and those that are read from the store when their turn comes. */
class Files {
  readonly entries: ZipEntry[] = [];
  readonly #sums: string[] = [];
  readonly #paths = new Map<string, string>();
  constructor(private readonly pool: pg.Pool) {}

  add(path: string, bytes: Uint8Array): void {
    this.#list(path, bytes, async () => bytes);
  }

  /** A kept file, once however often it is named. @returns its path */
  async keep(folder: string, sha: string, name: string): Promise<string> {
    const before = this.#paths.get(sha);
    if (before) return before;
    const plain = cutToLength(name.replace(/[^\p{L}\p{N}._-]+/gu, '-').replace(/^[.-]+/, ''), 80);
    const path = `${folder}/${sha.slice(0, 12)}-${plain || 'file'}`;
    this.#paths.set(sha, path);
    const { bytes } = await readBlob(this.pool, sha);
    this.#list(path, bytes, async () => (await readBlob(this.pool, sha)).bytes);
    return path;
  }

  #list(name: string, bytes: Uint8Array, read: () => Promise<Uint8Array>): void {
    this.entries.push({ name, size: bytes.length, crc32: crc32(bytes), read });
    this.#sums.push(`${createHash('sha256').update(bytes).digest('hex')}  ${name}\n`);
  }

  /** All of them with the manifest first and the sums last. */
  finish(manifest: Manifest): ZipEntry[] {
    this.add(MANIFEST, Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`));
    this.add(SUMS, Buffer.from([...this.#sums].sort().join('')));
    const last = this.entries.length;
    return [this.entries[last - 2], ...this.entries.slice(0, last - 2), this.entries[last - 1]];
  }
}

/** A bundle as the entries of an archive: the same things give the same bytes, on any installation. */
export interface WrittenBundle {
  readonly name: string;
  readonly entries: readonly ZipEntry[];
}

export async function bundleMark(deps: Deps, id: string, waiter: Waiter): Promise<WrittenBundle> {
  const { brandId, name } = await findMark(deps.pool, id);
  const files = new Files(deps.pool);
  const mark = await bundled(deps, files, { id, key: 'm1' }, waiter);
  const manifest = { ...(await headOf(deps.pool, brandId)), kind: 'mark' as const, marks: [mark] };
  const empty = { grounds: [], placements: [], walls: [] };
  return { name: slug(name) || 'mark', entries: files.finish({ ...manifest, ...empty }) };
}

export async function bundleBrand(deps: Deps, brandId: string, waiter: Waiter): Promise<WrittenBundle> {
  const { pool } = deps;
  const brand = await findBrand(pool, brandId);
  const files = new Files(pool);
  const ids = await listMarkIds(pool, brandId);
  const keys = new Map(ids.map((id, k) => [id, `m${k + 1}`]));
  const marks: BundledMark[] = [];
  for (const [id, key] of keys) marks.push(await bundled(deps, files, { id, key }, waiter));
  const listed = await listGrounds(pool, brandId);
  const groundKeys = new Map(listed.map((g, k) => [g.id, `g${k + 1}`]));
  const grounds = [];
  for (const g of listed) {
    const sha = g.picture ? await findGroundPhoto(pool, brandId, g.id) : null;
    const { name, tone, hex, width, height, isProof } = g;
    const file = sha && (await files.keep('grounds', sha, `${slug(name) || 'ground'}.jpg`));
    grounds.push({ key: groundKeys.get(g.id) as string, name, tone, hex, file, width, height, isProof });
  }
  const head = await headOf(pool, brandId);
  const manifest: Manifest = {
    ...{ ...head, kind: 'brand', marks, grounds },
    placements: await placementsOf(pool, brandId, keys),
    walls: await wallsOf(pool, brandId, { marks: keys, grounds: groundKeys, files }),
  };
  return { name: slug(brand.name) || 'brand', entries: files.finish(manifest) };
}

async function headOf(pool: pg.Pool, brandId: string) {
  const { name, palette, gradients, pattern, startSet, standardLines, ownPurposes } = await findBrand(pool, brandId);
  return {
    format: BUNDLE_FORMAT,
    version: BUNDLE_VERSION,
    brand: { name, palette, gradients, pattern, startSet, standardLines, ownPurposes },
  } as const;
}

async function bundled(
  { pool, core, pictures: maker }: Deps,
  files: Files,
  { id, key }: { id: string; key: string },
  waiter: Waiter,
): Promise<BundledMark> {
  const mark = await findWholeMark(pool, id);
  const pictures = await findMarkPictures(pool, id);
  const { recipe } = await findMark(pool, id);
  const original = {
    path: await files.keep('originals', mark.original.sha, mark.original.name),
    name: mark.original.name,
  };
  const former = [];
  for (const own of mark.former)
    former.push({
      ...{ path: await files.keep('originals', own.sha, own.name), name: own.name, replacedAt: own.replacedAt },
    });
  const stem = `masters/${key}-${cutToLength(slug(mark.name), 60) || 'mark'}`;
  const { blobSha } = await maker.find('master', pictures, recipe, waiter);
  files.add(`${stem}.png`, (await readBlob(pool, blobSha)).bytes);
  const svg = await core.masterSvg({ source: sourceOf(pictures, 'working'), recipe }, pictures, waiter);
  if (svg) files.add(`${stem}.svg`, svg);
  const { name, kind, state, notes, found, working } = mark;
  return {
    ...{ key, name, kind, state, notes, found, original, former, working },
    ...revisionsOf(mark),
    master: { png: `${stem}.png`, svg: svg ? `${stem}.svg` : null },
  };
}

/** Revisions numbered among themselves: the store's own numbers mean nothing elsewhere. */
function revisionsOf({ revisions, current }: WholeMark): Pick<BundledMark, 'revisions' | 'current'> {
  const number = new Map(revisions.map((r, k) => [r.id, k]));
  return {
    revisions: revisions.map(({ parent, why, name, madeAt, recipe }) => ({
      parent: parent === null ? null : (number.get(parent) ?? null),
      ...{ why, name, madeAt, recipe },
    })),
    current: number.get(current) as number,
  };
}

async function placementsOf(pool: pg.Pool, brandId: string, keys: ReadonlyMap<string, string>) {
  const found = [];
  for (const { id } of await listPlacements(pool, brandId)) {
    const { name, rule, options } = await findPlacement(pool, id);
    // One of a mark that was removed is worth nothing elsewhere.
    if (rule.items.some((i) => !isStrip(i) && !keys.has(i.mark))) continue;
    const items = rule.items.map((i) => (isStrip(i) ? i : { ...i, mark: keys.get(i.mark) as string }));
    found.push({ name, rule: { ...rule, items } as unknown as Record<string, unknown>, options: { ...options } });
  }
  return found.sort((a, b) => (a.name < b.name ? -1 : 1));
}

interface WallParts {
  readonly marks: ReadonlyMap<string, string>;
  readonly grounds: ReadonlyMap<string, string>;
  readonly files: Files;
}

async function wallsOf(pool: pg.Pool, brandId: string, { marks, grounds, files }: WallParts): Promise<BundledWall[]> {
  const found: BundledWall[] = [];
  for (const { id } of await listWalls(pool, brandId)) {
    const { name, rule } = await findWall(pool, id);
    const slots = [];
    for (const row of await listSlots(pool, id)) {
      const mark = marks.get(row.mark_id);
      if (!mark) continue;
      const original = await files.keep('originals', row.original_sha, row.file);
      slots.push({
        ...{ mark, file: row.file, original, shows: row.shows, variant: row.variant, squeeze: row.squeeze },
      });
    }
    const groundId = rule.groundId && (grounds.get(rule.groundId) ?? null);
    found.push({ name, rule: { ...rule, groundId }, slots });
  }
  return found.sort((a, b) => (a.name < b.name ? -1 : 1));
}
