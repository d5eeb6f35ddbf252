import { type ColourCoverage, NO_COLOUR } from './colourCoverage';

const IN_LARGE = 1;

/**
 * Gives pieces of a colour that are too small to be meant, and touch other colours, to the colour most round them: what
 * compression leaves at edges. Planes and labels are changed in place.
 * @param smallestPx  pieces of fewer pixels are too small
 */
export function dissolveSlivers(
  { planes, labels, flat }: Pick<ColourCoverage, 'planes' | 'labels' | 'flat'>,
  width: number,
  smallestPx: number,
): void {
  const n = labels.length;
  const known = new Uint8Array(n);
  const beside = new Uint32Array(planes.length);
  const piece: number[] = [];
  for (let start = 0; start < n; start++) {
    // A piece lies in flat insides for the most part: from its edge pixels alone it is found soon enough.
    if (labels[start] === NO_COLOUR || flat[start] === 1 || known[start] === IN_LARGE) continue;
    if (isLarge(start)) {
      for (const p of piece) known[p] = IN_LARGE;
      continue;
    }
    const to = beside.indexOf(Math.max(...beside));
    if (beside[to] === 0) continue;
    for (const p of piece) {
      const from = labels[p];
      planes[to][p] = Math.min(255, planes[to][p] + planes[from][p]);
      planes[from][p] = 0;
      labels[p] = to;
    }
  }

  /** Gathers a piece until it is large enough, and counts what colours it touches. */
  function isLarge(start: number): boolean {
    const label = labels[start];
    beside.fill(0);
    piece.length = 0;
    piece.push(start);
    for (let at = 0; at < piece.length; at++) {
      const p = piece[at];
      const x = p % width;
      for (let way = 0; way < 4; way++) {
        const q = way === 0 ? p - 1 : way === 1 ? p + 1 : way === 2 ? p - width : p + width;
        if ((way === 0 && x === 0) || (way === 1 && x === width - 1) || q < 0 || q >= n) continue;
        const other = labels[q];
        if (other === label) {
          if (known[q] === IN_LARGE) return true;
          if (!piece.includes(q)) piece.push(q);
          if (piece.length >= smallestPx) return true;
        } else if (other !== NO_COLOUR) beside[other]++;
      }
    }
    return false;
  }
}
