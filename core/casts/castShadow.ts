import type { Artwork } from '../artwork/artwork';
import { composited, growArtwork, inOneColour, pixelsOnly } from '../layers/layers';

/** A soft shape of a mark, of one colour; lengths in full-size px. */
export interface Shadow {
  readonly colour: string;
  readonly dxPx: number;
  readonly dyPx: number;
  /** Over so long a way it fades out: twice the standard deviation. */
  readonly softnessPx: number;
  readonly opacity: number;
}

const SIGMAS_SEEN = 3;
const BLURS = 3;

/** The mark above the shadow that its own transparency casts, on a page that holds all of both. */
export function castShadow(artwork: Artwork, { colour, dxPx, dyPx, softnessPx, opacity }: Shadow): Artwork {
  const { reduction: r, within } = artwork;
  const sigma = softnessPx / 2 / r;
  const reach = Math.ceil(sigma * SIGMAS_SEEN);
  const [dx, dy] = [dxPx / r, dyPx / r];
  const { width, height } = artwork.raster;
  const room = Math.max(
    0,
    reach - within.x - Math.floor(dx),
    reach - within.y - Math.floor(dy),
    within.x + within.width + reach + Math.ceil(dx) - width,
    within.y + within.height + reach + Math.ceil(dy) - height,
  );
  const grown = growArtwork(artwork, room * r);
  const { raster } = grown;
  const alpha = new Float32Array(raster.width * raster.height);
  for (let k = 0; k < alpha.length; k++) alpha[k] = raster.data[k * 4 + 3];
  const soft = blurred(shifted(alpha, raster, dx, dy), raster, sigma);
  const levels = new Uint8Array(soft.length);
  for (let k = 0; k < soft.length; k++) levels[k] = Math.round(soft[k] * opacity);
  return pixelsOnly(grown, composited(raster, inOneColour(raster, levels, colour), false));
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Moved by fractions of a pixel, between neighbours in proportion. */
function shifted(plane: Float32Array, { width, height }: Size, dx: number, dy: number): Float32Array {
  const [ix, iy] = [Math.floor(dx), Math.floor(dy)];
  const [fx, fy] = [dx - ix, dy - iy];
  const out = new Float32Array(plane.length);
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= width || y >= height ? 0 : plane[y * width + x]);
  for (let y = 0, k = 0; y < height; y++) {
    for (let x = 0; x < width; x++, k++) {
      const [u, v] = [x - ix, y - iy];
      out[k] =
        fx === 0 && fy === 0
          ? at(u, v)
          : (at(u, v) * (1 - fx) + at(u - 1, v) * fx) * (1 - fy) +
            (at(u, v - 1) * (1 - fx) + at(u - 1, v - 1) * fx) * fy;
    }
  }
  return out;
}

/**
 * As a Gaussian bell blurs, by three means of neighbours in a row, of odd widths whose variances add up to its own; the
 * rest of a width goes to the two neighbours at the ends in part.
 * @see P. Kovesi, "Fast Almost-Gaussian Filtering", 2010; widths of any length: P. Gwosdek and others, "Theoretical
 *   Foundations of Gaussian Convolution by Extended Box Filtering", 2011
 */
function blurred(plane: Float32Array, size: Size, sigma: number): Float32Array {
  if (sigma < 0.05) return plane;
  let current = plane;
  for (let k = 0; k < BLURS; k++) {
    current = boxAlong(current, size.height, size.width, size.width, 1, sigma);
    current = boxAlong(current, size.width, size.height, 1, size.width, sigma);
  }
  return current;
}

function boxAlong(
  plane: Float32Array,
  lines: number,
  length: number,
  line: number,
  step: number,
  sigma: number,
): Float32Array {
  // A box of 2r + 1 whole neighbours and a share of the next on both sides, of variance σ²/3.
  const variance = (sigma * sigma) / BLURS;
  const r = Math.floor((Math.sqrt(12 * variance + 1) - 1) / 2);
  const whole = 2 * r + 1;
  const share = (whole * (r * (r + 1) - 3 * variance)) / (6 * (variance - (r + 1) * (r + 1)));
  const total = whole + 2 * share;
  const out = new Float32Array(plane.length);
  // A line with room on both sides, so that no end needs a question.
  const pad = r + 1;
  const row = new Float64Array(length + 2 * pad);
  for (let l = 0; l < lines; l++) {
    const base = l * line;
    let isEmpty = true;
    for (let k = 0, p = base; k < length; k++, p += step) {
      const v = plane[p];
      row[k + pad] = v;
      if (v !== 0) isEmpty = false;
    }
    if (isEmpty) continue;
    let sum = 0;
    for (let k = pad - r; k <= pad + r; k++) sum += row[k];
    for (let k = pad, p = base; k < length + pad; k++, p += step) {
      out[p] = (sum + share * (row[k - r - 1] + row[k + r + 1])) / total;
      sum += row[k + r + 1] - row[k - r];
    }
  }
  return out;
}
