import type { Matrix } from '../geometry/matrix';
import type { RectPx } from '../params';

/**
 * Outlines as commands and the coordinates they take: `M x y` begins a ring, `L x y` a straight side, `C x1 y1 x2 y2 x
 * y` a cubic Bézier, `Z` ends the ring. Absolute, y down. Every ring is closed, as filling asks: strokes are outlined
 * before.
 */
export interface Path {
  readonly verbs: string;
  readonly coords: readonly number[];
}

export const EMPTY_PATH: Path = { verbs: '', coords: [] };

/** How many coordinates a command takes. */
export const coordsOf = (verb: string): number => (verb === 'C' ? 6 : verb === 'Z' ? 0 : 2);

/** Gathers a path command by command. */
export class PathBuilder {
  private readonly verbs: string[] = [];
  private readonly coords: number[] = [];
  private isOpen = false;
  private at: readonly [number, number] = [0, 0];

  get point(): readonly [number, number] {
    return this.at;
  }
  moveTo(x: number, y: number): this {
    this.close();
    return this.add('M', x, y);
  }
  lineTo(x: number, y: number): this {
    return this.add('L', x, y);
  }
  curveTo(...c: readonly [number, number, number, number, number, number]): this {
    return this.add('C', ...c);
  }
  /** A quadratic Bézier, raised to the cubic that is the same curve. */
  quadTo(x1: number, y1: number, x: number, y: number): this {
    const [px, py] = this.at;
    return this.curveTo(
      px + ((x1 - px) * 2) / 3,
      py + ((y1 - py) * 2) / 3,
      x + ((x1 - x) * 2) / 3,
      y + ((y1 - y) * 2) / 3,
      x,
      y,
    );
  }
  close(): this {
    if (this.isOpen) this.verbs.push('Z');
    this.isOpen = false;
    return this;
  }
  done(): Path {
    this.close();
    return { verbs: this.verbs.join(''), coords: this.coords };
  }

  private add(verb: string, ...coords: number[]): this {
    this.verbs.push(verb);
    this.coords.push(...coords);
    this.isOpen = true;
    this.at = [coords[coords.length - 2], coords[coords.length - 1]];
    return this;
  }
}

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

/** A path of commands that may hold quadratic curves, each point put in its place first. */
export function pathFromCommands(
  commands: readonly PathCommand[],
  place: (x: number, y: number) => readonly [number, number] = (x, y) => [x, y],
  into = new PathBuilder(),
): PathBuilder {
  for (const c of commands) {
    const to = place(c.x ?? 0, c.y ?? 0);
    if (c.type === 'Z') into.close();
    else if (c.type === 'M') into.moveTo(...to);
    else if (c.type === 'L') into.lineTo(...to);
    else if (c.type === 'Q') into.quadTo(...place(c.x1 ?? 0, c.y1 ?? 0), ...to);
    else if (c.type === 'C') into.curveTo(...place(c.x1 ?? 0, c.y1 ?? 0), ...place(c.x2 ?? 0, c.y2 ?? 0), ...to);
    else throw new Error(`A path command "${c.type}"`);
  }
  return into;
}

/** Every point through an affine mapping; curves stay what they are. */
export function transformPath({ verbs, coords }: Path, [a, b, c, d, e, f]: Matrix): Path {
  const out = new Array<number>(coords.length);
  for (let k = 0; k < coords.length; k += 2) {
    out[k] = a * coords[k] + c * coords[k + 1] + e;
    out[k + 1] = b * coords[k] + d * coords[k + 1] + f;
  }
  return { verbs, coords: out };
}

export const joinPaths = (paths: readonly Path[]): Path => ({
  verbs: paths.map((p) => p.verbs).join(''),
  coords: paths.flatMap((p) => p.coords),
});

/**
 * Calls back for every side: its kind, where it begins, and its coordinates from `at` on. A ring's closing side is a
 * line.
 */
export function eachSide(
  { verbs, coords }: Path,
  line: (x0: number, y0: number, x1: number, y1: number) => void,
  curve: (x0: number, y0: number, at: number) => void,
): void {
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const end = () => {
    if (x !== startX || y !== startY) line(x, y, startX, startY);
  };
  for (let v = 0, k = 0; v < verbs.length; v++) {
    const verb = verbs[v];
    if (verb === 'M') {
      end();
      [startX, startY] = [coords[k], coords[k + 1]];
    } else if (verb === 'L') line(x, y, coords[k], coords[k + 1]);
    else if (verb === 'C') curve(x, y, k);
    const n = coordsOf(verb);
    k += n;
    if (n > 0) [x, y] = [coords[k - 2], coords[k - 1]];
    else {
      end();
      [x, y] = [startX, startY];
    }
  }
  end();
}

/** A path's rings, each a path of its own. */
export function ringsOf({ verbs, coords }: Path): Path[] {
  const rings: Path[] = [];
  let [fromVerb, fromCoord] = [0, 0];
  for (let v = 0, k = 0; v < verbs.length; v++) {
    k += coordsOf(verbs[v]);
    if (v + 1 < verbs.length && verbs[v + 1] !== 'M') continue;
    rings.push({ verbs: verbs.slice(fromVerb, v + 1), coords: coords.slice(fromCoord, k) });
    [fromVerb, fromCoord] = [v + 1, k];
  }
  return rings;
}

/**
 * The smallest rectangle round the outlines themselves, control points left out.
 * @returns null for a path without a side
 */
export function boundsOfPath(path: Path): RectPx | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  const take = (x: number, y: number) => {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  };
  const { coords } = path;
  eachSide(
    path,
    (x0, y0, x1, y1) => {
      take(x0, y0);
      take(x1, y1);
    },
    (x0, y0, k) => {
      take(x0, y0);
      take(coords[k + 4], coords[k + 5]);
      for (const [axis, p0] of [x0, y0].entries()) {
        for (const t of turningPoints(p0, coords[k + axis], coords[k + 2 + axis], coords[k + 4 + axis])) {
          take(
            cubicAt(x0, coords[k], coords[k + 2], coords[k + 4], t),
            cubicAt(y0, coords[k + 1], coords[k + 3], coords[k + 5], t),
          );
        }
      }
    },
  );
  return left > right ? null : { x: left, y: top, width: right - left, height: bottom - top };
}

export function cubicAt(p0: number, p1: number, p2: number, p3: number, t: number): number {
  const s = 1 - t;
  return s * s * s * p0 + 3 * s * s * t * p1 + 3 * s * t * t * p2 + t * t * t * p3;
}

/** Where inside it one coordinate of a cubic turns back. */
export function turningPoints(p0: number, p1: number, p2: number, p3: number): number[] {
  // The derivative over 3: a·t² + b·t + c.
  const a = p3 - 3 * p2 + 3 * p1 - p0;
  const b = 2 * (p2 - 2 * p1 + p0);
  const c = p1 - p0;
  const inside = (t: number) => t > 0 && t < 1;
  if (Math.abs(a) < 1e-12) return Math.abs(b) < 1e-12 ? [] : [-c / b].filter(inside);
  const root = b * b - 4 * a * c;
  if (root < 0) return [];
  // The stable way to solve a quadratic: no difference of nearly equal numbers.
  const q = -0.5 * (b + (b < 0 ? -1 : 1) * Math.sqrt(root));
  return [q / a, q === 0 ? 0 : c / q].filter(inside);
}

/** SVG path data with so many digits after the point. */
export function printPath({ verbs, coords }: Path, digits: number): string {
  const f = (v: number) => printNumber(v, digits);
  const parts: string[] = [];
  for (let v = 0, k = 0; v < verbs.length; v++) {
    const n = coordsOf(verbs[v]);
    parts.push(
      verbs[v] +
        coords
          .slice(k, k + n)
          .map(f)
          .join(' '),
    );
    k += n;
  }
  return parts.join('');
}

/** A number with at most so many digits after the point, no zeros behind them. */
export function printNumber(v: number, digits: number): string {
  const text = v.toFixed(digits);
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return short === '-0' ? '0' : short;
}
