import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround } from '../../tests/support/pictures';
import { normalFrom, seededRandom } from '../seededRandom';
import { groundAt, measureGround } from './measureGround';

const badge = drawMark(200, 160, disc(100, 80, 50), [31, 90, 69]);

describe('measureGround', () => {
  it('finds the colour of a clean ground exactly, without noise or drift', () => {
    const g = measureGround(onGround(badge, [244, 239, 228]));
    expect(g.colour).toEqual([244, 239, 228]);
    expect(g.noise).toBe(0);
    expect(g.share).toBe(1);
    expect(g.surface).toBeNull();
  });
  it('is not moved by the few pixels of a clean border that stray, and counts those that are no ground', () => {
    const picture = onGround(badge, [244, 239, 228]);
    const random = seededRandom(6);
    // A short dark line along the upper border, and a speck here and there a level off.
    for (let x = 40; x < 43; x++) picture.data.set([20, 20, 20], x * 4);
    for (let n = 0; n < 4; n++) picture.data.set([243, 239, 228], Math.floor(random() * 200) * 4);
    const g = measureGround(picture);
    expect([g.colour, g.noise, g.drift, g.surface]).toEqual([[244, 239, 228], 0, 0, null]);
    expect(g.share).toBeLessThan(1);
    expect(g.share).toBeGreaterThan(0.98);
  });
  it('measures a border of two grounds as such, though one of them has most of it', () => {
    const picture = onGround(badge, [255, 255, 255]);
    for (let y = 0; y < 160; y++) for (let x = 190; x < 200; x++) picture.data.set([120, 140, 200], (y * 200 + x) * 4);
    const g = measureGround(picture);
    expect(g.colour).toEqual([255, 255, 255]);
    expect(g.share).toBeLessThan(0.85);
  });
  it('finds a dark ground as well as a light one', () =>
    expect(measureGround(onGround(badge, [12, 14, 30])).colour).toEqual([12, 14, 30]));
  it('follows a ground that drifts across the picture', () => {
    const picture = onGround(badge, [220, 220, 220]);
    for (let y = 0; y < 160; y++)
      for (let x = 0; x < 200; x++)
        for (let c = 0; c < 3; c++) picture.data[(y * 200 + x) * 4 + c] -= Math.round((x / 200) * 24);
    const g = measureGround(picture);
    expect(g.drift).toBeGreaterThan(20);
    expect(groundAt(g, 10, 80, 200, 160)[0]).toBeCloseTo(219, -0.3);
    expect(groundAt(g, 190, 80, 200, 160)[0]).toBeCloseTo(197, -0.3);
  });
  it('measures the noise of the ground', () => {
    const picture = onGround(badge, [200, 200, 200]);
    const noise = normalFrom(seededRandom(4));
    for (let i = 0; i < picture.data.length; i += 4) {
      const n = Math.round(noise() * 4);
      for (let c = 0; c < 3; c++) picture.data[i + c] += n;
    }
    const g = measureGround(picture);
    expect(g.noise).toBeGreaterThan(2);
    expect(g.noise).toBeLessThan(7);
  });
  it('is not misled by a mark that touches one side', () => {
    const g = measureGround(
      onGround(
        drawMark(200, 160, (x) => (x < 60 ? 1 : 0), [200, 30, 30]),
        [255, 255, 255],
      ),
    );
    expect(g.colour).toEqual([255, 255, 255]);
    expect(g.share).toBeGreaterThan(0.4);
    expect(g.share).toBeLessThan(0.8);
  });
  it('finds hardly any common ground in a picture without one', () => {
    const picture = onGround(badge, [0, 0, 0]);
    const random = seededRandom(9);
    for (let i = 0; i < picture.data.length; i += 4)
      picture.data.set([random() * 255, random() * 255, random() * 255], i);
    expect(measureGround(picture).share).toBeLessThan(0.35);
  });
});
