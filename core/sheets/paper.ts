import { CoreError } from '../errors';
import { type Extent, type Grid, wholePixels } from '../sizes/size';
import { MM_PER_INCH } from '../units';

/** Sizes of paper by name, mm, upright. @see ISO 216 (A series); ANSI/ASME Y14.1 (letter) */
export const PAPERS: Readonly<Record<string, Extent>> = {
  A5: { width: 148, height: 210 },
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
  A2: { width: 420, height: 594 },
  letter: { width: 8.5 * MM_PER_INCH, height: 11 * MM_PER_INCH },
  '8x10in': { width: 8 * MM_PER_INCH, height: 10 * MM_PER_INCH },
  '11x14in': { width: 11 * MM_PER_INCH, height: 14 * MM_PER_INCH },
};

const MM_PER: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: MM_PER_INCH };
const MOST_MM = 2000;
const LEAST_MM = 10;

/**
 * A sheet by its name or its sides: "A4", "letter", "10x8in", "21x29.7cm". Sides are across and down.
 * @returns mm
 * @throws CoreError 'size/impossible' saying what was expected
 */
export function readPaper(text: string): Extent {
  const named = Object.keys(PAPERS).find((name) => name.toLowerCase() === text.trim().toLowerCase());
  if (named) return PAPERS[named];
  const [, w, h, unit] = /^\s*([\d.]+)\s*[x×]\s*([\d.]+)\s*(mm|cm|in)\s*$/i.exec(text) ?? [];
  const [width, height] = [w, h].map((v) => Number(v) * MM_PER[unit?.toLowerCase()]);
  if (![width, height].every((v) => v >= LEAST_MM && v <= MOST_MM))
    throw new CoreError(
      'size/impossible',
      `"${text}" is no sheet: ${Object.keys(PAPERS).join(', ')}, or sides such as 10x8in or 210x297mm, of ` +
        `${LEAST_MM} to ${MOST_MM} mm.`,
    );
  return { width, height };
}

/** The same sheet on its side. */
export const turnedPaper = ({ width, height }: Extent): Extent => ({ width: height, height: width });

export const isWide = ({ width, height }: Extent) => width > height;

/** Sides in pixels; whole ones on a grid of pixels. @param ppi  pixels per inch */
export const pixelsOf = ({ width, height }: Extent, ppi: number, grid: Grid = wholePixels): Extent => ({
  width: grid.round((width / MM_PER_INCH) * ppi),
  height: grid.round((height / MM_PER_INCH) * ppi),
});
