/**
 * The level that parts a histogram of 256 counts best into dark and light.
 * @returns `level`: counts up to and including it are dark; `step`: between the means of both sides, 0 when there is
 *   one side only
 * @see N. Otsu, "A Threshold Selection Method from Gray-Level Histograms", 1979
 */
export function splitLevel(counts: Float64Array): { level: number; step: number } {
  const total = counts.reduce((s, n) => s + n, 0);
  const sum = counts.reduce((s, n, v) => s + n * v, 0);
  let [below, belowSum, best, level, step] = [0, 0, -1, 0, 0];
  for (let v = 0; v < 256; v++) {
    below += counts[v];
    belowSum += counts[v] * v;
    if (below === 0 || below === total) continue;
    const apart = (sum - belowSum) / (total - below) - belowSum / below;
    const spread = below * (total - below) * apart ** 2;
    if (spread > best) [best, level, step] = [spread, v, apart];
  }
  return { level, step };
}
