import { type Projective, project } from '../geometry/projective';
import type { RectPx } from '../params';
import { AreaCoverage } from '../vector/areaCoverage';
import type { BrushEdit } from './edits';

/** How much of each pixel of a rectangle something covers, 0 to 255; row-major. */
export interface Covered {
  readonly box: RectPx;
  readonly share: Uint8Array;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A box of whole pixels inside a picture, or null where nothing of it is. */
function boxOf(left: number, top: number, right: number, bottom: number, { width, height }: Size): RectPx | null {
  const x = Math.max(0, Math.floor(left));
  const y = Math.max(0, Math.floor(top));
  const w = Math.min(width, Math.ceil(right)) - x;
  const h = Math.min(height, Math.ceil(bottom)) - y;
  return w > 0 && h > 0 ? { x, y, width: w, height: h } : null;
}

/**
 * The exact area of each pixel that lies in any of some loops.
 * @param loops  each x, y and so on, in another picture's pixels
 * @param onto  from those to this picture's
 * @returns null where no loop meets the picture
 */
export function coverLoops(loops: readonly (readonly number[])[], onto: Projective, size: Size): Covered | null {
  const lines: number[] = [];
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const loop of loops) {
    const points: { x: number; y: number }[] = [];
    for (let k = 0; k < loop.length; k += 2) points.push(project(onto, loop[k], loop[k + 1]));
    // All run the same way round, so that a place in two of them counts as in.
    if (signedArea(points) < 0) points.reverse();
    points.forEach((p, k) => {
      const q = points[(k + 1) % points.length];
      lines.push(p.x, p.y, q.x, q.y);
      [left, right] = [Math.min(left, p.x), Math.max(right, p.x)];
      [top, bottom] = [Math.min(top, p.y), Math.max(bottom, p.y)];
    });
  }
  const box = boxOf(left, top, right, bottom, size);
  if (!box) return null;
  const moved = lines.map((v, k) => v - (k % 2 === 0 ? box.x : box.y));
  const area = new AreaCoverage(moved, 'nonzero', box.width, box.height);
  const share = new Uint8Array(box.width * box.height);
  const row = new Float64Array(box.width + 2);
  for (let y = Math.max(0, area.top); y < Math.min(box.height, area.bottom); y++) {
    const span = area.row(y, row);
    if (span) for (let x = span[0]; x < span[1]; x++) share[y * box.width + x] = Math.round(row[x] * 255);
  }
  return { box, share };
}

const signedArea = (points: readonly { x: number; y: number }[]): number =>
  points.reduce((sum, p, k) => {
    const q = points[(k + 1) % points.length];
    return sum + p.x * q.y - q.x * p.y;
  }, 0);

interface Dab {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/**
 * What a round brush covers on its way: the most that any of its places covers, each at its own pressure.
 * @param onto  from the stroke's pixels to this picture's
 * @returns null where it does not meet the picture
 */
export function coverStroke(stroke: BrushEdit, onto: Projective, size: Size): Covered | null {
  const dabs: Dab[] = [];
  for (let k = 0; k < stroke.points.length; k += 3) {
    const [x, y, pressure] = stroke.points.slice(k, k + 3);
    const at = project(onto, x, y);
    const scale = (project(onto, x + 1, y).x - at.x) ** 2 + (project(onto, x + 1, y).y - at.y) ** 2;
    dabs.push({ ...at, radius: (stroke.size / 2) * pressure * Math.sqrt(scale) });
  }
  const reach = (d: Dab) => d.radius + 1;
  const box = boxOf(
    Math.min(...dabs.map((d) => d.x - reach(d))),
    Math.min(...dabs.map((d) => d.y - reach(d))),
    Math.max(...dabs.map((d) => d.x + reach(d))),
    Math.max(...dabs.map((d) => d.y + reach(d))),
    size,
  );
  if (!box) return null;
  const share = new Uint8Array(box.width * box.height);
  dabs.forEach((dab, k) => coverSegment({ from: dabs[Math.max(0, k - 1)], to: dab }, stroke.hardness, box, share));
  return { box, share };
}

/** Between two places of a brush, its radius changing evenly from one to the other. */
function coverSegment({ from, to }: { from: Dab; to: Dab }, hardness: number, box: RectPx, share: Uint8Array): void {
  const most = Math.max(from.radius, to.radius) + 1;
  const part = boxOf(
    Math.min(from.x, to.x) - most - box.x,
    Math.min(from.y, to.y) - most - box.y,
    Math.max(from.x, to.x) + most - box.x,
    Math.max(from.y, to.y) + most - box.y,
    box,
  );
  if (!part) return;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length2 = dx * dx + dy * dy;
  for (let y = part.y; y < part.y + part.height; y++) {
    for (let x = part.x; x < part.x + part.width; x++) {
      const [px, py] = [x + 0.5 + box.x - from.x, y + 0.5 + box.y - from.y];
      const along = length2 > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / length2)) : 0;
      const radius = from.radius + (to.radius - from.radius) * along;
      const [ex, ey] = [px - dx * along, py - dy * along];
      const inside = radius - Math.sqrt(ex * ex + ey * ey);
      const value = Math.round(fade(inside, radius, hardness) * 255);
      const i = y * box.width + x;
      if (value > share[i]) share[i] = value;
    }
  }
}

/**
 * How much a brush covers so far inside its edge. A hard one fades over the pixel on its edge, a soft one from within.
 */
function fade(inside: number, radius: number, hardness: number): number {
  const over = Math.max(1, radius * (1 - hardness));
  const start = Math.min(over, 1) / 2;
  const t = Math.min(1, Math.max(0, (inside + start) / over));
  return hardness < 1 && over > 1 ? t * t * (3 - 2 * t) : t;
}
