import type { FoundView, MarkCard } from '../contract/views';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import type { Drawing } from '../core/artwork/drawing';
import { writeDrawing } from '../core/artwork/readDrawing';
import type { Finding } from '../core/findings/finding';
import { type Inspection, inspectPicture } from '../core/inspect/inspectPicture';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import type { Recipe } from '../core/recipe/recipe';
import { cutToLength } from '../core/text/cutText';
import { checkFile, decodePicture, reducePicture } from '../codecs/decodePicture';
import { encodeWorkingPng } from '../codecs/encodePng';
import { openSvg } from '../codecs/readSvg';
import { describeFindings, describeFound } from './describe';
import { drawThumbnail } from './drawThumbnail';
import { keepBlob, sha256 } from './store/blobs';
import type { Db } from './store/db';
import { type Look, type NewMark, findMarkByOriginal } from './store/marks';

/** Pictures above the first number get a reduction to the second, on which the screen answers while a control moves. */
const REDUCE_ABOVE = 1_200_000;
const REDUCED_PIXELS = 300_000;
/** Working pictures hold no more, so that cutting one out fits the memory that the server may take (docs/adr/0016). */
export const MOST_WORKING_PIXELS = 28_000_000;

/** What is known of a mark beside its file. */
export interface Known {
  readonly markName?: string;
  readonly kind?: MarkCard['kind'];
  /** In place of the sentence that its pixels would give. */
  readonly sentence?: string;
  /** Plain words about where it came from and what could not be kept. */
  readonly notes?: readonly string[];
  /** It takes an original's place, so that one that is there already is no mark of its own. */
  readonly isReplacement?: boolean;
}

/** A mark that is ready to be stored, its blobs kept already; or the one that the same file made before. */
export type PreparedMark = { readonly mark: NewMark } | { readonly duplicateOf: string };

/**
 * Prepares a file to become a mark, in a thread: checks and decodes it, keeps the original byte for byte, makes the
 * working and the reduced picture or the working drawing, and judges what it is.
 * @param name  the file's own name, for the mark's name and for messages
 * @throws CoreError 'intake/…' naming the file
 */
export async function prepareMark(
  db: Db,
  brandId: string,
  bytes: Uint8Array,
  name: string,
  known: Known = {},
): Promise<PreparedMark> {
  const there = known.isReplacement ? null : await findMarkByOriginal(db, brandId, sha256(bytes));
  if (there) return { duplicateOf: there };
  const source = checkFile(bytes, name).id === 'svg' ? openDrawing(bytes, name) : await openPicture(bytes, name);
  const ready = await source.prepare();
  const { seen, recipe, markCount } = ready.judgement;
  const isInk = recipe.stages.cutOut.way === 'paper';
  const found: FoundView = {
    format: source.title,
    way: source.kind === 'drawing' ? 'vector' : seen.way,
    groundHex: seen.groundHex,
    noise: Math.round(seen.noise * 10) / 10,
    notes: [...(known.notes ?? []), ...source.notes],
    sentence: known.sentence ?? ready.sentence,
    markCount,
  };
  const originalSha = await keepBlob(db, bytes, source.mediaType);
  const workingSha = await keepBlob(db, ready.working, ready.mediaType);
  return {
    mark: {
      brandId,
      name: known.markName ?? nameFromFile(name),
      kind: known.kind ?? (isInk ? 'signature' : 'logo'),
      source: source.kind,
      originalSha,
      originalName: name,
      workingSha,
      reducedSha: ready.reduced === ready.working ? workingSha : await keepBlob(db, ready.reduced, ready.mediaType),
      width: source.width,
      height: source.height,
      reducedWidth: ready.reducedWidth,
      found,
      look: await keepLook(db, ready.judgement),
      recipe,
    },
  };
}

/** The first thumbnail costs little here, where everything is at hand; without a result it is made when asked for. */
async function keepLook(db: Db, { findings, master }: Judgement): Promise<Look> {
  if (!master) return { findings, thumbnailSha: null };
  return { findings, thumbnailSha: await keepBlob(db, await drawThumbnail(master), 'image/png') };
}

interface Judgement {
  readonly master: Artwork | null;
  readonly seen: Inspection;
  readonly recipe: Recipe;
  readonly findings: readonly Finding[];
  readonly sentence: string;
  readonly markCount: number;
}

/** What a picture or drawing is, the recipe to start with, and what that makes of it. */
function judge(artwork: Artwork): Judgement {
  const seen = inspectPicture(artwork.raster);
  const way = artwork.drawing ? 'transparent' : seen.way;
  const { recipe, result, markCount } = proposeRecipe(artwork, artwork.reduction, way);
  return {
    seen,
    recipe,
    findings: result ? describeFindings(result) : [],
    master: result?.master ?? null,
    sentence: describeFound(seen, recipe, result),
    markCount,
  };
}

/** A file that was opened, before the long part of the work. */
interface Opened {
  readonly kind: NewMark['source'];
  readonly title: string;
  readonly mediaType: string;
  readonly notes: readonly string[];
  readonly width: number;
  readonly height: number;
  prepare(): Promise<Prepared>;
}

interface Prepared {
  readonly working: Uint8Array;
  readonly reduced: Uint8Array;
  readonly mediaType: string;
  readonly reducedWidth: number;
  readonly judgement: Judgement;
  readonly sentence: string;
}

async function openPicture(bytes: Uint8Array, name: string): Promise<Opened> {
  const { kind, raster, notes } = await decodePicture(bytes, name, MOST_WORKING_PIXELS);
  const { width, height } = raster;
  const { title, mediaType } = kind;
  const prepare = async (): Promise<Prepared> => {
    const isLarge = width * height > REDUCE_ABOVE;
    const reduced = isLarge ? await reducePicture(raster, REDUCED_PIXELS) : raster;
    const working = await encodeWorkingPng(raster);
    const judgement = judge(artworkOfRaster(reduced, width / reduced.width));
    return {
      working,
      reduced: isLarge ? await encodeWorkingPng(reduced) : working,
      mediaType: 'image/png',
      reducedWidth: reduced.width,
      judgement,
      sentence: judgement.sentence,
    };
  };
  return { kind: 'picture', title, mediaType, notes, width, height, prepare };
}

function openDrawing(bytes: Uint8Array, name: string): Opened {
  const { drawing, notes } = openSvg(bytes, name);
  const [width, height] = [Math.ceil(drawing.widthPx), Math.ceil(drawing.heightPx)];
  const mediaType = 'image/svg+xml';
  const prepare = async () => prepareDrawing(drawing, width, height);
  return { kind: 'drawing', title: 'SVG', mediaType, notes, width, height, prepare };
}

function prepareDrawing(drawing: Drawing, width: number, height: number): Prepared {
  const pixels = width * height;
  const reducedWidth =
    pixels > REDUCE_ABOVE ? Math.max(1, Math.round(width * Math.sqrt(REDUCED_PIXELS / pixels))) : width;
  const judgement = judge(artworkOfDrawing(drawing, width / reducedWidth));
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
