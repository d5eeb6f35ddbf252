import { CSS_PPI, POINTS_PER_INCH } from '../units';
import type { FileContent } from './format';

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
