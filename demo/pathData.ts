import { type PenOptions, type PenPoint, penRing } from '../core/vector/penStroke';
import type { PathCommand } from '../core/vector/path';

// SVG path data with two digits after the point, quadratic curves as they are: what the demo's marks have been drawn by
// from the start, so that the truths measured against stay the same to the byte.

/** SVG path data of commands, each point put in its place first. */
export function pathDataFrom(
  commands: readonly PathCommand[],
  place: (x: number, y: number) => readonly [number, number],
): string {
  const point = (x?: number, y?: number) =>
    place(x ?? 0, y ?? 0)
      .map((v) => v.toFixed(2))
      .join(' ');
  return commands
    .map((c) => {
      if (c.type === 'Z') return 'Z';
      if (c.type === 'C') return `C${point(c.x1, c.y1)} ${point(c.x2, c.y2)} ${point(c.x, c.y)}`;
      if (c.type === 'Q') return `Q${point(c.x1, c.y1)} ${point(c.x, c.y)}`;
      return `${c.type}${point(c.x, c.y)}`;
    })
    .join('');
}

/** SVG path data round one pen stroke. */
export function penData(points: readonly PenPoint[], options: PenOptions): string {
  const ring = penRing(points, options);
  if (ring.length < 3) return '';
  const f = (v: number) => String(Math.round(v * 100) / 100);
  const middle = (k: number) => {
    const [a, b] = [ring[k], ring[(k + 1) % ring.length]];
    return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  };
  const start = middle(ring.length - 1);
  let d = `M${f(start[0])} ${f(start[1])}`;
  for (let k = 0; k < ring.length; k++) {
    const to = middle(k);
    d += `Q${f(ring[k][0])} ${f(ring[k][1])} ${f(to[0])} ${f(to[1])}`;
  }
  return `${d}Z`;
}
