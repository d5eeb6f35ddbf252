/**
 * A border between inside and outside pixels, step by step along pixel sides. Each step goes from one grid corner to
 * the next with the inside at its right hand (y down), so that outer rings run clockwise on the screen.
 */
export interface CrackRing {
  /** x of each step's first corner. */
  readonly xs: Int32Array;
  readonly ys: Int32Array;
  /** 0 east, 1 south, 2 west, 3 north. */
  readonly ways: Uint8Array;
  /** Twice the enclosed area; negative for a hole. */
  readonly area2: number;
}

const DX = [1, 0, -1, 0];
const DY = [0, 1, 0, -1];

/**
 * All borders of a mask.
 * @param inside  1 or 0, row-major
 * @param joins  whether two inside pixels that touch by this grid corner only are one
 * @see the following of cracks between pixels; A. Rosenfeld and A. Kak, "Digital Picture Processing", 1982, section
 *   11.1.3
 */
export function followRings(
  inside: Uint8Array,
  width: number,
  height: number,
  joins: (x: number, y: number) => boolean,
): CrackRing[] {
  const seen = new Uint8Array(width * height);
  const isIn = (x: number, y: number) => x >= 0 && y >= 0 && x < width && y < height && inside[y * width + x] === 1;
  const rings: CrackRing[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (inside[i] === 0 || seen[i] === 1 || (y > 0 && inside[i - width] === 1)) continue;
      rings.push(follow(x, y));
    }
  }
  return rings;

  function follow(startX: number, startY: number): CrackRing {
    const xs: number[] = [];
    const ys: number[] = [];
    const ways: number[] = [];
    let [x, y, way, area2] = [startX, startY, 0, 0];
    do {
      xs.push(x);
      ys.push(y);
      ways.push(way);
      // Its upper side: from here no other ring starts.
      if (way === 0) seen[y * width + x] = 1;
      const [nx, ny] = [x + DX[way], y + DY[way]];
      area2 += x * ny - nx * y;
      [x, y] = [nx, ny];
      way = turn(x, y, way);
    } while (x !== startX || y !== startY || way !== 0);
    return { xs: Int32Array.from(xs), ys: Int32Array.from(ys), ways: Uint8Array.from(ways), area2 };
  }

  function turn(x: number, y: number, way: number): number {
    // The pixels ahead at the right and left hand.
    const [dx, dy] = [DX[way], DY[way]];
    const ahead = (side: 1 | -1) => {
      const [px, py] = [dx - side * dy, dy + side * dx];
      return isIn(x + (px < 0 ? -1 : 0), y + (py < 0 ? -1 : 0));
    };
    const [right, left] = [ahead(1), ahead(-1)];
    if (right) return left ? (way + 3) & 3 : way;
    if (!left) return (way + 1) & 3;
    return joins(x, y) ? (way + 3) & 3 : (way + 1) & 3;
  }
}
