import { CoreError } from '../../core/errors';
import { type PageLine, findLines } from '../../core/documents/findLines';
import { type PageWord, type ScoredLine, scoreLines } from '../../core/documents/chooseLine';
import { type Matrix, multiply } from '../../core/geometry/matrix';
import { type Raster, createRaster } from '../../core/raster/raster';
import { type Document, withPdf } from '../readPdfPage';
import { runOnFile } from '../runProgram';

/** Three pixels to the point: a rule of half a point is dark, and a line is found to a tenth of a millimetre. */
const PX_PER_PT = 3;
const POINTS = 72;
/** More of a page is a poster: looked at more coarsely. */
const MOST_PX = 6000;
/** So many pages are looked at for a line, from the last one on. */
const MOST_PAGES = 40;
/** Below this nobody would sign there. */
const LEAST_SCORE = 12;

export interface SignLine extends ScoredLine {
  /** 1 for the first. */
  readonly page: number;
}

/** Lines that can be signed on one page, the likeliest first. @throws CoreError 'intake/…' naming the file */
export async function linesOfPage(bytes: Uint8Array, name: string, page: number): Promise<SignLine[]> {
  const { words, width, height } = await withPdf(bytes, name, (pdf) => wordsOfPage(pdf, page, name));
  const pxPerPt = Math.min(PX_PER_PT, MOST_PX / Math.max(width, height));
  const lines: PageLine[] = findLines(await drawPage(bytes, page, pxPerPt), pxPerPt);
  return scoreLines(lines, words, { width, height }).map((line) => ({ ...line, page }));
}

/**
 * The line of a document that is most likely the one to be signed; of one page, or of all.
 * @throws CoreError 'document/no-line' saying what to do
 */
export async function findSignLine(bytes: Uint8Array, name: string, page: number | null): Promise<SignLine> {
  const count = await withPdf(bytes, name, async (pdf) => pdf.numPages);
  checkPage(page, count, name);
  const pages = page === null ? Array.from({ length: count }, (_, k) => count - k).slice(0, MOST_PAGES) : [page];
  let best: SignLine | null = null;
  for (const number of pages) {
    const [first] = await linesOfPage(bytes, name, number);
    if (first && first.score >= LEAST_SCORE && first.score > (best?.score ?? -Infinity)) best = first;
  }
  if (best) return best;
  const where = page === null ? 'no page has a line' : `page ${page} has no line`;
  throw new CoreError('document/no-line', `${name}: ${where} to sign on. Say where: --line X,Y in points.`, {
    file: name,
  });
}

export function checkPage(page: number | null, count: number, name: string): void {
  if (page !== null && page > count)
    throw new CoreError('intake/no-page', `${name} has ${count} pages, and no page ${page}.`, { file: name });
}

async function wordsOfPage(pdf: Document, number: number, name: string) {
  checkPage(number, pdf.numPages, name);
  const page = await pdf.getPage(number);
  const { width, height, transform } = page.getViewport({ scale: 1 });
  const { items } = await page.getTextContent();
  const words: PageWord[] = items.flatMap((item) => {
    if (!('str' in item) || item.str.trim() === '') return [];
    const m = multiply(transform as unknown as Matrix, item.transform as unknown as Matrix);
    const size = Math.hypot(m[2], m[3]) || item.height;
    const isLevel = Math.abs(m[1]) < Math.abs(m[0]) * 0.1;
    return isLevel ? [{ text: item.str, x: m[4], y: m[5] - size, width: item.width, height: size }] : [];
  });
  return { words, width, height };
}

/** A page as another program draws it, upright. @param pxPerPt  its pixels to the point */
export async function drawPage(bytes: Uint8Array, page: number, pxPerPt: number): Promise<Raster> {
  const ppm = await runOnFile(
    'pdftoppm',
    bytes,
    (path, folder) => [
      ...['-singlefile', '-cropbox', '-r', String(pxPerPt * POINTS)],
      ...['-f', String(page), '-l', String(page), path, `${folder}/page`],
    ],
    { ending: 'pdf', output: 'page.ppm' },
  );
  return rasterOfPpm(ppm);
}

/** @see the Netpbm project, "PPM format specification": magic number, width, height and 255, then R G B */
function rasterOfPpm(ppm: Buffer): Raster {
  const [head, width, height] = /^P6\s+(\d+)\s+(\d+)\s+255\s/.exec(ppm.toString('latin1', 0, 64)) ?? [];
  if (!head) throw new Error('pdftoppm drew no page');
  const out = createRaster(Number(width), Number(height));
  for (let p = head.length, o = 0; o < out.data.length; p += 3, o += 4) {
    out.data[o] = ppm[p];
    out.data[o + 1] = ppm[p + 1];
    out.data[o + 2] = ppm[p + 2];
    out.data[o + 3] = 255;
  }
  return out;
}

/** The text of a document as a program of other people reads it. */
export const textOf = (bytes: Uint8Array): Promise<Buffer> =>
  runOnFile('pdftotext', bytes, (path) => ['-layout', path, '-'], { ending: 'pdf' });
