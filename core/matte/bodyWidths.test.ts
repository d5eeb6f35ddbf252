import { describe, expect, it } from 'vitest';
import { MARK, OUTSIDE } from '../kernels/interface';
import { measureBodies } from './bodyWidths';

const plane = (rows: readonly string[]) => Int32Array.from(rows.join(''), (c) => (c === '#' ? MARK : OUTSIDE));

describe('the piece of the mark at a pixel', () => {
  it('is as wide as twice its area over its rim, and each piece has its own', () => {
    const rows = ['.........', '.#####.#.', '.#####.#.', '.#####.#.', '.#####.#.', '.#####.#.', '.........'];
    const at = measureBodies(plane(rows), 9);
    expect(at(9 * 3 + 3)).toEqual({ areaPx: 25, halfWidth: 50 / 16 });
    expect(at(9 * 1 + 7)).toEqual({ areaPx: 5, halfWidth: 2 });
    expect(at(9 * 5 + 5)).toBe(at(9 * 1 + 1));
  });
  it('goes round corners and into dead ends', () => {
    const rows = ['#######', '#.....#', '#.###.#', '#.#.#.#', '#.#.###', '#.#....', '###....'];
    const count = rows.join('').split('#').length - 1;
    expect(measureBodies(plane(rows), 7)(0).areaPx).toBe(count);
  });
  it('a disc measures its radius, a ring the width of its stroke, or so', () => {
    const size = 101;
    const draw = (inside: (r: number) => boolean) =>
      Int32Array.from({ length: size * size }, (_, i) =>
        inside(Math.hypot((i % size) - 50, Math.floor(i / size) - 50)) ? MARK : OUTSIDE,
      );
    expect(
      measureBodies(
        draw((r) => r <= 40),
        size,
      )(size * 50 + 50).halfWidth,
    ).toBeGreaterThan(36);
    const ring = measureBodies(
      draw((r) => r <= 40 && r > 30),
      size,
    )(size * 50 + 15).halfWidth;
    expect(ring).toBeGreaterThan(9);
    expect(ring).toBeLessThan(12);
  });
});
