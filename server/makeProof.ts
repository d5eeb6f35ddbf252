import { createHash, randomBytes } from 'node:crypto';
import type pg from 'pg';
import type { ProofKind } from '../contract/proofs';
import { placesOf } from '../contract/wallPlaces';
import { CoreError, isCoreError } from '../core/errors';
import type { Recipe } from '../core/recipe/recipe';
import type { SlotBox } from '../core/wall/drawSlot';
import type { CorePool, Waiter } from './corePool';
import { type OpenWall, lookAtSlots, openWall, toWallView } from './openWall';
import { openMark } from './openRun';
import { sourceOf } from './sources';
import { findBlob, keepBlob } from './store/blobs';
import { findBrand, findGroundPhoto, listGrounds } from './store/brands';
import { withTransaction } from './store/db';
import { type MadeFile, findDelivery, listMadeFiles } from './store/deliveries';
import { type MarkPictures, findMark, findMarkPictures } from './store/marks';
import { type FoundProof, type NewPicture, addProof } from './store/proofs';
import type { WallOutTask } from './wallTasks';

interface Deps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
}

export interface ProofOrder {
  readonly kind: ProofKind;
  readonly targetId: string;
  readonly title?: string;
  readonly endsOn: string | null;
}

/** What a link is to show, as it is now. */
interface Shown {
  readonly brandId: string;
  readonly name: string;
  readonly state: string;
  readonly subject: string;
  readonly shows: string;
  readonly pictures: readonly NewPicture[];
}

/** So much of an address is chance: 24 bytes. */
const KEY_BYTES = 24;

/** Makes a link to something as it is now; whatever is changed later, it shows that. @returns its id */
export async function makeProof(deps: Deps, order: ProofOrder, waiter: Waiter): Promise<string> {
  const shown = await SHOW[order.kind](deps, order.targetId, waiter);
  const { name, ...rest } = shown;
  return withTransaction(deps.pool, (tx) =>
    addProof(tx, {
      ...rest,
      ...{ key: randomBytes(KEY_BYTES).toString('base64url'), kind: order.kind, targetId: order.targetId },
      ...{ title: order.title ?? name, endsOn: order.endsOn },
    }),
  );
}

const SHOW: Record<ProofKind, (deps: Deps, id: string, waiter: Waiter) => Promise<Shown>> = {
  ...{ variants: showVariants, board: showBoard, wall: showWall, delivery: showDelivery },
};

/** Variants are shown so wide, px, and as wide as the mark is at most four times. */
const VARIANT_PX = 1600;

async function showVariants({ pool, core }: Deps, id: string, waiter: Waiter): Promise<Shown> {
  const { brandId, sourceKey } = await findMark(pool, id);
  const mark = await openMark(pool, id, 'working');
  const pictures: NewPicture[] = [];
  for (const { id: variant, name } of mark.recipe.variants) {
    const { png, ground } = await core.drawProof({ mark, variant, width: VARIANT_PX }, waiter);
    const { width, height } = sizeOfPng(png);
    const blobSha = await keepBlob(pool, png, 'image/png');
    pictures.push({ title: name, words: '', blobSha, width: width / 2, height: height / 2, isOpaque: false, ground });
  }
  return { brandId, name: mark.name, ...ofMark(id, markState({ ...mark, sourceKey })), pictures };
}

/** Boards and variants of a mark show the same versions. */
const ofMark = (id: string, state: string) => ({ state, subject: `mark:${id}`, shows: state });

/** What variants are made of, as one word; sizes and names of files change nothing that a proof shows. */
const markState = ({ recipe, sourceKey }: { recipe: Recipe; sourceKey: string }): string =>
  wordOf([sourceKey, recipe.stages, recipe.variants]);

const wordOf = (parts: unknown): string => createHash('sha256').update(JSON.stringify(parts)).digest('hex');

const PAGE = '#ffffff';
const MOST_GROUNDS = 6;

async function showBoard({ pool, core }: Deps, id: string, waiter: Waiter): Promise<Shown> {
  const mark = await findMark(pool, id);
  const { palette } = await findBrand(pool, mark.brandId);
  const pictures = await findMarkPictures(pool, id);
  const plain = [
    { name: 'white', hex: '#ffffff', sha: null },
    { name: 'black', hex: '#141414', sha: null },
  ];
  const photos = [];
  for (const g of (await listGrounds(pool, mark.brandId)).filter((own) => own.isProof && own.picture))
    photos.push({ name: g.name, hex: null, sha: await findGroundPhoto(pool, mark.brandId, g.id) });
  const grounds = [...plain, ...photos].slice(0, MOST_GROUNDS);
  const source = sourceOf(pictures, 'reduced');
  const task = { source, recipe: mark.recipe, format: 'png' as const, palette, grounds };
  const png = await core.makeBoard(task, pictures, waiter);
  const blobSha = await keepBlob(pool, png, 'image/png');
  const { width, height } = sizeOfPng(png);
  return {
    ...{ brandId: mark.brandId, name: mark.name, ...ofMark(id, markState(mark)) },
    pictures: [
      { title: 'Board', words: '', blobSha, width: width / 2, height: height / 2, isOpaque: true, ground: PAGE },
    ],
  };
}

async function showWall({ pool, core }: Deps, id: string, waiter: Waiter): Promise<Shown> {
  await lookAtSlots({ pool, core }, await openWall(pool, id), null, waiter);
  const open = await openWall(pool, id);
  const view = toWallView(open);
  const places = placesOf(view);
  const { wall } = open;
  const pictures: NewPicture[] = [];
  const placed: WallOutTask['slots'][number][] = [];
  let largest: MarkPictures | null = null;
  for (const { row, task, mark, pictures: own } of open.slots) {
    if (!task || !mark || !own || !places.has(row.id)) continue;
    const slot = { ...task, title: mark.name, box: places.get(row.id) as SlotBox };
    const order = { form: 'slots' as const, title: wall.name, rule: wall.rule, groundSha: null, slots: [slot] };
    const [{ bytes }] = await core.makeWall(order, own, waiter);
    const blobSha = await keepBlob(pool, bytes, 'image/png');
    const { widthPx: width, heightPx: height } = wall.rule;
    const { ground } = wall.rule;
    pictures.push({ title: mark.name, words: '', blobSha, width, height, isOpaque: false, ground });
    placed.push(slot);
    if (!largest || own.width * own.height > largest.width * largest.height) largest = own;
  }
  if (!largest) throw new CoreError('request/invalid', 'This wall is empty. Drop some logos first.');
  // On a photo the marks are judged together, where they stand on it.
  if (open.groundSha) {
    const { groundSha } = open;
    const order = { form: 'picture' as const, title: wall.name, rule: wall.rule, groundSha, slots: placed };
    const [{ bytes }] = await core.makeWall(order, largest, waiter);
    const blobSha = await keepBlob(pool, bytes, 'image/png');
    const whole = { title: 'The whole wall', words: '', blobSha, ...sizeOfPng(bytes), isOpaque: true };
    pictures.unshift({ ...whole, ground: PAGE });
  }
  const state = wallState(open);
  return { brandId: wall.brandId, name: wall.name, state, subject: `wall:${id}`, shows: state, pictures };
}

/** What browsers show of themselves. */
const SHOWN_TYPES = ['image/png', 'image/jpeg', 'image/webp', 'image/avif', 'image/svg+xml', 'image/x-icon'];

async function showDelivery({ pool, core }: Deps, id: string, waiter: Waiter): Promise<Shown> {
  const delivery = await findDelivery(pool, id);
  if (delivery.state !== 'ready') throw new CoreError('request/invalid', 'This delivery is not ready yet.');
  const { brandId } = await findMark(pool, delivery.markId);
  const pictures: NewPicture[] = [];
  const files = await listMadeFiles(pool, id);
  const grounds = await groundsOfFiles({ pool, core }, files, waiter);
  for (const file of files) {
    const { mediaType } = await findBlob(pool, file.blobSha);
    const { width, height, unit, hasAlpha, format } = file.receipt;
    const isShown = SHOWN_TYPES.includes(mediaType);
    pictures.push({
      ...{ title: file.name, words: `${format.toUpperCase()}, ${round(width)} × ${round(height)} ${unit}` },
      ...{ blobSha: isShown ? file.blobSha : null, width, height, isOpaque: !hasAlpha },
      ground: grounds.get(variantOf(file)) ?? PAGE,
    });
  }
  const state = await stateOf(pool, 'delivery', id);
  const name = delivery.marks
    .map((m) => m.name)
    .join(', ')
    .slice(0, 200);
  return { brandId, name, state, subject: `delivery:${delivery.markId}`, shows: id, pictures };
}

const variantOf = ({ markId, variant }: MadeFile) => `${markId} ${variant}`;

/** The background each variant is meant for, by the first of its files with pixels that are clear. */
async function groundsOfFiles({ pool, core }: Deps, files: readonly MadeFile[], waiter: Waiter) {
  const grounds = new Map<string, string>();
  for (const file of files) {
    if (grounds.has(variantOf(file)) || !file.receipt.hasAlpha) continue;
    const { mediaType } = await findBlob(pool, file.blobSha);
    if (!PIXEL_TYPES.includes(mediaType)) continue;
    grounds.set(variantOf(file), await core.findMeantGround({ blobSha: file.blobSha, name: file.name }, waiter));
  }
  return grounds;
}
const PIXEL_TYPES = ['image/png', 'image/webp', 'image/avif', 'image/tiff'];

const round = (v: number) => Math.round(v * 100) / 100;

/** @see W3C, "Portable Network Graphics", 11.2.2: width and height of the header */
function sizeOfPng(bytes: Uint8Array): { width: number; height: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

/** A wall as it was opened: what is changed while its pictures are made is newer than they are. */
function wallState({ wall, slots }: OpenWall): string {
  return wordOf([wall.rule, slots.map((s) => [s.row.id, s.key, s.row.shows])]);
}

/** What would be shown now, as one word. */
async function stateOf(pool: pg.Pool, kind: ProofKind, id: string): Promise<string> {
  if (kind === 'wall') return wallState(await openWall(pool, id));
  if (kind === 'delivery') return (await findDelivery(pool, id)).isOutdated ? 'outdated' : 'current';
  return markState(await findMark(pool, id));
}

const COUNTED = /^\d+$/;

/** Whether there is something newer than what a link shows; whatever was removed meanwhile has nothing newer. */
export async function isNewerThere(pool: pg.Pool, { kind, targetId, state }: FoundProof): Promise<boolean> {
  try {
    // Links of older versions kept the mark's revision.
    if (COUNTED.test(state)) return String((await findMark(pool, targetId)).revision) !== state;
    return (await stateOf(pool, kind, targetId)) !== state;
  } catch (error) {
    if (isCoreError(error) && error.code === 'store/not-found') return false;
    throw error;
  }
}
