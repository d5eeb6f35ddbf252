import type { InkPlanes } from '../artwork/artwork';
import { CoreError } from '../errors';
import { type Rgb, hexFromRgb } from '../colour/hex';
import { chokeMatte } from '../matte/adjustEdge';
import { meanOfNine } from '../raster/boxMean';
import { dilate } from '../raster/morphology';
import { type Raster, createRaster } from '../raster/raster';
import { type Coverage, measureCoverage, removeLines } from './coverage';
import { type LevelStudy, LOW_SHARE, studyLevel } from './cutLevel';
import { type Ink, inkOf, measureInk, paperAt, paperColour } from './inkColour';
import { SURELY_INKED, fullOf } from './fullInk';
import type { InkStudy } from './inkStudy';
import { inksOf } from './inksOfMarks';
import { type InkMark, findInkMarks } from './inkMarks';
import { type InkPiece, findInkPieces, largestArea, strokeWidth } from './inkPieces';
import { type PaperLight, measurePaper, robust, threshold } from './paperLight';
import { type LineFamily, findRuledLines } from './ruledLines';
import { solidInk } from './solidInk';

/** Closer to full than this the weights were right already. */
const NEARLY_FULL = 0.02;
/** The lower level of a piece stays this many times above the noise: grain touches strokes everywhere below. */
const LOW_OVER_NOISE = 2.6;
/** Pieces whose darkest pixel is within half a level of being cut away count as faint. */
const FAINT_OVER_LEVEL = 1.5;

/** What is left of a printed line: longer than so many stroke widths, and thinner than a stroke, or than this in px. */
const LINE_LONG_STROKES = 5;
const LINE_THIN_PX = 2.5;
const LINE_THIN_STROKES = 0.8;
/** How far on each side of a printed line, small-grid px, ink is measured anew, and how far ink may be hidden. */
const LINE_CLEARED_PX = 2.2;
const LINE_SHADE_PX = 1.6;
/** What stands three times as deep as the line itself is ink that crosses it; less than this much more is the line. */
const LINE_DEPTHS = 3;
const LEAST_CROSSING = 0.3;
/** Near a line ink is sought from this many times its depth. */
const SHADE_DEPTHS = 1.8;
/** What may be ink at all: three times the noise, and never less than two parts in a hundred. */
const LEAST_NEAR = 0.02;
const NEAR_OVER_NOISE = 3;
/** A larger crumb may be ink when it stands half above the cut, any crumb when it is four times as deep. */
const CRUMB_OVER_CUT = 1.5;
const DARK_OVER_CUT = 4;

/** Share of the largest piece from which a piece is writing that others may belong to. */
const LARGE_SHARE = 0.06;
/**
 * Faint crumbs are smaller than so many squares of the stroke width, and paler than a third of ink, or so far over the
 * level.
 */
const CRUMB_STROKES = 1.6;
const CRUMB_PEAK = 0.38;
const CRUMB_OVER_LEVEL = 1.3;

/** Outside its own piece a pixel counts only when it stands this far over the noise. */
const OUTSIDE_OVER_NOISE = 1.3;
/** An edge goes from a quarter to three quarters; a fall of less than this within it is noise. */
const EDGE_FROM = 0.25;
const EDGE_TO = 0.75;
const EDGE_SLIP = 0.02;

export interface InkOptions {
  /** Coverage 0..1 that a piece must reach, or null for the middle of the steady range. */
  readonly level: number | null;
  /** Thinner below 0, heavier above, px of this picture across a stroke. */
  readonly weightPx: number;
  readonly keepLines: boolean;
  /** The ink's colour, or null for the one measured. */
  readonly colour: Rgb | null;
  /** A point in the one mark to keep, or null for all ink. */
  readonly at: { x: number; y: number } | null;
}

/** Everything as measured: the start of every cut-out from paper. */
export const plainInk: InkOptions = {
  level: null,
  weightPx: 0,
  keepLines: false,
  colour: null,
  at: null,
};

export interface InkFacts {
  readonly inkHex: string;
  readonly paperHex: string;
  /** Deviation of bare paper, coverage 0..1, after the mean of 3 × 3. */
  readonly noise: number;
  readonly level: number;
  readonly study: LevelStudy;
  readonly marks: readonly (InkMark & { readonly inkHex: string })[];
  readonly strokePx: number;
  /** How many printed lines were taken out. */
  readonly lineCount: number;
  /** Kept pieces that lie along a printed line and are no thicker than one, largest first. */
  readonly lineRemains: readonly { x: number; y: number; areaPx: number }[];
  /** Pieces left out as stray, largest first. */
  readonly strays: readonly { x: number; y: number; areaPx: number }[];
  /** Strokes kept that hardly reach the level, largest first. */
  readonly faint: readonly { x: number; y: number; areaPx: number }[];
  /** Width of a stroke's edge from a quarter to three quarters, px; above 3 the picture is blurred. */
  readonly edgePx: number;
}

/** Pieces with fewer pixels of the small grid are counted as stray. */
const STRAY_AREA = 6;

const remembered = new WeakMap<Raster, { key: string; study: InkStudy }>();

/** Everything that neither level, pen nor weight changes. */
function studyInk(raster: Raster, keepLines: boolean, onStep: (name: string) => void): InkStudy {
  const key = String(keepLines);
  const known = remembered.get(raster);
  if (known?.key === key) return known.study;
  onStep('paper');
  const paper = measurePaper(raster);
  onStep('lines');
  const families = keepLines ? [] : findRuledLines(paper);
  onStep('ink');
  let ink = measureInk(raster, withoutLines(paper, families));
  if (!ink)
    throw new CoreError(
      'cutout/no-ink',
      'No ink stands out from the paper here. Crop closer to the writing, or photograph it again in more light.',
      {},
    );
  onStep('coverage');
  const near = dilate(nearInk(paper, families), paper.width, paper.height, 3);
  const coverage = measureCoverage(raster, paper, ink, near);
  if (families.length) removeLines(raster, paper, ink, coverage, families);
  // Seen through the best weights the 90th percentile may lie elsewhere: full ink is 1 by definition.
  const full = fullCoverage(coverage);
  if (Math.abs(full - 1) > NEARLY_FULL) {
    ink = inkOf(ink.through.map((t) => Math.max(0, 1 - (1 - t) * full)) as unknown as Ink['through']);
    for (let i = 0; i < coverage.values.length; i++) coverage.values[i] /= full;
  }
  const { region } = coverage;
  const smooth = meanOfNine(coverage.values, region.width, region.height);
  const { raw, mean } = measureNoise(raster, paper, ink, near);
  onStep('level');
  const { small, width, height } = shrinkCoverage(smooth, region.width, region.height, paper.factor);
  const level = studyLevel(small, width, height, STRAY_AREA, mean);
  const paperRgb = paperColour(paper);
  const study: InkStudy = { paper, ink, families, coverage, smooth, noise: mean, raw, level, paperRgb };
  remembered.set(raster, { key, study });
  return study;
}

/**
 * Takes ink off paper: straight alpha on the picture's own grid, in the ink's own colour, as the pen's pressure left
 * it; with where the pen went and how much ink it left there.
 * @param raster  opaque picture; not changed
 * @throws CoreError 'cutout/no-ink' when nothing stands out from the paper
 */
export function cutOutInk(
  raster: Raster,
  options: InkOptions,
  onStep: (name: string) => void = () => {},
): { picture: Raster; ink: InkPlanes; facts: InkFacts } {
  const study = studyInk(raster, options.keepLines, onStep);
  const { paper, coverage, smooth } = study;
  const { region } = coverage;
  onStep('pieces');
  const level = options.level ?? study.level.start;
  const low = Math.max(level * LOW_SHARE, study.noise * LOW_OVER_NOISE);
  const found = findInkPieces(smooth, region.width, region.height, low, Math.max(level, low));
  const strokePx = strokeWidth(found.labels, found.pieces, region.width, region.height);
  const { kept, strays } = partStrays(found.pieces, strokePx, level, hugsBorder(region, raster));
  const isKept = new Uint8Array(found.pieces.length + 1);
  for (const p of kept) isKept[p.label] = 1;
  onStep('marks');
  const marks = marksOf(found.labels, kept, isKept, region.width, region.height, paper.factor);
  const chosen = options.at ? nearestMark(marks, options.at.x - region.x, options.at.y - region.y) : null;
  if (chosen) {
    isKept.fill(0);
    for (const l of chosen.labels) isKept[l] = 1;
  }
  onStep('alpha');
  const own = inksOf(raster, study, { labels: found.labels, marks });
  const alpha = settleAlpha(own.study, found.labels, isKept);
  const solid = solidInk(alpha, region, strokePx);
  const colours = own.inks.map((o) => options.colour ?? inkRgb(o, study.paperRgb));
  const picture = createRaster(raster.width, raster.height);
  const ink = { coverage: new Uint8Array(picture.data.length / 4), density: new Uint8Array(picture.data.length / 4) };
  for (let y = 0, i = 0; y < region.height; y++) {
    for (let x = 0, n = (region.y + y) * raster.width + region.x; x < region.width; x++, i++, n++) {
      const a = Math.min(255, Math.round(alpha[i] * 255));
      if (a <= 0) continue;
      const [r, g, b] = colours[own.markAt[i]];
      const s = n * 4;
      picture.data[s] = r;
      picture.data[s + 1] = g;
      picture.data[s + 2] = b;
      picture.data[s + 3] = a;
      ink.coverage[n] = Math.round(solid.coverage[i] * 255);
      ink.density[n] = Math.round(solid.density[i] * 255);
    }
  }
  if (options.weightPx !== 0) {
    ink.coverage = chokePlane(ink.coverage, picture, -options.weightPx / 2);
    chokeMatte(picture, -options.weightPx / 2);
  }
  const place = (p: InkPiece) => ({ x: p.top.x + region.x, y: p.top.y + region.y, areaPx: p.areaPx });
  const main = marks.reduce((best, m, k) => (best < 0 || m.areaPx > marks[best].areaPx ? k : best), -1);
  const shown = chosen ? marks.indexOf(chosen) : main;
  const facts: InkFacts = {
    inkHex: hexFromRgb(colours[shown + 1]),
    paperHex: hexFromRgb(study.paperRgb.map(Math.round) as unknown as Rgb),
    noise: study.noise,
    level,
    study: study.level,
    marks: marks.map((m, k) => ({
      ...m,
      inkHex: hexFromRgb(colours[k + 1]),
      box: shifted(m.box, region),
      region: shifted(m.region, region),
    })),
    strokePx,
    lineCount: study.families.reduce((s, f) => s + f.offsets.length, 0),
    lineRemains: kept
      .filter((p) => isKept[p.label] && liesOnLine(p, region, study, strokePx))
      .map(place)
      .sort((a, b) => b.areaPx - a.areaPx),
    strays: strays.map(place).sort((a, b) => b.areaPx - a.areaPx),
    faint: kept
      .filter((p) => isKept[p.label] && p.peak < level * FAINT_OVER_LEVEL)
      .map(place)
      .sort((a, b) => b.areaPx - a.areaPx),
    edgePx: edgeWidth(alpha, region.width, region.height),
  };
  return { picture, ink, facts };
}

/** A plane of coverage, its edge moved as a matte's. */
function chokePlane(coverage: Uint8Array, { width, height }: Raster, px: number) {
  const matte = createRaster(width, height);
  for (let n = 0; n < coverage.length; n++) matte.data[n * 4 + 3] = coverage[n];
  chokeMatte(matte, px);
  return Uint8Array.from(coverage, (_, n) => matte.data[n * 4 + 3]);
}

// Long, thin, and its middle on one of the lines.
function liesOnLine(
  p: InkPiece,
  region: { x: number; y: number },
  { families, paper }: InkStudy,
  strokePx: number,
): boolean {
  const [x, y] = [(p.centre.x + region.x + 0.5) / paper.factor, (p.centre.y + region.y + 0.5) / paper.factor];
  return families.some(({ angleDeg, offsets }) => {
    const a = (angleDeg * Math.PI) / 180;
    const long = Math.abs(p.box.width * Math.cos(a)) + Math.abs(p.box.height * Math.sin(a));
    if (long < LINE_LONG_STROKES * strokePx || p.areaPx / long > Math.max(LINE_THIN_PX, strokePx * LINE_THIN_STROKES))
      return false;
    const d = -x * Math.sin(a) + y * Math.cos(a);
    return offsets.some((o) => Math.abs(o - d) < 2);
  });
}

const shifted = <B extends { x: number; y: number }>(box: B, by: { x: number; y: number }): B => ({
  ...box,
  x: box.x + by.x,
  y: box.y + by.y,
});

function inkRgb(ink: Ink, under: Rgb): Rgb {
  return ink.through.map((t, c) => Math.round(Math.min(255, Math.max(0, t * under[c])))) as unknown as Rgb;
}

/** The paper with its printed lines counted as paper, so that they are not taken for ink. */
function withoutLines(paper: PaperLight, families: readonly LineFamily[]): PaperLight {
  if (families.length === 0) return paper;
  const density = paper.density.slice();
  forLinePixels(paper, families, LINE_CLEARED_PX, (i, depth) => {
    density[i] = Math.max(0, density[i] - depth * LINE_DEPTHS) < LEAST_CROSSING ? 0 : density[i];
  });
  return { ...paper, density };
}

// Small-grid pixels that may hold ink: what stands out, and beside a printed line only what stands out from the line
// too.
function nearInk(paper: PaperLight, families: readonly LineFamily[]): Uint8Array {
  const cut = Math.max(LEAST_NEAR, NEAR_OVER_NOISE * paper.noise);
  const near = threshold(paper.density, cut);
  if (families.length)
    forLinePixels(paper, families, LINE_SHADE_PX, (i, depth) => {
      if (paper.density[i] < cut + depth * SHADE_DEPTHS) near[i] = 0;
    });
  return dropCrumbs(near, paper, cut);
}

/** A crumb of the paper's grain has fewer pixels of the small grid than this and no dark one. */
const LEAST_CRUMB = 5;

// Alone, a pixel is noise; ink has neighbours or is dark.
function dropCrumbs(near: Uint8Array, { width, height, density }: PaperLight, cut: number): Uint8Array {
  const marked = Float32Array.from(near);
  const { labels, pieces } = findInkPieces(marked, width, height, 0.5, 0.5);
  const peak = new Float32Array(pieces.length + 1);
  for (let i = 0; i < near.length; i++) if (density[i] > peak[labels[i]]) peak[labels[i]] = density[i];
  const stays = new Uint8Array(pieces.length + 1);
  for (const p of pieces)
    stays[p.label] =
      (p.areaPx >= LEAST_CRUMB && peak[p.label] > cut * CRUMB_OVER_CUT) || peak[p.label] >= cut * DARK_OVER_CUT ? 1 : 0;
  return near.map((v, i) => (v && stays[labels[i]] ? 1 : 0));
}

function forLinePixels(
  { width, height }: PaperLight,
  families: readonly LineFamily[],
  reach: number,
  visit: (i: number, depth: number) => void,
): void {
  for (const { angleDeg, offsets, depth } of families) {
    const a = (angleDeg * Math.PI) / 180;
    const sorted = [...offsets].sort((p, q) => p - q);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const d = -(x + 0.5) * Math.sin(a) + (y + 0.5) * Math.cos(a);
        let lo = 0;
        let hi = sorted.length - 1;
        while (lo < hi) {
          const mid = (lo + hi) >> 1;
          if (sorted[mid] < d - reach) lo = mid + 1;
          else hi = mid;
        }
        if (Math.abs(sorted[lo] - d) <= reach) visit(i, depth);
      }
  }
}

// What fully inked places come to, all over the sheet.
function fullCoverage({ values, region: { width } }: Coverage): number {
  const sure: number[] = [];
  const step = Math.max(1, Math.floor(values.length / 1_200_000));
  for (let i = 0; i + width + 1 < values.length; i += step) {
    const v = (values[i] + values[i + 1] + values[i + width] + values[i + width + 1]) / 4;
    if (v > SURELY_INKED) sure.push(v);
  }
  return fullOf(sure).full;
}

// Bare paper at full size: deviation of single pixels and of means of 3 × 3.
function measureNoise(raster: Raster, paper: PaperLight, ink: Ink, near: Uint8Array): { raw: number; mean: number } {
  const { width, height } = raster;
  const under = new Float32Array(3);
  const at = (x: number, y: number) => {
    const s = (y * width + x) * 4;
    return (
      ink.weights[0] * (1 - raster.data[s] / under[0]) +
      ink.weights[1] * (1 - raster.data[s + 1] / under[1]) +
      ink.weights[2] * (1 - raster.data[s + 2] / under[2])
    );
  };
  const raw: number[] = [];
  const mean: number[] = [];
  const step = Math.max(1, Math.floor(Math.sqrt((paper.width * paper.height) / 6000)));
  for (let r = 1; r < paper.height - 1; r += step) {
    for (let c = 1; c < paper.width - 1; c += step) {
      if (near[r * paper.width + c] || paper.inked[r * paper.width + c]) continue;
      const x = Math.min(width - 2, Math.max(1, Math.floor((c + 0.5) * paper.factor)));
      const y = Math.min(height - 2, Math.max(1, Math.floor((r + 0.5) * paper.factor)));
      paperAt(paper, x, y, under);
      raw.push(at(x, y));
      let sum = 0;
      for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) sum += at(x + dx, y + dy);
      mean.push(sum / 9);
    }
  }
  return { raw: robust(Float32Array.from(raw)).deviation, mean: robust(Float32Array.from(mean)).deviation };
}

// The greatest of each block: a hairline stays as strong as it is.
function shrinkCoverage(
  values: Float32Array,
  width: number,
  height: number,
  factor: number,
): { small: Float32Array; width: number; height: number } {
  const w = Math.ceil(width / factor);
  const h = Math.ceil(height / factor);
  const small = new Float32Array(w * h);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / factor) * w;
    for (let x = 0; x < width; x++, i++) {
      const k = row + ((x / factor) | 0);
      if (values[i] > small[k]) small[k] = values[i];
    }
  }
  return { small, width: w, height: h };
}

/** A piece smaller than this share of a stroke's width squared is a speck, not a dot. */
const SPECK_SHARE = 0.45;
/** A small piece this many heights of the writing away from all large ones is not part of it. */
const FAR_SHARE = 1.6;

function partStrays(
  pieces: readonly InkPiece[],
  strokePx: number,
  level: number,
  isAtBorder: (p: InkPiece) => boolean,
): { kept: InkPiece[]; strays: InkPiece[] } {
  const most = largestArea(pieces);
  const large = pieces.filter((p) => p.areaPx >= Math.max(most * LARGE_SHARE, strokePx * strokePx * 4));
  const tall = large.reduce((t, p) => Math.max(t, Math.min(p.box.height, p.box.width)), strokePx * 3);
  const kept: InkPiece[] = [];
  const strays: InkPiece[] = [];
  for (const p of pieces) {
    const isSpeck = p.areaPx < Math.max(5, SPECK_SHARE * strokePx * strokePx);
    const isFaintCrumb =
      p.areaPx < CRUMB_STROKES * strokePx * strokePx && p.peak < Math.max(CRUMB_PEAK, level * CRUMB_OVER_LEVEL);
    const isFar =
      p.areaPx < 6 * strokePx * strokePx && !large.some((l) => l === p || boxGap(l.box, p.box) <= FAR_SHARE * tall);
    const isRim = p.areaPx < RIM_SHARE * most && isAtBorder(p);
    (isSpeck || isFaintCrumb || isFar || isRim ? strays : kept).push(p);
  }
  return { kept, strays };
}

/** What lies wholly this near the picture's border, of its shorter side, is the sheet's rim or a line cut off there. */
const RIM_REACH = 0.025;
/** Unless it holds so much of the largest piece's ink. */
const RIM_SHARE = 0.3;

function hugsBorder(region: { x: number; y: number }, { width, height }: Raster): (p: InkPiece) => boolean {
  const reach = Math.max(4, RIM_REACH * Math.min(width, height));
  return ({ box }) => {
    const [left, top] = [region.x + box.x, region.y + box.y];
    const [right, bottom] = [left + box.width, top + box.height];
    return right <= reach || bottom <= reach || left >= width - reach || top >= height - reach;
  };
}

const boxGap = (a: InkPiece['box'], b: InkPiece['box']) =>
  Math.hypot(
    Math.max(0, a.x - b.x - b.width, b.x - a.x - a.width),
    Math.max(0, a.y - b.y - b.height, b.y - a.y - a.height),
  );

// Marks are found on the small grid: their gaps are many pixels wide.
function marksOf(
  labels: Int32Array,
  kept: readonly InkPiece[],
  isKept: Uint8Array,
  width: number,
  height: number,
  factor: number,
): InkMark[] {
  if (factor === 1) {
    const own = labels.map((l) => (isKept[l] ? l : 0));
    return findInkMarks(own, kept, width, height);
  }
  const w = Math.ceil(width / factor);
  const h = Math.ceil(height / factor);
  const small = new Int32Array(w * h);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      if (labels[i] && isKept[labels[i]]) small[Math.floor(y / factor) * w + ((x / factor) | 0)] = labels[i];
  const shrink = (p: InkPiece): InkPiece => {
    const x = Math.floor(p.box.x / factor);
    const y = Math.floor(p.box.y / factor);
    return {
      ...p,
      areaPx: p.areaPx / factor / factor,
      centre: { x: p.centre.x / factor, y: p.centre.y / factor },
      box: {
        x,
        y,
        width: Math.min(w, Math.ceil((p.box.x + p.box.width) / factor)) - x,
        height: Math.min(h, Math.ceil((p.box.y + p.box.height) / factor)) - y,
      },
    };
  };
  const byLabel = new Map(kept.map((p) => [p.label, p]));
  return findInkMarks(small, kept.map(shrink), w, h).map((m) => {
    const own = m.labels.map((l) => byLabel.get(l) as InkPiece);
    const x = Math.min(...own.map((p) => p.box.x));
    const y = Math.min(...own.map((p) => p.box.y));
    const region = {
      x: m.region.x * factor,
      y: m.region.y * factor,
      width: m.region.width * factor,
      height: m.region.height * factor,
    };
    return {
      ...m,
      region,
      areaPx: own.reduce((s, p) => s + p.areaPx, 0),
      box: {
        x,
        y,
        width: Math.max(...own.map((p) => p.box.x + p.box.width)) - x,
        height: Math.max(...own.map((p) => p.box.y + p.box.height)) - y,
      },
    };
  });
}

function nearestMark(marks: readonly InkMark[], x: number, y: number): InkMark | null {
  const gap = (m: InkMark) =>
    boxGap(m.box, { x, y, width: 0, height: 0 }) +
    Math.hypot(m.box.x + m.box.width / 2 - x, m.box.y + m.box.height / 2 - y) * 1e-3;
  return marks.length ? marks.reduce((a, b) => (gap(b) < gap(a) ? b : a)) : null;
}

/** How far soft edges reach beyond what counts as ink, px. */
const SKIRT = 2;

function settleAlpha({ coverage, smooth, noise, raw }: InkStudy, labels: Int32Array, isKept: Uint8Array): Float32Array {
  const {
    values,
    region: { width, height },
  } = coverage;
  const own = new Uint8Array(labels.length);
  for (let i = 0; i < own.length; i++) own[i] = isKept[labels[i]];
  const beside = dilate(own, width, height, 1);
  const reach = dilate(beside, width, height, SKIRT - 1);
  const out = new Float32Array(values.length);
  const variance = raw * raw;
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      if (!reach[i] || (labels[i] && !isKept[labels[i]])) continue;
      if (!own[i] && smooth[i] < noise * OUTSIDE_OVER_NOISE) continue;
      let squares = 0;
      for (let n = i - width; n <= i + width; n += width)
        squares += values[n - 1] * values[n - 1] + values[n] * values[n] + values[n + 1] * values[n + 1];
      // Local Wiener filter: where nothing but noise varies the mean serves, at edges the pixel itself.
      const local = Math.max(0, squares / 9 - smooth[i] * smooth[i]);
      const trust = local > variance ? (local - variance) / local : 0;
      const a = smooth[i] + trust * (values[i] - smooth[i]);
      out[i] = a <= 0 ? 0 : a;
    }
  }
  dropLoose(out, own, beside, reach, width, height);
  return out;
}

// An edge falls off outwards: no pixel of the skirt is stronger than the strongest one next to it that lies further in.
// Grain in the paper beside a stroke would be, and would stand there as specks.
function dropLoose(
  alpha: Float32Array,
  own: Uint8Array,
  beside: Uint8Array,
  reach: Uint8Array,
  width: number,
  height: number,
): void {
  const limit = (inner: Uint8Array, ring: Uint8Array) => {
    for (let y = 1; y < height - 1; y++) {
      for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
        if (!ring[i] || inner[i] || alpha[i] === 0) continue;
        let most = 0;
        for (let n = i - width; n <= i + width; n += width)
          for (let k = n - 1; k <= n + 1; k++) if (inner[k] && alpha[k] > most) most = alpha[k];
        if (alpha[i] > most) alpha[i] = most;
      }
    }
  };
  limit(own, beside);
  limit(beside, reach);
}

// Along rows: how many pixels an edge takes from a quarter to three quarters, the middle of all edges.
function edgeWidth(alpha: Float32Array, width: number, height: number): number {
  const widths: number[] = [];
  const step = Math.max(1, Math.floor(height / 300));
  for (let y = 0; y < height; y += step) {
    for (let x = 1, i = y * width + 1; x < width; x++, i++) {
      if (!(alpha[i - 1] < EDGE_FROM && alpha[i] >= EDGE_FROM)) continue;
      let k = 0;
      while (x + k < width && k < 24 && alpha[i + k] < EDGE_TO && alpha[i + k] >= alpha[i + k - 1] - EDGE_SLIP) k++;
      if (x + k < width && alpha[i + k] >= EDGE_TO) widths.push(k + 0.5);
    }
  }
  widths.sort((a, b) => a - b);
  return widths[widths.length >> 1] ?? 0;
}
