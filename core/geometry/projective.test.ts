import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Corners,
  composeProjective,
  fromMatrix,
  invertProjective,
  isConvex,
  project,
  rectangleToCorners,
  sizeFromCorners,
  turning,
} from './projective';

const corners: Corners = [
  { x: 40, y: 30 },
  { x: 620, y: 70 },
  { x: 560, y: 420 },
  { x: 90, y: 380 },
];
const close = (p: { x: number; y: number }, q: { x: number; y: number }) => {
  expect(p.x).toBeCloseTo(q.x, 6);
  expect(p.y).toBeCloseTo(q.y, 6);
};

describe('rectangleToCorners', () => {
  const map = rectangleToCorners(300, 200, corners);
  it('takes each corner of the rectangle to its own', () => {
    [
      [0, 0],
      [300, 0],
      [300, 200],
      [0, 200],
    ].forEach(([x, y], k) => close(project(map, x, y), corners[k]));
  });
  it('keeps straight lines straight', () => {
    const [a, b, c] = [10, 120, 270].map((x) => project(map, x, 77));
    expect((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)).toBeCloseTo(0, 6);
  });
  it('is undone by its inverse', () =>
    close(project(invertProjective(map), ...(Object.values(project(map, 123, 45)) as [number, number])), {
      x: 123,
      y: 45,
    }));
});

describe('composeProjective', () => {
  it('applies the inner mapping first', () => {
    const moved = fromMatrix([1, 0, 0, 1, 5, 0]);
    close(project(composeProjective(turning(90), moved), 1, 0), { x: 0, y: 6 });
  });
});

describe('turning', () => {
  it('is clockwise for positive angles where y grows down', () => close(project(turning(90), 1, 0), { x: 0, y: 1 }));
});

describe('isConvex', () => {
  it('refuses corners that cross, fold or run the wrong way', () => {
    expect(isConvex(corners)).toBe(true);
    expect(isConvex([corners[0], corners[2], corners[1], corners[3]])).toBe(false);
    expect(isConvex([...corners].reverse() as unknown as Corners)).toBe(false);
    expect(isConvex([corners[0], corners[1], { x: 200, y: 120 }, corners[3]])).toBe(false);
  });
});

describe('sizeFromCorners', () => {
  it('gives the rectangle its own size back', () =>
    expect(
      sizeFromCorners([
        { x: 0, y: 0 },
        { x: 30, y: 40 },
        { x: -50, y: 100 },
        { x: -80, y: 60 },
      ]),
    ).toEqual({ width: 50, height: 100 }));
});

describe('invertProjective', () => {
  it('undoes every turn, move and scale there is', () => {
    const number = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(
        fc.double({ min: -45, max: 45, noNaN: true }),
        fc.double({ min: 0.1, max: 9, noNaN: true }),
        number,
        number,
        number,
        number,
        (turn, scale, dx, dy, x, y) => {
          const map = composeProjective(turning(turn), fromMatrix([scale, 0, 0, scale, dx, dy]));
          const there = project(map, x, y);
          const back = project(invertProjective(map), there.x, there.y);
          expect(back.x).toBeCloseTo(x, 5);
          expect(back.y).toBeCloseTo(y, 5);
        },
      ),
    );
  });
  it('refuses a mapping that flattens everything', () =>
    expect(() => invertProjective([1, 2, 0, 2, 4, 0, 0, 0, 1])).toThrow('without an inverse'));
});
