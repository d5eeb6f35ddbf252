import { type Rgb, hexFromRgb, rgbFromHex } from '../colour/hex';
import { measureStanding, outlineMark } from '../contrast/standing';
import { inspectPicture } from '../inspect/inspectPicture';
import { cutOutFlat, plainFlat } from '../matte/cutOutFlat';
import { fringeOf } from '../matte/takeFringe';
import { cropRaster } from '../raster/cropRaster';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import { type EdgeDifference, compareEdges } from './edgeShapes';
import { proportionsOf } from './proportions';
import { measureSharpness } from './sharpness';

export type WallProblem = 'white-box' | 'fringe' | 'enlarged' | 'margins' | 'stretched' | 'lost' | 'duplicate';

/** A file of the wall, looked at. */
export interface AuditedLogo {
  readonly problems: readonly WallProblem[];
  /** What is visible of it, cut to that and freed from a flat ground. */
  readonly mark: Raster;
  /** The mark's upper left corner on the picture, px. */
  readonly at: { readonly x: number; readonly y: number };
  /** How many times as wide as it should be the picture seems, against its height; 1 where it is not stretched. */
  readonly stretch: number;
  /** The ground that its edges still hold; null where they are clean. */
  readonly oldGround: string | null;
}

/** A box is white, or nearly, or black: a plate in a colour belongs to the logo. */
const WHITE_FROM = 222;
const BLACK_TO = 24;
const FLAT_BORDER = 0.85;
/** Empty on both sides together, against the picture's side, more is a margin: both ways, or one way alone. */
const MOST_EMPTY = { both: 0.26, one: 0.5 };
/** So much larger a mark may come out in its slot without its margins. */
const MOST_LOSS = 1.36;
/** Less contrast than this against the wall's ground is lost. */
const LEAST_CONTRAST = 1.7;
/** A drawn edge is over in a pixel or two; in an enlarged picture its steepest step is a smaller part of it. */
const LEAST_STEP = 0.36;
/**
 * Edges along rows and down columns are alike but for this much, in `compareEdges`: either alone, or greys together
 * with softness or with what spills over. ADR 0030 has the numbers.
 */
const UNLIKE = {
  ...{ greys: 0.17, softness: 0.055, spill: 0.03 },
  ...{ withSoftness: { greys: 0.06, softness: 0.03 }, withSpill: { greys: 0.05, spill: 0.012 } },
};
/** Of fewer edges than `many` it must be more, as chance has it; still fewer say nothing. */
const EDGES = { many: 200, few: 60 };

/**
 * What is wrong with one logo for a wall, and the mark in it.
 * @param isDrawn  made of paths: neither sharpness nor pixels say anything
 */
export function auditLogo(
  raster: Raster,
  { room, ground, isDrawn }: { room: { width: number; height: number }; ground: Rgb | Raster; isDrawn: boolean },
): AuditedLogo {
  const problems: WallProblem[] = [];
  const seen = inspectPicture(raster);
  const isClear = seen.way === 'transparent';
  let own = raster;
  if (!isClear && seen.way !== 'opaque' && seen.share >= FLAT_BORDER && isBox(seen.groundHex)) {
    own = cutOutFlat(raster, { ...plainFlat, unchecked: true }).picture;
    if (!isDrawn) problems.push('white-box');
  }
  const extents = findExtents(own, 12);
  if (!extents) return { problems, mark: raster, at: { x: 0, y: 0 }, stretch: 1, oldGround: null };
  const mark = cropRaster(own, extents);
  const fringe = isClear ? fringeOf(raster) : null;
  if (fringe) problems.push('fringe');
  if (hasMargins(raster, extents, room)) problems.push('margins');
  if (!isDrawn) {
    const sharpness = measureSharpness(mark);
    const isFewPixels = Math.min(room.width / mark.width, room.height / mark.height) > 1.05;
    const steepest = Math.max(sharpness.alongRows, sharpness.downColumns);
    if (isFewPixels || (sharpness.edges > 40 && steepest < LEAST_STEP)) problems.push('enlarged');
  }
  const proportions = measureProportions(mark, isDrawn);
  if (proportions.isStretched) problems.push('stretched');
  if (isLost(mark, ground)) problems.push('lost');
  const oldGround = fringe && hexFromRgb(fringe);
  return { problems, mark, at: { x: extents.x, y: extents.y }, stretch: proportions.stretch, oldGround };
}

/** By its shapes first, whatever they are made of; by the edges of its pixels where these do not tell. */
function measureProportions(mark: Raster, isDrawn: boolean): { isStretched: boolean; stretch: number } {
  const edges = isDrawn ? null : compareEdges(mark);
  const shapes = proportionsOf(mark, edges !== null && isUnlike(edges, 0.5));
  if (shapes.stretch !== null) return { isStretched: shapes.stretch !== 1, stretch: shapes.stretch };
  if (edges === null || !isUnlike(edges)) return { isStretched: false, stretch: 1 };
  return { isStretched: true, stretch: stretchByEdges(edges, shapes.guess()) };
}

/** @param share  of what is asked for, where something else says the same */
function isUnlike({ greys, softness, spill, edges }: EdgeDifference, share = 1): boolean {
  if (edges < EDGES.few) return false;
  const least = share * Math.max(1, Math.sqrt(EDGES.many / edges));
  const [g, s, t] = [Math.abs(greys) / least, Math.abs(softness) / least, (spill * Math.sign(greys)) / least];
  const { withSoftness, withSpill } = UNLIKE;
  return (
    g >= UNLIKE.greys ||
    s >= UNLIKE.softness ||
    Math.abs(spill) / least >= UNLIKE.spill ||
    (g >= withSoftness.greys && s >= withSoftness.softness) ||
    (g >= withSpill.greys && t >= withSpill.spill)
  );
}

/** So few greys do not tell which way. */
const FEW_GREYS = 0.04;
/** Enlarged edges spill over by so much of what they are softer, or are far softer; those brought together are not. */
const DRAWN_OUT = { spill: 0.25, softness: 0.2 };
/** Greys of a mark drawn out as far, and from so soft an edge on, what softness adds. */
const FAR = { from: 1.1, perGrey: 0.85, softness: 0.1, perSoftness: 2 };
/** Edges of a mark brought together look alike for all that it was: a middle one, unless its strokes know better. */
const TOGETHER = 0.7;
/** A guess nearer to 1, by logarithm, says nothing. */
const LEAST_GUESS = 0.11;

/** How many times too wide a mark is by its edges. @param guess  what would suit its strokes best */
function stretchByEdges({ greys, softness, spill }: EdgeDifference, guess: number): number {
  const isSpilt = Math.abs(spill) >= UNLIKE.spill;
  const isWide = isSpilt ? spill > 0 : Math.abs(greys) > FEW_GREYS ? greys > 0 : softness < 0;
  const [soft, spilt] = isWide ? [softness, spill] : [-softness, -spill];
  const isDrawnOut = soft > DRAWN_OUT.softness || spilt > DRAWN_OUT.spill * soft;
  if (!isDrawnOut) {
    const isTold = Math.abs(Math.log(guess)) >= LEAST_GUESS && guess < 1 === isWide;
    return isTold ? guess : isWide ? TOGETHER : 1 / TOGETHER;
  }
  const by = FAR.from + FAR.perGrey * Math.abs(greys) + FAR.perSoftness * Math.max(0, soft - FAR.softness);
  return isWide ? by : 1 / by;
}

/** Whether a mark can hardly be seen on a ground. @param ground  a colour, or a photo of the slot's size */
export const isLost = (mark: Raster, ground: Rgb | Raster): boolean => standingOn(mark, ground).ratio < LEAST_CONTRAST;

/** How well it can be seen: on a photo in the middle of it. */
export function standingOn(mark: Raster, ground: Rgb | Raster) {
  const at =
    'data' in ground
      ? { x: Math.round((ground.width - mark.width) / 2), y: Math.round((ground.height - mark.height) / 2) }
      : { x: 0, y: 0 };
  return measureStanding(outlineMark(mark), ground, at);
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Whether a mark comes out small because its file is empty round it, or stands to one side. */
function hasMargins(whole: Size, part: Size, room: Size): boolean {
  const [across, down] = [1 - part.width / whole.width, 1 - part.height / whole.height];
  const fit = ({ width, height }: Size) => Math.min(room.width / width, room.height / height);
  const isEmpty = Math.min(across, down) > MOST_EMPTY.both || Math.max(across, down) > MOST_EMPTY.one;
  return isEmpty || fit(part) / fit(whole) > MOST_LOSS;
}

function isBox(hex: string | null): boolean {
  if (!hex) return false;
  const rgb = rgbFromHex(hex);
  return Math.min(...rgb) >= WHITE_FROM || Math.max(...rgb) <= BLACK_TO;
}
