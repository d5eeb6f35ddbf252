import type { RectPx } from '../params';

/** A path command as font libraries give it; absolute coordinates. */
export interface PathCommand {
  readonly type: string;
  readonly x?: number;
  readonly y?: number;
  readonly x1?: number;
  readonly y1?: number;
  readonly x2?: number;
  readonly y2?: number;
}

/** SVG path data of commands, each point put in its place first; two digits after the point. */
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

/**
 * The box round all points of path data, control points among them: it holds the shape, and may be a little larger.
 * Only absolute commands with pairs of coordinates (M, L, Q, C, Z).
 * @returns null for a path without a point
 */
export function boundsOfPath(d: string): RectPx | null {
  const numbers = d.match(/-?\d+(?:\.\d+)?/g)?.map(Number) ?? [];
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k + 1 < numbers.length; k += 2) {
    left = Math.min(left, numbers[k]);
    right = Math.max(right, numbers[k]);
    top = Math.min(top, numbers[k + 1]);
    bottom = Math.max(bottom, numbers[k + 1]);
  }
  return numbers.length < 2 ? null : { x: left, y: top, width: right - left, height: bottom - top };
}

/** Room round the shape, as a share of its longer side: nothing is cut off by rounding. */
const ROOM = 0.02;

/** An SVG file of one shape in one colour, its view trimmed to the shape. Shapes are filled by the nonzero rule. */
export function svgOfPath(d: string, colour: string): { svg: string; width: number; height: number } | null {
  const box = boundsOfPath(d);
  if (!box || box.width + box.height === 0) return null;
  const room = ROOM * Math.max(box.width, box.height);
  const f = (v: number) => String(Math.round(v * 100) / 100);
  const [width, height] = [box.width + 2 * room, box.height + 2 * room];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${f(width)}" height="${f(height)}" viewBox="${f(box.x - room)} ${f(box.y - room)} ${f(width)} ${f(height)}"><path d="${d}" fill="${colour}"/></svg>\n`;
  return { svg, width, height };
}
