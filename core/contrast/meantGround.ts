import { hexFromRgb, type Rgb } from '../colour/hex';
import { LEAST_RATIO, type OutlinedMark, bestStanding, measureStanding } from './standing';

/** A page, and a dark screen. */
const PAGE: Rgb = [255, 255, 255];
const DARK: Rgb = [20, 20, 20];

/**
 * Finds the background that a variant is meant for: the white page, or the dark screen where the variant is hard to see
 * on white and easier to see on dark.
 * @returns a colour such as '#ffffff'
 */
export function meantGround(mark: OutlinedMark): string {
  const [onPage, onDark] = [PAGE, DARK].map((ground) => measureStanding(mark, ground, { x: 0, y: 0 }));
  if (onPage.ratio >= LEAST_RATIO && onPage.shareAbove3 >= MOST_OF_IT) return hexFromRgb(PAGE);
  return hexFromRgb([PAGE, DARK][bestStanding([onPage, onDark])] ?? PAGE);
}
/** On the background that a variant is meant for, this share of its outline stands out at least. */
const MOST_OF_IT = 0.9;
