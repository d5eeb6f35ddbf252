import type { RectPx } from '../params';
import { boxRound } from '../vector/boxes';
import { type Path, boundsOfPath, joinPaths } from '../vector/path';
import { isSimple, reversePath, signedAreaOf } from '../vector/windings';
import type { Drawing, Shape } from './drawing';

interface Group {
  readonly shape: Shape;
  readonly members: { readonly path: Path; readonly box: RectPx }[];
}

/**
 * The same drawing with as few paths as it has paints: a shape goes into an earlier one of its paint where nothing of
 * another paint stands between. What is partly see-through or filled by the even-odd rule stays alone.
 */
export function joinByPaint(drawing: Drawing): Drawing {
  const groups: Group[] = [];
  for (const shape of drawing.shapes) {
    const box = boundsOfPath(shape.path);
    if (!box) continue;
    const path = isPlain(shape) ? upright(shape.path) : shape.path;
    const home = isPlain(shape) ? homeOf(shape, { path, box }, groups) : null;
    if (home) home.members.push({ path, box });
    else groups.push({ shape, members: [{ path, box }] });
  }
  const shapes = groups.map(({ shape, members }) => ({ ...shape, path: joinPaths(members.map((m) => m.path)) }));
  return { ...drawing, shapes };
}

const isPlain = ({ rule, paint, opacity }: Shape) => rule === 'nonzero' && paint.kind === 'colour' && opacity === 1;

function homeOf({ paint }: Shape, own: Group['members'][0], groups: readonly Group[]): Group | null {
  for (let k = groups.length - 1; k >= 0; k--) {
    const { shape, members } = groups[k];
    const near = members.filter((m) => overlaps(m.box, own.box));
    const isAlike = isPlain(shape) && JSON.stringify(shape.paint) === JSON.stringify(paint);
    // Where two lie over one another their windings add up, which is right only of simple outlines.
    if (isAlike && (near.length === 0 || [own, ...near].every((m) => isSimple(m.path)))) return groups[k];
    if (near.length > 0) return null;
  }
  return null;
}

/** Outer rings the one way round, whichever way they were drawn. */
const upright = (path: Path): Path => (signedAreaOf(path) < 0 ? reversePath(path) : path);

function overlaps(a: RectPx, b: RectPx): boolean {
  const both = boxRound([a, b]);
  return both.width < a.width + b.width && both.height < a.height + b.height;
}
