/** Coverage from which a pixel is surely inked, and the rank at which broad strokes are full. */
export const SURELY_INKED = 0.25;
const FULL_RANK = 0.9;
/** Thin strokes hardly ever fill a pixel: of theirs the rank lies this much higher at most. */
const THIN_RANK_RISE = 0.085;
/** Of first-estimate full coverage: what counts as the body of a stroke, and what as any of it. */
const BODY = 0.75;
const ANY = 0.25;
/** How far the first estimate may be off, either way. */
const FULL_FROM = 0.6;
const FULL_TO = 1.8;

/** Strokes whose middles are this much of all that is inked have a level top; of the thinnest, hardly anything has. */
const BROAD = 0.72;
const THIN = 0.4;

/**
 * What fully inked places come to: the 90th percentile of all that is surely ink, where strokes are broad. Thin blurred
 * strokes reach full ink only where they cross or pool, so there a higher one.
 * @param sure  coverages of pixels that are surely inked
 * @returns that, within limits, and how thin strokes are, 0..1
 */
export function fullOf(sure: readonly number[]): { full: number; thin: number } {
  if (sure.length < 30) return { full: 1, thin: 0 };
  const sorted = Float32Array.from(sure).sort();
  const first = sorted[Math.floor(sorted.length * FULL_RANK)];
  const share = countOver(sorted, BODY * first) / countOver(sorted, ANY * first);
  const thin = Math.min(1, Math.max(0, (BROAD - share) / (BROAD - THIN)));
  const rank = Math.min(sorted.length - 1, Math.floor(sorted.length * (FULL_RANK + THIN_RANK_RISE * thin)));
  return { full: Math.min(FULL_TO, Math.max(FULL_FROM, sorted[rank])), thin };
}

function countOver(sorted: Float32Array, least: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const k = (low + high) >> 1;
    if (sorted[k] <= least) low = k + 1;
    else high = k;
  }
  return sorted.length - low;
}
