import { Clipper, FillRule } from 'clipper2-ts';
import { type Path, PathBuilder, boundsOfPath } from '../../core/vector/path';
import { flattenPath } from '../../core/vector/flattenPath';

/** What alone is seen. */
export interface Clip {
  readonly path: Path;
  readonly rule: 'nonzero' | 'evenodd';
}

/** Whole numbers stand for so many parts of a pixel: the library counts in whole numbers. */
const PARTS = 1000;
const ruleOf = (rule: Clip['rule']) => (rule === 'evenodd' ? FillRule.EvenOdd : FillRule.NonZero);

/**
 * What of a path clips leave, filled by the rule of windings; untouched where they hold all of it.
 * @param scale  pixels of the path's unit, which say how finely curves are cut into lines
 */
export function clipShape({ path, rule }: Clip, clips: readonly Clip[], scale: number): Clip {
  let left: Clip = { path, rule };
  for (const clip of clips) {
    if (holds(clip, left.path)) continue;
    const seen = Clipper.union(toPolygons(clip.path, scale), [], ruleOf(clip.rule));
    const own = Clipper.union(toPolygons(left.path, scale), [], ruleOf(left.rule));
    left = { path: fromPolygons(Clipper.intersect(own, seen, FillRule.NonZero), scale), rule: 'nonzero' };
  }
  return left;
}

function toPolygons(path: Path, scale: number) {
  const lines = flattenPath(path, [scale, 0, 0, scale, 0, 0]);
  const rings: { x: number; y: number }[][] = [];
  for (let k = 0; k < lines.length; k += 4) {
    const from = { x: Math.round(lines[k] * PARTS), y: Math.round(lines[k + 1] * PARTS) };
    const last = rings[rings.length - 1]?.at(-1);
    const to = { x: Math.round(lines[k + 2] * PARTS), y: Math.round(lines[k + 3] * PARTS) };
    if (last && last.x === from.x && last.y === from.y) rings[rings.length - 1].push(to);
    else rings.push([from, to]);
  }
  return rings;
}

function fromPolygons(rings: readonly (readonly { x: number; y: number }[])[], scale: number): Path {
  const out = new PathBuilder();
  const unit = PARTS * scale;
  for (const ring of rings) {
    ring.forEach(({ x, y }, k) => (k === 0 ? out.moveTo(x / unit, y / unit) : out.lineTo(x / unit, y / unit)));
    out.close();
  }
  return out.done();
}

/** Whether a clip is an upright rectangle that holds a path whole. */
function holds({ path: { verbs, coords } }: Clip, path: Path): boolean {
  if (!/^ML+Z$/.test(verbs)) return false;
  const [xs, ys] = [coords.filter((_, k) => k % 2 === 0), coords.filter((_, k) => k % 2 === 1)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const isBox = xs.every((x) => x === left || x === right) && ys.every((y) => y === top || y === bottom);
  const box = boundsOfPath(path);
  if (!isBox || !box || xs.length > 5) return false;
  return box.x >= left && box.y >= top && box.x + box.width <= right && box.y + box.height <= bottom;
}
