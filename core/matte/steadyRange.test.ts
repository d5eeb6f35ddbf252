import { describe, expect, it } from 'vitest';
import { OUTSIDE } from '../kernels/interface';
import { disc, drawMark, onGround } from '../../tests/support/pictures';
import { groundDistance } from './groundDistance';
import { measureGround } from './measureGround';
import { floodOrder, studyTolerance } from './steadyRange';
import { spreadGround } from './spreadGround';
import { allMixed } from './rowSegments';

describe('floodOrder', () => {
  it('gives every pixel the least tolerance at which the border’s ground reaches it', () => {
    // A wall of 9 round a middle of 3: the middle is reached only over the wall.
    const plane = Uint8Array.from([0, 0, 0, 0, 0, 0, 9, 9, 9, 0, 0, 9, 3, 9, 0, 0, 9, 9, 9, 0, 0, 0, 0, 0, 0]);
    const level = floodOrder(plane, 5, 5);
    expect(level[12]).toBe(9);
    expect(level[6]).toBe(9);
    expect(level[0]).toBe(0);
  });
  it('agrees with flooding at each tolerance one by one', () => {
    const plane = Uint8Array.from({ length: 30 * 20 }, (_, i) => (i * 7919) % 40);
    const level = floodOrder(plane, 30, 20);
    for (const t of [5, 12, 25]) {
      const labels = spreadGround(plane, allMixed(30, 20), 30, 20, t);
      for (let i = 0; i < plane.length; i++) expect(labels[i] === OUTSIDE).toBe(level[i] <= t);
    }
  });
});

describe('studyTolerance', () => {
  const study = (mark: ReturnType<typeof drawMark>) => {
    const picture = onGround(mark, [255, 255, 255]);
    const ground = measureGround(picture);
    return studyTolerance(groundDistance(picture, ground), picture.width, picture.height, ground.noise);
  };
  it('starts inside the steady range, and the range holds no jump', () => {
    const s = study(drawMark(240, 240, disc(120, 120, 80), [31, 90, 69]));
    expect(s.start).toBeGreaterThanOrEqual(s.steadyFrom);
    expect(s.start).toBeLessThanOrEqual(s.steadyTo);
    expect(s.artworkEaten[s.steadyTo]).toBeLessThan(0.02);
    expect(s.groundLeft[s.steadyFrom]).toBeLessThan(0.02);
  });
  it('stays below a pale part of the mark', () => {
    const pale = drawMark(
      240,
      240,
      (x, y) => Math.max(disc(90, 120, 60)(x, y), disc(170, 120, 40)(x, y)),
      [40, 40, 40],
    );
    for (let y = 0; y < 240; y++)
      for (let x = 150; x < 240; x++)
        if (pale.data[(y * 240 + x) * 4 + 3] > 0) pale.data.set([222, 222, 222], (y * 240 + x) * 4);
    expect(study(pale).start).toBeLessThan(33);
  });
  it('says what a high tolerance would eat', () => {
    const s = study(drawMark(240, 240, disc(120, 120, 80), [190, 190, 190]));
    expect(s.artworkEaten[70]).toBeGreaterThan(0.9);
    expect(s.artworkEaten[40]).toBeLessThan(0.1);
  });
});
