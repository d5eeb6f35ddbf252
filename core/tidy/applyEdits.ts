import { rgbFromHex } from '../colour/hex';
import type { Projective } from '../geometry/projective';
import { project } from '../geometry/projective';
import type { RectPx } from '../params';
import type { Raster } from '../raster/raster';
import { closedOff } from './closedOff';
import { type Covered, coverLoops, coverStroke } from './coverage';
import { type Edit, isStroke } from './edits';
import { findPieces } from './pieces';
import { pocketOf } from './pocket';

/** What edits work on and with, all of one size. */
export interface EditScene {
  /** The cut-out artwork; changed in place. */
  readonly raster: Raster;
  /** Where alone anything is visible. */
  readonly within: RectPx;
  /** The same as the cut-out made it, not changed. */
  readonly cutOut: Raster;
  /** The picture as it was before anything was cut out of it; null for artwork that never had a ground. */
  readonly original: Raster | null;
  /** The cut-out with everything of the ground's colour open; asked for only when an edit wants it. */
  readonly opened: () => Raster;
  /** From working-picture pixels to this raster's. */
  readonly onto: Projective;
}

/**
 * What all but the newest edits came to, by the cut-out that they were made to: a stroke more then costs that stroke.
 */
const remembered = new WeakMap<Raster, { keys: readonly string[]; data: Uint8Array; within: RectPx }>();

/** Applies edits one after another, in place. @returns where alone anything is visible afterwards */
export function applyEdits(scene: EditScene, edits: readonly Edit[]): RectPx {
  const keys = edits.map((edit) => JSON.stringify(edit));
  const before = remembered.get(scene.cutOut);
  const isGoingOn =
    before !== undefined && before.keys.length <= keys.length && before.keys.every((key, k) => key === keys[k]);
  if (isGoingOn) scene.raster.data.set(before.data);
  const rest = isGoingOn ? edits.slice(before.keys.length) : edits;
  const within = applyAll({ ...scene, within: isGoingOn ? before.within : scene.within }, rest);
  const data = before?.data ?? new Uint8Array(scene.raster.data.length);
  data.set(scene.raster.data);
  remembered.set(scene.cutOut, { keys, data, within });
  return within;
}

function applyAll(scene: EditScene, edits: readonly Edit[]): RectPx {
  let { within } = scene;
  for (const edit of edits) {
    if (edit.kind === 'recolour') {
      recolour({ ...scene, within }, edit.points, edit.colour);
      continue;
    }
    const covered = isStroke(edit)
      ? coverStroke(edit, scene.onto, scene.raster)
      : coverLoops([edit.points], scene.onto, scene.raster);
    if (!covered) continue;
    if (edit.kind === 'rub') thin(scene.raster, covered);
    else if (edit.kind === 'back') blendTo(scene.raster, scene.cutOut, covered);
    else if (edit.kind === 'open') blendTo(scene.raster, scene.opened(), covered);
    else if (edit.kind === 'cover' && edit.colour) lay(scene.raster, covered, rgbFromHex(edit.colour));
    else if (edit.kind === 'cover') thin(scene.raster, covered);
    else if (scene.original) makeSolid({ ...scene, within }, edit, covered);
    if (edit.kind !== 'rub') within = union(within, covered.box);
  }
  return within;
}

/**
 * An outline means what lies between the mark's walls in it; a line that closes something off means that, and of itself
 * what lies between the walls.
 */
function makeSolid(scene: EditScene, edit: Edit, covered: Covered): void {
  const { raster, original, within } = scene;
  if (!original) return;
  const closed = isStroke(edit) ? closedOff(raster, within, covered) : null;
  const own = pocketOf(raster, covered, closed ? CLOSING_SHARE : undefined);
  if (closed) bringBack(raster, original, closed);
  bringBack(raster, original, own);
}

/** Of a line that closes something off, hardly any need lie between walls: its ends may lie far outside. */
const CLOSING_SHARE = 0.05;

type Visit = (i: number, share: number) => void;

/** Every covered pixel: where its four bytes begin, and how much of it is covered, 0 to 1. */
function eachCovered({ width }: Raster, { box, share }: Covered, visit: Visit): void {
  for (let y = 0, k = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++, k++) {
      if (share[k] > 0) visit(((box.y + y) * width + box.x + x) * 4, share[k] / 255);
    }
  }
}

/** Takes artwork away. */
function thin(raster: Raster, covered: Covered): void {
  const { data } = raster;
  eachCovered(raster, covered, (i, share) => {
    data[i + 3] = Math.round(data[i + 3] * (1 - share));
  });
}

/** Writes a pixel of premultiplied colour. */
function put(data: Uint8Array, i: number, colour: readonly number[], alpha: number): void {
  const byte = Math.round(Math.min(1, alpha) * 255);
  data[i + 3] = byte;
  if (byte === 0) return;
  for (let c = 0; c < 3; c++) data[i + c] = Math.max(0, Math.min(255, Math.round(colour[c] / alpha)));
}

/**
 * Makes solid what the picture shows. Of a pixel C = αF + (1−α)B the artwork F is there already; the rest of it comes
 * back as well, so that covered whole the pixel is C itself: no colour is invented at the edge of what was solid
 * before.
 */
function bringBack(raster: Raster, original: Raster, covered: Covered): void {
  const { data } = raster;
  eachCovered(raster, covered, (i, share) => {
    const alpha = data[i + 3] / 255;
    const whole = original.data[i + 3] / 255;
    // What is there already counts: a pixel half covered by the mark is not covered more by half of it again.
    const rest = (share * whole - alpha) / (whole - alpha);
    if (alpha >= whole || rest <= 0) return;
    const part = (c: number) => {
      const own = data[i + c] * alpha;
      return own + rest * Math.max(0, original.data[i + c] * whole - own);
    };
    put(data, i, [part(0), part(1), part(2)], alpha + rest * (whole - alpha));
  });
}

/** Goes over to another version of the same artwork. */
function blendTo(raster: Raster, other: Raster, covered: Covered): void {
  const { data } = raster;
  eachCovered(raster, covered, (i, share) => {
    const [from, to] = [(data[i + 3] / 255) * (1 - share), (other.data[i + 3] / 255) * share];
    const part = (c: number) => data[i + c] * from + other.data[i + c] * to;
    put(data, i, [part(0), part(1), part(2)], from + to);
  });
}

/** Lays a colour over it. */
function lay(raster: Raster, covered: Covered, rgb: readonly number[]): void {
  const { data } = raster;
  eachCovered(raster, covered, (i, share) => {
    const rest = (data[i + 3] / 255) * (1 - share);
    const part = (c: number) => data[i + c] * rest + rgb[c] * share;
    put(data, i, [part(0), part(1), part(2)], rest + share);
  });
}

/** Gives whole pieces another colour; their coverage stays. */
function recolour({ raster, within, onto }: EditScene, points: readonly number[], hex: string): void {
  const { labels, pieces } = findPieces(raster, within);
  const wanted = new Set<number>();
  for (let k = 0; k < points.length; k += 2) {
    const label = pieceAt({ labels, within, pieces }, project(onto, points[k], points[k + 1]));
    if (label) wanted.add(label);
  }
  const rgb = rgbFromHex(hex);
  for (let y = 0, k = 0; y < within.height; y++) {
    for (let x = 0; x < within.width; x++, k++) {
      if (!wanted.has(labels[k])) continue;
      const i = ((within.y + y) * raster.width + within.x + x) * 4;
      for (let c = 0; c < 3; c++) raster.data[i + c] = rgb[c];
    }
  }
}

/** A press beside a small piece means that piece. */
const NEAR_PX = 6;

/** The label of the piece at a place of the raster, or of the nearest one within a few pixels; 0 for none. */
export function pieceAt(
  { labels, within }: Pick<ReturnType<typeof findPieces>, 'labels' | 'within' | 'pieces'>,
  place: { x: number; y: number },
): number {
  const [px, py] = [Math.floor(place.x) - within.x, Math.floor(place.y) - within.y];
  let [best, least] = [0, Infinity];
  for (let y = Math.max(0, py - NEAR_PX); y <= Math.min(within.height - 1, py + NEAR_PX); y++) {
    for (let x = Math.max(0, px - NEAR_PX); x <= Math.min(within.width - 1, px + NEAR_PX); x++) {
      const label = labels[y * within.width + x];
      const far = (x - px) ** 2 + (y - py) ** 2;
      if (label === 0 || far > NEAR_PX * NEAR_PX || far >= least) continue;
      [best, least] = [label, far];
    }
  }
  return best;
}

function union(a: RectPx, b: RectPx): RectPx {
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}
