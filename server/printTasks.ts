import type { LineView, SheetOrderView } from '../contract/views';
import { extentsOf } from '../core/artwork/extentsOf';
import { CoreError } from '../core/errors';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { readLength } from '../core/placements/lengths';
import { readAt } from '../core/placements/readPlacement';
import { makeFile } from '../core/recipe/makeFile';
import { partOf, readRecipe, variantOf } from '../core/recipe/recipe';
import { makeVariant } from '../core/recipe/runRecipe';
import { INKS, type Ink } from '../core/documents/signatureBox';
import { readMat, turnedFor } from '../core/sheets/mat';
import { readPaper } from '../core/sheets/paper';
import { sizes } from '../core/sizes';
import { type Surface, renderSurface } from '../core/surfaces/renderSurface';
import { markAtWidth } from '../core/contrast/placeMark';
import { bleedColours } from '../core/raster/bleedColours';
import { encodePng } from '../codecs/encodePng';
import { linesOfPage } from '../codecs/documents/openDocument';
import { type Stamp, signPdf } from '../codecs/documents/signPdf';
import { typedStamp } from '../codecs/documents/typedStamp';
import { decodePicture } from '../codecs/decodePicture';
import { formatHost } from '../codecs/formatHost';
import { writeSheet } from '../codecs/writeSheet';
import { type TaskHost, openSource, optionsOf } from './coreTasks';
import { type PlacedMark, drawVariantOf } from './placeTasks';
import { readBlob } from './store/blobs';

export interface SheetTask extends Omit<SheetOrderView, 'markId' | 'groundId'> {
  readonly mark: PlacedMark;
  /** A photo by its content; blank paper without one. */
  readonly photoSha: string | null;
  readonly name: string;
}

/** A mark on a print sheet, as a file. */
export async function makeSheet(host: TaskHost, task: SheetTask): Promise<Uint8Array> {
  const mark = await drawVariantOf(host, task.mark, task.variant);
  const mat = task.mat ? readMat(task.mat) : null;
  const paper = readPaper(task.paper);
  const photo = task.photoSha
    ? (await decodePicture((await readBlob(host.db, task.photoSha)).bytes, 'photo')).raster
    : null;
  const order = {
    ...{ paper: mat ? turnedFor(paper, mat) : paper, ppi: task.ppi, mat, at: readAt(task.at, 'at') },
    ...{ inset: readLength(task.inset, 'inset'), size: readLength(task.size, 'size', 0.01) },
  };
  const content = { mark, photo, ground: '#ffffff', opacity: 1 };
  return (await writeSheet(content, order, partOf(formats, task.format), task.name)).bytes;
}

export interface LinesTask {
  readonly sha: string;
  readonly name: string;
  readonly page: number;
}

/** So many lines of a page are offered. */
const MOST_LINES = 12;

/** Lines of a page that can be signed, the likeliest first. */
export async function findPageLines({ db }: TaskHost, { sha, name, page }: LinesTask): Promise<LineView[]> {
  const { bytes } = await readBlob(db, sha);
  return (await linesOfPage(bytes, name, page))
    .slice(0, MOST_LINES)
    .map(({ x, y, width, room, score, words }) => ({ x, y, width, room, score, words }));
}

export interface SignTask {
  readonly mark: PlacedMark;
  readonly ink: Ink;
  readonly sha: string;
  readonly name: string;
  readonly typed: readonly { readonly text: string; readonly page: number; readonly x: number; readonly y: number }[];
  readonly places: readonly {
    readonly page: number;
    readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  }[];
}

/** A document with a signature on it, as paths. */
export async function signDocument(
  host: TaskHost,
  { mark, ink, sha, name, places, typed }: SignTask,
): Promise<Uint8Array> {
  const { bytes } = await readBlob(host.db, sha);
  const recipe = readRecipe(mark.recipe);
  const artwork = await openSource(host, mark.source);
  const stages = artwork.drawing
    ? recipe.stages
    : {
        ...recipe.stages,
        trace: { ...recipe.stages.trace, use: 'all' as const, ...(ink === 'own' ? {} : { colours: 1 }) },
      };
  const fill = ink === 'own' ? partOf(fills, 'asIs') : partOf(fills, 'oneColour', { colour: INKS[ink] });
  const options = { ...optionsOf(host, mark.source), pictureOnly: true };
  const context = { palette: mark.palette };
  const drawn = makeVariant(
    artwork,
    { ...recipe, stages },
    variantOf('signature', 'signature', fill),
    options,
    context,
  );
  const extents = extentsOf(drawn);
  if (!extents) throw new CoreError('cutout/nothing-left');
  const format = partOf(formats, 'pdf', { embed: drawn.drawing === null });
  const size = partOf(sizes, 'width', { widthPx: Math.max(8, Math.round(extents.width)) });
  const { bytes: pdf } = await makeFile(drawn, { size, format }, formatHost);
  const stamps: Stamp[] = places.map(({ page, box }) => ({ pdf, page, box }));
  for (const { text, page, ...at } of typed)
    stamps.push(await typedStamp(text, page, at, ink === 'own' ? INKS.black : INKS[ink]));
  return signPdf(bytes, name, stamps);
}

export interface SurfaceTask {
  readonly mark: PlacedMark;
  readonly variant: string;
  readonly surface: Surface;
  /** The mark is drawn so wide before it is put on. */
  readonly markPx: number;
}

/** A mark on a body, and where on the picture it is; PNG both. */
export async function makeSurface(
  host: TaskHost,
  { mark, variant, surface, markPx }: SurfaceTask,
): Promise<{ colours: Uint8Array; mask: Uint8Array }> {
  const laid = markAtWidth(await drawVariantOf(host, mark, variant), markPx);
  const { colours, mask } = renderSurface(laid, surface);
  return { colours: await encodePng(bleedColours(colours)), mask: await encodePng(mask, null, { isGrey: true }) };
}
