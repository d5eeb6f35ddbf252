import { rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { IDENTITY } from '../geometry/matrix';
import type { Point } from '../geometry/projective';
import type { RectPx } from '../params';
import type { Raster } from '../raster/raster';
import { flattenPath } from '../vector/flattenPath';
import { type Path, ringsOf } from '../vector/path';
import type { EdgeRing } from './edgePoints';
import type { TracedLayer } from './traceMaster';

/** One piece of a traced colour: an outer outline with the holes in it, px of the picture it was traced from. */
export interface TracedPiece {
  /** Number of its colour among the layers. */
  readonly layer: number;
  readonly path: Path;
  readonly box: RectPx;
  readonly areaPx: number;
  /** A place well inside it, by which it is known again. */
  readonly at: Point;
  /** Where its outer outline was measured to run. */
  readonly outer: EdgeRing;
}

/** The pieces of all layers, those of a layer together, the largest first. */
export const tracedPieces = (layers: readonly TracedLayer[]): TracedPiece[] =>
  layers.flatMap((layer, k) => piecesOf(layer, k).sort((a, b) => b.areaPx - a.areaPx));

function piecesOf({ traced: { path, rings } }: TracedLayer, layer: number): TracedPiece[] {
  const paths = ringsOf(path);
  const groups = rings.flatMap((ring, k) =>
    ring.area2 > 0 ? [{ outer: k, box: boxOf(ring), holes: [] as number[] }] : [],
  );
  rings.forEach((ring, k) => {
    if (ring.area2 > 0) return;
    const [x, y] = [ring.xs[0], ring.ys[0]];
    let best: (typeof groups)[number] | null = null;
    for (const group of groups) {
      const { box, outer } = group;
      if (x < box.x || y < box.y || x > box.x + box.width || y > box.y + box.height) continue;
      if (best && rings[best.outer].area2 <= rings[outer].area2) continue;
      if (isInRings([rings[outer]], x, y)) best = group;
    }
    best?.holes.push(k);
  });
  return groups.map(({ outer, box, holes }) => {
    const own = [outer, ...holes];
    const bounds = own.map((k) => rings[k]);
    return {
      layer,
      path: { verbs: own.map((k) => paths[k].verbs).join(''), coords: own.flatMap((k) => paths[k].coords) },
      box,
      areaPx: bounds.reduce((sum, ring) => sum + ring.area2 / 2, 0),
      at: wellInside(bounds, box),
      outer: rings[outer],
    };
  });
}

function boxOf({ xs, ys }: EdgeRing): RectPx {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let k = 0; k < xs.length; k++) {
    left = Math.min(left, xs[k]);
    right = Math.max(right, xs[k]);
    top = Math.min(top, ys[k]);
    bottom = Math.max(bottom, ys[k]);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Where a level line crosses rings, from the left. */
function crossings(rings: readonly EdgeRing[], y: number): number[] {
  const out: number[] = [];
  for (const { xs, ys } of rings) {
    for (let k = 0, j = xs.length - 1; k < xs.length; j = k++) {
      if (ys[k] > y !== ys[j] > y) out.push(xs[j] + ((y - ys[j]) / (ys[k] - ys[j])) * (xs[k] - xs[j]));
    }
  }
  return out.sort((a, b) => a - b);
}

const isInRings = (rings: readonly EdgeRing[], x: number, y: number): boolean =>
  crossings(rings, y).filter((at) => at < x).length % 2 === 1;

/** Level lines that are tried for the widest run inside. */
const LINES = 7;

function wellInside(rings: readonly EdgeRing[], box: RectPx): Point {
  let best = { x: box.x + box.width / 2, y: box.y + box.height / 2, wide: 0 };
  for (let l = 1; l <= LINES; l++) {
    const y = box.y + (box.height * l) / (LINES + 1);
    const xs = crossings(rings, y);
    for (let k = 0; k + 1 < xs.length; k += 2) {
      const wide = xs[k + 1] - xs[k];
      if (wide > best.wide) best = { x: (xs[k] + xs[k + 1]) / 2, y, wide };
    }
  }
  return { x: best.x, y: best.y };
}

/** The piece at a place, of those whose colour may be meant; the topmost and smallest first. */
export function pieceAt(pieces: readonly TracedPiece[], { x, y }: Point): TracedPiece | null {
  for (let k = pieces.length - 1; k >= 0; k--) {
    const { box, path } = pieces[k];
    if (x < box.x - 1 || y < box.y - 1 || x > box.x + box.width + 1 || y > box.y + box.height + 1) continue;
    if (isInPath(path, x, y)) return pieces[k];
  }
  return null;
}

/** Within any of its rings, and not within one more: holes are outside. */
function isInPath(path: Path, x: number, y: number): boolean {
  const chords = flattenPath(path, IDENTITY);
  let inside = false;
  for (let k = 0; k < chords.length; k += 4) {
    const [x0, y0, x1, y1] = [chords[k], chords[k + 1], chords[k + 2], chords[k + 3]];
    if (y0 > y !== y1 > y && x > x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) inside = !inside;
  }
  return inside;
}

/** Farther out than the edge's own softness. */
const BESIDE_PX = 2.5;
const MOST_SAMPLES = 200;
const HALF = 128;

/** The colour that lies round a piece for the most part; null where nothing does. */
export function colourRound(
  raster: Raster,
  layers: readonly TracedLayer[],
  { outer, layer }: TracedPiece,
): string | null {
  const { xs, ys } = outer;
  const labs = layers.map(({ hex }) => oklabFromSrgb(...rgbFromHex(hex)));
  const votes = new Map<number, number>();
  const step = Math.max(1, Math.floor(xs.length / MOST_SAMPLES));
  for (let k = 0; k < xs.length; k += step) {
    const j = (k + 1) % xs.length;
    const [dx, dy] = [xs[j] - xs[k], ys[j] - ys[k]];
    const length = Math.hypot(dx, dy) || 1;
    // An outer outline has its inside at the right hand.
    const px = Math.floor(xs[k] + (dy / length) * BESIDE_PX);
    const py = Math.floor(ys[k] - (dx / length) * BESIDE_PX);
    const p = (py * raster.width + px) * 4;
    const isClear = px < 0 || py < 0 || px >= raster.width || py >= raster.height || raster.data[p + 3] < HALF;
    const found = isClear ? CLEAR : nearestOf(labs, [raster.data[p], raster.data[p + 1], raster.data[p + 2]]);
    if (found !== layer) votes.set(found, (votes.get(found) ?? 0) + 1);
  }
  const [most] = [...votes].sort((a, b) => b[1] - a[1]);
  return !most || most[0] === CLEAR ? null : layers[most[0]].hex;
}
const CLEAR = -1;

function nearestOf(labs: readonly ReturnType<typeof oklabFromSrgb>[], rgb: readonly [number, number, number]): number {
  const own = oklabFromSrgb(...rgb);
  let [best, off] = [0, Infinity];
  labs.forEach((lab, k) => {
    const d = deltaE(lab, own);
    if (d < off) [best, off] = [k, d];
  });
  return best;
}
