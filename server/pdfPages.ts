import { execFile } from 'node:child_process';
import type { MarkCard, PageView, PdfView } from '../contract/views';
import { clustersOfDrawing } from '../core/artwork/drawingClusters';
import { type Paint, placeDrawing } from '../core/artwork/drawing';
import { CoreError } from '../core/errors';
import { printSvg } from '../core/formats/svg';
import { scaling } from '../core/geometry/matrix';
import type { RectPx } from '../core/params';
import { boundsOfPath, printPath } from '../core/vector/path';
import { encodeWorkingPng } from '../codecs/encodePng';
import { WORKING_LONG_PX } from '../codecs/readSvg';
import { type PdfPage, pickFromPage, readPdfPage, readPdfPages } from '../codecs/readPdfPage';
import { isPdf } from '../codecs/sniffKind';
import { readPdfPicture } from '../codecs/readPdfPicture';
import { type PreparedMark, prepareMark } from './prepareMark';
import { keepBlob, readBlob } from './store/blobs';
import type { Db } from './store/db';

const PDF = 'application/pdf';
/** So many pages of a file are offered. */
const MOST_PAGES = 300;
/** So much path data of a page travels to the screen; what is more is shown by its box alone. */
const MOST_PATH_CHARS = 4_000_000;
const MOST_OBJECTS = 20_000;
const DRAW_MS = 20_000;
const MOST_PICTURE_BYTES = 64 * 1024 * 1024;

export interface PdfPageTask {
  readonly sha: string;
  /** The file's own, for messages. */
  readonly name: string;
  /** 1 for the first. */
  readonly page: number;
}

export interface PickTask extends PdfPageTask {
  readonly brandId: string;
  readonly markName: string;
  readonly kind?: MarkCard['kind'];
  /** Numbers of the page's objects, or of one of its pictures. */
  readonly objects: readonly number[];
  readonly picture: number | null;
}

/** Keeps a PDF file for a day and says which pages it has. @throws CoreError 'intake/…' naming the file */
export async function openPdf(db: Db, bytes: Uint8Array, name: string): Promise<PdfView> {
  if (!isPdf(bytes)) throw new CoreError('intake/unsupported', `${name} is no PDF file.`, { file: name });
  const pages = await readPdfPages(bytes, name);
  return { sha: await keepBlob(db, bytes, PDF), name, pages: pages.slice(0, MOST_PAGES), pageCount: pages.length };
}

async function readPdf(db: Db, sha: string, name: string): Promise<Uint8Array> {
  const { bytes, mediaType } = await readBlob(db, sha);
  if (mediaType !== PDF) throw new CoreError('store/not-found', `${name} is not there any more. Drop it again.`);
  return bytes;
}

/** What can be picked on a page. */
export async function describePage(db: Db, { sha, name, page: number }: PdfPageTask): Promise<PageView> {
  const page = await readPdfPage(await readPdf(db, sha, name), name, number);
  if (page.shapes.length > MOST_OBJECTS)
    throw new CoreError('intake/unsupported', `${name}: page ${number} holds too much to be picked from.`, {
      file: name,
    });
  const { widthPt, heightPt, shapes, texts, pictures } = page;
  const clusters = clustersOfDrawing({ widthPx: widthPt, heightPx: heightPt, shapes });
  let chars = 0;
  const objects = shapes.map((shape) => {
    const box = boundsOfPath(shape.path) as RectPx;
    const d = chars < MOST_PATH_CHARS ? printPath(shape.path, 2) : boxData(box);
    chars += d.length;
    return { d, box, rule: shape.rule, colour: colourOf(shape.paint), opacity: shape.opacity };
  });
  return {
    widthPt,
    heightPt,
    objects,
    groups: clusters.map(({ members, box }) => ({ objects: members, box })),
    texts,
    pictures: pictures.map(({ x, y, width, height, source }) => ({ x, y, width, height, canTake: source !== null })),
  };
}

const boxData = ({ x, y, width: w, height: h }: RectPx) => `M${x} ${y}h${w}v${h}h${-w}Z`;
const colourOf = (paint: Paint) =>
  paint.kind === 'colour' ? paint.hex : (paint.stops[paint.stops.length >> 1]?.hex ?? '#000000');

/** A page as it looks, drawn by poppler: with its text and pictures. @returns PNG */
export async function drawPage(db: Db, task: PdfPageTask & { longPx: number }): Promise<Uint8Array> {
  const bytes = await readPdf(db, task.sha, task.name);
  const args = ['-png', '-f', `${task.page}`, '-l', `${task.page}`, '-scale-to', `${task.longPx}`, '-'];
  return new Promise((resolve, reject) => {
    const options = { encoding: 'buffer' as const, timeout: DRAW_MS, maxBuffer: MOST_PICTURE_BYTES };
    const child = execFile('pdftoppm', args, options, (error, out) => {
      if (!error && out.length > 0) return resolve(out);
      const message = `${task.name}: page ${task.page} cannot be drawn. Its paths can be picked all the same.`;
      reject(new CoreError('intake/damaged', message, { file: task.name }, { cause: error }));
    });
    // It may be gone before it has read all: that is told by its end.
    child.stdin?.on('error', () => {});
    child.stdin?.end(bytes);
  });
}

/** What was picked on a page, made ready to become a mark: paths as an SVG of their own, a picture as a PNG. */
export async function preparePicked(db: Db, task: PickTask): Promise<PreparedMark> {
  const { sha, name, page: number, brandId, markName, kind } = task;
  const bytes = await readPdf(db, sha, name);
  const stem = `${name.replace(/\.pdf$/i, '')} page ${number}`;
  if (task.picture !== null) {
    const png = await encodeWorkingPng(await readPdfPicture(bytes, name, number, task.picture));
    return prepareMark(db, brandId, png, `${stem}.png`, { markName, kind });
  }
  const page = await readPdfPage(bytes, name, number);
  const { svg, texts } = pickedSvg(page, task.objects, name);
  const notes = [
    `from page ${number} of ${name}`,
    ...(texts > 0 ? ['text whose letters are no paths stood among it and was left out'] : []),
  ];
  return prepareMark(db, brandId, svg, `${stem}.svg`, { markName, kind, notes });
}

function pickedSvg(page: PdfPage, objects: readonly number[], name: string) {
  const wanted = new Set(objects);
  const picked = pickFromPage({ ...page, shapes: page.shapes.filter((_, k) => wanted.has(k)) }, null);
  if (!picked) throw new CoreError('intake/no-paths', `${name}: nothing was picked on this page.`, { file: name });
  const { widthPx, heightPx } = picked.drawing;
  // Larger than on the page, so that what is written is as fine as the page's own numbers.
  const grown = WORKING_LONG_PX / Math.max(widthPx, heightPx);
  const drawing = placeDrawing(picked.drawing, scaling(grown), widthPx * grown, heightPx * grown);
  return { svg: new TextEncoder().encode(printSvg(drawing, { ...drawing, ppi: null })), texts: picked.texts };
}
