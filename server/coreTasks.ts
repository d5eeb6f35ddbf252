import { crc32 } from 'node:zlib';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { readDrawing } from '../core/artwork/readDrawing';
import { rgbFromHex } from '../core/colour/hex';
import { formats } from '../core/formats';
import type { FileReceipt } from '../core/formats/receipt';
import { bleedColours } from '../core/raster/bleedColours';
import { extentsOf } from '../core/artwork/extentsOf';
import { layOutFile, makeFile as makeBytes } from '../core/recipe/makeFile';
import { pageNeeds } from '../core/recipe/needs';
import { type FileOrder, treated } from '../core/recipe/fileOrder';
import { type Recipe, readRecipe } from '../core/recipe/recipe';
import { type RunOptions, makeVariant, runStages } from '../core/recipe/runRecipe';
import { type StageCache, createStageCache } from '../core/recipe/stageCache';
import { checkBody, makeMarkRequest } from '../contract/requests';
import { type BoardGround, boardPdf, boardPng } from '../codecs/board';
import { decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import { readBackPng } from '../codecs/readBackPng';
import { describeFindings } from './describe';
import { drawThumbnail } from './drawThumbnail';
import { makeArtwork } from './makeArtwork';
import { type Known, type PreparedMark, prepareMark } from './prepareMark';
import { parseJson } from './parseJson';
import * as pdf from './pdfPages';
import * as ground from './prepareGround';
import { keepBlob, readBlob } from './store/blobs';
import type { Db } from './store/db';
import type { MarkPictures } from './store/marks';
import { type KeptPicture, type PictureKind, keepPicture } from './store/pictures';

/** What a task works with: its thread's own connection, so that no picture passes through the event loop. */
export interface TaskHost {
  readonly db: Db;
  readonly shouldStop: () => boolean;
  /** Memory that was put aside for the task, bytes. */
  readonly needsBytes: number;
}

/** What stages start from: a mark's working picture or drawing, or a reduction of it. */
export interface TaskSource {
  readonly sha: string;
  readonly kind: MarkPictures['source'];
  readonly reduction: number;
}

/** What stays of one large picture between two tasks of a thread; more is let go when the task is done. */
const KEPT_BYTES = 160 * 1024 * 1024;

// Threads serve one task after another, so the newest opened source and its stage outputs are worth keeping.
let cache: StageCache = createStageCache(KEPT_BYTES);
let opened: { key: string; artwork: Artwork } | null = null;

/** Lets go of everything that was kept: after a fault nobody knows what it is worth. */
/** Lines of one variant come one after another. */
let drawnLast: { readonly key: string; readonly drawn: Artwork } | null = null;

export function forgetAll(): void {
  drawnLast = null;
  cache = createStageCache(KEPT_BYTES);
  opened = null;
}

async function openSource({ db }: TaskHost, { sha, kind, reduction }: TaskSource): Promise<Artwork> {
  const key = `${sha}@${reduction}`;
  if (opened?.key !== key) {
    forgetAll();
    const { bytes } = await readBlob(db, sha);
    const artwork =
      kind === 'drawing'
        ? artworkOfDrawing(readDrawing(bytes), reduction)
        : artworkOfRaster((await decodePicture(bytes, 'picture.png')).raster, reduction);
    opened = { key, artwork };
  }
  return opened.artwork;
}

const optionsOf = ({ shouldStop }: TaskHost, { sha }: TaskSource): RunOptions => ({
  pictureKey: sha,
  cache,
  shouldStop,
});

export interface FileTask {
  readonly brandId: string;
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly known?: Known;
}

/** A file that was dropped, made ready to become a mark. */
export const prepareFile = ({ db }: TaskHost, { brandId, bytes, name, known }: FileTask): Promise<PreparedMark> =>
  prepareMark(db, brandId, bytes, name, known);

export interface MadeTask {
  readonly brandId: string;
  /** The request, JSON. */
  readonly body: Uint8Array;
}

/** The same of what was drawn or typed. */
export async function prepareMade({ db }: TaskHost, { brandId, body }: MadeTask): Promise<PreparedMark> {
  const request = await checkBody(makeMarkRequest, parseJson(new TextDecoder().decode(body)));
  const { bytes, name, known } = await makeArtwork(request);
  return prepareMark(db, brandId, bytes, name, known);
}

export interface PdfTask {
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** A PDF file that marks are to be taken from, and what is on its pages. */
export const openPdf = ({ db }: TaskHost, { bytes, name }: PdfTask) => pdf.openPdf(db, bytes, name);
export const describePage = ({ db }: TaskHost, task: pdf.PdfPageTask) => pdf.describePage(db, task);
export const drawPage = ({ db }: TaskHost, task: pdf.PdfPageTask & { longPx: number }) => pdf.drawPage(db, task);
export const preparePicked = ({ db }: TaskHost, task: pdf.PickTask) => pdf.preparePicked(db, task);

/** A photo that marks are to be shown on. */
export const prepareGround = ({ db }: TaskHost, { bytes, name }: PdfTask) => ground.prepareGround(db, bytes, name);

export interface BoardTask {
  readonly source: TaskSource;
  readonly recipe: Recipe;
  readonly format: 'png' | 'pdf';
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly grounds: readonly { readonly name: string; readonly hex: string | null; readonly sha: string | null }[];
}

/** A mark's variants on grounds, as one picture or PDF. */
export async function makeBoard(host: TaskHost, task: BoardTask): Promise<Uint8Array> {
  const recipe = readRecipe(task.recipe);
  const artwork = await openSource(host, task.source);
  const isPdf = task.format === 'pdf';
  const options = { ...optionsOf(host, task.source), pictureOnly: true, asPaths: isPdf };
  const context = { palette: task.palette, density: null };
  const variants = recipe.variants.map((variant) => ({
    name: variant.name,
    artwork: makeVariant(artwork, recipe, variant, options, context),
  }));
  const grounds: BoardGround[] = [];
  for (const { name, hex, sha } of task.grounds) {
    if (hex !== null) grounds.push({ name, value: rgbFromHex(hex) });
    else {
      const { bytes } = await readBlob(host.db, sha as string);
      grounds.push({ name, value: (await decodePicture(bytes, `${name}.jpg`, BOARD_PHOTO_PIXELS)).raster });
    }
  }
  const { bytes } = await (isPdf ? boardPdf : boardPng)({ variants, grounds, columns: null });
  return bytes;
}
/** A photo on a board is shown no larger. */
const BOARD_PHOTO_PIXELS = 1_000_000;

export interface LineTask {
  readonly source: TaskSource;
  readonly recipe: Recipe;
  /** The id of the variant. */
  readonly variant: string;
  readonly order: FileOrder;
  /** For messages. */
  readonly name: string;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
}
export interface MadeFile {
  readonly blobSha: string;
  readonly size: number;
  readonly crc32: number;
  readonly receipt: FileReceipt;
  /** Size of the page, px. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly ppi: number | null;
}

/** What the page turned out to need, more than was put aside: how large it is shows only once the mark is cut out. */
export interface NeedsMore {
  readonly needsBytes: number;
}

/** One delivered file, written, read back and kept. */
export async function makeFile(host: TaskHost, task: LineTask): Promise<MadeFile | NeedsMore> {
  const { source, recipe: raw, order, name, palette } = task;
  const recipe = readRecipe(raw);
  const variant = recipe.variants.find((v) => v.id === task.variant);
  if (!variant) throw new Error(`No variant ${task.variant}`);
  const artwork = await openSource(host, source);
  const format = formats.get(order.format.id);
  const options = { ...optionsOf(host, source), pictureOnly: true, asPaths: format.accepts === 'paths' };
  const own = treated(variant, order);
  const { fill, surrounds, casts } = own;
  const key = JSON.stringify([source, recipe.stages, fill, surrounds, casts, palette, options.asPaths]);
  const drawn =
    drawnLast?.key === key ? drawnLast.drawn : makeVariant(artwork, recipe, own, options, { palette, density: null });
  drawnLast = { key, drawn };
  const extents = extentsOf(drawn);
  if (extents && format.accepts !== 'paths') {
    const needsBytes = drawn.raster.data.length + pageNeeds(layOutFile(extents, order, drawn.drawing !== null));
    if (needsBytes > host.needsBytes) return { needsBytes };
  }
  const made = await makeBytes(drawn, order, formatHost);
  const receipt = await readBack(made.bytes, made, order.format, name);
  const { widthPx, heightPx, ppi } = made.content;
  const blobSha = await keepBlob(host.db, made.bytes, format.mimeType);
  return { blobSha, size: made.bytes.length, crc32: crc32(made.bytes), receipt, widthPx, heightPx, ppi };
}

export interface PictureTask {
  readonly key: string;
  readonly kind: PictureKind;
  readonly source: TaskSource;
  readonly recipe: Recipe;
}

/** A picture of a mark for the screen, kept under its key. */
export async function makePicture(host: TaskHost, task: PictureTask): Promise<KeptPicture> {
  const make = { master: makeMaster, whole: makeMaster, thumbnail: makeThumbnail }[task.kind];
  const { png, findings } = await make(host, task);
  const picture = { blobSha: await keepBlob(host.db, png, 'image/png'), findings };
  await keepPicture(host.db, task.key, task.source.sha, picture);
  return picture;
}

interface MadePicture {
  readonly png: Uint8Array;
  readonly findings: KeptPicture['findings'];
}

/** The master on its own grid, at the source's size. */
async function makeMaster(host: TaskHost, { source, recipe: raw }: PictureTask): Promise<MadePicture> {
  const { stages } = readRecipe(raw);
  const result = runStages(await openSource(host, source), stages, optionsOf(host, source));
  const { master } = result;
  const whole = bleedColours({ ...master.raster, data: master.raster.data.slice() }, master.within);
  const png = await encodePng(whole);
  readBackPng(png, whole, 'master');
  return { png, findings: describeFindings(result) };
}

/** The trimmed master at card size, and what was found on the way. */
async function makeThumbnail(host: TaskHost, { source, recipe: raw }: PictureTask): Promise<MadePicture> {
  const { stages } = readRecipe(raw);
  const result = runStages(await openSource(host, source), stages, optionsOf(host, source));
  return { png: await drawThumbnail(result.master), findings: describeFindings(result) };
}
