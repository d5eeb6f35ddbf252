import type { Raster } from '../raster/raster';
import { type InkMark, findInkMarks } from './inkMarks';
import { findInkPieces, largestArea } from './inkPieces';

/** A piece is what is at least this opaque, with a middle that is this opaque. */
const PIECE_LOW = 0.3;
const PIECE_HIGH = 0.6;
/** Share of the largest piece below which a piece is dirt to this question. */
const CRUMB_SHARE = 0.002;

/** Marks of one sheet are about alike: the smallest holds at least this share of the largest one's pixels. */
const LEAST_SHARE = 0.2;
const MOST_MARKS = 40;

/**
 * Separate marks in a finished cut-out: groups of pieces that stand apart from one another.
 * @returns none where there is only one, or where the groups are parts of one mark rather than marks of their own
 */
export function findMatteMarks({ width, height, data }: Raster): InkMark[] {
  const alpha = Float32Array.from({ length: width * height }, (_, i) => data[i * 4 + 3] / 255);
  const { labels, pieces } = findInkPieces(alpha, width, height, PIECE_LOW, PIECE_HIGH);
  const most = largestArea(pieces);
  const marks = findInkMarks(
    labels,
    pieces.filter((p) => p.areaPx > most * CRUMB_SHARE),
    width,
    height,
  );
  const areas = marks.map((m) => m.areaPx);
  return marks.length > 1 && marks.length <= MOST_MARKS && Math.min(...areas) >= LEAST_SHARE * Math.max(...areas)
    ? marks
    : [];
}
