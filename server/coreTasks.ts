import { crc32 } from 'node:zlib';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { readDrawing } from '../core/artwork/readDrawing';
import { rgbFromHex } from '../core/colour/hex';
import { CoreError } from '../core/errors';
import { meantGround } from '../core/contrast/meantGround';
import { outlineMark } from '../core/contrast/standing';
import { formats } from '../core/formats';
import { printSvg } from '../core/formats/svg';
import { bleedColours } from '../core/raster/bleedColours';
import { extentsOf } from '../core/artwork/extentsOf';
import { layOutFile, makeFile as makeBytes } from '../core/recipe/makeFile';
import { pageNeeds } from '../core/recipe/needs';
import { type FileOrder, treated } from '../core/recipe/fileOrder';
import { type MarkParts, type PlannedFile, planFiles } from '../core/recipe/planFiles';
import { type Recipe, readRecipe } from '../core/recipe/recipe';
import { announce, keepFile } from './store/deliveries';
import { type RunOptions, makeVariant, runStages } from '../core/recipe/runRecipe';
import { type StageCache, createStageCache } from '../core/recipe/stageCache';
import { checkBody, makeMarkRequest } from '../contract/requests';
import { type BoardGround, boardPdf, boardPng } from '../codecs/board';
import { decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import { readBackPng } from '../codecs/readBackPng';
import { readBackSvg } from '../codecs/readBackSvg';
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
export function forgetAll(): void {
  cache = createStageCache(KEPT_BYTES);
  opened = null;
}

export async function openSource({ db }: TaskHost, { sha, kind, reduction }: TaskSource): Promise<Artwork> {
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

export const optionsOf = ({ shouldStop }: TaskHost, { sha }: TaskSource): RunOptions => ({
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
  const context = { palette: task.palette };
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
/** The background that a kept picture is meant for, a colour. */
export async function findMeantGround(host: TaskHost, { blobSha, name }: KeptTask): Promise<string> {
  const { bytes } = await readBlob(host.db, blobSha);
  return meantGround(outlineMark((await decodePicture(bytes, name, MEANT_PIXELS)).raster));
}
export interface KeptTask {
  readonly blobSha: string;
  readonly name: string;
}
/** Contrast is measured on a smaller picture as well. */
const MEANT_PIXELS = 500_000;

/** A photo on a board is shown no larger. */
const BOARD_PHOTO_PIXELS = 1_000_000;

/** Files of one mark, which share its master. */
export interface FilesTask {
  readonly delivery: string;
  readonly markId: string;
  readonly source: TaskSource;
  readonly recipe: Recipe;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** What names tell of all of them. */
  readonly names: MarkParts;
  /** Before every name. */
  readonly folder: string;
  /** The number of the mark's first file among all of the delivery. */
  readonly first: number;
  /** Which of the mark's own files are to be made. */
  readonly wanted: readonly number[];
}

export type FilesEnd =
  | { readonly end: 'made' | 'cancelled' }
  /** A page turned out to need more than was put aside: how large it is shows only once the mark is cut out. */
  | { readonly end: 'more'; readonly needsBytes: number; readonly left: readonly number[] };

/** Delivered files, each written, read back and kept as soon as it is made. */
export async function makeFiles(host: TaskHost, task: FilesTask): Promise<FilesEnd> {
  const { source, recipe: raw, names, folder, first, wanted } = task;
  const recipe = readRecipe(raw);
  const plan = planFiles(recipe, names);
  const artwork = await openSource(host, source);
  const drawnOnes = new Map<string, Artwork>();
  for (const [k, number] of wanted.entries()) {
    const file = plan[number];
    const { order, line, variant } = file;
    const drawn = drawFor(host, { artwork, recipe, task, file }, drawnOnes);
    const needsBytes = fileNeeds(drawn, order);
    if (needsBytes > host.needsBytes) return { end: 'more', needsBytes, left: wanted.slice(k) };
    const made = await makeBytes(drawn, order, formatHost);
    const { widthPx, heightPx, ppi } = made.content;
    const name = `${folder}${file.name({ width: Math.round(widthPx), height: Math.round(heightPx), ppi })}`;
    const receipt = await readBack(made.bytes, made, order.format, name);
    const blobSha = await keepBlob(host.db, made.bytes, formats.get(order.format.id).mimeType);
    const isWanted = await keepFile(host.db, task.delivery, {
      ...{ position: first + number, name, markId: task.markId, variant: variant.name, purpose: line.purpose },
      ...{ blobSha, size: made.bytes.length, crc32: crc32(made.bytes), receipt },
    });
    if (!isWanted) return { end: 'cancelled' };
    await announce(host.db, task.delivery);
  }
  return { end: 'made' };
}

/** One file of a mark by its size line: of a pair the first. */
export interface LineTask extends Pick<FilesTask, 'source' | 'recipe' | 'palette' | 'names'> {
  readonly lineId: string;
}

/** The file of one size line, written, read back and kept. @throws CoreError 'store/not-found' without such a line */
export async function makeLine(host: TaskHost, task: LineTask): Promise<{ blobSha: string; size: number }> {
  const recipe = readRecipe(task.recipe);
  const file = planFiles(recipe, task.names).find((f) => f.line.id === task.lineId);
  if (!file) throw new CoreError('store/not-found', 'The mark has no such size line any more.');
  const artwork = await openSource(host, task.source);
  const drawn = drawFor(host, { artwork, recipe, task, file }, new Map());
  const needsBytes = fileNeeds(drawn, file.order);
  if (needsBytes > host.needsBytes)
    throw new CoreError('memory/too-little', 'A file of this size is delivered, but has no live address.');
  const made = await makeBytes(drawn, file.order, formatHost);
  await readBack(made.bytes, made, file.order.format, file.line.id);
  const blobSha = await keepBlob(host.db, made.bytes, formats.get(file.order.format.id).mimeType);
  return { blobSha, size: made.bytes.length };
}

interface Drawing {
  readonly artwork: Artwork;
  readonly recipe: Recipe;
  readonly task: Pick<FilesTask, 'source' | 'palette'>;
  readonly file: PlannedFile;
}

/** A variant as its file shows it, made once for all files that show it so. */
function drawFor(host: TaskHost, { artwork, recipe, task, file }: Drawing, known: Map<string, Artwork>): Artwork {
  const own = treated(file.variant, file.order);
  const asPaths = formats.get(file.order.format.id).accepts === 'paths';
  const key = JSON.stringify([own.fill, own.surrounds, own.casts, asPaths]);
  const before = known.get(key);
  if (before) return before;
  const options = { ...optionsOf(host, task.source), pictureOnly: true, asPaths };
  const drawn = makeVariant(artwork, recipe, own, options, { palette: task.palette });
  // Lines of one variant come one after another: an older one is hardly asked for again.
  known.clear();
  known.set(key, drawn);
  return drawn;
}

function fileNeeds(drawn: Artwork, order: FileOrder): number {
  const extents = extentsOf(drawn);
  if (!extents || formats.get(order.format.id).accepts === 'paths') return 0;
  return drawn.raster.data.length + pageNeeds(layOutFile(extents, order, drawn.drawing !== null));
}

/** A mark's master as an SVG; null where it is pixels. */
export async function masterSvg(
  host: TaskHost,
  { source, recipe: raw }: Pick<PictureTask, 'source' | 'recipe'>,
): Promise<Uint8Array | null> {
  const { stages } = readRecipe(raw);
  const { master } = runStages(await openSource(host, source), stages, optionsOf(host, source));
  const drawing = master.drawing ?? master.outlines;
  if (!drawing) return null;
  const text = printSvg(drawing, { widthPx: drawing.widthPx, heightPx: drawing.heightPx, ppi: null });
  const bytes = new TextEncoder().encode(text);
  readBackSvg(bytes, 'master.svg');
  return bytes;
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
