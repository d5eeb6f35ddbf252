import { type BlendMode, blend } from '../colour/blend';
import type { Rgb } from '../colour/hex';
import type { Raster } from '../raster/raster';

export interface Laying {
  /** Of what is laid on, 0..1. */
  readonly opacity: number;
  readonly mode: BlendMode;
}

/**
 * Lays a picture on a ground, in place; what reaches beyond the ground is left out.
 * @param at  the picture's upper left pixel on the ground
 * @see W3C, "Compositing and Blending Level 1", 5.1 (source over) and 10 (blending with the backdrop's own alpha)
 */
export function layOnGround(ground: Raster, picture: Raster, at: { x: number; y: number }, laying: Laying): void {
  const { opacity, mode } = laying;
  const [x0, x1] = [Math.max(0, -at.x), Math.min(picture.width, ground.width - at.x)];
  const [y0, y1] = [Math.max(0, -at.y), Math.min(picture.height, ground.height - at.y)];
  const isPlain = mode === 'normal' && opacity === 1;
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const s = (y * picture.width + x) * 4;
      if (picture.data[s + 3] === 0) continue;
      if (isPlain && picture.data[s + 3] === 255) {
        // Solid covers whatever is there: most of a mark.
        const to = ((at.y + y) * ground.width + at.x + x) * 4;
        for (let c = 0; c < 4; c++) ground.data[to + c] = picture.data[s + c];
        continue;
      }
      const over = (picture.data[s + 3] / 255) * opacity;
      if (over === 0) continue;
      const d = ((at.y + y) * ground.width + at.x + x) * 4;
      const under = ground.data[d + 3] / 255;
      const alpha = over + under * (1 - over);
      const own = colourAt(picture.data, s);
      // Where the ground is clear there is nothing to blend with.
      const colour = mode === 'normal' || under === 0 ? own : blend(colourAt(ground.data, d), own, mode, under);
      for (let c = 0; c < 3; c++)
        ground.data[d + c] = Math.round((colour[c] * over + ground.data[d + c] * under * (1 - over)) / alpha);
      ground.data[d + 3] = Math.round(alpha * 255);
    }
  }
}

const colourAt = (data: Uint8Array, at: number): Rgb => [data[at], data[at + 1], data[at + 2]];
