import type { Raster } from '../raster/raster';

/** How large a mark looks, and where its weight lies. */
export interface Optics {
  /** Side of a square that looks as large, px of the picture. */
  readonly size: number;
  /** The middle of its ink, px of the picture. */
  readonly middle: { readonly x: number; readonly y: number };
}

/** What ink counts for beside spread: a heavy short mark and a light long one look alike in between. */
const INK_SHARE = 0.5;

/**
 * The optical size of a mark on clear ground: between the side of a square with as much ink and that of a square that
 * its ink spreads over. Spread is the square whose second moments are those of the ink: of a filled rectangle it is
 * that rectangle's area.
 * @param raster  straight alpha; pixels count by their alpha
 * @returns size 0 for an empty picture
 * @see M.-K. Hu, "Visual Pattern Recognition by Moment Invariants", 1962, for the moments
 */
export function measureOptics({ width, height, data }: Raster): Optics {
  let [ink, sx, sy, sxx, syy] = [0, 0, 0, 0, 0];
  for (let y = 0, i = 3; y < height; y++) {
    let [row, rowX] = [0, 0];
    for (let x = 0; x < width; x++, i += 4) {
      const a = data[i];
      if (a === 0) continue;
      row += a;
      rowX += a * x;
      sxx += a * x * x;
    }
    ink += row;
    sx += rowX;
    sy += row * y;
    syy += row * y * y;
  }
  if (ink === 0) return { size: 0, middle: { x: width / 2, y: height / 2 } };
  const [mx, my] = [sx / ink, sy / ink];
  // A pixel is a square with a twelfth of its side of variance, not a point.
  const [vx, vy] = [sxx / ink - mx * mx + 1 / 12, syy / ink - my * my + 1 / 12];
  const inkSide = Math.sqrt(ink / 255);
  const spreadSide = Math.sqrt(12 * Math.sqrt(vx * vy));
  return { size: inkSide ** INK_SHARE * spreadSide ** (1 - INK_SHARE), middle: { x: mx + 0.5, y: my + 0.5 } };
}
