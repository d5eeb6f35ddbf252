import type { Raster } from '../raster/raster';
import { type Ground, groundAt } from './measureGround';
import { MARK, OUTSIDE, SOFT } from './spreadGround';

/** Steepest change from pixel to pixel, code values, inside a shadow or glow. A drawn edge changes faster. */
const STEEPEST = 15;
/** A soft region is at least this large, and reaches at least this far from the ground. */
const LEAST_PIXELS = 48;
const LEAST_REACH = 4;
/** Above this share of level pixels a region is a pale part of the mark with a blurred edge, not a shadow. */
const MOST_LEVEL = 0.55;
const FARTHEST_TAIL = 48;
/** No shadow or glow is stronger than this, and none is level above that: there a mark begins. */
const DEEPEST = 185;
const LEVEL_FROM = 110;

/**
 * Finds shadows and glows: parts that rise gradually out of the ground. Their pixels become SOFT in `labels`, and
 * `out` receives them as true half-transparency: the colour is the one that explains them with the least alpha on the
 * line from the ground through them, so that a grey shadow on white becomes black at its own strength.
 * @param tolerance  under which a pixel counted as ground; the tails below it are taken back
 * @returns whether any was found
 * @see T. Porter, T. Duff, "Compositing Digital Images", 1984, for the equation that is solved
 */
export function findSoftRegions(raster: Raster, ground: Ground, distance: Uint8Array, labels: Int32Array, tolerance: number, out: Raster): boolean {
  const { width, height } = raster;
  let level: Float32Array | null = null;
  const limit = STEEPEST + ground.noise;
  const region = new Uint8Array(labels.length);
  let any = false;
  for (let n = 0; n < labels.length; n++) {
    if (labels[n] !== MARK || region[n] || distance[n] > DEEPEST || !touchesOutside(n, labels, width, height) || colourStep(raster.data, n, width, height) > limit) continue;
    const grown = grow(n, raster.data, distance, labels, tolerance, region, width, height, limit);
    if (grown.length < LEAST_PIXELS) continue;
    level ??= smoothDistance(distance, labels, width, height);
    const members = onOneLine(grown, raster, ground, level);
    if (!isSoft(members, level, labels, width, height, ground.noise)) continue;
    any = true;
    for (const m of members) labels[m] = SOFT;
    addTail(members, level, labels, width, height, Math.max(1.6, ground.noise * 2.2));
    writeSoft(members, raster, ground, out);
  }
  return any;
}

// The mean of 3 × 3, near the mark only: compression's ripples average out, a shadow does not.
function smoothDistance(distance: Uint8Array, labels: Int32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(distance.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (labels[i] === OUTSIDE && distance[i] === 0) continue;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) {
        out[i] = distance[i];
        continue;
      }
      out[i] = (distance[i - width - 1] + distance[i - width] + distance[i - width + 1] + distance[i - 1] + distance[i] + distance[i + 1]
        + distance[i + width - 1] + distance[i + width] + distance[i + width + 1]) / 9;
    }
  }
  return out;
}

function neighbours(i: number, width: number, height: number): number[] {
  const x = i % width;
  const found: number[] = [];
  if (x > 0) found.push(i - 1);
  if (x < width - 1) found.push(i + 1);
  if (i >= width) found.push(i - width);
  if (i < width * (height - 1)) found.push(i + width);
  return found;
}

// Spreads over pixels that are gradual on every side. `region` remembers all that was looked at.
function grow(start: number, data: Uint8Array, distance: Uint8Array, labels: Int32Array, tolerance: number, region: Uint8Array, width: number, height: number, limit: number): number[] {
  const members: number[] = [];
  const stack = [start];
  region[start] = 1;
  const visit = (n: number) => {
    if (region[n] || labels[n] !== MARK || distance[n] <= tolerance * 0.5) return; // enclosed ground is judged later
    region[n] = 1;
    stack.push(n);
  };
  while (stack.length) {
    const i = stack.pop() as number;
    const step = colourStep(data, i, width, height);
    if (step > limit || distance[i] > DEEPEST || (step < 1.5 && distance[i] > LEVEL_FROM)) continue;
    members.push(i);
    const x = i % width;
    visit(x > 0 ? i - 1 : i);
    visit(x < width - 1 ? i + 1 : i);
    visit(i >= width ? i - width : i);
    visit(i < width * (height - 1) ? i + width : i);
  }
  return members;
}

// Half the change across two pixels, the worst channel, along rows and columns.
function colourStep(data: Uint8Array, i: number, width: number, height: number): number {
  const x = i % width;
  const left = (x > 0 ? i - 1 : i) * 4;
  const right = (x < width - 1 ? i + 1 : i) * 4;
  const up = (i >= width ? i - width : i) * 4;
  const down = (i < width * (height - 1) ? i + width : i) * 4;
  let most = 0;
  for (let c = 0; c < 3; c++) {
    const h = Math.abs(data[right + c] - data[left + c]);
    const v = Math.abs(data[down + c] - data[up + c]);
    if (h > most) most = h;
    if (v > most) most = v;
  }
  return most / 2;
}

/** Only those members whose colour lies on one line from the ground: a shadow has one colour, a mark beside it another. */
function onOneLine(members: readonly number[], raster: Raster, ground: Ground, level: Float32Array): number[] {
  const { width, height, data } = raster;
  const u = [0, 0, 0];
  for (const m of members) {
    if (level[m] > 90) continue; // the faint part is surely the shadow's own
    const b = groundAt(ground, m % width, (m / width) | 0, width, height);
    for (let c = 0; c < 3; c++) u[c] += data[m * 4 + c] - b[c];
  }
  const length = Math.hypot(u[0], u[1], u[2]);
  if (length === 0) return [];
  return members.filter((m) => {
    const b = groundAt(ground, m % width, (m / width) | 0, width, height);
    const v = [0, 1, 2].map((c) => data[m * 4 + c] - b[c]);
    const along = (v[0] * u[0] + v[1] * u[1] + v[2] * u[2]) / length;
    const off = Math.sqrt(Math.max(0, v[0] ** 2 + v[1] ** 2 + v[2] ** 2 - along * along));
    return along > 0 && off <= 9 + 0.12 * along;
  });
}

function steepness(i: number, level: Float32Array, around: readonly number[]): number {
  let most = 0;
  for (const n of around) {
    const d = Math.abs(level[n] - level[i]);
    if (d > most) most = d;
  }
  return most;
}

function isSoft(members: readonly number[], level: Float32Array, labels: Int32Array, width: number, height: number, noise: number): boolean {
  if (members.length < LEAST_PIXELS) return false;
  let top = 0;
  for (const m of members) if (level[m] > top) top = level[m];
  let flat = 0;
  let high = 0;
  let farthest = 0;
  for (let k = 0; k < members.length; k += members.length > 4000 ? 7 : 1) {
    const m = members[k];
    if (level[m] < top * 0.5) continue;
    high++;
    if (steepness(m, level, neighbours(m, width, height)) < Math.max(0.6, noise * 0.5)) flat++;
    if (farthest < LEAST_REACH) farthest = Math.max(farthest, distanceToOutside(m, labels, width, height));
  }
  return farthest >= LEAST_REACH && flat <= MOST_LEVEL * high;
}

function distanceToOutside(i: number, labels: Int32Array, width: number, height: number): number {
  const x = i % width;
  const y = (i / width) | 0;
  for (let r = 1; r < LEAST_REACH; r++) {
    for (const [px, py] of [[x - r, y], [x + r, y], [x, y - r], [x, y + r]]) {
      if (px >= 0 && py >= 0 && px < width && py < height && labels[py * width + px] === OUTSIDE) return r;
    }
  }
  return LEAST_REACH;
}

// Where the fade goes on below the tolerance, down to the ground's own noise. Appends to `members`.
function addTail(members: number[], level: Float32Array, labels: Int32Array, width: number, height: number, floor: number): void {
  let edge = members.filter((m) => touchesOutside(m, labels, width, height));
  for (let step = 0; step < FARTHEST_TAIL && edge.length; step++) {
    const next: number[] = [];
    for (const m of edge) {
      for (const n of neighbours(m, width, height)) {
        if (labels[n] !== OUTSIDE || level[n] < floor || level[n] > level[m] + 1) continue;
        labels[n] = SOFT;
        members.push(n);
        next.push(n);
      }
    }
    edge = next;
  }
}

function touchesOutside(i: number, labels: Int32Array, width: number, height: number): boolean {
  const x = i % width;
  return (x > 0 && labels[i - 1] === OUTSIDE) || (x < width - 1 && labels[i + 1] === OUTSIDE)
    || (i >= width && labels[i - width] === OUTSIDE) || (i < width * (height - 1) && labels[i + width] === OUTSIDE);
}

function writeSoft(members: readonly number[], raster: Raster, ground: Ground, out: Raster): void {
  const { width, height, data } = raster;
  const offset = [0, 0, 0];
  const B = [0, 0, 0];
  for (const m of members) {
    const b = groundAt(ground, m % width, (m / width) | 0, width, height);
    for (let c = 0; c < 3; c++) {
      offset[c] += data[m * 4 + c] - b[c];
      B[c] += b[c];
    }
  }
  for (let c = 0; c < 3; c++) B[c] /= members.length;
  const F = farthestColour(B, offset);
  for (const m of members) {
    const b = groundAt(ground, m % width, (m / width) | 0, width, height);
    let dot = 0;
    let square = 0;
    for (let c = 0; c < 3; c++) {
      dot += (data[m * 4 + c] - b[c]) * (F[c] - b[c]);
      square += (F[c] - b[c]) ** 2;
    }
    const alpha = square < 1 ? 0 : Math.min(1, Math.max(0, dot / square));
    out.data[m * 4 + 3] = Math.round(alpha * 255);
    for (let c = 0; c < 3; c++) out.data[m * 4 + c] = Math.round(F[c]);
  }
}

/** The last colour inside the cube on the line from the ground in a direction. */
export function farthestColour(B: readonly number[], direction: readonly number[]): [number, number, number] {
  let t = Infinity;
  for (let c = 0; c < 3; c++) {
    if (direction[c] < 0) t = Math.min(t, -B[c] / direction[c]);
    else if (direction[c] > 0) t = Math.min(t, (255 - B[c]) / direction[c]);
  }
  if (!Number.isFinite(t)) t = 0;
  return [0, 1, 2].map((c) => Math.min(255, Math.max(0, B[c] + direction[c] * t))) as [number, number, number];
}
