import { type Projective, project } from '../geometry/projective';
import type { Matrix } from '../geometry/matrix';
import { type HalfPlane, clipPath, insideOf } from '../vector/clipPath';
import { isAffine, projectPath } from '../vector/projectPath';
import { type Drawing, type Shape, placeDrawing } from './drawing';

/**
 * The part of a drawing that lies on a page. Shapes with nothing on it are left out.
 * @param toPage  from the drawing's pixels to the page's
 * @param seen    of a drawing seen from the side, the part that the page shows: nothing beyond its horizon may be
 *   mapped
 */
export function cropDrawing(
  drawing: Drawing,
  toPage: Projective,
  page: { width: number; height: number },
  seen: readonly HalfPlane[] = [],
): Drawing {
  const { width, height } = page;
  const local = affineAt(toPage, page);
  const shapes = placeDrawing(drawing, local, width, height).shapes.map((shape, k): Shape => {
    const path = isAffine(toPage) ? shape.path : projectPath(clipPath(drawing.shapes[k].path, seen), toPage);
    return { ...shape, path: clipPath(path, insideOf(width, height)) };
  });
  return { widthPx: width, heightPx: height, shapes: shapes.filter((s) => s.path.verbs !== '') };
}

/** The affine mapping that a projective one is near the page's middle; the mapping itself where it is affine. */
function affineAt(toPage: Projective, page: { width: number; height: number }): Matrix {
  const m = toPage;
  if (isAffine(m)) return [m[0] / m[8], m[3] / m[8], m[1] / m[8], m[4] / m[8], m[2] / m[8], m[5] / m[8]];
  const [x, y] = [page.width / 2, page.height / 2];
  const [o, u, v] = [project(m, x, y), project(m, x + 1, y), project(m, x, y + 1)];
  const [a, b, c, d] = [u.x - o.x, u.y - o.y, v.x - o.x, v.y - o.y];
  return [a, b, c, d, o.x - a * x - c * y, o.y - b * x - d * y];
}
