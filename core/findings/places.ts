import { type Projective, project } from '../geometry/projective';
import type { Raster } from '../raster/raster';

/** Places listed for one finding at most: a person does not visit more. */
export const MOST_PLACES = 24;

/** Pixels of a stage's picture as places in the working picture. */
export const placesOf = (
  toWorking: Projective,
  pixels: readonly { x: number; y: number }[],
): { x: number; y: number }[] => pixels.slice(0, MOST_PLACES).map(({ x, y }) => project(toWorking, x + 0.5, y + 0.5));

/** Where what is visible comes within `inset` pixels of the picture's edges: the side's name and one pixel. */
export function touchedSides(
  { width, height, data }: Raster,
  e: { x: number; y: number; width: number; height: number },
  inset = 0,
): { name: string; x: number; y: number }[] {
  const opaque = (x: number, y: number) => data[(y * width + x) * 4 + 3] > 127;
  const along = (n: number, at: (k: number) => [number, number]) => {
    for (let k = 0; k < n; k++) if (opaque(...at(k))) return at(k);
    return null;
  };
  const sides: { name: string; x: number; y: number }[] = [];
  const check = (name: string, hit: [number, number] | null) => hit && sides.push({ name, x: hit[0], y: hit[1] });
  const [right, bottom] = [e.x + e.width - 1, e.y + e.height - 1];
  if (e.y <= inset)
    check(
      'top',
      along(width, (k) => [k, e.y]),
    );
  if (right >= width - 1 - inset)
    check(
      'right',
      along(height, (k) => [right, k]),
    );
  if (bottom >= height - 1 - inset)
    check(
      'bottom',
      along(width, (k) => [k, bottom]),
    );
  if (e.x <= inset)
    check(
      'left',
      along(height, (k) => [e.x, k]),
    );
  return sides;
}
