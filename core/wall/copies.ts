import type { Raster } from '../raster/raster';
import { measureSharpness } from './sharpness';

/** Side of the small pictures that are compared, and the mean difference up to which two are one. */
const LOOK = 24;
const SAME = 0.045;

/** A mark brought to one small size, whatever its own: what copies are known by. */
export interface MarkLook {
  /** Width over height. */
  readonly ratio: number;
  /** Red, green, blue by alpha, and alpha, of each cell, 0..255. */
  readonly cells: readonly number[];
  /** How much it shows: the root of its pixels, less what its edges are soft. */
  readonly detail: number;
}

/** A logo among others, for which of several copies is the one to keep. */
export interface Copyable {
  readonly file: string;
  readonly look: MarkLook;
  readonly isDrawn: boolean;
  /** How much is wrong with it. */
  readonly problems: number;
  /** Logos of one key are copies whatever they look like. */
  readonly key?: string;
}

/** Of copies that show more than this share of the other, neither is the better. */
const AS_GOOD = 0.97;

/**
 * Which logos are copies of another that stays: paths stay rather than pixels, then what less is wrong with, then what
 * others are named after, then what shows more, then what comes first.
 * @returns for each whether it is such a copy
 */
export function copiesAmong(logos: readonly Copyable[]): boolean[] {
  const isCopy = logos.map(() => false);
  for (const [k, one] of logos.entries())
    for (let other = 0; other < k && !isCopy[k]; other++) {
      if (isCopy[other] || !areOne(one, logos[other])) continue;
      isCopy[isBetter(one, logos[other]) ? other : k] = true;
    }
  return isCopy;
}

const areOne = (a: Copyable, b: Copyable) => (a.key !== undefined && a.key === b.key) || isSameMark(a.look, b.look);

/** Whether `a`, which comes later, is to stay rather than `b`. */
function isBetter(a: Copyable, b: Copyable): boolean {
  if (a.isDrawn !== b.isDrawn) return a.isDrawn;
  if (a.problems !== b.problems) return a.problems < b.problems;
  if (isNamedAfter(a.file, b.file)) return false;
  if (isNamedAfter(b.file, a.file)) return true;
  return b.look.detail < AS_GOOD * a.look.detail;
}

/** Whether a file is called as another and something besides, such as "mark-2.png" or "mark (copy).png". */
function isNamedAfter(file: string, other: string): boolean {
  const stem = (name: string) => name.replace(/\.[^./\\]*$/, '').toLowerCase();
  const [own, first] = [stem(file), stem(other)];
  return own.length > first.length && own.startsWith(first) && !/^\p{L}/u.test(own.slice(first.length));
}

/** Whether two marks are copies of one: alike when brought to one small size. */
export function isSameMark(a: MarkLook, b: MarkLook): boolean {
  const ratio = a.ratio / b.ratio;
  if (ratio > 1.35 || ratio < 1 / 1.35) return false;
  return a.cells.reduce((sum, v, i) => sum + Math.abs(v - b.cells[i]), 0) / a.cells.length < SAME * 255;
}

/** Means of a grid: alpha, and colour by alpha. */
export function lookOfMark(raster: Raster): MarkLook {
  const { width, height, data } = raster;
  const out = new Float64Array(LOOK * LOOK * 4);
  const count = new Float64Array(LOOK * LOOK);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const cell = Math.floor((y * LOOK) / height) * LOOK + Math.floor((x * LOOK) / width);
      const a = data[i + 3] / 255;
      for (let c = 0; c < 3; c++) out[cell * 4 + c] += data[i + c] * a;
      out[cell * 4 + 3] += data[i + 3];
      count[cell]++;
    }
  const { alongRows, downColumns } = measureSharpness(raster);
  return {
    ...{ ratio: width / height, cells: Array.from(out, (v, k) => Math.round(v / Math.max(1, count[k >> 2]))) },
    // An edge half as steep is one of a picture enlarged twice.
    detail: Math.round(Math.sqrt(width * height) * alongRows * downColumns),
  };
}
