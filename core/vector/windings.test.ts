import { describe, expect, it } from 'vitest';
import type { Path } from './path';
import { isSimple, reversePath, signedAreaOf } from './windings';

const square = (x: number, y: number, side: number): Path => ({
  verbs: 'MLLLZ',
  coords: [x, y, x + side, y, x + side, y + side, x, y + side],
});
// A quarter of a disc by the usual cubic, 0.5523 of the radius.
const quarter: Path = { verbs: 'MLCZ', coords: [0, 0, 10, 0, 10, 5.523, 5.523, 10, 0, 10] };

describe('windings', () => {
  it('clockwise on the screen is positive, and turned round the same area is negative', () => {
    expect(signedAreaOf(square(3, 4, 10))).toBe(100);
    expect(signedAreaOf(reversePath(square(3, 4, 10)))).toBe(-100);
    expect(signedAreaOf(quarter)).toBeCloseTo((Math.PI * 100) / 4, 1);
    expect(signedAreaOf(reversePath(quarter))).toBeCloseTo(-signedAreaOf(quarter), 6);
    expect(reversePath(reversePath(quarter)).coords).toEqual(quarter.coords);
  });
  it('a hole is simple, an overlap and a wrong way round are not', () => {
    const both = (a: Path, b: Path): Path => ({ verbs: a.verbs + b.verbs, coords: [...a.coords, ...b.coords] });
    expect(isSimple(both(square(0, 0, 10), reversePath(square(2, 2, 4))))).toBe(true);
    expect(isSimple(both(square(0, 0, 10), square(5, 5, 10)))).toBe(false);
    expect(isSimple(reversePath(square(0, 0, 10)))).toBe(false);
  });
});
