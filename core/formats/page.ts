import type { FileContent } from './format';

/** Without a physical size a pixel is what style sheets take it for: 96 to the inch. */
export const CSS_PPI = 96;
export const POINTS_PER_INCH = 72;
export const MM_PER_INCH = 25.4;

/** A page in points, and how many of them a unit of its drawing is. */
export function pointsOf({ widthPx, heightPx, ppi, drawing }: FileContent): {
  width: number;
  height: number;
  scale: number;
} {
  const points = POINTS_PER_INCH / (ppi ?? CSS_PPI);
  const [width, height] = [widthPx * points, heightPx * points];
  return { width, height, scale: width / (drawing?.widthPx ?? widthPx) };
}
