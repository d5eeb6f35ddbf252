import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, onGround, ring } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { groundDistance } from './groundDistance';
import { measureGround } from './measureGround';
import { measureTrouble } from './measureTrouble';
import { findSegments } from './rowSegments';

const white = [255, 255, 255] as const;
const green = [31, 90, 69] as const;
const look = (picture: Raster, out: Raster, tolerance = 12) => {
  const ground = measureGround(picture);
  const distance = groundDistance(picture, ground);
  return measureTrouble(ground, distance, findSegments(distance, picture.width, picture.height, 72), out, tolerance);
};
const mark = drawMark(300, 300, ring(150, 150, 120, 70), green);

describe('measureTrouble', () => {
  it('finds nothing wrong with the drawing itself', () => {
    const { fringe, eaten, specks } = look(onGround(mark, white), mark);
    expect(fringe.share).toBe(0);
    expect(eaten.areaPx).toBe(0);
    expect(specks).toEqual([]);
  });
  it('measures a fringe: edge pixels that kept the ground’s colour', () => {
    // What a hard cut leaves: the picture's own pixels, ground and all, wherever there is any mark.
    const picture = onGround(mark, white);
    const hard = { ...mark, data: mark.data.slice() };
    for (let i = 0; i < hard.data.length; i += 4)
      if (hard.data[i + 3] > 0) hard.data.set([...picture.data.subarray(i, i + 3), 255], i);
    const { fringe } = look(picture, hard);
    expect(fringe.share).toBeGreaterThan(0.3);
    expect(fringe.strength).toBeGreaterThan(0.34);
    for (const p of fringe.places) {
      const r = Math.hypot(p.x - 150, p.y - 150);
      expect(Math.min(Math.abs(r - 120), Math.abs(r - 70))).toBeLessThan(3);
    }
    expect(fringe.places[0].amount).toBeGreaterThanOrEqual(fringe.places[fringe.places.length - 1].amount);
  });
  it('does not take a second colour of the mark beside the edge for a fringe', () => {
    const two = { ...mark, data: mark.data.slice() };
    const rim = drawMark(300, 300, ring(150, 150, 120, 112), [200, 60, 160]);
    for (let i = 0; i < two.data.length; i += 4)
      if (rim.data[i + 3] > 200) two.data.set(rim.data.subarray(i, i + 4), i);
    expect(look(onGround(two, white), two).fringe.share).toBeLessThan(0.03);
  });
  it('measures what was taken away whole, and where', () => {
    const both = drawMark(300, 300, either(ring(150, 150, 120, 70), disc(30, 30, 12)), green);
    const { eaten } = look(onGround(both, white), mark);
    expect(Math.abs(eaten.areaPx - Math.PI * 144)).toBeLessThan(60);
    expect(Math.hypot(eaten.places[0].x - 30, eaten.places[0].y - 30)).toBeLessThan(18);
  });
  it('counts specks that stand alone, not the small parts of something larger', () => {
    const dusty = drawMark(
      300,
      300,
      either(ring(150, 150, 120, 70), disc(20, 280, 1.5), disc(280, 20, 1.5), disc(150, 24, 1.5)),
      green,
    );
    const { specks } = look(onGround(dusty, white), dusty);
    expect(specks).toHaveLength(2); // the third touches the ring
    for (const s of specks)
      expect(Math.min(Math.hypot(s.x - 20, s.y - 280), Math.hypot(s.x - 280, s.y - 20))).toBeLessThan(4);
  });
});
