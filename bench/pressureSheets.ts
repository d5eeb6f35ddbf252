// Photographed signatures of a pen that leaves more ink where it is pressed: where it went and how much lies there.
import { type CaptureOptions, plainCapture, simulateCapture } from '../core/capture/simulateCapture';
import type { Rgb } from '../core/colour/hex';
import { type Raster, createRaster } from '../core/raster/raster';
import { seededRandom } from '../core/seededRandom';
import { decodePicture } from '../codecs/decodePicture';
import { toJpeg } from '../demo/capture';

export interface PressureSheet {
  readonly picture: Raster;
  /** How much of each pixel the pen covered, 0..1, before the camera's blur. */
  readonly coverage: Float32Array;
  /** How much ink the pen left where it went, 0..1, before the paper's tooth. */
  readonly density: Float32Array;
  readonly how: string;
}

interface Point {
  readonly x: number;
  readonly y: number;
  /** 0..1. */
  readonly pressure: number;
}

const INKS: readonly (readonly [name: string, rgb: Rgb, least: number])[] = [
  ['fountain pen', [28, 46, 120], 0.5],
  ['pencil', [70, 70, 74], 0.38],
  ['brush', [24, 22, 26], 0.6],
  ['ballpoint', [30, 34, 60], 0.45],
  ['sepia', [96, 60, 38], 0.5],
];
const PAPERS: readonly (readonly [name: string, rgb: Rgb, texture: number])[] = [
  ['white', [250, 249, 246], 1],
  ['cream', [243, 234, 212], 6],
  ['rough', [236, 230, 220], 10],
  ['grey', [226, 227, 229], 3],
];
const STEP = 0.02;

/** One sheet from a seed. @param width  of the photograph, px */
export async function makePressureSheet(seed: number, width = 1100): Promise<PressureSheet> {
  const random = seededRandom(seed * 7919 + 13);
  for (let k = 0; k < 4; k++) random();
  const between = (lo: number, hi: number) => lo + (hi - lo) * random();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const height = Math.round(width * 0.5);
  const [pen, rgb, least] = pick(INKS);
  const [paper, paperRgb, texture] = pick(PAPERS);
  const penPx = between(5, 13);
  const coverage = new Float32Array(width * height);
  const density = new Float32Array(width * height);
  for (const stroke of strokesOf({ random, between, width, height }))
    layStroke(stroke, { penPx, least, width, height, coverage, density });
  const grain = between(0, 0.25);
  const ink = createRaster(width, height);
  for (let i = 0; i < coverage.length; i++) {
    // The paper's tooth takes less ink in its hollows.
    const laid = coverage[i] * density[i] * (1 - grain * random());
    ink.data.set([...rgb, Math.round(255 * laid)], i * 4);
  }
  const options: CaptureOptions = {
    ...plainCapture,
    ...{ seed, paper: paperRgb, texture, falloff: between(0.02, 0.4), lightAngleDeg: between(0, 360) },
    ...{ blurPx: between(0.4, 1.2), noise: between(0, 5), shadow: pick([0, 0, 0.25]) },
  };
  const quality = pick([70, 82, 92]);
  const { picture } = simulateCapture(ink, options);
  const { raster } = await decodePicture(await toJpeg(picture, quality), 'sheet.jpg');
  const how = `${pen} ${penPx.toFixed(1)} px, ${paper}, blur ${options.blurPx.toFixed(1)}, JPEG ${quality}`;
  return { picture: raster, coverage, density, how };
}

interface Hand {
  readonly random: () => number;
  readonly between: (lo: number, hi: number) => number;
  readonly width: number;
  readonly height: number;
}

/** A capital, a run of joined letters and perhaps a flourish, with the pressure of a hand. */
function strokesOf({ random, between, width, height }: Hand): Point[][] {
  const tall = height * between(0.16, 0.26);
  const base = height * between(0.55, 0.65);
  const pressureAt = (() => {
    const [a, b, c] = [between(3, 9), between(0, 6), between(0.3, 0.5)];
    return (t: number) => Math.min(1, Math.max(0, 0.5 + c * Math.sin(a * t * 2 + b) + 0.2 * Math.sin(a * 5 * t)));
  })();
  const strokes: Point[][] = [];
  const capital: Point[] = [];
  const [cx, lean] = [width * 0.17, between(-0.1, 0.5)];
  for (let t = 0; t <= 1; t += STEP) {
    const turn = t * Math.PI * between(1.68, 1.7);
    const [u, v] = [Math.cos(turn - 1) * tall * 0.8, Math.sin(turn - 1) * tall * 1.1];
    capital.push({ x: cx + u - v * lean, y: base - tall * 0.9 + v, pressure: pressureAt(t) });
  }
  strokes.push(capital);
  const run: Point[] = [];
  let x = width * 0.3;
  const letters = 5 + Math.floor(random() * 4);
  for (let k = 0; k < letters; k++) {
    const wide = between(0.05, 0.085) * width;
    const up = tall * (random() < 0.3 ? between(1.6, 2.2) : between(0.7, 1));
    for (let t = 0; t < 1; t += STEP * 2) {
      const y = base - up * Math.sin(t * Math.PI) ** 2;
      run.push({ x: x + wide * t + (base - y) * lean * 0.4, y, pressure: pressureAt(k / letters + t / letters) });
    }
    x += wide;
  }
  strokes.push(run);
  if (random() < 0.6) {
    const flourish: Point[] = [];
    for (let t = 0; t <= 1; t += STEP) {
      const y = base + tall * (0.5 + 0.25 * Math.sin(t * 5));
      flourish.push({ x: width * (0.2 + 0.55 * t), y, pressure: pressureAt(1 - t) });
    }
    strokes.push(flourish);
  }
  return strokes;
}

interface Sheet {
  readonly penPx: number;
  /** Density of the lightest touch. */
  readonly least: number;
  readonly width: number;
  readonly height: number;
  readonly coverage: Float32Array;
  readonly density: Float32Array;
}

function layStroke(stroke: readonly Point[], { penPx, least, width, height, coverage, density }: Sheet): void {
  const own = new Map<number, { cover: number; dense: number }>();
  for (let k = 0; k + 1 < stroke.length; k++) {
    const [a, b] = [stroke[k], stroke[k + 1]];
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const square = Math.max(1e-6, dx * dx + dy * dy);
    const reach = penPx + 2;
    const [x0, x1] = [Math.max(0, Math.floor(Math.min(a.x, b.x) - reach)), Math.min(width, Math.max(a.x, b.x) + reach)];
    const [y0, y1] = [
      Math.max(0, Math.floor(Math.min(a.y, b.y) - reach)),
      Math.min(height, Math.max(a.y, b.y) + reach),
    ];
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const t = Math.min(1, Math.max(0, ((x + 0.5 - a.x) * dx + (y + 0.5 - a.y) * dy) / square));
        const pressure = a.pressure + (b.pressure - a.pressure) * t;
        const off = Math.hypot(x + 0.5 - a.x - t * dx, y + 0.5 - a.y - t * dy);
        const cover = Math.min(1, Math.max(0, (penPx / 2) * (0.7 + 0.6 * pressure) + 0.5 - off));
        if (cover === 0) continue;
        const at = y * width + x;
        const before = own.get(at);
        if (!before || cover > before.cover) own.set(at, { cover, dense: least + (1 - least) * pressure });
      }
  }
  for (const [at, { cover, dense }] of own) {
    // Where strokes cross, ink lies on ink.
    density[at] = coverage[at] > 0 ? 1 - (1 - density[at]) * (1 - dense * cover) : dense;
    coverage[at] = Math.max(coverage[at], cover);
  }
}
