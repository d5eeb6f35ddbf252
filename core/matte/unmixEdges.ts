import type { Raster } from '../raster/raster';
import type { EdgeBand } from './edgeBand';
import { SOFT } from './spreadGround';
import { type Ground, groundAt } from './measureGround';
import { nearestSolid } from './nearestSolid';
import { dominantColours, matchColour, strongestColours } from './dominantColours';
import { flatColours, nearestFlat } from './flatColours';
import { nearestSoft } from './nearestSoft';

export interface UnmixOptions {
  /** Code values by which the ground's own pixels stray. */
  readonly noise: number;
  /** What compression does to the ground near edges, code values. */
  readonly ripple: number;
  /** Largest difference between neighbours inside one colour. */
  readonly flat: number;
  /** The label plane when it holds SOFT pixels, whose colour and alpha stand in `out` already. */
  readonly soft: Int32Array | null;
}

/** How far the ground strays three to five pixels from the mark: the 90th percentile, code values. */
export function measureRipple(distance: Uint8Array, band: EdgeBand): number {
  const count = new Uint32Array(256);
  let total = 0;
  for (const ring of band.outer.slice(2)) for (const i of ring) {
    count[distance[i]]++;
    total++;
  }
  let sum = 0;
  for (let d = 0; d < 256; d++) if ((sum += count[d]) >= total * 0.9) return Math.min(d, 40);
  return 0;
}

/**
 * Works out, for every pixel of the edge band, how much of the mark it holds and the mark's own colour in it.
 * The ground's colour is known, the mark's is taken from the nearest solid pixel inside, and the pixel is
 * C = αF + (1−α)B in sRGB code values, so α is the projection of C−B on F−B. Where a stroke is too thin to have a
 * solid pixel, the colour comes from the mark's dominant colours on the same line from the ground, else from the
 * strongest pixel near by. Writes colour and alpha of band pixels into `out`.
 * @see A. Smith, J. Blinn, "Blue Screen Matting", 1996 (known ground, foreground on a known line)
 */
export function unmixEdges(raster: Raster, ground: Ground, band: EdgeBand, distance: Uint8Array, out: Raster, options: UnmixOptions): void {
  const { width, height, data } = raster;
  const { depth, rings, outer } = band;
  // Beyond the foot of an edge only what casts a shadow is asked about.
  const reach = options.soft ? outer.length : 3;
  const nearest = nearestSolid(raster, band, distance, options.flat, Math.max(10, options.noise * 4), reach);
  const palette = dominantColours(data, width, nearest, rings);
  const thin = rings[0].filter((i) => nearest[i] === 0).map((i) => strongestNear(distance, i % width, (i / width) | 0, width, height));
  // One that lies on the way to a colour already known is that colour, mixed.
  for (const { colour, from } of strongestColours(data, thin, (i) => groundAt(ground, i % width, (i / width) | 0, width, height))) {
    if (!matchColour(palette, from, colour[0] - from[0], colour[1] - from[1], colour[2] - from[2])) palette.push(colour);
  }
  // Compression soils what it leaves near edges; where the mark is painted in flat colours, what they were is known.
  const soiled = options.ripple > 1.5 ? Math.min(26, 5 + options.ripple * 0.9) : 0;
  const flats = soiled > 0 ? flatColours(data, (i) => out.data[i * 4 + 3] === 255, band, width * height, soiled) : [];
  const floor = Math.max(1.5, options.noise * 2.5);
  const F = new Float64Array(3);
  const behind = options.soft ? nearestSoft(band, options.soft, width, height) : null;
  const given = out.data.slice(0, behind ? out.data.length : 0);
  const alphaOf = out.data;

  const unpack = (place: number) => ((place - 1) >>> 16) * width + ((place - 1) & 0xffff);

  const solve = (i: number, x: number, y: number): void => {
    const s = i * 4;
    if (behind && behind[i] >= 0 && overSoft(i, behind[i])) return;
    const B = groundAt(ground, x, y, width, height);
    const c0 = data[s] - B[0];
    const c1 = data[s + 1] - B[1];
    const c2 = data[s + 2] - B[2];
    foreground(i, x, y, B, c0, c1, c2);
    const f0 = F[0] - B[0];
    const f1 = F[1] - B[1];
    const f2 = F[2] - B[2];
    const length = f0 * f0 + f1 * f1 + f2 * f2;
    let alpha = length < 1 ? 1 : (c0 * f0 + c1 * f1 + c2 * f2) / length;
    // A contribution no larger than the ground's own noise is ground.
    if (alpha * Math.sqrt(length) < floor) alpha = 0;
    else if (nearest[i] > 0 && options.ripple > 2) {
      const contrast = Math.max(Math.abs(f0), Math.abs(f1), Math.abs(f2));
      const ripple = Math.min(0.22, (1.3 * options.ripple) / contrast);
      // Weak, and nothing strong close by: a ripple of the compression, not the foot of an edge.
      if (alpha < ripple ? !hasStrongNear(distance, x, y, width, height, 0.5 * contrast, 1) : alpha < 0.3 && !hasStrongNear(distance, x, y, width, height, 0.2 * contrast, 2)) alpha = 0;
      // Nearly whole, and not at the very edge: the same ripple on the inside.
      else if (alpha > 1 - ripple && depth[i] >= 2) alpha = 1;
    }
    if (alpha > 1) alpha = 1;
    const a8 = Math.round(alpha * 255);
    alphaOf[s + 3] = a8;
    if (a8 === 0) return;
    const clean = soiled > 0 && nearest[i] > 0 ? nearestFlat(flats, F[0], F[1], F[2], soiled) : null;
    if (clean) F.set(clean);
    // The unmixed colour keeps gradients; at low alpha it multiplies noise, so the solid colour takes over.
    let trust = a8 >= 250 ? 1 : Math.min(1, Math.max(0, (alpha - 0.35) / 0.5));
    if (clean && nearestFlat([clean], B[0] + c0 / alpha, B[1] + c1 / alpha, B[2] + c2 / alpha, (1.4 * soiled) / Math.max(0.3, alpha))) trust = 0;
    write(s, 0, F[0] + trust * (B[0] + c0 / alpha - F[0]));
    write(s, 1, F[1] + trust * (B[1] + c1 / alpha - F[1]));
    write(s, 2, F[2] + trust * (B[2] + c2 / alpha - F[2]));
  };
  // An edge over its own shadow: the pixel mixes the mark with what the shadow looks like beside it.
  const overSoft = (i: number, r: number): boolean => {
    const solid = nearest[i];
    if (options.soft?.[i] === SOFT && depth[i] < -2) return true;
    if (solid === 0) return false;
    meanOfSolid(data, unpack(solid), width, options.flat, F);
    const s = i * 4;
    const t = r * 4;
    let dot = 0;
    let square = 0;
    for (let c = 0; c < 3; c++) {
      dot += (data[s + c] - data[t + c]) * (F[c] - data[t + c]);
      square += (F[c] - data[t + c]) ** 2;
    }
    const share = square < 1 ? 1 : Math.min(1, Math.max(0, dot / square));
    const under = (given[t + 3] / 255) * (1 - share);
    const alpha = share + under;
    alphaOf[s + 3] = Math.round(alpha * 255);
    if (alpha > 0) for (let c = 0; c < 3; c++) write(s, c, (F[c] * share + given[t + c] * under) / alpha);
    return true;
  };
  const write = (s: number, c: number, v: number) => {
    out.data[s + c] = v <= 0 ? 0 : v >= 255 ? 255 : v + 0.5;
  };
  const foreground = (i: number, x: number, y: number, B: readonly number[], c0: number, c1: number, c2: number): void => {
    const s = nearest[i];
    if (s > 0) {
      meanOfSolid(data, unpack(s), width, options.flat, F);
      return;
    }
    const strongest = strongestNear(distance, x, y, width, height);
    const t = strongest * 4;
    const found = matchColour(palette, B, data[t] - B[0], data[t + 1] - B[1], data[t + 2] - B[2]);
    if (found) F.set(found);
    else if (distance[strongest] > distance[i]) F.set([data[t], data[t + 1], data[t + 2]]);
    else F.set([B[0] + c0, B[1] + c1, B[2] + c2]);
  };

  // From the ground inwards: a pixel lies in the ramp only while its outer neighbours do.
  for (const ring of outer.slice(0, reach)) for (const i of ring) solve(i, i % width, (i / width) | 0);
  for (let k = 0; k < rings.length; k++) {
    for (const i of rings[k]) {
      const x = i % width;
      const y = (i / width) | 0;
      if (k === 0 || continuesRamp(i, k + 1, x, depth, out.data, width, height)) solve(i, x, y);
      else out.data[i * 4 + 3] = 255;
      if (flats.length && out.data[i * 4 + 3] === 255) snap(i * 4);
    }
  }
  function snap(s: number): void {
    const clean = nearestFlat(flats, out.data[s], out.data[s + 1], out.data[s + 2], soiled);
    if (clean) for (let c = 0; c < 3; c++) write(s, c, clean[c]);
  }
}

function continuesRamp(i: number, own: number, x: number, depth: Int8Array, out: Uint8Array, width: number, height: number): boolean {
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const n = i + dy * width + dx;
      if (n < 0 || n >= width * height || x + dx < 0 || x + dx >= width) continue;
      if (depth[n] === own - 1 && out[n * 4 + 3] < 240) return true;
    }
  }
  return false;
}

// The mean of the solid pixel and those of its eight neighbours that share its colour: halves the noise.
function meanOfSolid(data: Uint8Array, s: number, width: number, flat: number, F: Float64Array): void {
  let n = 0;
  let r = 0, g = 0, b = 0;
  const t = s * 4;
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const p = (s + dy * width + dx) * 4;
      if (Math.abs(data[p] - data[t]) > flat || Math.abs(data[p + 1] - data[t + 1]) > flat || Math.abs(data[p + 2] - data[t + 2]) > flat) continue;
      r += data[p];
      g += data[p + 1];
      b += data[p + 2];
      n++;
    }
  }
  F[0] = r / n;
  F[1] = g / n;
  F[2] = b / n;
}

function strongestNear(distance: Uint8Array, x: number, y: number, width: number, height: number): number {
  let best = y * width + x;
  for (let dy = -3; dy <= 3; dy++) {
    const py = y + dy;
    if (py < 0 || py >= height) continue;
    for (let dx = -3; dx <= 3; dx++) {
      const px = x + dx;
      if (px >= 0 && px < width && distance[py * width + px] > distance[best]) best = py * width + px;
    }
  }
  return best;
}

function hasStrongNear(distance: Uint8Array, x: number, y: number, width: number, height: number, strong: number, reach: number): boolean {
  for (let py = Math.max(0, y - reach); py <= Math.min(height - 1, y + reach); py++) {
    for (let px = Math.max(0, x - reach); px <= Math.min(width - 1, x + reach); px++) if (distance[py * width + px] >= strong) return true;
  }
  return false;
}
