import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Matrix, compose, invert, scaling, transform, translation } from './matrix';

const number = fc.double({ min: -50, max: 50, noNaN: true });
const matrix = fc.tuple(number, number, number, number, number, number).filter((m) => Math.abs(m[0] * m[3] - m[1] * m[2]) > 0.5) as fc.Arbitrary<Matrix>;

describe('matrices', () => {
  it('compose applies the inner one first', () => {
    expect(transform(compose(scaling(2), translation(3, 4)), 1, 1)).toEqual({ x: 8, y: 10 });
    expect(transform(compose(translation(3, 4), scaling(2)), 1, 1)).toEqual({ x: 5, y: 6 });
  });
  it('an inverse undoes', () => {
    fc.assert(fc.property(matrix, number, number, (m, x, y) => {
      const back = transform(invert(m), ...(Object.values(transform(m, x, y)) as [number, number]));
      expect(back.x).toBeCloseTo(x, 5);
      expect(back.y).toBeCloseTo(y, 5);
    }));
  });
  it('a matrix that flattens everything has no inverse', () => expect(() => invert([1, 2, 2, 4, 0, 0])).toThrow('without an inverse'));
});
