import type { Raster } from '../raster/raster';

/** A line on a page that somebody may sign on: lengths in points from the page's upper left corner. */
export interface PageLine {
  /** Its left end, and where it lies. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  /** From the line to the nearest ink above most of it. */
  readonly room: number;
  /** A rule, or a row of dots or dashes. */
  readonly isBroken: boolean;
  /** Upright lines rise from its ends, as of a table or a box. */
  readonly isBoxed: boolean;
}

/** Lengths in points. A letter's strokes are thicker than a rule, or have ink above them. */
const look = {
  mostThick: 2.6,
  /** Between dots or dashes of one line. */
  mostGap: 6.5,
  /** Within a rule, where it is scanned badly. */
  ruleGap: 1,
  leastLength: 55,
  /** Directly above must be clear, so high. */
  clear: 11,
  /** Room is looked for so high, over the middle of the line. */
  mostRoom: 90,
  middle: 0.7,
  /** Two finds as near as this are one line. */
  same: 3,
  boxRise: 9,
  boxReach: 2.5,
};
/** Darker than the paper by this much is ink, 0..255. */
const LEAST_INK = 40;
/** A row of dots is at least so much of its length, a rule nearly all. */
const LEAST_DOTTED = 0.12;
const SOLID = 0.9;
/** Fewer marks than this in a row are letters. */
const LEAST_DOTS = 12;

/**
 * Lines on a page with room above them: rules, and rows of underscores, dots or dashes.
 * @param page  as it is seen, opaque
 * @param pxPerPt  its pixels to the point
 */
export function findLines(page: Raster, pxPerPt: number): PageLine[] {
  const { width, height } = page;
  const ink = inkOf(page);
  const thin = thinInk({ ink, width, height }, pxPerPt);
  const rows: Run[] = [];
  const gap = Math.round(look.mostGap * pxPerPt);
  for (let y = 0; y < height; y++) runsOf(thin, { y, width, gap, least: look.leastLength * pxPerPt }, rows);
  const bars = joinRows(rows, look.same * pxPerPt);
  return bars.flatMap((bar) => lineOf(bar, { ink, width, height, pxPerPt }) ?? []);
}

interface Ink {
  readonly ink: Uint8Array;
  readonly width: number;
  readonly height: number;
}

/** 1 where the page is darker than its paper, the tone that most of it has. */
function inkOf({ data, width, height }: Raster): Uint8Array {
  const grey = new Uint8Array(width * height);
  const counts = new Uint32Array(256);
  for (let i = 0, p = 0; i < grey.length; i++, p += 4) {
    grey[i] = (data[p] * 54 + data[p + 1] * 183 + data[p + 2] * 19) >> 8;
    counts[grey[i]]++;
  }
  const paper = counts.indexOf(Math.max(...counts));
  const ink = new Uint8Array(grey.length);
  for (let i = 0; i < grey.length; i++) ink[i] = grey[i] < paper - LEAST_INK ? 1 : 0;
  return ink;
}

/** What is no thicker than a rule and has nothing directly above it. */
function thinInk({ ink, width, height }: Ink, pxPerPt: number): Uint8Array {
  const most = Math.max(2, Math.round(look.mostThick * pxPerPt));
  const clear = Math.round(look.clear * pxPerPt);
  const out = new Uint8Array(ink.length);
  for (let x = 0; x < width; x++) {
    let bottomOfLast = -clear;
    for (let y = 0; y < height; y++) {
      if (!ink[y * width + x]) continue;
      const top = y;
      while (y < height && ink[y * width + x]) y++;
      const isThin = y - top <= most && top - bottomOfLast >= clear;
      bottomOfLast = y;
      if (isThin) for (let k = top; k < y; k++) out[k * width + x] = 1;
    }
  }
  return out;
}

/** A stretch of one row. */
interface Run {
  readonly y: number;
  readonly from: number;
  readonly to: number;
  readonly filled: number;
  readonly parts: number;
  /** Where each part begins. */
  readonly starts: readonly number[];
}

function runsOf(thin: Uint8Array, row: { y: number; width: number; gap: number; least: number }, out: Run[]): void {
  const { y, width, gap, least } = row;
  let [from, last, filled] = [-1, -1, 0];
  let starts: number[] = [];
  const close = () => {
    if (from >= 0 && last + 1 - from >= least)
      out.push({ y, from, to: last + 1, filled, parts: starts.length, starts });
    from = -1;
  };
  for (let x = 0; x < width; x++) {
    if (!thin[y * width + x]) continue;
    if (from >= 0 && x - last - 1 > gap) close();
    if (from < 0) [from, filled, starts] = [x, 0, []];
    if (x !== last + 1 || filled === 0) starts.push(x);
    last = x;
    filled++;
  }
  close();
}

interface Bar {
  top: number;
  bottom: number;
  best: Run;
}

/** Rows that lie over one another are one line; the fullest of them tells where it runs. */
function joinRows(rows: readonly Run[], same: number): Bar[] {
  const bars: Bar[] = [];
  for (const run of rows) {
    const home = bars.find((b) => run.y - b.bottom <= same && overlap(b.best, run) > 0.5);
    if (!home) bars.push({ top: run.y, bottom: run.y, best: run });
    else {
      home.bottom = run.y;
      if (run.filled > home.best.filled) home.best = run;
    }
  }
  return bars;
}

/** Dots and dashes of a line follow each other evenly; what else stands in the row does not. */
function evenPart(row: Run): Run {
  const { starts } = row;
  const steps = starts.slice(1).map((x, k) => x - starts[k]);
  const usual = [...steps].sort((a, b) => a - b)[steps.length >> 1] ?? 0;
  let [first, from, to] = [0, 0, 0];
  for (let k = 0; k <= steps.length; k++) {
    if (k < steps.length && steps[k] <= usual * UNEVEN) continue;
    if (k - first > to - from) [from, to] = [first, k];
    first = k + 1;
  }
  if (to - from === starts.length - 1) return row;
  const end = to + 1 < starts.length ? Math.min(row.to, starts[to] + usual) : row.to;
  const share = (to - from + 1) / starts.length;
  return { ...row, from: starts[from], to: end, filled: row.filled * share, parts: to - from + 1 };
}
const UNEVEN = 1.35;

const overlap = (a: Run, b: Run) =>
  Math.max(0, Math.min(a.to, b.to) - Math.max(a.from, b.from)) / Math.min(a.to - a.from, b.to - b.from);

function lineOf({ top, bottom, best: row }: Bar, page: Ink & { pxPerPt: number }): PageLine | null {
  const { pxPerPt } = page;
  const best = row.filled / (row.to - row.from) < SOLID ? evenPart(row) : row;
  if (best.to - best.from < look.leastLength * pxPerPt) return null;
  const length = best.to - best.from;
  const share = best.filled / length;
  const isBroken = share < SOLID;
  if (bottom - top + 1 > look.mostThick * pxPerPt + 1) return null;
  if (share < LEAST_DOTTED || (isBroken && best.parts < LEAST_DOTS)) return null;
  return {
    x: best.from / pxPerPt,
    y: (top + bottom + 1) / 2 / pxPerPt,
    width: length / pxPerPt,
    room: roomAbove(top, best, page) / pxPerPt,
    isBroken,
    isBoxed: isBoxed(top, best, page),
  };
}

/** Rows that are clear above the middle of a line, px. */
function roomAbove(top: number, { from, to }: Run, { ink, width, pxPerPt }: Ink & { pxPerPt: number }): number {
  const inset = Math.round(((to - from) * (1 - look.middle)) / 2);
  const most = Math.min(top, Math.round(look.mostRoom * pxPerPt));
  for (let rise = 1; rise <= most; rise++) {
    const row = (top - rise) * width;
    let dark = 0;
    for (let x = from + inset; x < to - inset; x++) dark += ink[row + x];
    // A speck of a scan is no ink.
    if (dark > pxPerPt) return rise - 1;
  }
  return most;
}

function isBoxed(top: number, { from, to }: Run, { ink, width, height, pxPerPt }: Ink & { pxPerPt: number }): boolean {
  const reach = Math.round(look.boxReach * pxPerPt);
  const rise = Math.round(look.boxRise * pxPerPt);
  const hasPost = (near: number) => {
    for (let x = Math.max(0, near - reach); x <= Math.min(width - 1, near + reach); x++) {
      let dark = 0;
      for (let y = Math.max(0, top - rise); y < Math.min(height, top); y++) dark += ink[y * width + x];
      if (dark >= rise * SOLID) return true;
    }
    return false;
  };
  return hasPost(from) && hasPost(to - 1);
}
