import type { RectPx } from '../params';
import type { Extent } from '../sizes/size';
import { MM_PER_INCH, POINTS_PER_INCH } from '../units';

/** A written name is about so wide, and leaves the ends of its line free. */
const USUAL_MM = 50;
const MOST_OF_LINE = 0.85;
/** Of the room above, so that it touches nothing. */
const MOST_OF_ROOM = 0.9;
const LEAST_MM = 12;

/** What a signature is written in; its own colours otherwise. */
export const INKS = { black: '#000000', blue: '#1d3fa5' } as const;
export type Ink = keyof typeof INKS | 'own';

const points = (mm: number) => (mm / MM_PER_INCH) * POINTS_PER_INCH;

/**
 * Where a signature stands on a line: its middle over the line's middle, its foot on it. Points from the upper left.
 * @param line  its left end, where it lies, how long it is (0 where only its middle is known), the room above it
 * @param mark  the signature's extents, in any unit
 * @param widthMm  null for as wide as the line and its room allow
 */
export function signatureBox(
  line: { x: number; y: number; width: number; room: number },
  mark: Extent,
  widthMm: number | null,
): RectPx {
  const aspect = mark.width / mark.height;
  const byLine = line.width > 0 ? line.width * MOST_OF_LINE : Infinity;
  const byRoom = line.room * MOST_OF_ROOM * aspect;
  const fitting = Math.max(points(LEAST_MM), Math.min(points(USUAL_MM), byLine, byRoom));
  const width = widthMm === null ? fitting : points(widthMm);
  const height = width / aspect;
  return { x: line.x + line.width / 2 - width / 2, y: line.y - height, width, height };
}
