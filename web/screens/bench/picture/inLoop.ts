import type { Point } from '../../../../core/geometry/projective';

/** By how often a ray to the left crosses the loop. */
export function isInLoop({ x, y }: Point, loop: readonly Point[]): boolean {
  return loop.reduce((inside, a, k) => {
    const b = loop[(k + 1) % loop.length];
    const crosses = a.y > y !== b.y > y && x > a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x);
    return crosses ? !inside : inside;
  }, false);
}
