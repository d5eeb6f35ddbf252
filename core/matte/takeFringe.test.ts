import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround, pixel } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { fringeOf, hasFringe, takeFringe } from './takeFringe';

const GREEN = [31, 90, 69] as const;
const truth = drawMark(160, 160, disc(80, 80, 60), [...GREEN]);

/** As a program leaves it that took a white ground away by its colour alone: edges opaque, mixed with white. */
function keyed({ width, height, data }: Raster): Raster {
  const out = data.slice();
  for (let k = 0; k < data.length; k += 4) {
    const a = data[k + 3] / 255;
    for (let c = 0; c < 3; c++) out[k + c] = Math.round(GREEN[c] * a + 255 * (1 - a));
    out[k + 3] = a > 0.88 ? 255 : a > 0.08 ? Math.max(90, data[k + 3] * 0.8) : 0;
  }
  return { width, height, data: out };
}

/** One clear picture on another. */
function layUnder(top: Raster, under: Raster): Raster {
  const data = under.data.slice();
  for (let k = 0; k < data.length; k += 4) {
    const [a, b] = [top.data[k + 3] / 255, (under.data[k + 3] / 255) * (1 - top.data[k + 3] / 255)];
    for (let c = 0; c < 3 && a + b > 0; c++)
      data[k + c] = Math.round((top.data[k + c] * a + under.data[k + c] * b) / (a + b));
    data[k + 3] = Math.round(255 * (a + b));
  }
  return { ...top, data };
}

describe('a fringe of an old ground', () => {
  it('is seen where edges are lighter than their mark, and not in a clean picture', () => {
    expect(hasFringe(keyed(truth))).toBe(true);
    expect(hasFringe(truth)).toBe(false);
  });
  it('is taken out: edges get the mark’s colour, at the share that they were mixed with', () => {
    const clean = takeFringe(keyed(truth), [255, 255, 255]);
    expect(hasFringe(clean)).toBe(false);
    let worst = 0;
    for (let k = 0; k < truth.data.length; k += 4)
      for (const under of [0, 255]) {
        const on = (d: Uint8Array, c: number) => (d[k + c] * d[k + 3] + under * (255 - d[k + 3])) / 255;
        for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(on(clean.data, c) - on(truth.data, c)));
      }
    expect(worst).toBeLessThan(24);
  });
  it('of black is one too, but a dark outline or shadow of its own is none', () => {
    const gold = drawMark(160, 160, disc(80, 80, 60), [230, 180, 60]);
    const seen = onGround(gold, [0, 0, 0]);
    const keyedBlack = { ...seen, data: seen.data.map((v, k) => (k % 4 === 3 ? (gold.data[k] > 20 ? 255 : 0) : v)) };
    expect(fringeOf(keyedBlack)).toEqual([0, 0, 0]);
    expect(fringeOf(takeFringe(keyedBlack, [0, 0, 0]))).toBeNull();
    expect(fringeOf(keyed(truth))).toEqual([255, 255, 255]);
    const laid = (under: Raster) => layUnder(gold, under);
    expect(fringeOf(laid(drawMark(160, 160, disc(80, 80, 62), [0, 0, 0])))).toBeNull();
    const soft = (x: number, y: number) => 0.5 * Math.min(1, Math.max(0, (72 - Math.hypot(x - 83, y - 83)) / 12));
    expect(fringeOf(laid(drawMark(160, 160, soft, [0, 0, 0])))).toBeNull();
  });
  it('leaves what is inside as it is, and a clean picture too', () => {
    const marked = { ...truth, data: truth.data.slice() };
    marked.data.set([250, 250, 250, 255], (80 * 160 + 80) * 4);
    expect(pixel(takeFringe(marked, [255, 255, 255]), 80, 80)).toEqual([250, 250, 250, 255]);
    const again = takeFringe(truth, [255, 255, 255]);
    expect(again.data.reduce((n, v, k) => n + (Math.abs(v - truth.data[k]) > 4 ? 1 : 0), 0)).toBe(0);
  });
});
