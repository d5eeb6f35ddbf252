import type { RectPx } from '../params';
import type { Raster } from '../raster/raster';
import { type Ink, paperAt } from './inkColour';
import type { PaperLight } from './paperLight';
import type { LineFamily } from './ruledLines';

/** How far from a printed line its profile is measured, in small-grid pixels each way, and never closer than two px. */
const PROFILE_REACH = 2.6;
/** A profile may lie this far off the line found on the small grid, which knows it to about a pixel and a half. */
const MOST_OFF = 2.5;
/** A stretch this much fainter than an inked one could be is a stretch where the line was hardly printed. */
const FAINT = 1.5;
/** Of the pixels along a line a little less than half: where writing crosses, its pixels are the darker ones. */
const ALONG_RANK = 0.45;
/** Depth that paper alone reaches between two strips. */
const PAPER_DEPTH = 0.008;
/** A whole profile with less than this much depth shows no line. */
const LEAST_WEIGHT = 0.02;
/** A line that wanders is taken out over half its width more on both sides. */
const WANDER = 1.5;
/** No line hides more than this: what is left is divided by the rest, which must not come near nothing. */
const MOST_LINE = 0.85;

/** How much ink covers each pixel of a region, 1 = full; rows of the region, 0 where nothing of ink is near. */
export interface Coverage {
  readonly region: RectPx;
  readonly values: Float32Array;
  /** 1 where values were worked out. */
  readonly near: Uint8Array;
}

/**
 * Coverage at full size, worked out only in blocks near ink.
 * @param near  on the small grid, which blocks those are
 */
export function measureCoverage(raster: Raster, paper: PaperLight, ink: Ink, near: Uint8Array): Coverage {
  const region = regionOf(near, paper, raster.width, raster.height);
  const { x: x0, y: y0, width, height } = region;
  const values = new Float32Array(width * height);
  const known = new Uint8Array(width * height);
  const { factor, width: w } = paper;
  const [wr, wg, wb] = ink.weights;
  const left = new Float32Array(3);
  const right = new Float32Array(3);
  const { data } = raster;
  for (let y = 0; y < height; y++) {
    const row = Math.floor((y0 + y) / factor) * w;
    for (let bx = Math.floor(x0 / factor); bx * factor < x0 + width; bx++) {
      if (!near[row + bx]) continue;
      const from = Math.max(x0, bx * factor);
      const to = Math.min(x0 + width, (bx + 1) * factor);
      paperAt(paper, from, y0 + y, left);
      paperAt(paper, to - 1, y0 + y, right);
      const span = Math.max(1, to - 1 - from);
      for (
        let x = from, i = y * width + from - x0, s = ((y0 + y) * raster.width + from) * 4;
        x < to;
        x++, i++, s += 4
      ) {
        const t = (x - from) / span;
        values[i] =
          wr * (1 - data[s] / (left[0] + (right[0] - left[0]) * t)) +
          wg * (1 - data[s + 1] / (left[1] + (right[1] - left[1]) * t)) +
          wb * (1 - data[s + 2] / (left[2] + (right[2] - left[2]) * t));
        known[i] = 1;
      }
    }
  }
  return { region, values, near: known };
}

function regionOf(
  near: Uint8Array,
  { width: w, height: h, factor }: PaperLight,
  width: number,
  height: number,
): RectPx {
  let [left, top, right, bottom] = [w, h, -1, -1];
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      if (!near[i]) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
    }
  if (right < 0) return { x: 0, y: 0, width: 1, height: 1 };
  const x = left * factor;
  const y = top * factor;
  return {
    x,
    y,
    width: Math.min(width, (right + 1) * factor) - x,
    height: Math.min(height, (bottom + 1) * factor) - y,
  };
}

/** Printed lines are followed in strips of this many px of the small grid. */
const STRIP = 42;
const MOST_ALONG = 70;

/**
 * Takes printed lines out of a coverage, in place. Strip by strip each line's profile across is the median of what lies
 * along it, so that strokes which cross do not count; then ink and line part as layers do: c = 1 − (1 − all)/(1 −
 * line).
 */
export function removeLines(
  raster: Raster,
  paper: PaperLight,
  ink: Ink,
  coverage: Coverage,
  families: readonly LineFamily[],
): void {
  for (const family of families)
    for (const offset of family.offsets)
      removeLine(raster, paper, ink, coverage, family.angleDeg, offset * paper.factor);
}

function removeLine(
  raster: Raster,
  paper: PaperLight,
  ink: Ink,
  coverage: Coverage,
  angleDeg: number,
  offset: number,
): void {
  const a = (angleDeg * Math.PI) / 180;
  const [dx, dy] = [Math.cos(a), Math.sin(a)];
  const way: Way = { dx, dy, nx: -dy, ny: dx };
  const { region } = coverage;
  const strip = STRIP * paper.factor;
  const reach = Math.ceil(PROFILE_REACH * paper.factor + 2);
  // Where along the line the region begins and ends.
  const corners = [
    [region.x, region.y],
    [region.x + region.width, region.y],
    [region.x, region.y + region.height],
    [region.x + region.width, region.y + region.height],
  ].map(([x, y]) => x * dx + y * dy);
  const sampler = coverageSampler(raster, paper, ink);
  const strips: Strip[] = [];
  let last = 0;
  for (let from = Math.floor(Math.min(...corners) / strip) * strip; from < Math.max(...corners); from += strip) {
    const isNear = touchesRegion({ from, length: strip, offset }, way, region);
    const profile = isNear
      ? measureProfile(
          sampler,
          raster,
          { from: from - strip * 0.5, length: strip * 2, offset: offset + last },
          way,
          reach + 2,
        )
      : null;
    const centre = profile ? last + profile.shift : null;
    const isPlausible = centre !== null && Math.abs(centre) <= MOST_OFF * paper.factor + 1;
    if (isPlausible) last = centre as number;
    strips.push({
      from,
      isNear,
      profile: isPlausible ? profile : null,
      centre: isPlausible ? (centre as number) : last,
    });
  }
  borrowProfiles(strips);
  for (const { from, isNear, profile, centre } of strips) {
    if (isNear && profile)
      subtract(profile, { from, length: strip, offset: offset + centre - profile.shift }, way, reach, coverage);
  }
}

interface Strip {
  readonly from: number;
  readonly isNear: boolean;
  profile: LineProfile | null;
  centre: number;
}

/** A strip whose line seems this much deeper than the same line elsewhere has ink lying along it. */
const INKED = 1.6;

// Where ink lies along a line, its own depth cannot be seen: the nearest strip where it can lends its profile.
function borrowProfiles(strips: Strip[]): void {
  const peak = (s: Strip) => (s.profile ? Math.max(...s.profile.depth) : 0);
  const peaks = strips
    .filter((s) => s.profile)
    .map(peak)
    .sort((p, q) => p - q);
  const usual = peaks[peaks.length >> 1] ?? 0;
  const isGood = strips.map((s) => s.profile !== null && peak(s) < INKED * usual && peak(s) > usual / INKED / FAINT);
  strips.forEach((s, k) => {
    if (isGood[k] || !s.isNear) return;
    let lender = -1;
    for (let d = 1; d < strips.length && lender < 0; d++) lender = [k - d, k + d].find((n) => isGood[n]) ?? -1;
    if (lender < 0) return;
    s.profile = strips[lender].profile;
    s.centre = strips[lender].centre;
  });
}

/** Along a printed line, and across it: unit vectors. */
interface Way {
  readonly dx: number;
  readonly dy: number;
  readonly nx: number;
  readonly ny: number;
}

/** A part of a printed line: where along its way it begins, how long it is, and how far across the way it lies; px. */
interface Stretch {
  readonly from: number;
  readonly length: number;
  readonly offset: number;
}

function touchesRegion({ from, length: strip, offset }: Stretch, { dx, dy, nx, ny }: Way, r: RectPx): boolean {
  for (const t of [from, from + strip / 2, from + strip]) {
    const [x, y] = [t * dx + offset * nx, t * dy + offset * ny];
    if (x > r.x - strip && x < r.x + r.width + strip && y > r.y - strip && y < r.y + r.height + strip) return true;
  }
  return false;
}

type Sampler = (x: number, y: number) => number;

function coverageSampler({ width, data }: Raster, paper: PaperLight, ink: Ink): Sampler {
  const under = new Float32Array(3);
  const [wr, wg, wb] = ink.weights;
  return (x, y) => {
    paperAt(paper, x, y, under);
    const s = (y * width + x) * 4;
    return wr * (1 - data[s] / under[0]) + wg * (1 - data[s + 1] / under[1]) + wb * (1 - data[s + 2] / under[2]);
  };
}

interface LineProfile {
  readonly depth: Float32Array;
  readonly shift: number;
}

function measureProfile(
  sample: Sampler,
  raster: Raster,
  { from, length, offset }: Stretch,
  { dx, dy, nx, ny }: Way,
  reach: number,
): LineProfile | null {
  const count = 2 * reach + 1;
  const depth = new Float32Array(count);
  const list: number[] = [];
  const step = Math.max(1, length / MOST_ALONG);
  for (let k = 0; k < count; k++) {
    list.length = 0;
    for (let t = from; t < from + length; t += step) {
      const x = Math.round(t * dx + (offset + k - reach) * nx - 0.5);
      const y = Math.round(t * dy + (offset + k - reach) * ny - 0.5);
      if (x >= 0 && y >= 0 && x < raster.width && y < raster.height) list.push(sample(x, y));
    }
    if (list.length < 12) return null;
    list.sort((p, q) => p - q);
    depth[k] = list[Math.floor(list.length * ALONG_RANK)];
  }
  // The paper beside the line is the zero.
  const sides = [depth[0], depth[1], depth[count - 2], depth[count - 1]].sort((p, q) => p - q);
  const base = (sides[1] + sides[2]) / 2;
  let sum = 0;
  let weight = 0;
  for (let k = 0; k < count; k++) {
    depth[k] = Math.max(0, depth[k] - base);
    if (depth[k] < PAPER_DEPTH) depth[k] = 0;
    weight += depth[k];
    sum += depth[k] * (k - reach);
  }
  return weight < LEAST_WEIGHT ? null : { depth, shift: sum / weight };
}

function subtract(
  { depth, shift }: LineProfile,
  { from, length: strip, offset }: Stretch,
  { dx, dy, nx, ny }: Way,
  reach: number,
  { region, values, near }: Coverage,
): void {
  const half = (depth.length - 1) / 2;
  const isLevel = Math.abs(dx) >= Math.abs(dy);
  const first =
    Math.floor(
      Math.min(
        from * (isLevel ? dx : dy) + offset * (isLevel ? nx : ny),
        (from + strip) * (isLevel ? dx : dy) + offset * (isLevel ? nx : ny),
      ),
    ) -
    reach -
    1;
  const lastAlong =
    Math.ceil(
      Math.max(
        from * (isLevel ? dx : dy) + offset * (isLevel ? nx : ny),
        (from + strip) * (isLevel ? dx : dy) + offset * (isLevel ? nx : ny),
      ),
    ) +
    reach +
    1;
  for (
    let p = Math.max(first, isLevel ? region.x : region.y);
    p < Math.min(lastAlong, isLevel ? region.x + region.width : region.y + region.height);
    p++
  ) {
    // Where the line crosses this column or row.
    const q = isLevel ? (offset - (p + 0.5) * nx) / ny : (offset - (p + 0.5) * ny) / nx;
    for (let r = Math.floor(q - reach * WANDER + shift); r <= Math.ceil(q + reach * WANDER + shift); r++) {
      const [x, y] = isLevel ? [p, r] : [r, p];
      if (x < region.x || y < region.y || x >= region.x + region.width || y >= region.y + region.height) continue;
      const t = (x + 0.5) * dx + (y + 0.5) * dy;
      if (t < from || t >= from + strip) continue;
      const k = (x + 0.5) * nx + (y + 0.5) * ny - offset + half;
      const k0 = Math.floor(k);
      if (k0 < 0 || k0 + 1 >= depth.length) continue;
      const line = Math.min(MOST_LINE, depth[k0] + (depth[k0 + 1] - depth[k0]) * (k - k0));
      const i = (y - region.y) * region.width + x - region.x;
      if (line > 0 && near[i]) values[i] = 1 - (1 - values[i]) / (1 - line);
    }
  }
}
