import { deltaE, oklabFromSrgb } from '../core/colour/oklab';
import type { Raster } from '../core/raster/raster';

/** How far a cut-out is from the truth. */
export interface Accuracy {
  /** Mean alpha error 0..1 within 4 px of the true edge. */
  readonly alpha: number;
  /** Mean colour ΔE there, over pixels visible in both. */
  readonly colour: number;
  /** Mean and 99th percentile ΔE of the composite, the worst of black, white, grey and magenta. */
  readonly compositeMean: number;
  readonly compositeP99: number;
}

const GROUNDS = [
  [0, 0, 0],
  [255, 255, 255],
  [128, 128, 128],
  [255, 0, 255],
] as const;
const BAND = 4;

/** Pixels within BAND px of a change between clear and opaque, or partly covered themselves. */
function edgeBandOf(truth: Raster): Uint8Array {
  const { width, height, data } = truth;
  const band = new Uint8Array(width * height);
  const isEdge = (i: number, x: number, y: number) => {
    const a = data[i * 4 + 3];
    if (a > 0 && a < 255) return true;
    const isIn = a > 127;
    return (x > 0 && data[i * 4 - 1] > 127 !== isIn) || (y > 0 && data[(i - width) * 4 + 3] > 127 !== isIn);
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!isEdge(y * width + x, x, y)) continue;
      for (let dy = -BAND; dy <= BAND; dy++) {
        for (let dx = -BAND; dx <= BAND; dx++) {
          if (dx * dx + dy * dy > BAND * BAND || x + dx < 0 || x + dx >= width || y + dy < 0 || y + dy >= height)
            continue;
          band[(y + dy) * width + x + dx] = 1;
        }
      }
    }
  }
  return band;
}

/**
 * Errors of a result against the truth on the same grid. All figures are over the edge band and, for composites,
 * over band and every pixel visible in either picture, so that a large empty picture does not flatter.
 */
export function measureAccuracy(result: Raster, truth: Raster): Accuracy {
  const band = edgeBandOf(truth);
  let alpha = 0,
    inBand = 0,
    colour = 0,
    coloured = 0;
  const composite = GROUNDS.map(() => [] as number[]);
  for (let i = 0; i < band.length; i++) {
    const s = i * 4;
    const ra = result.data[s + 3];
    const ta = truth.data[s + 3];
    if (band[i]) {
      alpha += Math.abs(ra - ta) / 255;
      inBand++;
      if (ra > 8 && ta > 8) {
        colour += deltaE(
          oklabFromSrgb(result.data[s], result.data[s + 1], result.data[s + 2]),
          oklabFromSrgb(truth.data[s], truth.data[s + 1], truth.data[s + 2]),
        );
        coloured++;
      }
    }
    if (!band[i] && ra === 0 && ta === 0) continue;
    for (const [k, g] of GROUNDS.entries()) {
      const over = (r: Raster, a: number, c: number) => Math.round((r.data[s + c] * a + g[c] * (255 - a)) / 255);
      composite[k].push(
        deltaE(
          oklabFromSrgb(over(result, ra, 0), over(result, ra, 1), over(result, ra, 2)),
          oklabFromSrgb(over(truth, ta, 0), over(truth, ta, 1), over(truth, ta, 2)),
        ),
      );
    }
  }
  const stats = composite.map((list) => {
    const sorted = Float64Array.from(list).sort();
    return {
      mean: list.reduce((a, b) => a + b, 0) / Math.max(1, list.length),
      p99: sorted[Math.floor(sorted.length * 0.99)] ?? 0,
    };
  });
  return {
    alpha: alpha / Math.max(1, inBand),
    colour: colour / Math.max(1, coloured),
    compositeMean: Math.max(...stats.map((s) => s.mean)),
    compositeP99: Math.max(...stats.map((s) => s.p99)),
  };
}
