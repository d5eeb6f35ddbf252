import { expect, it } from 'vitest';
import { moveSides } from './CropFrame';

const from = { x: 10, y: 20, width: 100, height: 50 };

it('moves a side without moving the opposite one, inside the picture', () => {
  expect(moveSides(from, [1, 0, 0, 0], 15, 99, 200, 200)).toEqual({ x: 25, y: 20, width: 85, height: 50 });
  expect(moveSides(from, [0, 0, 1, 1], 500, -30, 200, 200)).toEqual({ x: 10, y: 20, width: 190, height: 20 });
  expect(moveSides(from, [1, 1, 0, 0], 500, 500, 200, 200)).toEqual({ x: 106, y: 66, width: 4, height: 4 });
});
it('moves the whole region without changing its size', () => {
  expect(moveSides(from, [1, 1, 1, 1], 500, -90, 200, 200)).toEqual({ x: 100, y: 0, width: 100, height: 50 });
});
