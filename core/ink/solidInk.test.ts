import { describe, expect, it } from 'vitest';
import { makePressureSheet } from '../../bench/pressureSheets';
import { artworkOfRaster } from '../artwork/artwork';
import { followInk, solidArtwork } from '../artwork/inkPlanes';
import { fills } from '../fills';
import { initialValues } from '../params';
import { cutOutInk, plainInk } from './cutOutInk';
import { solidInk } from './solidInk';

/** A level stroke with soft edges, `px` wide, whose ink goes from one density to another. */
function softStroke(width: number, height: number, px: number, density: (x: number) => number): Float32Array {
  const alpha = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 8; x < width - 8; x++) {
      const off = Math.abs(y + 0.5 - height / 2) - px / 2;
      const soft = 1 / (1 + Math.exp(off * 2.2));
      alpha[y * width + x] = soft > 0.02 ? soft * density(x) : 0;
    }
  return alpha;
}

const correlation = (pairs: readonly (readonly [number, number])[]): number => {
  const mean = (k: 0 | 1) => pairs.reduce((s, p) => s + p[k], 0) / pairs.length;
  const [a, b] = [mean(0), mean(1)];
  const sum = (f: (p: readonly [number, number]) => number) => pairs.reduce((s, p) => s + f(p), 0);
  return sum((p) => (p[0] - a) * (p[1] - b)) / Math.sqrt(sum((p) => (p[0] - a) ** 2) * sum((p) => (p[1] - b) ** 2));
};

describe('solidInk', () => {
  const grid = { width: 160, height: 40 };
  const { coverage, density } = solidInk(
    softStroke(160, 40, 10, (x) => 0.4 + (0.6 * x) / 160),
    grid,
    10,
  );
  it('covers wherever the pen went, and ends where the ink falls to half', () => {
    for (let x = 12; x < 148; x++) {
      for (let y = 16; y < 24; y++) expect(coverage[y * 160 + x]).toBe(1);
      const height = Array.from({ length: 40 }, (_, y) => coverage[y * 160 + x]).reduce((s, v) => s + v, 0);
      expect(Math.abs(height - 10)).toBeLessThan(0.8);
    }
  });
  it('gives every pixel the density of its stroke’s core, its edge as well as its middle', () => {
    for (const x of [30, 80, 130]) {
      const column = Array.from({ length: 40 }, (_, y) => density[y * 160 + x]).filter((v) => v > 0);
      expect(Math.max(...column) - Math.min(...column)).toBeLessThan(0.06);
    }
    expect(density[20 * 160 + 130] / density[20 * 160 + 30]).toBeCloseTo((0.4 + 0.49) / (0.4 + 0.11), 1);
  });
  it('of nothing is nothing', () => {
    expect(solidInk(new Float32Array(100), { width: 10, height: 10 }, 3).coverage.every((v) => v === 0)).toBe(true);
  });
});

// Seeds that nothing was fitted to.
describe.each([9001, 9002, 9003])('a photographed signature of uneven pressure, %i', (seed) => {
  it('is solid inside its strokes, and its two tones follow the pen', async () => {
    const sheet = await makePressureSheet(seed, 700);
    const { picture, ink } = cutOutInk(sheet.picture, plainInk);
    const artwork = { ...artworkOfRaster(picture), ink };
    const apply = (id: string) => {
      const { params, apply: run } = fills.get(id);
      const ctx = { reduction: 1, palette: [], pxLength: 1, mmLength: 12, markHeightPx: 0 };
      return run(artwork, initialValues(params) as never, ctx).raster;
    };
    const [black, tones, own] = [apply('oneColour'), apply('twoTones'), apply('asIs')];
    const inside = [...sheet.coverage.keys()].filter((n) => sheet.coverage[n] >= 0.98);
    const share = (r: { data: Uint8Array }) => inside.filter((n) => r.data[n * 4 + 3] >= 250).length / inside.length;
    // One of them has straight strokes, which are taken for printed lines in places.
    expect(share(black)).toBeGreaterThan(0.98);
    expect(share(own)).toBeLessThan(0.6);
    const shown = inside.filter((n) => tones.data[n * 4 + 3] > 0);
    expect(correlation(shown.map((n) => [-tones.data[n * 4], sheet.density[n]]))).toBeGreaterThan(0.92);
  });
});

describe('planes of ink', () => {
  const raster = { width: 2, height: 1, data: Uint8Array.of(1, 2, 3, 100, 1, 2, 3, 0) };
  const ink = { coverage: Uint8Array.of(250, 0), density: Uint8Array.of(90, 0) };
  it('follow what is rubbed out and what is made solid', () => {
    const after = { ...raster, data: Uint8Array.of(1, 2, 3, 50, 1, 2, 3, 255) };
    expect(followInk(ink, raster, after)).toEqual({
      ...{ coverage: Uint8Array.of(125, 255), density: Uint8Array.of(90, 255) },
    });
  });
  it('are the alpha of solid artwork, and leave other artwork as it is', () => {
    const plain = artworkOfRaster(raster);
    expect(solidArtwork(plain)).toBe(plain);
    expect([...solidArtwork({ ...plain, ink }).raster.data]).toEqual([1, 2, 3, 250, 1, 2, 3, 0]);
  });
});
