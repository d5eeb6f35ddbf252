import { dilate, withoutLines } from '../raster/morphology';
import type { Raster } from '../raster/raster';

/**
 * Moves the edge of a picture's matte, in place: inwards for a positive `chokePx`, outwards for a negative one,
 * to a tenth of a pixel. Whole pixels are grey-scale erosion or dilation with a cross; the fraction mixes two steps.
 * Pixels that become visible take the colour of a visible neighbour.
 * @param movable  1 for pixels that a choke may change; all where it is left out
 */
export function chokeMatte(raster: Raster, chokePx: number, movable?: Uint8Array): void {
  const sign = chokePx >= 0 ? 1 : -1;
  let rest = Math.abs(chokePx);
  while (rest > 1e-6) {
    step(raster, { sign, share: Math.min(1, rest), movable });
    rest -= 1;
  }
}

/** An edge's own pixels, from clear to solid, in a soiled picture. */
const EDGE_PX = 4;

/**
 * Finds the pixels that belong to an edge of the mark: those near something clear. Compression leaves pixels that are
 * not quite solid inside a figure too, where two of its parts touch; a choke must not start from there.
 * @param soft  pixels of glows and shadows, which are edges as a whole
 * @returns 1 for these, 0 for others
 */
export function nearClear(
  { width, height, data }: Raster,
  chokePx: number,
  soft: readonly ArrayLike<number>[],
): Uint8Array {
  const clear = new Uint8Array(width * height);
  for (let i = 0; i < clear.length; i++) clear[i] = data[i * 4 + 3] === 0 ? 1 : 0;
  // A single clear pixel, or a line of them, is a flaw and no background.
  const near = dilate(withoutLines(clear, width, height), width, height, Math.ceil(chokePx) + EDGE_PX);
  for (const members of soft) for (let k = 0; k < members.length; k++) near[members[k]] = 1;
  return near;
}

interface Step {
  readonly sign: 1 | -1;
  readonly share: number;
  readonly movable?: Uint8Array;
}

function step(raster: Raster, { sign, share, movable }: Step): void {
  const { width, height, data } = raster;
  const before = new Uint8Array(width * height);
  for (let i = 0; i < before.length; i++) before[i] = data[i * 4 + 3];
  // What no neighbour can change further.
  const settled = sign > 0 ? 0 : 255;
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const own = before[i];
      if (own === settled || movable?.[i] === 0) continue;
      const from = farthest(before, i, sign, {
        left: x > 0 ? i - 1 : i,
        right: x < width - 1 ? i + 1 : i,
        up: y > 0 ? i - width : i,
        down: y < height - 1 ? i + width : i,
      });
      if (from === i) continue;
      if (own === 0) for (let c = 0; c < 3; c++) data[i * 4 + c] = data[from * 4 + c];
      data[i * 4 + 3] = Math.round(own + (before[from] - own) * share);
    }
  }
}

/** The least or the greatest of a pixel and its four neighbours; of equal ones the first. */
function farthest(
  plane: Uint8Array,
  i: number,
  sign: 1 | -1,
  { left, right, up, down }: { left: number; right: number; up: number; down: number },
): number {
  let from = i;
  if ((plane[from] - plane[left]) * sign > 0) from = left;
  if ((plane[from] - plane[right]) * sign > 0) from = right;
  if ((plane[from] - plane[up]) * sign > 0) from = up;
  if ((plane[from] - plane[down]) * sign > 0) from = down;
  return from;
}

/**
 * Softens the matte by a box of the given radius, in place, keeping colours. 0 leaves it as measured.
 * @param radiusPx  0..8; fractions weigh the outermost samples
 */
export function softenMatte(raster: Raster, radiusPx: number): void {
  if (radiusPx <= 0) return;
  const { width, height, data } = raster;
  let plane = new Float32Array(width * height);
  for (let i = 0; i < plane.length; i++) plane[i] = data[i * 4 + 3];
  plane = blurLines(plane, width, height, 1, width, radiusPx);
  plane = blurLines(plane, height, width, width, 1, radiusPx);
  for (let i = 0; i < plane.length; i++) {
    const alpha = Math.round(plane[i]);
    if (alpha > 0 && data[i * 4 + 3] === 0) takeNeighbourColour(data, i, width, height, Math.ceil(radiusPx));
    data[i * 4 + 3] = alpha;
  }
}

function blurLines(
  src: Float32Array,
  length: number,
  lines: number,
  step: number,
  lineStep: number,
  radius: number,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(src.length);
  const whole = Math.floor(radius);
  const part = radius - whole;
  const total = 1 + 2 * radius;
  for (let l = 0; l < lines; l++) {
    const base = l * lineStep;
    for (let k = 0; k < length; k++) {
      let sum = 0;
      for (let d = -whole; d <= whole; d++) if (k + d >= 0 && k + d < length) sum += src[base + (k + d) * step];
      if (part > 0) {
        if (k - whole - 1 >= 0) sum += part * src[base + (k - whole - 1) * step];
        if (k + whole + 1 < length) sum += part * src[base + (k + whole + 1) * step];
      }
      out[base + k * step] = sum / total;
    }
  }
  return out;
}

function takeNeighbourColour(data: Uint8Array, i: number, width: number, height: number, reach: number): void {
  const x = i % width;
  const y = (i / width) | 0;
  for (let r = 1; r <= reach; r++) {
    for (let dy = -r; dy <= r; dy++) {
      for (let dx = -r; dx <= r; dx++) {
        if (Math.max(Math.abs(dx), Math.abs(dy)) !== r) continue;
        const px = x + dx;
        const py = y + dy;
        if (px < 0 || py < 0 || px >= width || py >= height || data[(py * width + px) * 4 + 3] === 0) continue;
        const n = (py * width + px) * 4;
        data[i * 4] = data[n];
        data[i * 4 + 1] = data[n + 1];
        data[i * 4 + 2] = data[n + 2];
        return;
      }
    }
  }
}
