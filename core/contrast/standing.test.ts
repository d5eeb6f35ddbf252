import { describe, expect, it } from 'vitest';
import { disc, drawMark, ring } from '../../tests/support/pictures';
import type { Rgb } from '../colour/hex';
import { contrastRatio, luminance } from '../raster/contrast';
import { type Raster, createRaster } from '../raster/raster';
import { bestStanding, measureStanding } from './standing';

const NOWHERE = { x: 0, y: 0 };
const mark = (rgb: Rgb) => drawMark(160, 120, ring(80, 60, 50, 34), rgb);
function photo(width: number, height: number, at: (x: number, y: number) => Rgb): Raster {
  const out = createRaster(width, height);
  for (let y = 0, p = 0; y < height; y++) for (let x = 0; x < width; x++, p += 4) out.data.set([...at(x, y), 255], p);
  return out;
}

describe('how well a mark can be seen', () => {
  it.each([
    [
      [0, 0, 0],
      [255, 255, 255],
    ],
    [
      [31, 90, 69],
      [233, 221, 196],
    ],
    [
      [255, 255, 255],
      [181, 50, 43],
    ],
  ] as [Rgb, Rgb][])('of %s on %s is its WCAG ratio, and all or nothing of the outline', (own, ground) => {
    const ratio = contrastRatio(luminance(...own), luminance(...ground));
    const found = measureStanding(mark(own), ground, NOWHERE);
    expect(Math.abs(found.ratio - ratio)).toBeLessThan(0.05);
    expect(found.shareAbove3).toBe(ratio >= 3 ? 1 : 0);
    expect(Math.abs((found.worst?.ratio ?? 0) - ratio)).toBeLessThan(0.05);
  });
  it('on a photo is that of the outline, with the worst place where it is lost', () => {
    const halves = photo(400, 300, (x) => (x < 180 ? [250, 250, 250] : [20, 20, 20]));
    const found = measureStanding(mark([255, 255, 255]), halves, { x: 100, y: 90 });
    // The ring's middle lies right on the border between light and dark.
    expect(Math.abs(found.shareAbove3 - 0.5)).toBeLessThan(0.03);
    expect(found.worst?.ratio).toBeLessThan(1.1);
    expect(found.worst?.x).toBeLessThan(180);
    const moved = measureStanding(mark([255, 255, 255]), halves, { x: 230, y: 90 });
    expect([moved.shareAbove3, moved.ratio > 16]).toEqual([1, true]);
  });
  it('counts what shows of a mark that is half clear', () => {
    const faint = drawMark(160, 120, (x, y) => disc(80, 60, 50)(x, y) * 0.5, [0, 0, 0]);
    const found = measureStanding(
      faint,
      photo(160, 120, () => [255, 255, 255]),
      NOWHERE,
    );
    expect(Math.abs(found.ratio - contrastRatio(luminance(127, 127, 127), 1))).toBeLessThan(0.1);
  });
  it('is none of a mark that is not there', () => {
    const none = drawMark(40, 40, () => 0, [0, 0, 0]);
    expect(measureStanding(none, [255, 255, 255], NOWHERE)).toEqual({ ratio: 1, shareAbove3: 0, worst: null });
  });
  it('tells the better of two on busy ground', () => {
    const busy = photo(300, 200, (x, y) => (((x >> 3) + (y >> 3)) % 3 ? [40, 52, 60] : [150, 150, 140]));
    const all = [
      [0, 0, 0],
      [255, 255, 255],
    ].map((rgb) => measureStanding(mark(rgb as unknown as Rgb), busy, { x: 60, y: 40 }));
    expect(bestStanding(all)).toBe(1);
    expect(bestStanding([])).toBe(-1);
  });
});
