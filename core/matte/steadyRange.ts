import { call } from '../kernels/heap';
import { MOST_TOLERANCE } from '../limits';

/** Growth that is hardly any: twice the usual, or this share of all pixels. */
const QUIET_OVER_USUAL = 2;
const QUIET_SHARE = 0.00008;
/** Once quiet, the range goes on until growth is half as much again. */
const LOUD_OVER_QUIET = 1.5;

/** What each tolerance would do, and the range in which it hardly matters. */
export interface ToleranceStudy {
  /** Per tolerance 0..MOST: share of the settled ground that would stay in the picture, 0..1. */
  readonly groundLeft: readonly number[];
  /** Per tolerance 0..MOST: share of the mark that would be taken for ground, 0..1. */
  readonly artworkEaten: readonly number[];
  readonly steadyFrom: number;
  readonly steadyTo: number;
  /** Where to start: the middle of the steady range. */
  readonly start: number;
}

/** Studied on at most this many pixels: the curves are shares, and shares hardly change with size. */
const STUDY_PIXELS = 160_000;
/** The start keeps this near to the lower end: pale parts of a mark may begin anywhere above it. */
const WIDEST = 16;

/**
 * For every tolerance at once, how much of the picture the ground would take when it spreads in from the border.
 * One flood in order of the least tolerance that reaches each pixel (a minimax path, found with one bucket a level).
 * @param distance  ground distance per pixel, row-major; not changed
 * @param noise     the ground's robust standard deviation, code values
 * @param of        pixels of the whole picture, when `distance` is a region of it with nothing but ground round it
 * @see L. Vincent, "Morphological Grayscale Reconstruction", 1993, for the same order of flooding
 */
export function studyTolerance(
  distance: Uint8Array,
  width: number,
  height: number,
  noise: number,
  of = width * height,
): ToleranceStudy {
  const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / STUDY_PIXELS)));
  const w = Math.ceil(width / step);
  const h = Math.ceil(height / step);
  const small = new Uint8Array(w * h);
  call([distance], [small], 0, ({ k, at }) => k.thinOut(at(distance), width, height, step, at(small)));
  const reached = floodOrder(small, w, h);
  const counts = new Int32Array(256);
  call([reached], [counts], 0, ({ k, at }) => k.countBytes(at(reached), reached.length, at(counts)));
  const area = Float64Array.from(counts);
  for (let t = 1; t < 256; t++) area[t] += area[t - 1];
  const beyond = Math.max(0, of - width * height) / (step * step);
  for (let t = 0; t < 256; t++) area[t] += beyond;
  return readStudy(area, w * h + beyond, noise);
}

/** The least tolerance at which the ground, coming from the border, reaches each pixel. */
export function floodOrder(distance: Uint8Array, w: number, h: number): Uint8Array {
  const level = new Uint8Array(w * h);
  const room = 1024 + 5 * w * h + 16;
  call([distance], [level], room, ({ k, at, scratch }) => k.floodOrder(at(distance), w, h, at(level), scratch(room)));
  return level;
}

function readStudy(area: Float64Array, total: number, noise: number): ToleranceStudy {
  const growth = new Float64Array(MOST_TOLERANCE + 1);
  for (let t = 0; t < MOST_TOLERANCE; t++) growth[t] = area[t + 1] - area[t];
  // Soft edges make the ground grow a little at every level; the usual growth is what "hardly" is measured by.
  const usual = [...growth.slice(8, 80)].sort((a, b) => a - b)[36];
  const quiet = Math.max(usual * QUIET_OVER_USUAL, total * QUIET_SHARE);
  const floor = Math.max(3, Math.ceil(noise * 3));
  let from = floor;
  // Ripples beside edges keep the ground growing for long; they are dealt with at the edges, pale parts cannot be.
  const latest = Math.max(floor, 12);
  while (from < latest && !isQuiet(growth, from, quiet)) from++;
  let to = from;
  while (to < MOST_TOLERANCE - 1 && to - from < WIDEST && growth[to] <= quiet * LOUD_OVER_QUIET) to++;
  to = Math.max(to, from + 2);
  const start = Math.round((from + to) / 2);
  const settled = Math.max(1, area[start]);
  const mark = Math.max(1, total - settled);
  const groundLeft: number[] = [];
  const artworkEaten: number[] = [];
  for (let t = 0; t <= MOST_TOLERANCE; t++) {
    groundLeft.push(Math.max(0, (settled - area[t]) / settled));
    artworkEaten.push(Math.max(0, (area[t] - settled) / mark));
  }
  return { groundLeft, artworkEaten, steadyFrom: from, steadyTo: to, start };
}

const isQuiet = (growth: Float64Array, t: number, quiet: number) =>
  growth[t] <= quiet && growth[t + 1] <= quiet && growth[t + 2] <= quiet;
