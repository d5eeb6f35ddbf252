import { Clipper, EndType, FillRule, JoinType } from 'clipper2-ts';
import { flattenPath } from './flattenPath';
import { type Path, PathBuilder, boundsOfPath } from './path';

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

/**
 * Curves are cut into chords 0.002 px from them at this many pixels to a unit: a fortieth of a full-size pixel is near
 * enough for what stands round a mark, and every chord costs.
 */
export const COARSE = 0.08;

/** How the corners of an offset outline are joined. */
export type Join = 'round' | 'mitre';

/** A mitre longer than so many times the offset is cut off. */
const MITRE_LIMIT = 4;
/** Rounds are drawn by chords this near to them, px. */
const ARC_NEAR_PX = 0.025;

/**
 * The outline so far outside a path, everywhere; its holes shrink and close.
 * @param scale  pixels of the path's unit
 * @param isClean  its rings do not cross, outer ones clockwise on the screen, holes the other way round
 * @returns filled by the rule of windings
 */
export function offsetPath({ path, rule }: Clip, by: number, join: Join, scale = 1, isClean = false): Path {
  const rings = toPolygons(path, scale);
  const united = () => Clipper.union(rings, [], ruleOf(rule));
  if (by === 0) return fromPolygons(united(), scale);
  const kind = join === 'round' ? JoinType.Round : JoinType.Miter;
  const delta = by * scale * PARTS;
  const grow = (own: Rings) =>
    Clipper.inflatePaths(own, delta, kind, EndType.Polygon, MITRE_LIMIT, ARC_NEAR_PX * scale * PARTS);
  // The library stumbles over some rings that touch themselves; with their smallest steps left out it does not.
  const ways = [() => grow(isClean ? rings : united()), () => grow(united()), () => grow(simplified(united()))];
  return fromPolygons(firstThatWorks(ways), scale);
}

type Rings = ReturnType<typeof toPolygons>;
const SIMPLER = 3;
const simplified = (rings: Rings): Rings => Clipper.simplifyPaths(rings, SIMPLER, true);

function firstThatWorks<T>(ways: readonly (() => T)[]): T {
  for (const way of ways.slice(0, -1)) {
    try {
      return way();
    } catch {
      // The next way is tried.
    }
  }
  return ways[ways.length - 1]();
}

/** What lies in the first path and in none of the others, filled by the rule of windings. */
export function differenceOf(from: Clip, others: readonly Clip[], scale = 1): Path {
  const own = Clipper.union(toPolygons(from.path, scale), [], ruleOf(from.rule));
  const taken = others.flatMap((o) => Clipper.union(toPolygons(o.path, scale), [], ruleOf(o.rule)));
  return fromPolygons(Clipper.difference(own, taken, FillRule.NonZero), scale);
}

/** Several shapes as one, filled by the rule of windings; without holes where asked. */
export function unionOf(shapes: readonly Clip[], scale = 1, withoutHoles = false): Path {
  const all = shapes.flatMap((s) => Clipper.union(toPolygons(s.path, scale), [], ruleOf(s.rule)));
  const whole = Clipper.union(all, [], FillRule.NonZero);
  return fromPolygons(withoutHoles ? whole.filter((ring) => Clipper.area(ring) > 0) : whole, scale);
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
