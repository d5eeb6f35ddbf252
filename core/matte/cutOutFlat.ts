import { CoreError } from '../errors';
import { FIRST_AREA, MARK, SOFT, SOFT_INSIDE } from '../kernels/interface';
import { type Rgb, hexFromRgb } from '../colour/hex';
import type { Anchor, RectPx } from '../params';
import { bytes, call, copyPartIn, roomFor, withHeap } from '../kernels/heap';
import { placeOnCanvas } from '../raster/cropRaster';
import type { Raster } from '../raster/raster';
import { chokeMatte, nearClear, softenMatte } from './adjustEdge';
import { findEdgeBand, openTable } from './edgeBand';
import { type EnclosedArea, findEnclosedAreas } from './enclosedAreas';
import type { Ground } from './measureGround';
import { removeCrumbs } from './removeCrumbs';
import { removeDirt } from './removeDirt';
import { agreeOnShadow, takeShadowRemains } from './shadowRemains';
import { type RowSegments, findSegments, markMixed, segmentsRoom } from './rowSegments';
import { type SoftRegion, findSoftRegions, softRoom } from './softRegions';
import { mostLabels, spreadGround, stackRoom } from './spreadGround';
import type { ToleranceStudy } from './steadyRange';
import { type PictureStudy, findRegion, studyPicture } from './studyPicture';
import { type Spot, type Trouble, measureTrouble } from './measureTrouble';
import { measureRipple, unmixEdges } from './unmixEdges';

/**
 * A colour that differs from the mark by less is the mark's: never under six levels, more with noise and with ripples.
 */
const LEAST_FLAT = 6;
const FLAT_PER_NOISE = 4;
const FLAT_PER_RIPPLE = 0.6;

export interface FlatOptions {
  /** Empty: measured at the border. */
  readonly grounds: readonly Rgb[];
  /** Code values, or null for the middle of the steady range. */
  readonly tolerance: number | null;
  readonly softnessPx: number;
  readonly chokePx: number;
  /** A person's decisions, in pixels of this picture. */
  readonly anchors: readonly Anchor[];
  /** `judged`: each area as decided; `open`: every enclosed area see-through. */
  readonly enclosed: 'judged' | 'open';
  /** How much of what compression does to the ground is forgiven: 0 nothing, 1 as measured, 2 twice that. */
  readonly cleanUp: number;
  /** Only finds and judges the enclosed areas; the picture comes back empty. */
  readonly onlyAreas?: boolean;
  /** The picture is not needed any more: its memory takes the result. */
  readonly consumes?: boolean;
  /** Leaves out the check of the finished picture: no trouble is told of. */
  readonly unchecked?: boolean;
}

/** Everything as measured: the start of every cut-out from a flat ground. */
export const plainFlat: FlatOptions = {
  grounds: [],
  tolerance: null,
  softnessPx: 0,
  chokePx: 0,
  anchors: [],
  enclosed: 'judged',
  cleanUp: 1,
};

export interface FlatFacts {
  readonly groundHex: string;
  readonly ground: Ground;
  readonly tolerance: number;
  readonly study: ToleranceStudy;
  readonly areas: readonly EnclosedArea[];
  /** What compression does to the ground near edges, code values. */
  readonly ripple: number;
  readonly trouble: Trouble | null;
}

export interface FlatResult {
  readonly picture: Raster;
  /** All that is visible lies in here. */
  readonly within: RectPx;
  readonly facts: FlatFacts;
}

/**
 * How far in and out from an edge its pixels are worked out: compression soils and ripples, a clean edge is two or
 * three pixels wide.
 */
const SOILED_BAND = { inwards: 6, outwards: 5 };
const CLEAN_BAND = { inwards: 4, outwards: 3 };
/** With less of the border in one colour than this, there is no flat ground to speak of. */
export const LEAST_SHARE = 0.35;

/**
 * Cuts a mark out of a flat ground: straight alpha on the same pixel grid, edge colours freed from the ground.
 * @param raster  opaque picture; not changed unless it is to be consumed
 * @param onStep  called with the name of each step as it begins, for timing
 * @throws CoreError 'cutout/no-flat-ground' when the border has no common colour and no ground was given
 */
export function cutOutFlat(
  raster: Raster,
  options: FlatOptions,
  onStep: (name: string) => void = () => {},
): FlatResult {
  const { width, height } = raster;
  const whole = studyPicture(raster, options.grounds, options.cleanUp, onStep);
  const { ground, tolerance: study } = whole;
  if (options.grounds.length === 0 && ground.share < LEAST_SHARE) {
    throw new CoreError(
      'cutout/no-flat-ground',
      `Only ${Math.round(ground.share * 100)} % of the border has one colour. Pick the ` +
        `ground's colour in the picture, or crop closer.`,
      { share: ground.share },
    );
  }
  // Distances are whole code values, so a part of one above a whole one makes no difference.
  const tolerance = Math.floor(options.tolerance ?? study.start);
  // Where the ground is noisy the study covers all of it; most of a usual picture is empty even so.
  const box = findRegion(whole.calm, whole.region.width, whole.region.height, tolerance);
  const region = { ...box, x: whole.region.x + box.x, y: whole.region.y + box.y };
  const { x, y } = region;
  return withHeap(cutRoom(box.width, box.height, ground), () => {
    const part = bringIn(raster, whole, box, region);
    const { picture, areas, segments, soft } = cutRegion(part, tolerance, shiftAnchors(options, -x, -y), onStep);
    onStep('adjust');
    softenMatte(picture, options.softnessPx);
    const { chokePx } = options;
    if (chokePx !== 0) chokeMatte(picture, chokePx, chokePx > 0 ? nearClear(picture, chokePx, soft) : undefined);
    if (!options.unchecked) onStep('check');
    const trouble =
      options.onlyAreas || options.unchecked
        ? null
        : measureTrouble(part.ground, part.distance, segments, picture, tolerance);
    onStep('place');
    return {
      picture: placeOnCanvas(picture, width, height, x, y, options.consumes ? raster.data : undefined),
      within: region,
      facts: {
        groundHex: hexFromRgb(ground.colour),
        ground,
        tolerance,
        study,
        areas: areas.map((a) => shiftArea(a, x, y)),
        ripple: whole.ripple,
        trouble: trouble && shiftTrouble(trouble, x, y),
      },
    };
  });
}

/** A region of a studied picture in the kernels' memory, all of it the caller's to change. */
interface Part extends Pick<PictureStudy, 'ground' | 'distance' | 'calm' | 'ripple'> {
  readonly raster: Raster;
}

function bringIn(raster: Raster, study: PictureStudy, box: RectPx, region: RectPx): Part {
  const { ground, ripple } = study;
  const { width, height } = box;
  const data = copyPartIn(raster.data, raster.width * 4, { ...region, x: region.x * 4, width: width * 4 });
  const plane = ground.plane && {
    width,
    height,
    data: copyPartIn(ground.plane.data, ground.plane.width * 3, { ...region, x: region.x * 3, width: width * 3 }),
  };
  const frame = plane
    ? undefined
    : { width: raster.width, height: raster.height, ...ground.frame, x: region.x, y: region.y };
  return {
    raster: { width, height, data },
    ground: { ...ground, plane, frame },
    ripple,
    distance: copyPartIn(study.distance, study.region.width, box),
    calm: copyPartIn(study.calm, study.region.width, box),
  };
}

const areasRoom = (width: number, height: number): number => {
  const pixels = width * height;
  return Math.max(softRoom(pixels), roomFor(pixels, pixels * 4, stackRoom(width, height), pixels * 3));
};

// The most that any step asks for beside what stays throughout: lists and stacks of a number a pixel.
function cutRoom(width: number, height: number, ground: Ground): number {
  const pixels = width * height;
  const throughout =
    roomFor(pixels * 4, pixels * 4, pixels * 4, pixels, pixels, ground.plane ? pixels * 3 : 0) +
    2 * segmentsRoom(width, height);
  const edges = roomFor(pixels, pixels * 4, pixels * 4, pixels * 4, pixels * 4, mostLabels(pixels));
  return throughout + Math.max(areasRoom(width, height), edges) + SMALL_ROOM;
}

/** What lists that do not grow with the picture take up. */
const SMALL_ROOM = 2_000_000;

function cutRegion(
  { raster, ground, distance, calm, ripple: rippleLevel }: Part,
  tolerance: number,
  options: FlatOptions,
  onStep: (name: string) => void,
): { picture: Raster; areas: EnclosedArea[]; segments: RowSegments; soft: readonly ArrayLike<number>[] } {
  const { width, height } = raster;
  onStep('spread');
  let segments = findSegments(calm, width, height, deepFrom(tolerance, ground.noise));
  const labels = spreadGround(calm, segments, width, height, tolerance);
  onStep('soft');
  removeDirt(calm, labels, segments, width, tolerance, rippleLevel);
  const out = { width, height, data: bytes(width * height * 4) };
  const scene = { raster, ground, distance, calm, labels, segments, tolerance, ripple: rippleLevel };
  const soft = agreeOnShadow(scene, findSoftRegions(scene, out), out);
  onStep('areas');
  let inner: SoftRegion[] = [];
  const judged = withHeap(areasRoom(width, height), () =>
    findEnclosedAreas(scene, (count) => {
      // A glow inside a ring rises from the ring's own ground: it is found like the ones outside.
      if (count === 0) return;
      const patches = new Uint8Array(FIRST_AREA + count).fill(1, FIRST_AREA);
      inner = findSoftRegions(scene, out, { isOpen: patches, as: SOFT_INSIDE });
    }),
  );
  const areas = applyAnchors(judged.areas, options.anchors, labels, width, height);
  const open = areas.filter((a) => a.decision === 'open' || options.enclosed === 'open').map((a) => a.label);
  const isOpen = openTable(FIRST_AREA + judged.labelCount, open);
  if (options.onlyAreas) return { picture: out, areas, segments, soft: [] };
  settleInner(inner, labels, isOpen, out);
  const remains = takeShadowRemains(scene, soft, out);
  const softParts = [...[...soft, ...inner].map((s) => s.members), ...remains];
  if (softParts.length) segments = markMixed(segments, width, height, softParts);
  onStep('edges');
  const { inwards, outwards } = rippleLevel < 1 && softParts.length === 0 ? CLEAN_BAND : SOILED_BAND;
  const band = findEdgeBand({ labels, isOpen, segments, width, height }, inwards, outwards);
  copyMark(raster, labels, isOpen, segments, out);
  const ripple = measureRipple(distance, labels, band) * options.cleanUp;
  unmixEdges(raster, ground, band, distance, out, {
    noise: ground.noise,
    ripple,
    flat: Math.max(LEAST_FLAT, ground.noise * FLAT_PER_NOISE, ripple * FLAT_PER_RIPPLE),
    soft: softParts.length ? labels : null,
  });
  if (ripple > 0) removeCrumbs(out, band);
  return { picture: out, areas, segments, soft: softParts };
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

function shiftTrouble({ fringe, eaten, specks }: Trouble, dx: number, dy: number): Trouble {
  const shift = (spots: readonly Spot[]) => spots.map((s) => ({ ...s, x: s.x + dx, y: s.y + dy }));
  return {
    fringe: { ...fringe, places: shift(fringe.places) },
    eaten: { ...eaten, places: shift(eaten.places) },
    specks: shift(specks),
  };
}

const shiftAnchors = (options: FlatOptions, dx: number, dy: number): FlatOptions => ({
  ...options,
  anchors: options.anchors.map((a) => ({ ...a, x: a.x + dx, y: a.y + dy })),
});
const shiftArea = (a: EnclosedArea, dx: number, dy: number): EnclosedArea => ({
  ...a,
  x: a.x + dx,
  y: a.y + dy,
  bounds: { ...a.bounds, x: a.bounds.x + dx, y: a.bounds.y + dy },
});

/** The person's decisions laid over the judged ones: a point names the area it lies in, or the nearest within 3 px. */
function applyAnchors(
  areas: EnclosedArea[],
  anchors: readonly Anchor[],
  labels: Int32Array,
  width: number,
  height: number,
): EnclosedArea[] {
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

function copyMark({ data }: Raster, labels: Int32Array, isOpen: Uint8Array, { runs }: RowSegments, out: Raster): void {
  call([data, labels, isOpen, runs], [out.data], 0, ({ k, at }) =>
    k.copyMark(at(data), at(labels), at(isOpen), at(runs), runs.length, at(out.data)),
  );
}

// Neither a weak crumb nor the foot of a shadow nor a pale patch lies so far from the ground.
const deepFrom = (tolerance: number, noise: number): number =>
  Math.min(255, Math.max(72, tolerance + 40 + Math.ceil(2 * noise)));
