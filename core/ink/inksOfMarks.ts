import type { Raster } from '../raster/raster';
import { SURELY_INKED, fullOf } from './fullInk';
import type { InkStudy } from './inkStudy';
import { type Ink, inkOf, paperAt } from './inkColour';
import type { InkMark } from './inkMarks';
import { splitPens } from './splitPens';

/** With so few surely inked pixels a signature's own ink is half believed, beside that of the whole sheet. */
const HALF_BELIEVED = 60;
/** Of a signature's inked pixels, by coverage against its own full one: those whose colour is taken. */
const BODY_FROM = 0.86;
const BODY_TO = 1.08;
/** Of larger marks every nth row is measured. */
const MOST_VISITED = 250_000;
/** A second pen is looked for in marks whose box has no more pixels. */
const MOST_SPLIT = 3_000_000;
/** A mark whose full ink is within this of the sheet's needs no scale of its own. */
const HARDLY_OFF = 0.01;
/** Soft edges reach so many pixels beyond what counts as a signature's own. */
const SKIRT = 3;

/**
 * Pens hold dark ink: what comes through in the darkest channel where a pen inks fully, about. Strokes near one pixel
 * never show it, since blur mixes paper into all of them; a pencil's grey is lighter than any of that.
 */
const PEN_THROUGH = 0.115;
const PENCIL_FROM = 0.46;
const PENCIL_SURE = 0.6;
/** From where strokes count as thin, by `fullOf`. */
const THIN_FROM = 0.25;
const THIN_SURE = 0.8;

/** The inks of a sheet: one for each mark, and coverages in which each mark's own full ink is 1. */
export interface InksOfMarks {
  /** At 0 the sheet's own, then one for each mark, then those of second pens. */
  readonly inks: readonly Ink[];
  /** Index into `inks` for each pixel of the coverage's region. */
  readonly markAt: Uint16Array;
  readonly study: InkStudy;
}

/**
 * Measures ink colour and full density for each signature by itself: several pens may have signed one sheet.
 * @param labels  piece of each pixel of the coverage's region
 */
export function inksOf(
  raster: Raster,
  study: InkStudy,
  { labels, marks }: { labels: Int32Array; marks: readonly InkMark[] },
): InksOfMarks {
  const { values, region } = study.coverage;
  const markAt = spreadMarks(labels, marks, region);
  const parts = marks.map((m, k) => ({ mark: k + 1, of: k, box: m.box }));
  for (const part of [...parts]) {
    if (part.box.width * part.box.height > MOST_SPLIT) continue;
    const second = parts.length + 1;
    if (splitPens(raster, study, markAt, { ...part, second })) parts.push({ ...part, mark: second });
  }
  const measured = parts.map((part) => measureOne(raster, study, { markAt, ...part }));
  const inks = [study.ink, ...measured.map((m) => m.ink)];
  if (measured.every((m) => Math.abs(m.full - 1) < HARDLY_OFF)) return { inks, markAt, study };
  const factor = Float32Array.from([1, ...measured.map((m) => 1 / m.full)]);
  const [own, smooth] = [values.slice(), study.smooth.slice()];
  for (const [k, { box }] of marks.entries()) {
    eachNear(box, region, (i) => {
      // Of boxes that overlap, each does its own mark's pixels; those of second pens lie in the box of their first.
      const mark = markAt[i];
      if (mark === 0 || parts[mark - 1].of !== k) return;
      own[i] *= factor[mark];
      smooth[i] *= factor[mark];
    });
  }
  return { inks, markAt, study: { ...study, coverage: { ...study.coverage, values: own }, smooth } };
}

type Size = { readonly width: number; readonly height: number };

// Every pixel of a box with its skirt, row by row.
function eachNear(box: InkMark['box'], { width, height }: Size, visit: (i: number) => void): void {
  const right = Math.min(width, box.x + box.width + SKIRT);
  const bottom = Math.min(height, box.y + box.height + SKIRT);
  const left = Math.max(0, box.x - SKIRT);
  for (let y = Math.max(0, box.y - SKIRT); y < bottom; y++)
    for (let i = y * width + left; i < y * width + right; i++) visit(i);
}

// Each piece's mark, and some way out over its soft edges.
function spreadMarks(labels: Int32Array, marks: readonly InkMark[], size: Size): Uint16Array {
  const { width, height } = size;
  const markOf = new Uint16Array(marks.reduce((most, m) => m.labels.reduce((a, b) => Math.max(a, b), most), 0) + 1);
  marks.forEach((m, k) => {
    for (const l of m.labels) markOf[l] = k + 1;
  });
  const at = new Uint16Array(labels.length);
  let rim: number[] = [];
  for (const [k, { box }] of marks.entries()) {
    eachNear(box, size, (i) => {
      if (labels[i] === 0 || labels[i] >= markOf.length || markOf[labels[i]] !== k + 1) return;
      at[i] = k + 1;
      if (!(labels[i - 1] && labels[i + 1] && labels[i - width] && labels[i + width])) rim.push(i);
    });
  }
  for (let round = 0; round < SKIRT; round++) {
    const next: number[] = [];
    for (const i of rim) {
      const x = i % width;
      const y = Math.floor(i / width);
      for (const n of [
        x > 0 ? i - 1 : i,
        x < width - 1 ? i + 1 : i,
        y > 0 ? i - width : i,
        y < height - 1 ? i + width : i,
      ]) {
        if (at[n] || labels[n]) continue;
        at[n] = at[i];
        next.push(n);
      }
    }
    rim = next;
  }
  return at;
}

function measureOne(
  raster: Raster,
  study: InkStudy,
  { markAt, mark, box }: { markAt: Uint16Array; mark: number; box: InkMark['box'] },
): { ink: Ink; full: number } {
  const { paper, coverage, ink } = study;
  const { values, region } = coverage;
  const sure: number[] = [];
  const mean = (i: number) => (values[i] + values[i + 1] + values[i + region.width] + values[i + region.width + 1]) / 4;
  const places: number[] = [];
  const [right, bottom] = [
    Math.min(region.width - 1, box.x + box.width + SKIRT),
    Math.min(region.height - 1, box.y + box.height + SKIRT),
  ];
  const left = Math.max(0, box.x - SKIRT);
  const step = Math.max(1, Math.floor(((right - left) * (bottom - box.y)) / MOST_VISITED));
  for (let y = Math.max(0, box.y - SKIRT); y < bottom; y += step)
    for (let x = left, i = y * region.width + left; x < right; x++, i++) {
      if (markAt[i] !== mark) continue;
      const v = mean(i);
      if (v <= SURELY_INKED) continue;
      sure.push(v);
      places.push(i);
    }
  const belief = sure.length / (sure.length + HALF_BELIEVED);
  const { full: measured, thin } = fullOf(sure);
  const full = 1 + (measured - 1) * belief;
  const under = new Float32Array(3);
  const sum = [0, 0, 0];
  let count = 0;
  for (const i of places) {
    const v = mean(i);
    if (v < BODY_FROM * full || v > BODY_TO * full) continue;
    const [x, y] = [region.x + (i % region.width), region.y + Math.floor(i / region.width)];
    paperAt(paper, x + 0.5, y + 0.5, under);
    const s = (y * raster.width + x) * 4;
    const down = raster.width * 4;
    for (let c = 0; c < 3; c++) {
      const seen =
        raster.data[s + c] + raster.data[s + 4 + c] + raster.data[s + down + c] + raster.data[s + down + 4 + c];
      // What a fully inked place would let through, on the line from the paper through this one.
      sum[c] += 1 - (1 - seen / 4 / under[c]) / (v / full);
    }
    count++;
  }
  if (count < 6) return { ink, full: 1 };
  const through = sum.map((s, c) => {
    const own = Math.min(0.97, Math.max(0, s / count));
    return ink.through[c] + (own - ink.through[c]) * belief;
  });
  const deeper = deepen(through, thin);
  return { ink: inkOf(through.map((t) => 1 - (1 - t) * deeper) as unknown as Ink['through']), full: full * deeper };
}

/** How much deeper a pen's ink is than its thin strokes show. */
function deepen(through: readonly number[], thin: number): number {
  const seen = Math.min(...through);
  if (seen <= PEN_THROUGH) return 1;
  const isThin = Math.min(1, Math.max(0, (thin - THIN_FROM) / (THIN_SURE - THIN_FROM)));
  const isPen = Math.min(1, Math.max(0, (PENCIL_SURE - seen) / (PENCIL_SURE - PENCIL_FROM)));
  const whole = (1 - PEN_THROUGH) / (1 - seen);
  return 1 + (whole - 1) * isThin * isPen;
}
