import { describe, expect, it } from 'vitest';
import { pixel } from '../../tests/support/pictures';
import { flatRaster } from '../placements/placeItem';
import type { Raster } from '../raster/raster';
import { type Surface, renderSurface, usualSurface } from './renderSurface';

const mark = flatRaster(80, 40, '#b02020');
const on = (change: Partial<Surface>) => renderSurface(mark, { ...usualSurface, width: 240, height: 180, ...change });
/** The rectangle round what is white in a mask. */
function whiteIn({ width, height, data }: Raster) {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let p = 0, k = 0; p < data.length; p += 4, k++) {
    if (data[p] < 128) continue;
    const [x, y] = [k % width, Math.floor(k / width)];
    [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x + 1), Math.max(bottom, y + 1)];
  }
  return { left, top, width: right - left, height: bottom - top, middle: (left + right) / 2 };
}

describe('a mark on a cylinder', () => {
  it('is as narrow as the part of the circle that it covers looks from the front, and as high as it is long', () => {
    const { width, height, middle } = whiteIn(on({ part: 0.25, tiltDeg: 0 }).mask);
    // A radius of 54 px: a quarter of the circle is 2 · 54 · sin 45° wide, and half as high as the arc is long.
    expect(Math.abs(width - 2 * 54 * Math.SQRT1_2)).toBeLessThan(2);
    expect(Math.abs(height - (54 * Math.PI) / 2 / 2)).toBeLessThan(2);
    expect(Math.abs(middle - 120)).toBeLessThan(1);
  });
  it('is turned round it, and behind it is not seen', () => {
    expect(whiteIn(on({ turnDeg: 40 }).mask).middle).toBeGreaterThan(140);
    expect(whiteIn(on({ turnDeg: 180, part: 0.2 }).mask).width).toBeLessThan(0);
  });
  it('hangs lower in its middle where it is seen from above', () => {
    const { mask } = on({ part: 0.4, tiltDeg: 25 });
    const top = (x: number) =>
      Array.from({ length: 180 }, (_, y) => mask.data[(y * 240 + x) * 4]).findIndex((v) => v > 128);
    expect(top(120)).toBeGreaterThan(top(80) + 5);
  });
  it('is lit from where the light is, and clear round it', () => {
    const { colours } = on({ part: 0.05, lightDeg: -60, gloss: 0 });
    expect(pixel(colours, 75, 60)[0]).toBeGreaterThan(pixel(colours, 165, 60)[0] + 30);
    expect(pixel(colours, 10, 90)[3]).toBe(0);
    expect(Math.max(...pixel(on({ gloss: 1, lightDeg: 0 }).colours, 120, 40).slice(0, 3))).toBe(255);
  });
});

describe('a mark on a sign', () => {
  it('seen from straight ahead is the mark itself, as wide as its part of the sign', () => {
    const { width, height } = whiteIn(on({ kind: 'sign', part: 0.5, tiltDeg: 0 }).mask);
    const wide = 240 * 0.74;
    expect(Math.abs(width - wide / 2)).toBeLessThan(2);
    expect(Math.abs(height - wide / 4)).toBeLessThan(2);
  });
  it('from the side is narrower, and its far end smaller', () => {
    const { mask } = on({ kind: 'sign', part: 0.8, tiltDeg: 0, turnDeg: 45 });
    const { left, width } = whiteIn(mask);
    const rows = (x: number) =>
      Array.from({ length: 180 }, (_, y) => mask.data[(y * 240 + x) * 4]).filter((v) => v > 128);
    expect(width).toBeLessThan(240 * 0.74 * 0.8 * 0.8);
    expect(Math.abs(rows(left + 4).length - rows(left + width - 5).length)).toBeGreaterThan(5);
  });
  it('keeps inside however large it is asked to be', () => {
    const tall = renderSurface(flatRaster(20, 80, '#000000'), {
      ...usualSurface,
      kind: 'sign',
      part: 1,
      width: 240,
      height: 180,
    });
    expect(whiteIn(tall.mask).height).toBeLessThanOrEqual((240 * 0.74) / 1.5 + 1);
  });
  it('its colours and its mask are of equal size, the mask opaque', () => {
    const { colours, mask } = on({ kind: 'sign' });
    expect([mask.width, mask.height]).toEqual([colours.width, colours.height]);
    expect(mask.data.filter((_, p) => p % 4 === 3).every((v) => v === 255)).toBe(true);
  });
});
