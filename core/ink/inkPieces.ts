/** Share of the largest piece from which a piece tells how broad the strokes are. */
const LARGE_SHARE = 0.1;

/** A connected piece of ink. */
export interface InkPiece {
  readonly label: number;
  readonly areaPx: number;
  /** Greatest coverage in it. */
  readonly peak: number;
  /** Where that is: always on the piece itself, which its centre need not be. */
  readonly top: { x: number; y: number };
  readonly box: { x: number; y: number; width: number; height: number };
  readonly centre: { x: number; y: number };
}

export interface InkPieces {
  /** 0 none, else the piece's label; row-major. */
  readonly labels: Int32Array;
  readonly pieces: readonly InkPiece[];
}

/**
 * Pieces of all that is over `low` and reaches `high` somewhere: a faint stroke counts where it hangs on a strong one.
 * Eight neighbours. Labels are 1, 2 … in the order of their first pixel.
 * @see J. Canny, "A Computational Approach to Edge Detection", 1986, for the two thresholds
 */
export function findInkPieces(
  values: Float32Array,
  width: number,
  height: number,
  low: number,
  high: number,
): InkPieces {
  const labels = new Int32Array(values.length);
  const pieces: InkPiece[] = [];
  const stack: number[] = [];
  let next = 1;
  for (let start = 0; start < values.length; start++) {
    if (values[start] < high || labels[start] !== 0) continue;
    const label = next++;
    let [area, peak, at, sx, sy] = [0, 0, start, 0, 0];
    let [left, top, right, bottom] = [width, height, 0, 0];
    stack.push(start);
    labels[start] = label;
    while (stack.length) {
      const i = stack.pop() as number;
      const y = (i / width) | 0;
      const x = i - y * width;
      area++;
      sx += x;
      sy += y;
      if (values[i] > peak) {
        peak = values[i];
        at = i;
      }
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      if (y > bottom) bottom = y;
      for (let ny = y > 0 ? y - 1 : 0; ny <= y + 1 && ny < height; ny++) {
        for (let nx = x > 0 ? x - 1 : 0; nx <= x + 1 && nx < width; nx++) {
          const n = ny * width + nx;
          if (labels[n] !== 0 || values[n] < low) continue;
          labels[n] = label;
          stack.push(n);
        }
      }
    }
    pieces.push({
      label,
      areaPx: area,
      peak,
      top: { x: at % width, y: Math.floor(at / width) },
      box: { x: left, y: top, width: right - left + 1, height: bottom - top + 1 },
      centre: { x: sx / area, y: sy / area },
    });
  }
  return { labels, pieces };
}

/** Of the largest piece, px; 0 without any. There may be very many pieces. */
export const largestArea = (pieces: readonly InkPiece[]): number =>
  pieces.reduce((most, p) => Math.max(most, p.areaPx), 0);

/** Mean width of the strokes in px: twice the area over the length of its rim, of the larger pieces. */
export function strokeWidth(labels: Int32Array, pieces: readonly InkPiece[], width: number, height: number): number {
  const most = largestArea(pieces);
  const isLarge = new Uint8Array(pieces.length + 1);
  for (const p of pieces) if (p.areaPx >= most * LARGE_SHARE) isLarge[p.label] = 1;
  let area = 0;
  let rim = 0;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!isLarge[labels[i]]) continue;
      area++;
      if (
        x === 0 ||
        x === width - 1 ||
        y === 0 ||
        y === height - 1 ||
        !labels[i - 1] ||
        !labels[i + 1] ||
        !labels[i - width] ||
        !labels[i + width]
      )
        rim++;
    }
  return rim ? Math.max(1, (2 * area) / rim) : 1;
}
