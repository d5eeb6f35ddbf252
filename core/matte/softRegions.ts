import { bytes, call, roomFor, withHeap } from '../kernels/heap';
import type { Raster } from '../raster/raster';
import { type Ground, groundReader } from './measureGround';
import type { RowSegments } from './rowSegments';
import { MARK, OUTSIDE, SOFT, mostLabels } from './spreadGround';

/** Steepest change from pixel to pixel, code values, inside a shadow or glow. A drawn edge changes faster. */
const STEEPEST = 15;
/** A soft region is at least this large, and reaches at least this far from the ground. */
const LEAST_PIXELS = 48;
const LEAST_REACH = 4;
/** Above this share of level pixels a region is a pale part of the mark with a blurred edge, not a shadow. */
const MOST_LEVEL = 0.55;
const FARTHEST_TAIL = 48;
/** A fade this wide, in pixels from a fifth to four fifths of its strength, is no blurred edge. */
const WIDE_FADE = 8;
/** No shadow or glow is stronger than this. */
const DEEPEST = 185;

/** Bytes of the kernels' memory that the search takes up. */
export const softRoom = (pixels: number): number => roomFor(pixels, pixels, pixels * 4, pixels * 4, pixels * 4, mostLabels(pixels)) + 128;

/** A shadow or glow that was found. */
export interface SoftRegion {
  readonly members: readonly number[];
  /** Labels of the ground-coloured patches that it rises from. */
  readonly beside: ReadonlySet<number>;
}

/**
 * Finds shadows and glows: parts that rise gradually out of the ground. Their pixels become `as` in `labels`, and
 * `out` receives them as true half-transparency: the colour is nearly the one that explains them with the least alpha on
 * the line from the ground through them, and a grey shadow on white becomes black at its own strength.
 * @param tolerance  under which a pixel counted as ground; the tails below it are taken back
 * @param isOpen     per label from 0 up, which labels count as ground to rise from
 * @param as         SOFT for what rises from the outside, SOFT_INSIDE for what an enclosed area holds
 * @see T. Porter, T. Duff, "Compositing Digital Images", 1984, for the equation that is solved
 */
export function findSoftRegions(
  raster: Raster, ground: Ground, distance: Uint8Array, labels: Int32Array, segments: RowSegments, tolerance: number, out: Raster,
  isOpen: Uint8Array = OUTSIDE_ONLY, as: number = SOFT,
): SoftRegion[] {
  const { width, height } = raster;
  const pixels = width * height;
  const limit = STEEPEST + ground.noise;
  const { runs } = segments;
  const found: SoftRegion[] = [];
  withHeap(softRoom(pixels), () => {
    const region = bytes(pixels);
    let level: Float32Array | null = null;
    call([isOpen], [], roomFor(pixels * 4, pixels * 4, pixels), ({ k, at, scratch, intsAt }) => {
      const [list, stack, own] = [scratch(pixels * 4, false), scratch(pixels * 4, false), scratch(pixels)];
      k.startSoft(at(raster.data), at(distance), at(labels), at(isOpen), at(region), width, height, limit);
      for (let n = k.nextSoftSeed(at(runs), runs.length); n >= 0; n = k.nextSoftSeed(at(runs), runs.length)) {
        const count = k.growSoft(n, tolerance * 0.5, list, stack);
        if (count < LEAST_PIXELS) continue;
        if (!level) {
          level = new Float32Array(pixels);
          call([], [level], 0, (inner) => inner.k.smoothDistance(inner.at(level as Float32Array)));
        }
        rise(listOf(intsAt(list, count)), level, () => intsAt(list + count * 4, k.growCore(list, count, stack, own)));
      }
    });
  });
  return found;

  function rise(grown: number[], level: Float32Array, growCore: () => Int32Array): void {
    let members = onOneLine(grown, raster, ground, level);
    // A wide fade may rise to a level core, which belongs to it; a narrow one is the blurred edge of something flat.
    if (members.length >= LEAST_PIXELS && fadeWidth(members, level, width, height) >= WIDE_FADE) {
      const core = growCore();
      for (let k = 0; k < core.length; k++) grown.push(core[k]);
      members = onOneLine(grown, raster, ground, level);
    }
    if (!isSoft(members, level, labels, isOpen, width, height, ground.noise)) return;
    const beside = new Set<number>();
    let last = MARK;
    for (const m of members) {
      for (let n = findNeighbours(m, width, height) - 1; n >= 0; n--) {
        const label = labels[beside4[n]];
        if (label !== last && isOpen[label]) beside.add(last = label);
      }
    }
    for (const m of members) labels[m] = as;
    addTail(members, level, labels, isOpen, as, width, height, Math.max(1.6, ground.noise * 2.2));
    const colour = colourOf(members, raster, ground);
    writeSoft(members, raster, ground, out, colour);
    found.push({ members, beside });
    if (as === SOFT) addShaded(members, colour, raster, ground, distance, labels, level, out);
  }
}

// A plain list, which grows as the region does.
function listOf(pixels: Int32Array): number[] {
  const list: number[] = [];
  for (let k = 0; k < pixels.length; k++) list.push(pixels[k]);
  return list;
}

const OUTSIDE_ONLY = Uint8Array.of(0, 1, 0, 0);

/** A patch under a shadow is at least this large, in pixels, and its shade varies by at least this share. */
const LEAST_SHADED = 12;
const LEAST_VARIATION = 0.025;

/**
 * A shadow also falls on ground that the mark encloses, such as the counters of letters: there it never comes down to
 * the ground. Patches inside the mark that lie on the shadow's own colour line, no stronger than the shadow, uneven as
 * a shadow is, become part of it. Appends to `members`.
 */
function addShaded(members: number[], colour: readonly number[], raster: Raster, ground: Ground, distance: Uint8Array, labels: Int32Array, level: Float32Array, out: Raster): void {
  const { width, height, data } = raster;
  let strongest = 0;
  const box = [width, height, 0, 0];
  for (const m of members) {
    if (level[m] > strongest) strongest = level[m];
    const x = m % width;
    const y = (m / width) | 0;
    box[0] = Math.min(box[0], x);
    box[1] = Math.min(box[1], y);
    box[2] = Math.max(box[2], x);
    box[3] = Math.max(box[3], y);
  }
  const most = Math.min(DEEPEST, strongest * 1.15 + 6);
  const groundOf = groundReader(ground, width, height);
  const fits = (i: number): boolean => {
    if (labels[i] !== MARK || distance[i] > most || distance[i] < 4) return false;
    const b = groundOf(i);
    let dot = 0;
    let square = 0;
    let own = 0;
    for (let c = 0; c < 3; c++) {
      const v = data[i * 4 + c] - b[c];
      const f = colour[c] - b[c];
      dot += v * f;
      square += f * f;
      own += v * v;
    }
    const along = dot / Math.sqrt(square || 1);
    return along > 0 && own - along * along <= (5 + ground.noise + 0.06 * along) ** 2;
  };
  const seen = new Uint8Array(labels.length);
  const shaded: number[] = [];
  for (let y = box[1]; y <= box[3]; y++) {
    for (let x = box[0]; x <= box[2]; x++) {
      const start = y * width + x;
      if (labels[start] !== MARK || seen[start] || !fits(start)) continue;
      const patch = [start];
      seen[start] = 1;
      let outside = 0;
      let soft = 0;
      let sum = 0;
      let squares = 0;
      for (let k = 0; k < patch.length; k++) {
        sum += distance[patch[k]];
        squares += distance[patch[k]] * distance[patch[k]];
        for (let j = 0, count = findNeighbours(patch[k], width, height); j < count; j++) {
          const n = beside4[j];
          if (labels[n] === OUTSIDE) outside++;
          else if (labels[n] === SOFT) soft++;
          if (seen[n] || !fits(n)) continue;
          seen[n] = 1;
          patch.push(n);
        }
      }
      const mean = sum / patch.length;
      const deviation = Math.sqrt(Math.max(0, squares / patch.length - mean * mean));
      if (outside <= soft && patch.length >= LEAST_SHADED && deviation >= LEAST_VARIATION * mean) shaded.push(...patch);
    }
  }
  for (const m of shaded) labels[m] = SOFT;
  writeSoft(shaded, raster, ground, out, colour);
  members.push(...shaded);
}

/** The four neighbours that were asked for last: a list for each pixel would take longer than what is done with it. */
const beside4 = new Int32Array(4);

/** Puts a pixel's neighbours into `beside4`; returns how many it has. */
function findNeighbours(i: number, width: number, height: number): number {
  const x = i % width;
  let count = 0;
  if (x > 0) beside4[count++] = i - 1;
  if (x < width - 1) beside4[count++] = i + 1;
  if (i >= width) beside4[count++] = i - width;
  if (i < width * (height - 1)) beside4[count++] = i + width;
  return count;
}

/** Only those members whose colour lies on one line from the ground: a shadow has one colour, a mark beside it another. */
function onOneLine(members: readonly number[], raster: Raster, ground: Ground, level: Float32Array): number[] {
  const { width, height, data } = raster;
  const groundOf = groundReader(ground, width, height);
  const u = [0, 0, 0];
  for (const m of members) {
    if (level[m] > 90) continue; // the faint part is surely the shadow's own
    const b = groundOf(m);
    for (let c = 0; c < 3; c++) u[c] += data[m * 4 + c] - b[c];
  }
  const length = Math.hypot(u[0], u[1], u[2]);
  if (length === 0) return [];
  return members.filter((m) => {
    const b = groundOf(m);
    const v0 = data[m * 4] - b[0];
    const v1 = data[m * 4 + 1] - b[1];
    const v2 = data[m * 4 + 2] - b[2];
    const along = (v0 * u[0] + v1 * u[1] + v2 * u[2]) / length;
    const off = Math.sqrt(Math.max(0, v0 * v0 + v1 * v1 + v2 * v2 - along * along));
    return along > 0 && off <= 9 + 0.12 * along;
  });
}

function steepness(i: number, level: Float32Array, width: number, height: number): number {
  let most = 0;
  for (let n = findNeighbours(i, width, height) - 1; n >= 0; n--) {
    const d = Math.abs(level[beside4[n]] - level[i]);
    if (d > most) most = d;
  }
  return most;
}

function isSoft(members: readonly number[], level: Float32Array, labels: Int32Array, isOpen: Uint8Array, width: number, height: number, noise: number): boolean {
  if (members.length < LEAST_PIXELS || (shareAtOneLevel(members, level) > MOST_AT_ONE_LEVEL && fadeWidth(members, level, width, height) < LEAST_FADE)) return false;
  let top = 0;
  for (const m of members) if (level[m] > top) top = level[m];
  let flat = 0;
  let high = 0;
  let farthest = 0;
  for (let k = 0; k < members.length; k += members.length > 4000 ? 7 : 1) {
    const m = members[k];
    if (level[m] < top * 0.5) continue;
    high++;
    if (steepness(m, level, width, height) < Math.max(0.6, noise * 0.5)) flat++;
    if (farthest < LEAST_REACH) farthest = Math.max(farthest, distanceToOpen(m, labels, isOpen, width, height));
  }
  return farthest >= LEAST_REACH && flat <= MOST_LEVEL * high;
}

function distanceToOpen(i: number, labels: Int32Array, isOpen: Uint8Array, width: number, height: number): number {
  const x = i % width;
  const y = (i / width) | 0;
  for (let r = 1; r < LEAST_REACH; r++) {
    for (const [px, py] of [[x - r, y], [x + r, y], [x, y - r], [x, y + r]]) {
      if (px >= 0 && py >= 0 && px < width && py < height && isOpen[labels[py * width + px]]) return r;
    }
  }
  return LEAST_REACH;
}

// Where the fade goes on below the tolerance, down to the ground's own noise. Appends to `members`.
function addTail(members: number[], level: Float32Array, labels: Int32Array, isOpen: Uint8Array, as: number, width: number, height: number, floor: number): void {
  let edge = members.filter((m) => touchesOpen(m, labels, isOpen, width, height));
  for (let step = 0; step < FARTHEST_TAIL && edge.length; step++) {
    const next: number[] = [];
    for (const m of edge) {
      for (let j = 0, count = findNeighbours(m, width, height); j < count; j++) {
        const n = beside4[j];
        if (!isOpen[labels[n]] || level[n] < floor || level[n] > level[m] + 1) continue;
        labels[n] = as;
        members.push(n);
        next.push(n);
      }
    }
    edge = next;
  }
}

function touchesOpen(i: number, labels: Int32Array, isOpen: Uint8Array, width: number, height: number): boolean {
  const x = i % width;
  return Boolean((x > 0 && isOpen[labels[i - 1]]) || (x < width - 1 && isOpen[labels[i + 1]])
    || (i >= width && isOpen[labels[i - width]]) || (i < width * (height - 1) && isOpen[labels[i + width]]));
}

/** Share of a region within a few levels of its commonest one above which it is one pale colour, not a fade. */
const MOST_AT_ONE_LEVEL = 0.7;

// A flat pale part of the mark has nearly all its pixels at one level, however compression ruffles it.
function shareAtOneLevel(members: readonly number[], level: Float32Array): number {
  const count = new Uint32Array(256);
  for (const m of members) count[Math.min(255, level[m] | 0)]++;
  let most = 0;
  for (let t = 0; t < 256; t++) {
    const reach = 2 + Math.round(t * 0.035);
    let sum = 0;
    for (let k = Math.max(0, t - reach); k <= Math.min(255, t + reach); k++) sum += count[k];
    if (t > 8 && sum > most) most = sum;
  }
  return most / members.length;
}

/** Narrower than this, in pixels from a fifth to four fifths of its strength, the rim of a level region is an edge. */
const LEAST_FADE = 5;

function fadeWidth(members: readonly number[], level: Float32Array, width: number, height: number): number {
  const sorted = new Float32Array(members.length);
  for (let k = 0; k < sorted.length; k++) sorted[k] = level[members[k]];
  sorted.sort();
  const top = sorted[Math.floor(sorted.length * 0.9)];
  let between = 0;
  let contour = 0;
  for (const m of members) {
    if (level[m] > top * 0.2 && level[m] < top * 0.8) between++;
    if (level[m] < top * 0.5) continue;
    let hasLower = false;
    for (let n = findNeighbours(m, width, height) - 1; n >= 0 && !hasLower; n--) hasLower = level[beside4[n]] < top * 0.5;
    if (hasLower) contour++;
  }
  return between / Math.max(1, contour);
}

/** A colour no lighter than this, code values, cannot be told from black by the trace it leaves on a ground. */
const NEARLY_BLACK = 26;

/** Few colours in use are as pure as can be; the usual one goes this part of the way from the ground to where it would be. */
const USUAL_PART = 0.92;

/** The colour of a soft region: nearly the one that explains it with the least alpha, black where that one is nearly black. */
function colourOf(members: readonly number[], raster: Raster, ground: Ground): [number, number, number] {
  const { width, height, data } = raster;
  const groundOf = groundReader(ground, width, height);
  const offset = [0, 0, 0];
  const B = [0, 0, 0];
  for (const m of members) {
    const b = groundOf(m);
    for (let c = 0; c < 3; c++) {
      offset[c] += data[m * 4 + c] - b[c];
      B[c] += b[c];
    }
  }
  for (let c = 0; c < 3; c++) B[c] /= members.length;
  const F = farthestColour(B, offset);
  if (Math.max(...F) <= NEARLY_BLACK) return [0, 0, 0];
  const part = Math.max(USUAL_PART, strongestAlpha(members, raster, ground, F));
  return F.map((f, c) => B[c] + (f - B[c]) * part) as [number, number, number];
}

function writeSoft(members: readonly number[], raster: Raster, ground: Ground, out: Raster, F: readonly number[]): void {
  const { data } = out;
  const alphaOf = alphaReader(raster, ground, F);
  const [r, g, b] = F.map(Math.round);
  for (const m of members) {
    data[m * 4] = r;
    data[m * 4 + 1] = g;
    data[m * 4 + 2] = b;
    data[m * 4 + 3] = Math.round(alphaOf(m) * 255);
  }
}

// All but the strongest hundredth, which noise has made stronger than it was.
function strongestAlpha(members: readonly number[], raster: Raster, ground: Ground, F: readonly number[]): number {
  const step = Math.max(1, Math.floor(members.length / 4000));
  const alphaOf = alphaReader(raster, ground, F);
  const alphas = Float32Array.from({ length: Math.ceil(members.length / step) }, (_, k) => alphaOf(members[k * step])).sort();
  return alphas[Math.floor((alphas.length - 1) * 0.99)];
}

/** How much of a colour a pixel holds over the ground, 0..1. */
function alphaReader({ data, width, height }: Raster, ground: Ground, F: readonly number[]): (pixel: number) => number {
  const groundOf = groundReader(ground, width, height);
  return (m) => {
    const b = groundOf(m);
    let dot = 0;
    let square = 0;
    for (let c = 0; c < 3; c++) {
      dot += (data[m * 4 + c] - b[c]) * (F[c] - b[c]);
      square += (F[c] - b[c]) * (F[c] - b[c]);
    }
    return square < 1 ? 0 : Math.min(1, Math.max(0, dot / square));
  };
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
