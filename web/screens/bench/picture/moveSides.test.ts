import { expect, it } from 'vitest';
import { moveSides } from './moveSides';

const from = { x: 100, y: 80, width: 200, height: 100 };

it('moves one side and keeps the others', () =>
  expect(moveSides(from, [0, 0, 1, 0], { dx: 30, dy: 99 }, { width: 1000, height: 1000 })).toEqual({
    ...from,
    width: 230,
  }));
it('keeps an upright region inside the picture', () => {
  expect(moveSides(from, [1, 1, 1, 1], { dx: 5000, dy: -5000 }, { width: 1000, height: 700 })).toEqual({
    x: 800,
    y: 0,
    width: 200,
    height: 100,
  });
  expect(moveSides(from, [1, 0, 0, 0], { dx: 900, dy: 0 }, { width: 1000, height: 700 }).width).toBe(4);
});
it('moves a turned region’s side along its own direction and leaves the opposite side in place', () => {
  const turned = moveSides(from, [0, 0, 1, 0], { dx: 0, dy: 40 }, { width: 1000, height: 1000, turnDeg: 90 });
  expect(turned.width).toBe(240);
  // At a quarter turn the left side lies at the top: 80 − 50 above the centre's row at 130 − 100.
  const left = (r: typeof from) => r.y + r.height / 2 - r.width / 2;
  expect(left(turned)).toBeCloseTo(left(from), 6);
});
