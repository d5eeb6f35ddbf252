import type pg from 'pg';
import type { TakenIn } from '../contract/views';
import { decodePicture, reducePicture } from './codecs/decodePicture';
import { encodeWorkingPng } from './codecs/encodePng';
import type { CorePool } from './corePool';
import { keepBlob, sha256 } from './store/blobs';
import { withTransaction } from './store/db';
import { addMark, findMark, findMarkByOriginal } from './store/marks';

/** Pictures above the first number get a reduction to the second, on which the screen answers while a control moves. */
const REDUCE_ABOVE = 1_200_000;
const REDUCED_PIXELS = 400_000;

export interface TakeInDeps { readonly pool: pg.Pool; readonly core: CorePool }

/**
 * Takes a file in: checks and decodes it, keeps the original byte for byte, makes the working and the reduced
 * picture, judges what it is and stores the mark with its proposed recipe. All or nothing.
 * @param name  the file's own name, for the mark's name and for messages
 * @throws CoreError 'intake/…' naming the file
 */
export async function takeIn({ pool, core }: TakeInDeps, brandId: string, bytes: Uint8Array, name: string, markName?: string): Promise<TakenIn> {
  const originalSha = sha256(bytes);
  const known = await findMarkByOriginal(pool, brandId, originalSha);
  if (known) return { mark: await findMark(pool, known), isDuplicate: true };

  const { kind, raster, notes } = await decodePicture(bytes, name);
  const isLarge = raster.width * raster.height > REDUCE_ABOVE;
  const reduced = isLarge ? await reducePicture(raster, REDUCED_PIXELS) : raster;
  const [workingPng, reducedPng, judgement] = await Promise.all([
    encodeWorkingPng(raster), encodeWorkingPng(reduced), core.judgePicture({ picture: reduced, reduction: raster.width / reduced.width }),
  ]);
  const { seen, recipe } = judgement;

  const id = await withTransaction(pool, async (tx) => {
    const original = await keepBlob(tx, bytes, kind.mediaType);
    const working = await keepBlob(tx, workingPng, 'image/png');
    const small = reduced === raster ? working : await keepBlob(tx, reducedPng, 'image/png');
    return addMark(tx, {
      brandId, name: markName ?? nameFromFile(name), kind: recipe.stages.cutOut.way === 'paper' ? 'signature' : 'logo', originalSha: original, originalName: name, workingSha: working, reducedSha: small,
      width: raster.width, height: raster.height, reducedWidth: reduced.width, recipe, findings: judgement.findings,
      found: { format: kind.title, way: seen.way, groundHex: seen.groundHex, noise: Math.round(seen.noise * 10) / 10, notes, sentence: judgement.sentence, markCount: judgement.markCount },
    });
  });
  if (id) return { mark: await findMark(pool, id), isDuplicate: false };
  // Two requests with the same bytes at once: the other one was first.
  return { mark: await findMark(pool, (await findMarkByOriginal(pool, brandId, originalSha)) as string), isDuplicate: true };
}

/** `Trust_badge-final 2.jpg` becomes `Trust badge final 2`. */
export function nameFromFile(fileName: string): string {
  const stem = fileName.replace(/^.*[\\/]/, '').replace(/\.[a-z0-9]+$/i, '').replace(/[_\-\s]+/g, ' ').trim();
  const name = stem ? stem[0].toUpperCase() + stem.slice(1) : 'Unnamed mark';
  return name.slice(0, 120);
}
