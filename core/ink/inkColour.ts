import type { Raster } from '../raster/raster';
import type { PaperLight } from './paperLight';

/** The darkest density but for one pixel in two thousand: a lone black speck does not set the scale. */
const TOP_RANK = 0.9995;
/** What is ink for this measurement: clear of the noise, of a faint stain, and of soft rims of the darkest ink. */
const OVER_NOISE = 4.5;
const OVER_STAIN = 0.035;
const OVER_TOP = 0.4;
/** Deeper than this the top says no more about where rims begin. */
const MOST_TOP = 0.9;
/** Of the inked places by depth, those whose colour is taken: full strokes, without blots and print at the very end. */
const INK_FROM = 0.86;
const INK_TO = 0.97;
/** No ink lets more light through. */
const MOST_THROUGH = 0.97;
/** The paper's own colour is that of its lightest tenth: shade is no part of it. */
const PAPER_RANK = 0.9;

/** What one pen leaves on the paper where it inks fully. */
export interface Ink {
  /** Share of the paper's light that comes through, per channel: 0 black, 1 nothing. */
  readonly through: readonly [number, number, number];
  /** Weights that make coverage of what is missing: coverage = Σ weight · (1 − through). */
  readonly weights: readonly [number, number, number];
}

const MOST_SAMPLES = 5000;

/** The paper's colour at a pixel of the picture, between the small grid's points. `out` receives R, G, B. */
export function paperAt(paper: PaperLight, x: number, y: number, out: Float32Array): void {
  const { width, height, factor, planes } = paper;
  const u = Math.min(width - 1, Math.max(0, (x + 0.5) / factor - 0.5));
  const v = Math.min(height - 1, Math.max(0, (y + 0.5) / factor - 0.5));
  const x0 = u | 0;
  const y0 = v | 0;
  const i = y0 * width + x0;
  const right = x0 < width - 1 ? 1 : 0;
  const down = y0 < height - 1 ? width : 0;
  const fx = u - x0;
  const fy = v - y0;
  for (let c = 0; c < 3; c++) {
    const p = planes[c];
    const top = p[i] + (p[i + right] - p[i]) * fx;
    const bottom = p[i + down] + (p[i + down + right] - p[i + down]) * fx;
    out[c] = top + (bottom - top) * fy;
  }
}

/**
 * The colour of fully inked places: the mean of what lies about the 90th percentile of density among the picture's own
 * ink, so that neither thin blurred strokes nor a single dark pixel decides.
 * @returns null when nothing on the paper is dark enough to be ink
 */
export function measureInk(raster: Raster, paper: PaperLight): Ink | null {
  const { density, width: w } = paper;
  const every = Math.max(1, Math.floor(density.length / 120_000));
  const sorted = Float32Array.from({ length: Math.ceil(density.length / every) }, (_, k) => density[k * every]).sort();
  const top = sorted[Math.floor(sorted.length * TOP_RANK)];
  const cut = Math.max(OVER_NOISE * paper.noise, OVER_STAIN, OVER_TOP * Math.min(MOST_TOP, top));
  const places: number[] = [];
  for (let i = 0; i < density.length; i++) if (density[i] > cut) places.push(i);
  if (places.length < 6) return null;
  const step = Math.max(1, Math.floor(places.length / MOST_SAMPLES));
  const seen: { depth: number; through: [number, number, number] }[] = [];
  const under = new Float32Array(3);
  for (let k = 0; k < places.length; k += step)
    seen.push(darkestIn(raster, paper, (places[k] % w) * paper.factor, ((places[k] / w) | 0) * paper.factor, under));
  seen.sort((a, b) => a.depth - b.depth);
  const from = Math.floor(seen.length * INK_FROM);
  const to = Math.max(from + 1, Math.ceil(seen.length * INK_TO));
  const through = [0, 1, 2].map((c) =>
    Math.min(MOST_THROUGH, seen.slice(from, to).reduce((s, v) => s + v.through[c], 0) / (to - from)),
  ) as [number, number, number];
  return inkOf(through);
}

export function inkOf(through: readonly [number, number, number]): Ink {
  const square = through.reduce((s, t) => s + (1 - t) ** 2, 0);
  return { through, weights: through.map((t) => (1 - t) / Math.max(1e-4, square)) as unknown as Ink['weights'] };
}

// In one block of the small grid: the darkest mean of 2 × 2, which one noisy pixel does not decide.
function darkestIn(
  { width, height, data }: Raster,
  paper: PaperLight,
  x0: number,
  y0: number,
  under: Float32Array,
): { depth: number; through: [number, number, number] } {
  let depth = -1;
  let through: [number, number, number] = [1, 1, 1];
  paperAt(paper, x0 + paper.factor / 2, y0 + paper.factor / 2, under);
  for (let y = y0; y < Math.min(height, y0 + paper.factor); y++) {
    for (let x = x0; x < Math.min(width, x0 + paper.factor); x++) {
      const s = (y * width + x) * 4;
      const right = x + 1 < width ? 4 : 0;
      const down = y + 1 < height ? width * 4 : 0;
      const t = [0, 1, 2].map((c) =>
        Math.min(
          1,
          (data[s + c] + data[s + right + c] + data[s + down + c] + data[s + down + right + c]) / 4 / under[c],
        ),
      );
      const d = 1 - (t[0] + t[1] + t[2]) / 3;
      if (d > depth) {
        depth = d;
        through = t as [number, number, number];
      }
    }
  }
  return { depth, through };
}

/** Paper with less difference between its channels than this is white paper in some light. */
const TINTED = 30;

/** The paper as it looks where the light is best; white paper in a dim light is taken for white. */
export function paperColour(paper: PaperLight): [number, number, number] {
  const grey = paper.planes[0].map((v, i) => v + paper.planes[1][i] + paper.planes[2][i]);
  const { length } = grey;
  const every = Math.max(1, Math.floor(length / 60_000));
  const order = Float32Array.from({ length: Math.ceil(length / every) }, (_, k) => grey[k * every]).sort();
  const cut = order[Math.floor(order.length * PAPER_RANK)];
  const sum = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < length; i++)
    if (grey[i] >= cut) {
      for (let c = 0; c < 3; c++) sum[c] += paper.planes[c][i];
      count++;
    }
  const lit = sum.map((v) => v / Math.max(1, count));
  const most = Math.max(...lit);
  const isWhite = most - Math.min(...lit) < TINTED * (most / 255);
  const scale = isWhite ? Math.max(1, 244 / most) : Math.max(1, 190 / most);
  return lit.map((v) => Math.min(255, v * scale)) as [number, number, number];
}
