import { CoreError } from '../errors';
import type { RectPx } from '../params';
import type { Extent } from '../sizes/size';
import { isWide, readPaper, turnedPaper } from './paper';

/** A mat round a sheet, mm: its outer size, and the window cut into it. */
export interface Mat {
  readonly outer: Extent;
  readonly opening: Extent;
}

/** Less of the sheet under the mat than this does not hold, mm a side. */
export const LEAST_OVERLAP_MM = 2;

/** `OUTER:OPENING`, such as "11x14in:9.5x7.5in". @throws CoreError 'size/impossible' */
export function readMat(text: string): Mat {
  const [outer, opening, ...rest] = text.split(':');
  if (!opening || rest.length > 0)
    throw new CoreError('size/impossible', `A mat is such as 11x14in:9.5x7.5in, got "${text}".`);
  const [whole, window] = [readPaper(outer), readPaper(opening)];
  // Mats are sold by their upright size, and hung as the window lies.
  const lying = isWide(window) === isWide(whole) ? whole : turnedPaper(whole);
  if (window.width >= lying.width || window.height >= lying.height)
    throw new CoreError('size/impossible', `The opening of the mat "${text}" is as large as the mat itself.`);
  return { outer: lying, opening: window };
}

/** A sheet behind a mat: mm of the sheet, from its upper left corner. */
export interface Framed {
  /** What shows of the sheet. */
  readonly opening: RectPx;
  /** Of the sheet under the mat, the least of all sides; below 0 the sheet does not fill the opening. */
  readonly overlap: number;
}

/**
 * What a mat leaves to be seen of a sheet in its middle.
 * @throws CoreError 'size/impossible' where the opening is larger than the sheet, or the sheet than the mat
 */
export function frameSheet(sheet: Extent, { outer, opening }: Mat): Framed {
  const [dx, dy] = [(sheet.width - opening.width) / 2, (sheet.height - opening.height) / 2];
  const text = ({ width, height }: Extent) => `${round(width)} × ${round(height)} mm`;
  if (Math.min(dx, dy) < 0)
    throw new CoreError(
      'size/impossible',
      `The opening, ${text(opening)}, shows beyond the sheet, ${text(sheet)}. Choose a larger sheet, or turn it.`,
    );
  if (sheet.width > outer.width || sheet.height > outer.height)
    throw new CoreError('size/impossible', `The sheet, ${text(sheet)}, is larger than the mat, ${text(outer)}.`);
  return { opening: { x: dx, y: dy, ...opening }, overlap: Math.min(dx, dy) };
}

/** A sheet turned as the window of its mat lies, where it would not fill the window otherwise. */
export function turnedFor(sheet: Extent, { opening }: Mat): Extent {
  const fits = (s: Extent) => s.width >= opening.width && s.height >= opening.height;
  return !fits(sheet) && fits(turnedPaper(sheet)) ? turnedPaper(sheet) : sheet;
}

const round = (v: number) => Math.round(v * 10) / 10;
