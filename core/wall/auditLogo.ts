import { type Rgb, rgbFromHex } from '../colour/hex';
import { measureStanding, outlineMark } from '../contrast/standing';
import { inspectPicture } from '../inspect/inspectPicture';
import { cutOutFlat, plainFlat } from '../matte/cutOutFlat';
import { cropRaster } from '../raster/cropRaster';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import { measureSharpness } from './sharpness';

export type WallProblem = 'white-box' | 'fringe' | 'enlarged' | 'margins' | 'stretched' | 'lost' | 'duplicate';

/** A file of the wall, looked at. */
export interface AuditedLogo {
  readonly problems: readonly WallProblem[];
  /** What is visible of it, cut to that and freed from a flat ground. */
  readonly mark: Raster;
}

/** A box is white, or nearly, or black: a plate in a colour belongs to the logo. */
const WHITE_FROM = 222;
const BLACK_TO = 24;
const FLAT_BORDER = 0.85;
/** Empty on both sides together, against the picture's side, more is a margin. */
const MOST_EMPTY = 0.26;
/** Less contrast than this against the wall's ground is lost. */
const LEAST_CONTRAST = 1.7;
/** Of half-covered pixels so many may be lighter than their mark by so many levels. */
const MOST_FRINGED = 0.15;
const LIGHTER = 40;
/** A drawn edge is over in a pixel or two; in an enlarged picture its steepest step is a smaller part of it. */
const LEAST_STEP = 0.36;
/** Edges blurred this much more along rows than down columns, or the other way, come of one-sided scaling. */
const MOST_UNEQUAL = 1.38;

/**
 * What is wrong with one logo for a wall, and the mark in it.
 * @param isDrawn  made of paths: neither sharpness nor pixels say anything
 */
export function auditLogo(
  raster: Raster,
  { room, ground, isDrawn }: { room: { width: number; height: number }; ground: Rgb; isDrawn: boolean },
): AuditedLogo {
  const problems: WallProblem[] = [];
  const seen = inspectPicture(raster);
  const isClear = seen.way === 'transparent';
  let own = raster;
  if (!isClear && seen.share >= FLAT_BORDER && isBox(seen.groundHex)) {
    own = cutOutFlat(raster, { ...plainFlat, unchecked: true }).picture;
    if (!isDrawn) problems.push('white-box');
  }
  const extents = findExtents(own, 12);
  if (!extents) return { problems, mark: raster };
  const mark = cropRaster(own, extents);
  if (isClear && hasFringe(raster)) problems.push('fringe');
  const empty = (whole: number, part: number) => (whole - part) / whole > MOST_EMPTY;
  if (empty(raster.width, extents.width) || empty(raster.height, extents.height)) problems.push('margins');
  if (!isDrawn) {
    const sharpness = measureSharpness(mark);
    const isFewPixels = Math.min(room.width / mark.width, room.height / mark.height) > 1.05;
    const steepest = Math.max(sharpness.alongRows, sharpness.downColumns);
    if (isFewPixels || (sharpness.edges > 40 && steepest < LEAST_STEP)) problems.push('enlarged');
    const unequal = steepest / Math.max(0.01, Math.min(sharpness.alongRows, sharpness.downColumns));
    if (sharpness.edges > 40 && unequal > MOST_UNEQUAL) problems.push('stretched');
  }
  const standing = measureStanding(outlineMark(mark), ground, { x: 0, y: 0 });
  if (standing.ratio < LEAST_CONTRAST) problems.push('lost');
  return { problems, mark };
}

function isBox(hex: string | null): boolean {
  if (!hex) return false;
  const rgb = rgbFromHex(hex);
  return Math.min(...rgb) >= WHITE_FROM || Math.max(...rgb) <= BLACK_TO;
}

// Half-covered pixels that are much lighter than the opaque ones beside them still hold a white ground.
function hasFringe({ width, height, data }: Raster): boolean {
  let [edge, light] = [0, 0];
  const luma = (i: number) => 0.3 * data[i] + 0.59 * data[i + 1] + 0.11 * data[i + 2];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = (y * width + x) * 4;
      if (data[i + 3] < 40 || data[i + 3] > 215) continue;
      let inside = -1;
      for (const step of [4, -4, width * 4, -width * 4]) {
        const n = i + 2 * step;
        if (data[n + 3] === 255 && (inside < 0 || luma(n) < luma(inside))) inside = n;
      }
      if (inside < 0) continue;
      edge++;
      if (luma(i) - luma(inside) > LIGHTER) light++;
    }
  return edge > 20 && light > MOST_FRINGED * edge;
}

/** Side of the small pictures that are compared, and the mean difference up to which two are one. */
const LOOK = 24;
const SAME = 0.045;

/** Whether two marks are copies of one: alike when brought to one small size, whatever their own. */
export function isSameMark(a: Raster, b: Raster): boolean {
  const ratio = a.width / a.height / (b.width / b.height);
  if (ratio > 1.35 || ratio < 1 / 1.35) return false;
  const [p, q] = [lookOf(a), lookOf(b)];
  return p.reduce((sum, v, i) => sum + Math.abs(v - q[i]), 0) / p.length < SAME;
}

// Means of a grid: alpha, and colour by alpha.
function lookOf({ width, height, data }: Raster): Float64Array {
  const out = new Float64Array(LOOK * LOOK * 4);
  const count = new Float64Array(LOOK * LOOK);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const cell = Math.floor((y * LOOK) / height) * LOOK + Math.floor((x * LOOK) / width);
      const a = data[i + 3] / 255;
      for (let c = 0; c < 3; c++) out[cell * 4 + c] += (data[i + c] / 255) * a;
      out[cell * 4 + 3] += a;
      count[cell]++;
    }
  return out.map((v, k) => v / Math.max(1, count[k >> 2]));
}
