import type { Rgb } from '../colour/hex';
import { contrastRatio, luminance } from '../raster/contrast';
import { type Plane, type Raster, matteOf } from '../raster/raster';
import { edgePoints } from '../trace/edgePoints';
import { borderRings } from '../trace/traceCoverage';
import { edgesInside } from './edgesInside';

/** How well a mark can be seen where it stands. */
export interface Standing {
  /** The contrast that half of the edge reaches which stands out best, of those closed round the mark. */
  readonly ratio: number;
  /** The share of that edge that has at least 3:1 against what lies directly beyond it, 0..1. */
  readonly shareAbove3: number;
  /** Where its outline stands out least, of areas an eighth of it wide, px of the ground; null without an outline. */
  readonly worst: { readonly x: number; readonly y: number; readonly ratio: number } | null;
}

/** A mark's outline must stand out by so much (WCAG 2.2, 1.4.11, graphical objects). */
export const LEAST_RATIO = 3;
/** The mark is looked at so far inside its edge, px, nearer where it is thinner. */
const INSIDE_PX = [1.5, 1, 0.5, 0];
/** And the ground so far outside. */
const BEYOND_PX = 2.5;
/** An edge within the mark begins before its mixed pixels: the tone outside of it is near, and a glow fades soon. */
const BEYOND_INNER_PX = 1;
const INSIDE_INNER_PX = [2.5, ...INSIDE_PX];
const SOLID = 128;
/** Areas of the outline, across the longer side. */
const AREAS = 8;
const LEAST_AREA_PX = 8;
/** Less of the outline than this share of an even part is no area of its own. */
const LEAST_SHARE = 0.25;

/** What a mark shows at a place: its colour and how much of the ground that covers. */
interface Sample {
  readonly rgb: Rgb;
  readonly share: number;
  readonly x: number;
  readonly y: number;
}

/** A place of an edge: where it is, which way is out, and what the mark shows on either side. */
interface EdgePlace {
  readonly x: number;
  readonly y: number;
  readonly ox: number;
  readonly oy: number;
  readonly inside: Sample;
  /** Null where nothing of the mark lies beyond: the ground itself. */
  readonly outside: Sample | null;
}

/** A mark whose edges were followed once, for any number of grounds. */
export interface OutlinedMark {
  readonly raster: Raster;
  /**
   * Its edges from outside inwards, each closed round the mark: its outline, then what a rim, a plate or a glow sets
   * off. Empty where nothing of it is visible.
   */
  readonly edges: readonly (readonly EdgePlace[])[];
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly ratio: number;
}

/**
 * How well a mark stands out on a ground, where it stands: by that of its edges which an eye meets best.
 * @param mark  at its size on the ground, straight alpha
 * @param ground  a photo, or one colour
 * @param at  the mark's upper left pixel on the photo, and how opaque it is laid there, 1 where nothing is said
 */
export function measureStanding(
  { raster, edges }: OutlinedMark,
  ground: Raster | Rgb,
  at: { readonly x: number; readonly y: number; readonly opacity?: number },
): Standing {
  if (edges.length === 0) return { ratio: 1, shareAbove3: 0, worst: null };
  const groundAt = 'data' in ground ? photoAt(ground, at) : () => ground;
  const long = Math.max(raster.width, raster.height);
  const all = edges.map((edge) => standingOfEdge(edge, groundAt, at.opacity ?? 1, long));
  const { ratio, shareAbove3, worst } = all[bestStanding(all)];
  return { ratio, shareAbove3, worst: worst && { ...worst, x: worst.x + at.x, y: worst.y + at.y } };
}

function standingOfEdge(edge: readonly EdgePlace[], groundAt: GroundAt, opacity: number, long: number): Standing {
  const places = edge.map((e): Place => ({ x: e.x, y: e.y, ratio: ratioAt(e, groundAt, opacity) }));
  const ratios = places.map((p) => p.ratio).sort((a, b) => a - b);
  const above = ratios.filter((r) => r >= LEAST_RATIO).length;
  return { ratio: ratios[ratios.length >> 1], shareAbove3: above / ratios.length, worst: worstArea(places, long) };
}

function ratioAt({ x, y, ox, oy, inside, outside }: EdgePlace, groundAt: GroundAt, opacity: number): number {
  const own = shownLuminance(inside, groundAt, opacity);
  if (outside) return contrastRatio(own, shownLuminance(outside, groundAt, opacity));
  const beyond = groundAt(x + ox * BEYOND_PX, y + oy * BEYOND_PX);
  return contrastRatio(own, luminance(beyond[0], beyond[1], beyond[2]));
}

/** What shows of a mark where it is not solid. */
function shownLuminance({ rgb, share, x, y }: Sample, groundAt: GroundAt, opacity: number): number {
  const covered = share * opacity;
  if (covered === 1) return luminance(rgb[0], rgb[1], rgb[2]);
  const under = groundAt(x, y);
  const shown = (c: number) => Math.round(rgb[c] * covered + under[c] * (1 - covered));
  return luminance(shown(0), shown(1), shown(2));
}

/** The one of several that can be seen best: by the share of its outline that stands out, then by contrast. */
export function bestStanding(all: readonly Standing[]): number {
  const most = Math.max(...all.map((s) => s.shareAbove3));
  return all.reduce((best, { shareAbove3, ratio }, k) => {
    if (shareAbove3 < most - SAME_SHARE) return best;
    return best < 0 || ratio > all[best].ratio ? k : best;
  }, -1);
}
/** Corners cost an edge a few per cent: shares nearer than this are alike. */
const SAME_SHARE = 0.06;

/** The ground's colour at a place; the answer holds until the next question. */
type GroundAt = (x: number, y: number) => ArrayLike<number>;

/** The mean of nine pixels of a photo; beyond its border the nearest ones. */
function photoAt({ width, height, data }: Raster, at: { x: number; y: number }): GroundAt {
  const [right, bottom] = [width - 1, height - 1];
  const out = new Uint8Array(3);
  return (x, y) => {
    const [px, py] = [Math.floor(x + at.x), Math.floor(y + at.y)];
    let [r, g, b] = [0, 0, 0];
    for (let dy = -1; dy <= 1; dy++) {
      const row = Math.min(bottom, Math.max(0, py + dy)) * width;
      for (let dx = -1; dx <= 1; dx++) {
        const p = (row + Math.min(right, Math.max(0, px + dx))) * 4;
        r += data[p];
        g += data[p + 1];
        b += data[p + 2];
      }
    }
    out[0] = Math.round(r / 9);
    out[1] = Math.round(g / 9);
    out[2] = Math.round(b / 9);
    return out;
  };
}

/** Follows a mark's edges. */
export function outlineMark(raster: Raster): OutlinedMark {
  const outline = edgeOf(raster, matteOf(raster), false);
  if (outline.length === 0) return { raster, edges: [] };
  const inner = edgesInside(raster).map((plane) => edgeOf(raster, plane, true));
  return { raster, edges: [outline, ...inner.filter((edge) => edge.length > 0)] };
}

/** On steps of whole pixels the way out is taken from places this far along the ring. */
const ALONG = 3;

/** The places of an edge. @param isInner  the mark goes on beyond it */
function edgeOf(raster: Raster, plane: Plane, isInner: boolean): EdgePlace[] {
  const edge: EdgePlace[] = [];
  for (const crack of borderRings(plane)) {
    const { xs, ys } = edgePoints(plane, crack);
    const n = xs.length;
    const step = isInner ? Math.min(ALONG, Math.floor(n / 4)) : 1;
    for (let k = 0; n > 2 && step > 0 && k < n; k++) {
      const [i, j] = [(k + n - step) % n, (k + step) % n];
      const [dx, dy] = [xs[j] - xs[i], ys[j] - ys[i]];
      const length = Math.hypot(dx, dy);
      if (length === 0) continue;
      // The inside lies at the right hand.
      const place = { x: xs[k], y: ys[k], ox: dy / length, oy: -dx / length };
      const inside = colourInside(raster, place, isInner ? INSIDE_INNER_PX : INSIDE_PX);
      if (inside) edge.push({ ...place, inside, outside: isInner ? colourBeyond(raster, place) : null });
    }
  }
  return edge;
}

type Spot = Pick<EdgePlace, 'x' | 'y' | 'ox' | 'oy'>;

const sampleAt = ({ data }: Raster, p: number, x: number, y: number): Sample => ({
  ...{ rgb: [data[p], data[p + 1], data[p + 2]], share: data[p + 3] / 255, x, y },
});

/** What the mark shows just inside its edge; null where it is hardly there. */
function colourInside(raster: Raster, { x, y, ox, oy }: Spot, ways: readonly number[]): Sample | null {
  const { width, height, data } = raster;
  let best: { alpha: number; p: number; x: number; y: number } | null = null;
  for (const way of ways) {
    const [px, py] = [Math.floor(x - ox * way), Math.floor(y - oy * way)];
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const p = (py * width + px) * 4;
    if (!best || data[p + 3] > best.alpha) best = { alpha: data[p + 3], p, x: px, y: py };
    if (data[p + 3] >= SOLID) break;
  }
  return best && best.alpha > 0 ? sampleAt(raster, best.p, best.x, best.y) : null;
}

/** What the mark shows just outside of an edge within it; null beyond its picture. */
function colourBeyond(raster: Raster, { x, y, ox, oy }: Spot): Sample | null {
  const [px, py] = [Math.floor(x + ox * BEYOND_INNER_PX), Math.floor(y + oy * BEYOND_INNER_PX)];
  if (px < 0 || py < 0 || px >= raster.width || py >= raster.height) return null;
  return sampleAt(raster, (py * raster.width + px) * 4, px, py);
}

/** The area of the outline whose middle contrast is least. */
function worstArea(places: readonly Place[], long: number): Place {
  const side = Math.max(LEAST_AREA_PX, long / AREAS);
  const areas = new Map<string, Place[]>();
  for (const place of places) {
    const key = `${Math.floor(place.x / side)},${Math.floor(place.y / side)}`;
    const own = areas.get(key);
    if (own) own.push(place);
    else areas.set(key, [place]);
  }
  const even = places.length / areas.size;
  let worst: Place | null = null;
  for (const own of areas.values()) {
    if (own.length < even * LEAST_SHARE) continue;
    own.sort((a, b) => a.ratio - b.ratio);
    const { ratio } = own[own.length >> 1];
    if (worst && worst.ratio <= ratio) continue;
    const mean = (pick: (p: Place) => number) => own.reduce((sum, p) => sum + pick(p), 0) / own.length;
    worst = { x: mean((p) => p.x), y: mean((p) => p.y), ratio };
  }
  return worst ?? places[0];
}
