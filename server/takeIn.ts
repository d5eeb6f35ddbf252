import type pg from 'pg';
import type { FoundView, TakenIn } from '../contract/views';
import type { Raster } from '../core/raster/raster';
import { decodePicture, reducePicture } from '../codecs/decodePicture';
import { encodeWorkingPng } from '../codecs/encodePng';
import type { CorePool } from './corePool';
import { keepBlob, sha256 } from './store/blobs';
import { withTransaction } from './store/db';
import { addMark, findMark, findMarkByOriginal } from './store/marks';

/** Pictures above the first number get a reduction to the second, on which the screen answers while a control moves. */
const REDUCE_ABOVE = 1_200_000;
const REDUCED_PIXELS = 300_000;

export interface TakeInDeps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
}

/**
 * Takes a file in: checks and decodes it, keeps the original byte for byte, makes the working and the reduced
 * picture, judges what it is and stores the mark with its proposed recipe. All or nothing.
 * @param name  the file's own name, for the mark's name and for messages
 * @throws CoreError 'intake/…' naming the file
 */
export async function takeIn(
  deps: TakeInDeps,
  brandId: string,
  bytes: Uint8Array,
  name: string,
  markName?: string,
): Promise<TakenIn> {
  const known = await findMarkByOriginal(deps.pool, brandId, sha256(bytes));
  if (known) return { mark: await findMark(deps.pool, known), isDuplicate: true };
  const { kind, raster, notes } = await decodePicture(bytes, name);
  return keepPicture(deps, brandId, bytes, { kind, raster, notes, name, markName: markName ?? nameFromFile(name) });
}

export interface PictureToKeep {
  readonly kind: { readonly title: string; readonly mediaType: string };
  /** The working picture. */
  readonly raster: Raster;
  readonly notes: readonly string[];
  readonly name: string;
  readonly markName: string;
  /** Where more is known than the pixels show. */
  readonly found?: Partial<Pick<FoundView, 'way' | 'sentence'>>;
  readonly isSignature?: boolean;
}

/** Stores an original with its pictures as a mark with a proposed recipe; the same bytes twice are recognised. */
export async function keepPicture(
  { pool, core }: TakeInDeps,
  brandId: string,
  bytes: Uint8Array,
  { kind, raster, notes, name, markName, found, isSignature }: PictureToKeep,
): Promise<TakenIn> {
  const isLarge = raster.width * raster.height > REDUCE_ABOVE;
  const reduced = isLarge ? await reducePicture(raster, REDUCED_PIXELS) : raster;
  const [workingPng, reducedPng, judgement] = await Promise.all([
    encodeWorkingPng(raster),
    encodeWorkingPng(reduced),
    core.judgePicture({ picture: reduced, reduction: raster.width / reduced.width }),
  ]);
  const { seen, recipe } = judgement;
  const isInk = recipe.stages.cutOut.way === 'paper';

  const id = await withTransaction(pool, async (tx) => {
    const original = await keepBlob(tx, bytes, kind.mediaType);
    const working = await keepBlob(tx, workingPng, 'image/png');
    const small = reduced === raster ? working : await keepBlob(tx, reducedPng, 'image/png');
    return addMark(tx, {
      brandId,
      name: markName,
      kind: (isSignature ?? isInk) ? 'signature' : 'logo',
      originalSha: original,
      originalName: name,
      workingSha: working,
      reducedSha: small,
      width: raster.width,
      height: raster.height,
      reducedWidth: reduced.width,
      recipe,
      findings: judgement.findings,
      found: {
        format: kind.title,
        way: seen.way,
        groundHex: seen.groundHex,
        noise: Math.round(seen.noise * 10) / 10,
        notes,
        sentence: judgement.sentence,
        markCount: judgement.markCount,
        ...found,
      },
    });
  });
  if (id) return { mark: await findMark(pool, id), isDuplicate: false };
  // The same bytes are there already, or another request with them was first.
  return {
    mark: await findMark(pool, (await findMarkByOriginal(pool, brandId, sha256(bytes))) as string),
    isDuplicate: true,
  };
}

/** `Trust_badge-final 2.jpg` becomes `Trust badge final 2`. */
export function nameFromFile(fileName: string): string {
  const stem = fileName
    .replace(/^.*[\\/]/, '')
    .replace(/\.[a-z0-9]+$/i, '')
    .replace(/[_\-\s]+/g, ' ')
    .trim();
  const name = stem ? stem[0].toUpperCase() + stem.slice(1) : 'Unnamed mark';
  return name.slice(0, 120);
}
