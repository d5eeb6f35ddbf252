import type { Rgb } from '../colour/hex';
import { type Raster, createRaster } from '../raster/raster';
import { normalFrom, seededRandom } from '../seededRandom';

/** What a made-up photograph of ink on paper is taken of, and how. Lengths in px of the photograph. */
export interface CaptureOptions {
  readonly seed: number;
  readonly paper: Rgb;
  /** Depth of the paper's texture, code values. */
  readonly texture: number;
  readonly lines: 'none' | 'ruled' | 'squared';
  readonly lineColour: Rgb;
  readonly lineSpacingPx: number;
  readonly lineWidthPx: number;
  /** Clockwise turn of the lines. */
  readonly lineAngleDeg: number;
  /** How much darker the far side is, 0..1, and where the light stands (0 at the right, clockwise). */
  readonly falloff: number;
  readonly lightAngleDeg: number;
  /** Colour of the light; white is [1, 1, 1]. */
  readonly lightColour: readonly [number, number, number];
  /** How deep a shadow lies over a part of the sheet, 0..1, and how wide its edge is. */
  readonly shadow: number;
  readonly shadowEdgePx: number;
  /** A bright spot of a flash, 0..1. */
  readonly flash: number;
  /** Deviation of the camera's blur. */
  readonly blurPx: number;
  /** Deviation of the sensor's noise, code values. */
  readonly noise: number;
}

export const plainCapture: CaptureOptions = {
  seed: 1,
  paper: [250, 249, 246],
  texture: 0,
  lines: 'none',
  lineColour: [150, 175, 205],
  lineSpacingPx: 60,
  lineWidthPx: 2,
  lineAngleDeg: 0,
  falloff: 0,
  lightAngleDeg: 200,
  lightColour: [1, 1, 1],
  shadow: 0,
  shadowEdgePx: 30,
  flash: 0,
  blurPx: 0,
  noise: 0,
};

export interface Capture {
  /** The photograph: opaque. */
  readonly picture: Raster;
  /** The ink as the camera saw it, without paper, light, lines and noise: straight alpha. */
  readonly truth: Raster;
}

/**
 * A made-up photograph of ink on paper, from a seed: paper and its lines, uneven light, blur, noise, in this order.
 * Light multiplies code values; ink covers as C = αF + (1−α)P.
 * @param ink  on the photograph's own grid, already turned and placed; not changed
 */
export function simulateCapture(ink: Raster, o: CaptureOptions): Capture {
  const { width, height } = ink;
  const seen = blurInk(ink, o.blurPx);
  const picture = createRaster(width, height);
  const relief = makeRelief(o.seed);
  const normal = normalFrom(seededRandom(o.seed * 31 + 7));
  const longest = Math.max(width, height);
  const [lx, ly] = [Math.cos((o.lightAngleDeg * Math.PI) / 180), Math.sin((o.lightAngleDeg * Math.PI) / 180)];
  const [cos, sin] = [Math.cos((o.lineAngleDeg * Math.PI) / 180), Math.sin((o.lineAngleDeg * Math.PI) / 180)];
  const soft = Math.max(0.5, o.blurPx);
  const spot = { x: width * 0.62, y: height * 0.4, reach: longest * 0.22 };
  const edge = { x: width * 0.55, y: height * 0.5, slope: 0.35 };
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      const u = (x - width / 2) / longest;
      const v = (y - height / 2) / longest;
      let light = 1 - o.falloff * Math.max(0, 0.5 - (u * lx + v * ly));
      if (o.shadow > 0) {
        const d = x - edge.x + (y - edge.y) * edge.slope;
        light *= 1 - o.shadow / (1 + Math.exp(-d / (o.shadowEdgePx * 0.25)));
      }
      if (o.flash > 0)
        light *= 1 + o.flash * Math.exp(-((x - spot.x) ** 2 + (y - spot.y) ** 2) / (2 * spot.reach ** 2));
      const grain =
        o.texture > 0
          ? (relief(x / 9, y / 9) - 0.5) * 2 * o.texture + (relief(x / 2.3 + 17, y / 2.3) - 0.5) * o.texture
          : 0;
      let line = 0;
      if (o.lines !== 'none') {
        line = lineCover(-x * sin + y * cos, o.lineSpacingPx, o.lineWidthPx, soft);
        if (o.lines === 'squared')
          line = Math.max(line, lineCover(x * cos + y * sin, o.lineSpacingPx, o.lineWidthPx, soft));
      }
      const a = seen.data[i + 3] / 255;
      for (let c = 0; c < 3; c++) {
        const paper = (o.paper[c] + grain) * (1 - line) + o.lineColour[c] * line;
        const value =
          (seen.data[i + c] * a + paper * (1 - a)) * light * o.lightColour[c] + (o.noise > 0 ? normal() * o.noise : 0);
        picture.data[i + c] = value <= 0 ? 0 : value >= 255 ? 255 : Math.round(value);
      }
      picture.data[i + 3] = 255;
    }
  }
  return { picture, truth: seen };
}

function lineCover(at: number, spacing: number, width: number, soft: number): number {
  const off = Math.abs(at - Math.round(at / spacing) * spacing);
  return Math.min(1, Math.max(0, (width / 2 + soft - off) / (2 * soft)));
}

// A Gaussian, one direction after the other; alpha and premultiplied colour together. Most of a sheet is empty, so rows
// and pixels far from ink are passed over.
function blurInk(ink: Raster, deviation: number): Raster {
  if (deviation <= 0) return ink;
  const { width, height } = ink;
  const reach = Math.ceil(3 * deviation);
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * deviation * deviation)),
  );
  const sum = kernel.reduce((s, v) => s + v, 0);
  kernel.forEach((v, k) => {
    kernel[k] = v / sum;
  });
  const planes = new Float32Array(width * height * 4); // [R·a G·a B·a a] per pixel
  for (let i = 0; i < planes.length; i += 4) {
    const a = ink.data[i + 3];
    if (a === 0) continue;
    for (let c = 0; c < 3; c++) planes[i + c] = (ink.data[i + c] * a) / 255;
    planes[i + 3] = a;
  }
  const blurred = blurLines(
    blurLines(planes, width, height, 4, width * 4, kernel),
    height,
    width,
    width * 4,
    4,
    kernel,
  );
  const out = createRaster(width, height);
  for (let i = 0; i < planes.length; i += 4) {
    const a = blurred[i + 3];
    out.data[i + 3] = Math.round(a);
    if (a > 0.5) for (let c = 0; c < 3; c++) out.data[i + c] = Math.min(255, Math.round((blurred[i + c] * 255) / a));
  }
  return out;
}

function blurLines(
  src: Float32Array,
  length: number,
  lines: number,
  step: number,
  lineStep: number,
  kernel: Float64Array,
): Float32Array {
  const out = new Float32Array(src.length);
  const reach = (kernel.length - 1) / 2;
  for (let l = 0; l < lines; l++) {
    const base = l * lineStep;
    let last = -Infinity; // the newest pixel with ink within reach ahead
    for (let k = -reach; k < length; k++) {
      const ahead = k + reach;
      if (ahead < length && src[base + ahead * step + 3] > 0) last = ahead;
      if (k < 0 || last < k - reach) continue;
      for (let n = 0; n < kernel.length; n++) {
        const p = base + Math.min(length - 1, Math.max(0, k + n - reach)) * step;
        if (src[p + 3] === 0) continue;
        for (let c = 0; c < 4; c++) out[base + k * step + c] += kernel[n] * src[p + c];
      }
    }
  }
  return out;
}

/** Smooth random relief in 0..1 over a lattice of 64 × 64, repeating. */
function makeRelief(seed: number): (x: number, y: number) => number {
  const random = seededRandom(seed * 101 + 3);
  const lattice = Float64Array.from({ length: 4096 }, random);
  const ease = (t: number) => t * t * (3 - 2 * t);
  return (x, y) => {
    const [x0, y0] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [ease(x - x0), ease(y - y0)];
    const at = (px: number, py: number) => lattice[((px & 63) << 6) | (py & 63)];
    const top = at(x0, y0) * (1 - u) + at(x0 + 1, y0) * u;
    const bottom = at(x0, y0 + 1) * (1 - u) + at(x0 + 1, y0 + 1) * u;
    return top * (1 - v) + bottom * v;
  };
}
