import type { Rgb } from '../colour/hex';
import { contrastOnColour, contrastRatio, luminance, measureLuminance } from '../raster/contrast';
import { type Raster, matteOf } from '../raster/raster';
import { edgePoints } from '../trace/edgePoints';
import { borderRings } from '../trace/traceCoverage';

/** How well a mark can be seen where it stands. */
export interface Standing {
  /** On a flat ground the contrast that half of its area reaches; on a photo the one that half of its outline does. */
  readonly ratio: number;
  /** The share of its outline that has at least 3:1 against what lies directly beyond it, 0..1. */
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
const SOLID = 128;
/** Areas of the outline, across the longer side. */
const AREAS = 8;
const LEAST_AREA_PX = 8;
/** Less of the outline than this share of an even part is no area of its own. */
const LEAST_SHARE = 0.25;

/** A place of a mark's outline: where it is, which way is out, and what the mark shows just inside. */
interface EdgePlace {
  readonly x: number;
  readonly y: number;
  readonly ox: number;
  readonly oy: number;
  readonly inside: { readonly rgb: Rgb; readonly share: number; readonly x: number; readonly y: number };
}

/** A mark whose outline was followed once, for any number of grounds. */
export interface OutlinedMark {
  readonly raster: Raster;
  readonly edge: readonly EdgePlace[];
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly ratio: number;
}

/**
 * How well a mark stands out on a ground, where it stands.
 * @param mark  at its size on the ground, straight alpha
 * @param ground  a photo, or one colour
 * @param at  the mark's upper left pixel on the photo, and how opaque it is laid there, 1 where nothing is said
 */
export function measureStanding(
  { raster, edge }: OutlinedMark,
  ground: Raster | Rgb,
  at: { readonly x: number; readonly y: number; readonly opacity?: number },
): Standing {
  if (edge.length === 0) return { ratio: 1, shareAbove3: 0, worst: null };
  const isPhoto = 'data' in ground;
  const groundAt = isPhoto ? photoAt(ground, at) : () => ground;
  const places = edge.map((e): Place => ({ x: e.x, y: e.y, ratio: ratioAt(e, groundAt, at.opacity ?? 1) }));
  const ratios = places.map((p) => p.ratio).sort((a, b) => a - b);
  const ratio = isPhoto ? ratios[ratios.length >> 1] : contrastOnColour(measureLuminance(raster), ground);
  const above = ratios.filter((r) => r >= LEAST_RATIO).length;
  const worst = worstArea(places, Math.max(raster.width, raster.height));
  return {
    ratio,
    shareAbove3: above / ratios.length,
    worst: { x: worst.x + at.x, y: worst.y + at.y, ratio: worst.ratio },
  };
}

function ratioAt({ x, y, ox, oy, inside }: EdgePlace, groundAt: GroundAt, opacity: number): number {
  const { rgb } = inside;
  const share = inside.share * opacity;
  let own: number;
  if (share === 1) own = luminance(rgb[0], rgb[1], rgb[2]);
  else {
    // What shows of a mark that is not solid there.
    const under = groundAt(inside.x, inside.y);
    const shown = (c: number) => Math.round(rgb[c] * share + under[c] * (1 - share));
    own = luminance(shown(0), shown(1), shown(2));
  }
  const beyond = groundAt(x + ox * BEYOND_PX, y + oy * BEYOND_PX);
  return contrastRatio(own, luminance(beyond[0], beyond[1], beyond[2]));
}

/** The one of several that can be seen best: by the share of its outline that stands out, then by contrast. */
export function bestStanding(all: readonly Standing[]): number {
  const most = Math.max(...all.map((s) => s.shareAbove3));
  return all.reduce((best, { shareAbove3, ratio }, k) => {
    if (shareAbove3 < most - SAME_SHARE) return best;
    return best < 0 || ratio > all[best].ratio ? k : best;
  }, -1);
}
/** Shares nearer than this are alike. */
const SAME_SHARE = 0.02;

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

/** Follows a mark's outline. */
export function outlineMark(raster: Raster): OutlinedMark {
  const plane = matteOf(raster);
  const edge: EdgePlace[] = [];
  for (const crack of borderRings(plane)) {
    const { xs, ys } = edgePoints(plane, crack);
    const n = xs.length;
    for (let k = 0; n > 2 && k < n; k++) {
      const [i, j] = [(k + n - 1) % n, (k + 1) % n];
      const [dx, dy] = [xs[j] - xs[i], ys[j] - ys[i]];
      const length = Math.hypot(dx, dy);
      if (length === 0) continue;
      // The inside lies at the right hand.
      const place = { x: xs[k], y: ys[k], ox: dy / length, oy: -dx / length };
      const inside = colourInside(raster, place);
      if (inside) edge.push({ ...place, inside });
    }
  }
  return { raster, edge };
}

/** What the mark shows just inside its edge; null where it is hardly there. */
function colourInside(
  { width, height, data }: Raster,
  { x, y, ox, oy }: Omit<EdgePlace, 'inside'>,
): EdgePlace['inside'] | null {
  let best: { alpha: number; p: number; x: number; y: number } | null = null;
  for (const way of INSIDE_PX) {
    const [px, py] = [Math.floor(x - ox * way), Math.floor(y - oy * way)];
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const p = (py * width + px) * 4;
    if (!best || data[p + 3] > best.alpha) best = { alpha: data[p + 3], p, x: px, y: py };
    if (data[p + 3] >= SOLID) break;
  }
  if (!best || best.alpha === 0) return null;
  const { p } = best;
  return { rgb: [data[p], data[p + 1], data[p + 2]], share: best.alpha / 255, x: best.x, y: best.y };
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
