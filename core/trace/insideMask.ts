import type { Plane } from '../raster/raster';

/** Half coverage: a pixel of so much belongs to the shape. */
const HALF = 128;
/** Fainter than this nothing is told from noise: of clean artwork. */
export const FAINT = 30;
/** Across a thin stroke coverage falls, two pixels on, to at most this share of its middle's. */
const FALLS_TO = 0.4;
/** The pixels beside the ridge of a thin stroke belong to it from this share of the ridge on. */
const SIDE_SHARE = 0.55;

/** The four ways across a pixel. */
const WAYS = [
  [1, 0],
  [0, 1],
  [1, 1],
  [1, -1],
] as const;

/**
 * Which pixels a shape holds, by its coverage: those at least half covered, and the ridges of strokes too thin to cover
 * any pixel by half; thin gaps are told in the same way from what is not covered.
 * @param faint  fainter than this, of 255, nothing is told from noise
 * @returns 1 for inside, 0 for outside, row-major
 */
export function insideMask({ width, height, data }: Plane, faint = FAINT): Uint8Array {
  const inside = new Uint8Array(width * height);
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= width || y >= height ? 0 : data[y * width + x]);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const a = data[i];
      if (a === 0) continue;
      if (a === 255) {
        inside[i] = 1;
        continue;
      }
      const isFilled = a >= HALF;
      // What is not covered, seen as a shape of its own, may be a gap thinner than a pixel.
      const isThin = isFilled
        ? isRidge((dx, dy) => 255 - at(x + dx, y + dy), faint)
        : isRidge((dx, dy) => at(x + dx, y + dy), faint);
      inside[i] = isFilled !== isThin ? 1 : 0;
    }
  }
  return inside;
}

/** Whether the middle lies on the ridge of a thin stroke. @param at  coverage beside it, 0 to 255 */
function isRidge(at: (dx: number, dy: number) => number, faint: number): boolean {
  const middle = at(0, 0);
  if (middle < faint) return false;
  for (const [dx, dy] of WAYS) {
    const [before, after] = [at(-dx, -dy), at(dx, dy)];
    const peak = Math.max(middle, before, after);
    // A pixel beside the ridge is part of the stroke only when it holds nearly as much.
    if (middle < peak * SIDE_SHARE) continue;
    // From the peak two pixels to both sides there is next to nothing.
    const shift = peak === middle ? 0 : peak === before ? -1 : 1;
    const far = (k: number) => at(dx * (shift + k), dy * (shift + k));
    if (Math.max(far(-2), far(2)) > peak * FALLS_TO) continue;
    // Along the stroke it goes on.
    if (Math.max(at(dy, -dx), at(-dy, dx)) >= middle * FALLS_TO) return true;
  }
  return false;
}
