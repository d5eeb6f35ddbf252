/** What lies within `radius` of anything marked, by a square; both masks hold 0 or 1. */
export function dilate(mask: Uint8Array, width: number, height: number, radius: number): Uint8Array {
  const rows = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++) {
    const base = y * width;
    let until = -1; // the last sample that the newest mark reaches
    for (let x = 0; x < Math.min(radius, width); x++) if (mask[base + x]) until = x + radius;
    for (let x = 0; x < width; x++) {
      if (x + radius < width && mask[base + x + radius]) until = x + 2 * radius;
      if (x <= until) rows[base + x] = 1;
    }
  }
  const out = new Uint8Array(mask.length);
  const counts = new Int32Array(width);
  for (let y = 0; y < Math.min(radius, height); y++)
    for (let x = 0, i = y * width; x < width; x++, i++) counts[x] += rows[i];
  for (let y = 0; y < height; y++) {
    const enters = y + radius < height ? (y + radius) * width : -1;
    const leaves = y - radius - 1 >= 0 ? (y - radius - 1) * width : -1;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (enters >= 0) counts[x] += rows[enters + x];
      if (leaves >= 0) counts[x] -= rows[leaves + x];
      if (counts[x] > 0) out[i] = 1;
    }
  }
  return out;
}

/**
 * Keeps of a mask what lies in a square of two by two of it: single pixels and lines of them go (opening by that square).
 * @param mask  0 or 1
 */
export function withoutLines(mask: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(mask.length);
  for (let y = 0; y + 1 < height; y++)
    for (let x = 0, i = y * width; x + 1 < width; x++, i++)
      if (mask[i] && mask[i + 1] && mask[i + width] && mask[i + width + 1])
        out[i] = out[i + 1] = out[i + width] = out[i + width + 1] = 1;
  return out;
}

/**
 * Grey closing by a square of side 2·radius + 1: dark things narrower than that vanish, edges of broad ones stay in
 * place.
 * @see J. Serra, "Image Analysis and Mathematical Morphology", 1982
 */
export function closing(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const turned = negate(slideMax(plane, width, height, radius));
  return negate(slideMax(turned, width, height, radius));
}

function negate(plane: Float32Array): Float32Array {
  for (let i = 0; i < plane.length; i++) plane[i] = -plane[i];
  return plane;
}

// Along rows, turned over, along rows again, turned back: both passes run through memory in order.
const slideMax = (plane: Float32Array, width: number, height: number, radius: number): Float32Array =>
  transpose(
    slideRows(transpose(slideRows(plane, width, height, radius), width, height), height, width, radius),
    height,
    width,
  );

const TILE = 32;

function transpose(plane: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(plane.length);
  for (let y0 = 0; y0 < height; y0 += TILE)
    for (let x0 = 0; x0 < width; x0 += TILE) {
      const bottom = Math.min(height, y0 + TILE);
      const right = Math.min(width, x0 + TILE);
      for (let y = y0; y < bottom; y++) for (let x = x0; x < right; x++) out[x * height + y] = plane[y * width + x];
    }
  return out;
}

/**
 * Running maximum along rows.
 * @see M. van Herk, "A fast algorithm for local minimum and maximum filters", 1992
 */
function slideRows(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const size = 2 * radius + 1;
  const padded = Math.ceil((width + 2 * radius) / size) * size;
  const line = new Float32Array(padded).fill(-Infinity);
  const forward = new Float32Array(padded);
  const backward = new Float32Array(padded);
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const base = y * width;
    for (let x = 0; x < width; x++) line[x + radius] = plane[base + x];
    for (let block = 0; block < padded; block += size) {
      const last = block + size - 1;
      let most = line[block];
      for (let k = block; k <= last; k++) {
        if (line[k] > most) most = line[k];
        forward[k] = most;
      }
      most = line[last];
      for (let k = last; k >= block; k--) {
        if (line[k] > most) most = line[k];
        backward[k] = most;
      }
    }
    for (let x = 0; x < width; x++) {
      const ahead = forward[x + size - 1];
      out[base + x] = backward[x] > ahead ? backward[x] : ahead;
    }
  }
  return out;
}
