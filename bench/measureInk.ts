import type { InkFacts } from '../core/ink/cutOutInk';
import { findInkPieces } from '../core/ink/inkPieces';
import type { Raster } from '../core/raster/raster';
import type { TestCapture } from './testCaptures';

/** How well ink was told from paper, piece by piece. */
export interface InkScore {
  /** Harmonic mean of precision and recall of pixels at least half covered. */
  readonly f: number;
  /** Share of the middles of strokes that are kept. */
  readonly thin: number;
  /** Pieces in the result that touch nothing of the truth. */
  readonly strays: number;
}

const alphas = (r: Raster): Float32Array =>
  Float32Array.from({ length: r.width * r.height }, (_, i) => r.data[i * 4 + 3] / 255);

export function measureInkResult(result: Raster, truth: Raster): InkScore {
  const { width, height } = truth;
  const [a, t] = [alphas(result), alphas(truth)];
  let hit = 0,
    over = 0,
    missed = 0;
  for (let i = 0; i < a.length; i++) {
    if (a[i] >= 0.5 && t[i] >= 0.5) hit++;
    else if (a[i] >= 0.5) over++;
    else if (t[i] >= 0.5) missed++;
  }
  // Thin strokes: ridges of the truth, where nothing within two pixels is clearly stronger.
  let ridge = 0,
    kept = 0;
  for (let y = 2; y < height - 2; y++)
    for (let x = 2, i = y * width + 2; x < width - 2; x++, i++) {
      if (t[i] < 0.3) continue;
      let most = 0,
        narrow = false;
      for (let n = i - 2 * width; n <= i + 2 * width; n += width)
        for (let k = n - 2; k <= n + 2; k++) {
          if (t[k] > most) most = t[k];
          if (t[k] < 0.15) narrow = true;
        }
      if (!narrow || t[i] < 0.9 * most) continue;
      ridge++;
      if (a[i] >= 0.4 * t[i]) kept++;
    }
  const { labels, pieces } = findInkPieces(a, width, height, 0.1, 0.1);
  const touches = new Uint8Array(pieces.length + 1);
  for (let i = 0; i < a.length; i++) if (labels[i] && t[i] > 0.05) touches[labels[i]] = 1;
  return {
    f: hit ? (2 * hit) / (2 * hit + over + missed) : 0,
    thin: ridge ? kept / ridge : 1,
    strays: pieces.filter((p) => !touches[p.label]).length,
  };
}

/**
 * Whether every mark of the sheet was found, and the mean error of their angles in degrees; null where the number is
 * wrong.
 */
export function measureMarks(found: InkFacts['marks'], { marks }: TestCapture): number | null {
  if (found.length !== marks.length) return null;
  const errors = marks.map((m) => {
    const a = (m.angleDeg * Math.PI) / 180;
    const [x, y] = [m.x + 300 * Math.cos(a), m.y + 300 * Math.sin(a)];
    const gap = (b: InkFacts['marks'][number]['box']) => Math.hypot(b.x + b.width / 2 - x, b.y + b.height / 2 - y);
    const nearest = found.reduce((p, q) => (gap(q.box) < gap(p.box) ? q : p));
    return Math.abs(nearest.angleDeg - m.angleDeg);
  });
  return errors.reduce((s, v) => s + v, 0) / errors.length;
}
