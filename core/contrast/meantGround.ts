import { hexFromRgb, type Rgb } from '../colour/hex';
import type { Raster } from '../raster/raster';
import { LEAST_RATIO, bestStanding, measureStanding, outlineMark } from './standing';

/** A page, and a dark screen. */
const PAGE: Rgb = [255, 255, 255];
const DARK: Rgb = [20, 20, 20];

/**
 * The background that a picture was made for: the white page, unless it hardly stands out there and does so better on
 * a dark one.
 * @returns a colour such as '#ffffff'
 */
export function meantGround(raster: Raster): string {
  const mark = outlineMark(raster);
  const [onPage, onDark] = [PAGE, DARK].map((ground) => measureStanding(mark, ground, { x: 0, y: 0 }));
  if (onPage.ratio >= LEAST_RATIO && onPage.shareAbove3 >= MOST_OF_IT) return hexFromRgb(PAGE);
  return hexFromRgb([PAGE, DARK][bestStanding([onPage, onDark])] ?? PAGE);
}
/** So much of an outline stands out where a mark is at home. */
const MOST_OF_IT = 0.9;
