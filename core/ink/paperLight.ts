import { DEVIATION_OF_MEDIAN } from '../statistics';
import { boxMean, boxSum } from '../raster/boxMean';
import { closing, dilate } from '../raster/morphology';
import type { Raster } from '../raster/raster';

/** What is left out when paper is looked at: clear of the noise and of faint stains. */
const INK_OVER_NOISE = 4.5;
const INK_OVER_STAIN = 0.035;
/**
 * The light is read off paper within this share of the closing's radius, and where there is none, three times as far.
 */
const NEAR_SHARE = 0.45;
const FAR_TIMES = 3;
/** Share of bare paper in a window from which its mean is one. */
const NEAR_LEAST = 0.12;
const FAR_LEAST = 0.02;

/** A picture averaged down by a whole factor: three planes of code values, row-major. */
export interface SmallPlanes {
  readonly width: number;
  readonly height: number;
  /** Pixels of the picture per pixel of the planes, each way. */
  readonly factor: number;
  readonly planes: readonly [Float32Array, Float32Array, Float32Array];
}

/** What the paper would look like without ink, on the small grid. */
export interface PaperLight extends SmallPlanes {
  /** Ink's first guess: 1 − picture / paper, mean of the channels. */
  readonly density: Float32Array;
  /** 1 where ink or a line is likely. */
  readonly inked: Uint8Array;
  /** Robust deviation of `density` on bare paper. */
  readonly noise: number;
}

const LONGEST = 700;
/** Half the width of the broadest stroke that is still told from a shadow, as a share of the longer side. */
const STROKE_SHARE = 0.027;

/** Sums of red and blue share one number, 16 bits each: so many pixels of a block fit. */
const MOST_SUMMED = 256;

/**
 * The mean of each block of `factor` × `factor` pixels, `factor` at most 16; a rest at the right and bottom is averaged
 * with what it has.
 */
export function shrink({ width, height, data }: Raster, factor: number): SmallPlanes {
  if (factor * factor > MOST_SUMMED) throw new Error(`Expected a factor of at most 16, got ${factor}`);
  const w = Math.ceil(width / factor);
  const h = Math.ceil(height / factor);
  const planes = [new Float32Array(w * h), new Float32Array(w * h), new Float32Array(w * h)] as const;
  const px = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const redBlue = new Uint32Array(w);
  const green = new Uint32Array(w);
  for (let r = 0; r < h; r++) {
    redBlue.fill(0);
    green.fill(0);
    const rows = Math.min(factor, height - r * factor);
    for (let y = r * factor; y < r * factor + rows; y++) {
      let s = y * width;
      for (let c = 0, x = 0; c < w; c++) {
        const end = Math.min(width, x + factor);
        let rb = 0;
        let g = 0;
        for (; x < end; x++, s++) {
          const v = px[s];
          rb += v & 0x00ff00ff;
          g += (v >>> 8) & 0xff;
        }
        redBlue[c] += rb;
        green[c] += g;
      }
    }
    for (let c = 0; c < w; c++) {
      const n = rows * Math.min(factor, width - c * factor);
      planes[0][r * w + c] = (redBlue[c] & 0xffff) / n;
      planes[1][r * w + c] = green[c] / n;
      planes[2][r * w + c] = (redBlue[c] >>> 16) / n;
    }
  }
  return { width: w, height: h, factor, planes };
}

/**
 * The light on the paper and the paper's tint, under the ink too: a grey closing wider than any stroke follows the
 * edges of shadows, which block averages do not; what it gets wrong by noise is put right by the mean of bare paper.
 * @see J. Serra, "Image Analysis and Mathematical Morphology", 1982, for the closing
 */
export function measurePaper(raster: Raster): PaperLight {
  const factor = Math.min(16, Math.max(1, Math.round(Math.max(raster.width, raster.height) / LONGEST)));
  const small = shrink(raster, factor);
  const { width, height, planes } = small;
  const total = width * height;
  const grey = new Float32Array(total);
  for (let i = 0; i < total; i++) grey[i] = (planes[0][i] + planes[1][i] + planes[2][i]) / 3;
  const radius = Math.max(4, Math.round(Math.max(width, height) * STROKE_SHARE));
  const closed = closing(boxMean(grey, width, height, 1), width, height, radius);
  for (let i = 0; i < total; i++) if (closed[i] < 1) closed[i] = 1;
  const first = new Float32Array(total);
  for (let i = 0; i < total; i++) first[i] = 1 - grey[i] / closed[i];
  const { middle, deviation } = robust(first);
  const inked = dilate(
    threshold(first, middle + Math.max(INK_OVER_STAIN, INK_OVER_NOISE * deviation)),
    width,
    height,
    2,
  );
  const bare = new Float32Array(total);
  for (let i = 0; i < total; i++) bare[i] = inked[i] ? 0 : 1;
  const [nearRadius, farRadius] = [Math.max(5, Math.round(radius * NEAR_SHARE)), radius * FAR_TIMES];
  const nearCount = boxSum(bare, width, height, nearRadius);
  const farCount = boxSum(bare, width, height, farRadius);
  const [nearLeast, farLeast] = [NEAR_LEAST * (2 * nearRadius + 1) ** 2, FAR_LEAST * (2 * farRadius + 1) ** 2];
  const paper = planes.map((plane) => {
    const ratio = new Float32Array(total);
    let sum = 0;
    let count = 0;
    for (let i = 0; i < total; i++)
      if (!inked[i]) {
        ratio[i] = plane[i] / closed[i];
        sum += ratio[i];
        count++;
      }
    const overall = count ? sum / count : 1;
    const near = boxSum(ratio, width, height, nearRadius);
    const far = boxSum(ratio, width, height, farRadius);
    for (let i = 0; i < total; i++)
      ratio[i] = Math.max(
        1,
        closed[i] *
          (nearCount[i] > nearLeast ? near[i] / nearCount[i] : farCount[i] > farLeast ? far[i] / farCount[i] : overall),
      );
    return ratio;
  }) as unknown as [Float32Array, Float32Array, Float32Array];
  const density = new Float32Array(total);
  for (let i = 0; i < total; i++)
    density[i] = 1 - (planes[0][i] / paper[0][i] + planes[1][i] / paper[1][i] + planes[2][i] / paper[2][i]) / 3;
  const sample: number[] = [];
  const step = Math.max(1, Math.floor(total / 40_000));
  for (let i = 0; i < total; i += step) if (!inked[i]) sample.push(density[i]);
  return { width, height, factor, planes: paper, density, inked, noise: robust(Float32Array.from(sample)).deviation };
}

export function robust(values: Float32Array): { middle: number; deviation: number } {
  if (values.length === 0) return { middle: 0, deviation: 0 };
  const step = Math.max(1, Math.floor(values.length / 60_000));
  const sample = Float32Array.from({ length: Math.ceil(values.length / step) }, (_, k) => values[k * step]).sort();
  const middle = sample[sample.length >> 1];
  const off = sample.map((v) => Math.abs(v - middle)).sort();
  return { middle, deviation: DEVIATION_OF_MEDIAN * off[off.length >> 1] };
}

export function threshold(values: Float32Array, at: number): Uint8Array {
  const out = new Uint8Array(values.length);
  for (let i = 0; i < out.length; i++) out[i] = values[i] > at ? 1 : 0;
  return out;
}
