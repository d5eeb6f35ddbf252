import { CoreError } from '../errors';
import { type Rgb, hexFromRgb } from '../colour/hex';
import type { Anchor, RectPx } from '../params';
import { clampRect, cropRaster, placeOnCanvas } from '../raster/cropRaster';
import { type Raster, createRaster } from '../raster/raster';
import { chokeMatte, softenMatte } from './adjustEdge';
import { findEdgeBand, openTable } from './edgeBand';
import { type EnclosedArea, findEnclosedAreas } from './enclosedAreas';
import type { Ground } from './measureGround';
import { removeDirt } from './removeDirt';
import { type SoftRegion, findSoftRegions } from './softRegions';
import { FIRST_AREA, MARK, SOFT, SOFT_INSIDE, spreadGround } from './spreadGround';
import type { ToleranceStudy } from './steadyRange';
import { studyPicture } from './studyPicture';
import { measureRipple, unmixEdges } from './unmixEdges';

export interface FlatOptions {
  /** null: measured at the border. */
  readonly ground: Rgb | null;
  /** Code values, or null for the middle of the steady range. */
  readonly tolerance: number | null;
  readonly softnessPx: number;
  readonly chokePx: number;
  /** A person's decisions, in pixels of this picture. */
  readonly anchors: readonly Anchor[];
  /** `judged`: each area as decided; `open`: every enclosed area see-through. */
  readonly enclosed: 'judged' | 'open';
  /** Only finds and judges the enclosed areas; the picture comes back empty. */
  readonly onlyAreas?: boolean;
}

export interface FlatFacts {
  readonly groundHex: string;
  readonly ground: Ground;
  readonly tolerance: number;
  readonly study: ToleranceStudy;
  readonly areas: readonly EnclosedArea[];
}

export interface FlatResult {
  readonly picture: Raster;
  readonly facts: FlatFacts;
}

const INWARDS = 6;
const OUTWARDS = 5;
/** With less of the border in one colour than this, there is no flat ground to speak of. */
export const LEAST_SHARE = 0.35;

/**
 * Cuts a mark out of a flat ground: straight alpha on the same pixel grid, edge colours freed from the ground.
 * @param raster  opaque picture; not changed
 * @param onStep  called with the name of each step as it begins, for timing
 * @throws CoreError 'cutout/no-flat-ground' when the border has no common colour and no ground was given
 */
export function cutOutFlat(raster: Raster, options: FlatOptions, onStep: (name: string) => void = () => {}): FlatResult {
  const { width, height } = raster;
  const { ground, distance, calm, ripple, tolerance: study } = studyPicture(raster, options.ground, onStep);
  if (!options.ground && ground.share < LEAST_SHARE) {
    throw new CoreError('cutout/no-flat-ground', `Only ${Math.round(ground.share * 100)} % of the border has one colour. Pick the ground's colour in the picture, or crop closer.`, { share: ground.share });
  }
  const tolerance = options.tolerance ?? study.start;
  // Most of a usual picture is empty ground: only the mark's surroundings are worked on.
  const box = findRegion(calm, width, height, tolerance);
  const part = box ? cropPlanes(raster, ground, distance, calm, box) : { raster, ground, distance, calm: calm.slice() };
  const { picture, areas } = cutRegion(part, tolerance, ripple, shiftAnchors(options, -(box?.x ?? 0), -(box?.y ?? 0)), onStep);
  onStep('adjust');
  const out = box ? placeOnCanvas(picture, width, height, box.x, box.y) : picture;
  softenMatte(out, options.softnessPx);
  if (options.chokePx !== 0) chokeMatte(out, options.chokePx);
  return { picture: out, facts: { groundHex: hexFromRgb(ground.colour), ground, tolerance, study, areas: areas.map((a) => shiftArea(a, box?.x ?? 0, box?.y ?? 0)) } };
}

interface Planes { readonly raster: Raster; readonly ground: Ground; readonly distance: Uint8Array; readonly calm: Uint8Array }

function cutRegion({ raster, ground, distance, calm }: Planes, tolerance: number, rippleLevel: number, options: FlatOptions, onStep: (name: string) => void): { picture: Raster; areas: EnclosedArea[] } {
  const { width, height } = raster;
  onStep('spread');
  const labels = spreadGround(calm, width, height, tolerance);
  onStep('soft');
  removeDirt(calm, labels, width, height, tolerance, rippleLevel);
  const out = createRaster(width, height);
  const soft = findSoftRegions(raster, ground, distance, labels, tolerance, out);
  onStep('areas');
  let inner: SoftRegion[] = [];
  const judged = findEnclosedAreas(raster, ground, calm, labels, tolerance, rippleLevel, (count) => {
    // A glow inside a ring rises from the ring's own ground: it is found like the ones outside.
    if (count === 0) return;
    const patches = new Uint8Array(FIRST_AREA + count).fill(1, FIRST_AREA);
    inner = findSoftRegions(raster, ground, distance, labels, tolerance, out, patches, SOFT_INSIDE);
  });
  const areas = applyAnchors(judged.areas, options.anchors, labels, width, height);
  const open = areas.filter((a) => a.decision === 'open' || options.enclosed === 'open').map((a) => a.label);
  const isOpen = openTable(FIRST_AREA + judged.labelCount, open);
  if (options.onlyAreas) return { picture: out, areas };
  settleInner(inner, labels, isOpen, out);
  onStep('edges');
  const band = findEdgeBand(labels, isOpen, width, height, INWARDS, OUTWARDS);
  copyMark(raster, labels, isOpen, out);
  const ripple = measureRipple(distance, band);
  unmixEdges(raster, ground, band, distance, out, { noise: ground.noise, ripple, flat: Math.max(6, ground.noise * 4, ripple * 0.6), soft: soft.length + inner.length ? labels : null });
  return { picture: out, areas };
}

// A soft region in an area that belongs to the mark is simply a part of the mark.
function settleInner(inner: readonly SoftRegion[], labels: Int32Array, isOpen: Uint8Array, out: Raster): void {
  for (const { members, beside } of inner) {
    const label = [...beside].some((l) => isOpen[l]) ? SOFT : MARK;
    for (const m of members) {
      labels[m] = label;
      if (label === MARK) out.data.fill(0, m * 4, m * 4 + 4);
    }
  }
}

/** Room round the mark: the longest tail of a shadow, and the reach of every step that looks at neighbours. */
const ROOM = 60;

/** The region that holds everything above the tolerance, with room; null when it is nearly the whole picture. */
function findRegion(calm: Uint8Array, width: number, height: number, tolerance: number): RectPx | null {
  let left = width;
  let right = -1;
  let top = -1;
  let bottom = -1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let x = 0;
    while (x < width && calm[row + x] <= tolerance) x++;
    if (x === width) continue;
    if (top < 0) top = y;
    bottom = y;
    if (x < left) left = x;
    let last = width - 1;
    while (last > right && calm[row + last] <= tolerance) last--;
    if (last > right) right = last;
  }
  if (top < 0) return null;
  const box = clampRect({ x: left - ROOM, y: top - ROOM, width: right - left + 1 + 2 * ROOM, height: bottom - top + 1 + 2 * ROOM }, width, height);
  return box.width * box.height < 0.85 * width * height ? box : null;
}

function cropPlanes(raster: Raster, ground: Ground, distance: Uint8Array, calm: Uint8Array, box: RectPx): Planes {
  const cropPlane = (plane: Uint8Array) => {
    const out = new Uint8Array(box.width * box.height);
    for (let y = 0; y < box.height; y++) out.set(plane.subarray((box.y + y) * raster.width + box.x, (box.y + y) * raster.width + box.x + box.width), y * box.width);
    return out;
  };
  const frame = { x: box.x, y: box.y, width: raster.width, height: raster.height };
  return { raster: cropRaster(raster, box), ground: { ...ground, frame }, distance: cropPlane(distance), calm: cropPlane(calm) };
}

const shiftAnchors = (options: FlatOptions, dx: number, dy: number): FlatOptions => ({ ...options, anchors: options.anchors.map((a) => ({ ...a, x: a.x + dx, y: a.y + dy })) });
const shiftArea = (a: EnclosedArea, dx: number, dy: number): EnclosedArea => ({ ...a, x: a.x + dx, y: a.y + dy, bounds: { ...a.bounds, x: a.bounds.x + dx, y: a.bounds.y + dy } });

/** The person's decisions laid over the judged ones: a point names the area it lies in, or the nearest within 3 px. */
function applyAnchors(areas: EnclosedArea[], anchors: readonly Anchor[], labels: Int32Array, width: number, height: number): EnclosedArea[] {
  const chosen = new Map<number, Anchor['decision']>();
  for (const anchor of anchors) {
    const label = labelNear(Math.round(anchor.x), Math.round(anchor.y), labels, width, height);
    if (label !== null) chosen.set(label, anchor.decision);
  }
  if (chosen.size === 0) return areas;
  return areas.map((area) => {
    const decision = chosen.get(area.label);
    return decision ? { ...area, decision, certainty: 1, isChosen: true } : area;
  });
}

function labelNear(x: number, y: number, labels: Int32Array, width: number, height: number): number | null {
  for (let r = 0; r <= 3; r++) {
    for (let dy = -r; dy <= r; dy++) {
      for (let dx = -r; dx <= r; dx++) {
        if (Math.max(Math.abs(dx), Math.abs(dy)) !== r) continue;
        const px = x + dx;
        const py = y + dy;
        if (px < 0 || py < 0 || px >= width || py >= height) continue;
        const label = labels[py * width + px];
        if (label >= FIRST_AREA) return label;
      }
    }
  }
  return null;
}

function copyMark(raster: Raster, labels: Int32Array, isOpen: Uint8Array, out: Raster): void {
  const from = new Uint32Array(raster.data.buffer, raster.data.byteOffset, labels.length);
  const to = new Uint32Array(out.data.buffer, out.data.byteOffset, labels.length);
  for (let i = 0; i < labels.length; i++) if (!isOpen[labels[i]]) to[i] = from[i] | 0xff000000;
}
