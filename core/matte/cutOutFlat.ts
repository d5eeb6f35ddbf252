import { CoreError } from '../errors';
import { type Rgb, hexFromRgb } from '../colour/hex';
import type { Anchor } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { chokeMatte, softenMatte } from './adjustEdge';
import { findEdgeBand, openTable } from './edgeBand';
import { type EnclosedArea, findEnclosedAreas } from './enclosedAreas';
import { groundDistance } from './groundDistance';
import { type Ground, groundOfColour, measureGround } from './measureGround';
import { forgiveRipple, sampleRipple } from './ripple';
import { removeDirt } from './removeDirt';
import { findSoftRegions } from './softRegions';
import { FIRST_AREA, spreadGround } from './spreadGround';
import { type ToleranceStudy, studyTolerance } from './steadyRange';
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
}

export interface FlatFacts {
  readonly groundHex: string;
  readonly ground: Ground;
  readonly tolerance: number;
  readonly study: ToleranceStudy;
  readonly areas: readonly EnclosedArea[];
  /** Pixels that are fully see-through, partly, and fully opaque. */
  readonly counts: { clear: number; part: number; opaque: number };
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
  onStep('ground');
  const measured = measureGround(raster);
  if (!options.ground && measured.share < LEAST_SHARE) {
    throw new CoreError('cutout/no-flat-ground', `Only ${Math.round(measured.share * 100)} % of the border has one colour. Pick the ground's colour in the picture, or crop closer.`, { share: measured.share });
  }
  const ground = options.ground ? groundOfColour(options.ground, measured) : measured;
  onStep('distance');
  const distance = groundDistance(raster, ground);
  onStep('tolerance');
  const rippleLevel = sampleRipple(distance, width, height);
  const calm = forgiveRipple(distance, width, height, rippleLevel);
  const study = studyTolerance(calm, width, height, ground.noise);
  const tolerance = options.tolerance ?? study.start;
  onStep('spread');
  const labels = spreadGround(calm, width, height, tolerance);
  onStep('soft');
  removeDirt(calm, labels, width, height, tolerance, rippleLevel);
  const out = createRaster(width, height);
  const hasSoft = findSoftRegions(raster, ground, distance, labels, tolerance, out);
  onStep('areas');
  const judged = findEnclosedAreas(raster, ground, calm, labels, tolerance);
  const areas = applyAnchors(judged, options.anchors, labels, width, height);
  const open = areas.filter((a) => a.decision === 'open' || options.enclosed === 'open').map((a) => a.label);
  const isOpen = openTable(FIRST_AREA + mostLabel(labels), open);
  onStep('edges');
  const band = findEdgeBand(labels, isOpen, width, height, INWARDS, OUTWARDS);
  copyMark(raster, labels, isOpen, out);
  const ripple = measureRipple(distance, band);
  unmixEdges(raster, ground, band, distance, out, { noise: ground.noise, ripple, flat: Math.max(6, ground.noise * 4, ripple * 0.6), soft: hasSoft ? labels : null });
  onStep('adjust');
  softenMatte(out, options.softnessPx);
  if (options.chokePx !== 0) chokeMatte(out, options.chokePx);
  return { picture: out, facts: { groundHex: hexFromRgb(ground.colour), ground, tolerance, study, areas, counts: countAlpha(out) } };
}

function mostLabel(labels: Int32Array): number {
  let most = 0;
  for (let i = 0; i < labels.length; i++) if (labels[i] > most) most = labels[i];
  return Math.max(0, most - FIRST_AREA) + 1;
}

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

function countAlpha({ data }: Raster): FlatFacts['counts'] {
  let clear = 0;
  let opaque = 0;
  for (let i = 3; i < data.length; i += 4) {
    if (data[i] === 0) clear++;
    else if (data[i] === 255) opaque++;
  }
  return { clear, part: data.length / 4 - clear - opaque, opaque };
}
