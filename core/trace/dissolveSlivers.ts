/** Covered at least so much a pixel takes part in pieces, of 255. */
const SEEN = 48;
const NONE = 255;

/**
 * Gives pieces of a colour that are too small to be meant, and touch other colours, to the colour most round them: what
 * compression leaves at edges. Planes are changed in place.
 * @param smallestPx  pieces of fewer pixels are too small
 */
export function dissolveSlivers(
  planes: readonly Uint8Array[],
  { width, height }: { width: number; height: number },
  smallestPx: number,
): void {
  const n = width * height;
  const labels = new Uint8Array(n).fill(NONE);
  for (let p = 0; p < n; p++) {
    let [best, most, sum] = [NONE, 0, 0];
    for (let k = 0; k < planes.length; k++) {
      const v = planes[k][p];
      sum += v;
      if (v > most) [best, most] = [k, v];
    }
    if (sum >= SEEN) labels[p] = best;
  }
  const seen = new Uint8Array(n);
  const piece = new Int32Array(n);
  for (let start = 0; start < n; start++) {
    if (seen[start] || labels[start] === NONE) continue;
    const label = labels[start];
    let count = 0;
    piece[count++] = start;
    seen[start] = 1;
    const beside = new Map<number, number>();
    for (let at = 0; at < count; at++) {
      const p = piece[at];
      const x = p % width;
      for (const q of [x > 0 ? p - 1 : -1, x + 1 < width ? p + 1 : -1, p - width, p + width]) {
        if (q < 0 || q >= n) continue;
        const other = labels[q];
        if (other === label) {
          if (seen[q]) continue;
          seen[q] = 1;
          piece[count++] = q;
        } else if (other !== NONE) beside.set(other, (beside.get(other) ?? 0) + 1);
      }
    }
    if (count >= smallestPx || beside.size === 0) continue;
    const to = [...beside].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
    for (let k = 0; k < count; k++) {
      const p = piece[k];
      planes[to][p] = Math.min(255, planes[to][p] + planes[label][p]);
      planes[label][p] = 0;
      labels[p] = to;
    }
  }
}
