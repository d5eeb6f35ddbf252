import type pg from 'pg';
import type { FoundView, MarkCard, TakenIn } from '../contract/views';
import type { Drawing } from '../core/artwork/drawing';
import { writeDrawing } from '../core/artwork/readDrawing';
import type { Raster } from '../core/raster/raster';
import { cutToLength } from '../core/text/cutText';
import { checkFile, decodePicture, reducePicture } from '../codecs/decodePicture';
import { encodeWorkingPng } from '../codecs/encodePng';
import { readSvg } from '../codecs/readSvg';
import type { CorePool } from './corePool';
import { keepBlob, sha256 } from './store/blobs';
import { withTransaction } from './store/db';
import { type NewMark, addMark, findMark, findMarkByOriginal } from './store/marks';

/** Pictures above the first number get a reduction to the second, on which the screen answers while a control moves. */
const REDUCE_ABOVE = 1_200_000;
const REDUCED_PIXELS = 300_000;

export interface TakeInDeps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
}

/** What is known of a mark beside its file. */
export interface Known {
  readonly markName?: string;
  readonly kind?: MarkCard['kind'];
  /** In place of the sentence that its pixels would give. */
  readonly sentence?: string;
}

/**
 * Takes a file in: checks and decodes it, keeps the original byte for byte, makes the working and the reduced
 * picture or the working drawing, judges what it is and stores the mark with its proposed recipe. All or nothing.
 * @param name  the file's own name, for the mark's name and for messages
 * @throws CoreError 'intake/…' naming the file
 */
export async function takeIn(
  deps: TakeInDeps,
  brandId: string,
  bytes: Uint8Array,
  name: string,
  known: Known = {},
): Promise<TakenIn> {
  const there = await findMarkByOriginal(deps.pool, brandId, sha256(bytes));
  if (there) return { mark: await findMark(deps.pool, there), isDuplicate: true };
  const source = checkFile(bytes, name).id === 'svg' ? openDrawing(bytes, name) : await openPicture(bytes, name);
  const ready = await source.prepare(deps.core);
  const { seen, recipe, markCount } = ready.judgement;
  const isInk = recipe.stages.cutOut.way === 'paper';
  const id = await withTransaction(deps.pool, async (tx) => {
    const original = await keepBlob(tx, bytes, source.mediaType);
    const working = await keepBlob(tx, ready.working, ready.mediaType);
    const reduced = ready.reduced === ready.working ? working : await keepBlob(tx, ready.reduced, ready.mediaType);
    const found: FoundView = {
      format: source.title,
      way: source.kind === 'drawing' ? 'vector' : seen.way,
      groundHex: seen.groundHex,
      noise: Math.round(seen.noise * 10) / 10,
      notes: source.notes,
      sentence: known.sentence ?? ready.sentence,
      markCount,
    };
    const mark: NewMark = {
      brandId,
      name: known.markName ?? nameFromFile(name),
      kind: known.kind ?? (isInk ? 'signature' : 'logo'),
      source: source.kind,
      originalSha: original,
      originalName: name,
      workingSha: working,
      reducedSha: reduced,
      width: source.width,
      height: source.height,
      reducedWidth: ready.reducedWidth,
      recipe,
      findings: ready.judgement.findings,
      found,
    };
    return addMark(tx, mark);
  });
  if (id) return { mark: await findMark(deps.pool, id), isDuplicate: false };
  // The same bytes are there already, or another request with them was first.
  const first = (await findMarkByOriginal(deps.pool, brandId, sha256(bytes))) as string;
  return { mark: await findMark(deps.pool, first), isDuplicate: true };
}

/** A file that was opened, and what is made of it. */
interface Opened {
  readonly kind: 'picture' | 'drawing';
  readonly title: string;
  readonly mediaType: string;
  readonly notes: readonly string[];
  readonly width: number;
  readonly height: number;
  prepare(core: CorePool): Promise<Prepared>;
}
interface Prepared {
  readonly working: Uint8Array;
  readonly reduced: Uint8Array;
  readonly mediaType: string;
  readonly reducedWidth: number;
  readonly judgement: Awaited<ReturnType<CorePool['judgePicture']>>;
  readonly sentence: string;
}

async function openPicture(bytes: Uint8Array, name: string): Promise<Opened> {
  const { kind, raster, notes } = await decodePicture(bytes, name);
  const { width, height } = raster;
  const { title, mediaType } = kind;
  return { kind: 'picture', title, mediaType, notes, width, height, prepare: (core) => preparePicture(raster, core) };
}

async function preparePicture(raster: Raster, core: CorePool): Promise<Prepared> {
  const isLarge = raster.width * raster.height > REDUCE_ABOVE;
  const reduced = isLarge ? await reducePicture(raster, REDUCED_PIXELS) : raster;
  const [working, small, judgement] = await Promise.all([
    encodeWorkingPng(raster),
    isLarge ? encodeWorkingPng(reduced) : null,
    core.judgePicture({ picture: reduced, reduction: raster.width / reduced.width }),
  ]);
  return {
    working,
    reduced: small ?? working,
    mediaType: 'image/png',
    reducedWidth: reduced.width,
    judgement,
    sentence: judgement.sentence,
  };
}

function openDrawing(bytes: Uint8Array, name: string): Opened {
  const drawing = readSvg(bytes, name);
  const [width, height] = [Math.ceil(drawing.widthPx), Math.ceil(drawing.heightPx)];
  const notes: string[] = [];
  return {
    kind: 'drawing',
    title: 'SVG',
    mediaType: 'image/svg+xml',
    notes,
    width,
    height,
    prepare: (core) => prepareDrawing(drawing, width * height, core),
  };
}

async function prepareDrawing(drawing: Drawing, pixels: number, core: CorePool): Promise<Prepared> {
  const width = Math.ceil(drawing.widthPx);
  const reducedWidth =
    pixels > REDUCE_ABOVE ? Math.max(1, Math.round(width * Math.sqrt(REDUCED_PIXELS / pixels))) : width;
  const judgement = await core.judgePicture({ picture: drawing, reduction: width / reducedWidth });
  const working = writeDrawing(drawing);
  const count = drawing.shapes.length;
  const sentence = `Paths, ${count} ${count === 1 ? 'shape' : 'shapes'}: kept as paths, transparent from the start.`;
  return { working, reduced: working, mediaType: 'application/json', reducedWidth, judgement, sentence };
}

/** `Trust_badge-final 2.jpg` becomes `Trust badge final 2`. */
export function nameFromFile(fileName: string): string {
  const stem = fileName
    .replace(/^.*[\\/]/, '')
    .replace(/\.[a-z0-9]+$/i, '')
    .replace(/[_\-\s]+/g, ' ')
    .trim();
  const name = stem ? stem[0].toUpperCase() + stem.slice(1) : 'Unnamed mark';
  return cutToLength(name, 120);
}
