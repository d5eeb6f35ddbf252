import { scaling } from '../geometry/matrix';
import { flattenPath } from '../vector/flattenPath';
import { type Path, ringsOf } from '../vector/path';
import { type Near, createPointTree } from './pointTree';

/** How wide a mark's strokes are, px. */
export interface StrokeWidths {
  readonly medianPx: number;
  /** Hardly anything is thinner: the second hundredth. */
  readonly thinnestPx: number;
  /** Where the thinnest is. */
  readonly place: { readonly x: number; readonly y: number };
}

/** From outline places so far apart widths are taken; the outline itself is looked at much more closely. */
const LEAST_STEP_PX = 1;
const MOST_PLACES = 2000;
const FINE_PX = 0.2;
const MOST_FINE = 400_000;
/** A ball that touches the outline at two places seen under less than this angle sits in a corner, not in a stroke. */
const SEPARATION_RAD = (140 * Math.PI) / 180;
/** Of gaps, and of lines between two colours, only those with sides as good as parallel: wedges end in nothing. */
const PARALLEL_RAD = (162 * Math.PI) / 180;
/** Widths of under so many samples are looked at more closely: a corner between two of them gives such balls too. */
const FEW_SAMPLES = 5;
/** Narrower ones are what samples of a sharp corner give. */
const LEAST_LINE_PX = 1;
/** Fewer places than this are a flaw of the outline, no gap. */
const LEAST_PLACES = 6;
const THINNEST_SHARE = 0.02;
const ROUNDS = 12;

/** A place of an outline and the ball inside that touches it and another side. */
export interface StrokePlace {
  readonly width: number;
  /** Its middle. */
  readonly x: number;
  readonly y: number;
  /** The direction across the stroke. */
  readonly nx: number;
  readonly ny: number;
}

type StrokeKind = 'strokes' | 'lines' | 'gaps';

/**
 * Widths of strokes by the balls that touch an outline at two places: each shrinks from a little more than its
 * neighbour's until nothing of the outline is in it.
 * @param path  filled by the rule of windings, outer rings clockwise on the screen
 * @param kind  strokes; lines, which have sides as good as parallel; or such gaps between parts
 * @returns null for a path without any
 * @see J. Ma, S. Bae, S. Choi, "3D medial axis point approximation using nearest neighbors and the normal field", 2012
 */
export function measureStrokes(path: Path, kind: StrokeKind = 'strokes'): StrokeWidths | null {
  const { places, widest } = strokePlaces(path, kind);
  // A square has no two sides that a stroke would have: it is as wide as the largest ball in it.
  const widths = kind === 'strokes' && places.length === 0 && widest ? [widest] : [...places];
  if (widths.length < (kind === 'strokes' ? 1 : LEAST_PLACES)) return null;
  widths.sort((a, b) => a.width - b.width);
  const thin = widths[Math.floor(widths.length * THINNEST_SHARE)];
  return {
    medianPx: widths[widths.length >> 1].width,
    thinnestPx: thin.width,
    place: { x: thin.x, y: thin.y },
  };
}

/** The places themselves, evenly along the outlines, and the widest ball of all. @see measureStrokes */
export function strokePlaces(path: Path, kind: StrokeKind): { places: StrokePlace[]; widest: StrokePlace | null } {
  const places: StrokePlace[] = [];
  let widest: StrokePlace | null = null;
  const sign = kind === 'gaps' ? -1 : 1;
  const separation = kind === 'strokes' ? SEPARATION_RAD : PARALLEL_RAD;
  const rings = ringsOf(path).map((ring) => flattenPath(ring, scaling(1)));
  const whole = rings.reduce((sum, lines) => sum + lengthOf(lines), 0);
  if (whole === 0) return { places, widest };
  const fine = Math.max(FINE_PX, whole / MOST_FINE);
  const step = Math.max(LEAST_STEP_PX, whole / MOST_PLACES);
  const samples = rings.map((lines) => sample(lines, fine));
  const all = (part: (s: Sampled) => readonly number[]) => Float64Array.from(samples.flatMap(part));
  const tree = createPointTree(
    all((s) => s.xs),
    all((s) => s.ys),
  );
  const [normalX, normalY] = [all((s) => s.nx), all((s) => s.ny)];
  const facing = Math.cos(separation);
  const stride = Math.max(1, Math.round(step / fine));
  for (const { xs, ys, nx, ny } of samples) {
    let start = whole;
    for (let k = 0; k < xs.length; k += stride) {
      const ball = shrink(tree, { x: xs[k], y: ys[k], nx: sign * nx[k], ny: sign * ny[k] }, start, fine);
      if (!ball) continue;
      start = ball.radius * 2 + 4;
      const [x, y] = [xs[k] + sign * ball.radius * nx[k], ys[k] + sign * ball.radius * ny[k]];
      const here = { width: 2 * ball.radius, x, y, nx: nx[k], ny: ny[k] };
      if (!widest || here.width > widest.width) widest = here;
      if (ball.angle < separation || (kind !== 'strokes' && ball.radius * 2 < LEAST_LINE_PX)) continue;
      const isSmall = ball.radius * 2 < FEW_SAMPLES * fine;
      if (isSmall && nx[k] * normalX[ball.touched] + ny[k] * normalY[ball.touched] > facing) continue;
      places.push(here);
    }
  }
  return { places, widest };
}

function lengthOf(lines: readonly number[]): number {
  let length = 0;
  for (let k = 0; k < lines.length; k += 4) length += Math.hypot(lines[k + 2] - lines[k], lines[k + 3] - lines[k + 1]);
  return length;
}

/** Places along a ring, evenly, each with the direction inwards: at the right hand of an outer ring's travel. */
function sample(lines: readonly number[], step: number) {
  const [xs, ys, nx, ny]: number[][] = [[], [], [], []];
  let rest = step / 2;
  for (let k = 0; k < lines.length; k += 4) {
    const [dx, dy] = [lines[k + 2] - lines[k], lines[k + 3] - lines[k + 1]];
    const length = Math.hypot(dx, dy);
    if (length === 0) continue;
    let at = rest;
    for (; at < length; at += step) {
      xs.push(lines[k] + (dx * at) / length);
      ys.push(lines[k + 1] + (dy * at) / length);
      nx.push(-dy / length);
      ny.push(dx / length);
    }
    rest = at - length;
  }
  return { xs, ys, nx, ny };
}

type Sampled = ReturnType<typeof sample>;

interface OnOutline {
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
}

function shrink(tree: ReturnType<typeof createPointTree>, p: OnOutline, start: number, fine: number) {
  let radius = start;
  for (let grown = 0; grown < 2; grown++) {
    let touched: Near | null = null;
    for (let round = 0; round < ROUNDS; round++) {
      const [cx, cy] = [p.x + radius * p.nx, p.y + radius * p.ny];
      // Nothing but the place itself is in the ball.
      const near = tree.nearest(cx, cy, radius - 1e-6 * radius - 1e-9);
      if (!near) break;
      const [dx, dy] = [near.x - p.x, near.y - p.y];
      const square = dx * dx + dy * dy;
      const deep = dx * p.nx + dy * p.ny;
      // What lies just beside it is no other side.
      if (square < 4 * fine * fine || deep <= 0) break;
      radius = square / (2 * deep);
      touched = near;
    }
    if (touched) {
      const [cx, cy] = [p.x + radius * p.nx, p.y + radius * p.ny];
      const dot = ((p.x - cx) * (touched.x - cx) + (p.y - cy) * (touched.y - cy)) / (radius * radius);
      return { radius, touched: touched.index, angle: Math.acos(Math.max(-1, Math.min(1, dot))) };
    }
    // It began too small: nothing was in it.
    radius = start * 64;
  }
  return null;
}
