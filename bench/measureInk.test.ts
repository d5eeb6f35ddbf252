import { cutOutInk, plainInk } from '../core/ink/cutOutInk';
import { describe, expect, it } from 'vitest';
import { archLine, blueInk, drawStrokes } from '../core/ink/testSheet';
import type { Raster } from '../core/raster/raster';
import { inkKey, inkRamp, otsuThreshold } from './baselines';
import { measureInkResult, measureMarks } from './measureInk';
import { makeHardCapture } from './hardCaptures';
import { makeTestCapture } from './testCaptures';

const truth = drawStrokes(
  420,
  260,
  [
    archLine(50, 170, 8, 40, 90),
    [
      [330, 60],
      [331, 60],
    ],
  ],
  blueInk,
  6,
);
const changed = (change: (data: Uint8Array) => void): Raster => {
  const data = truth.data.slice();
  change(data);
  return { ...truth, data };
};

describe('measureInkResult', () => {
  it('finds the truth itself perfect', () =>
    expect(measureInkResult(truth, truth)).toEqual({ f: 1, thin: 1, strays: 0 }));
  it('finds nothing of an empty result', () =>
    expect(
      measureInkResult(
        changed((d) => d.fill(0)),
        truth,
      ),
    ).toMatchObject({ f: 0, thin: 0 }));
  it('counts pieces that touch nothing of the truth', () => {
    const dusty = changed((d) => {
      for (const [x, y] of [
        [10, 10],
        [400, 240],
        [401, 240],
      ])
        d[(y * 420 + x) * 4 + 3] = 200;
    });
    expect(measureInkResult(dusty, truth).strays).toBe(2);
  });
  it('tells lost strokes from added ones', () => {
    const half = changed((d) => {
      for (let i = 3; i < d.length; i += 4) if ((i >> 2) % 420 > 210) d[i] = 0;
    });
    const { thin, f } = measureInkResult(half, truth);
    expect(thin).toBeGreaterThan(0.3);
    expect(thin).toBeLessThan(0.75);
    expect(f).toBeLessThan(0.85);
  });
});

describe('measureMarks', () => {
  it('is null where the number is wrong, else the mean error of the angles', async () => {
    const capture = await makeTestCapture(1006, [600]);
    const at = capture.marks.map((m, k) => {
      const a = (m.angleDeg * Math.PI) / 180;
      const box = { x: m.x + 300 * Math.cos(a) - 5, y: m.y + 300 * Math.sin(a) - 5, width: 10, height: 10 };
      return { number: k + 1, box, region: box, angleDeg: m.angleDeg + 2, labels: [], areaPx: 1, inkHex: '#000000' };
    });
    expect(measureMarks(at, capture)).toBeCloseTo(2, 6);
    expect(measureMarks(at.slice(1), capture)).toBeNull();
  });
});

describe('the baselines', () => {
  it('do on clean white paper what they promise', () => {
    const clean = changed((d) => {
      for (let i = 0; i < d.length; i += 4) {
        const a = d[i + 3] / 255;
        for (let c = 0; c < 3; c++) d[i + c] = Math.round(d[i + c] * a + 250 * (1 - a));
        d[i + 3] = 255;
      }
    });
    for (const method of [inkKey, otsuThreshold, inkRamp])
      expect(measureInkResult(method(clean), truth).f, method.name).toBeGreaterThan(0.9);
  });
});

it('the stems of two initials side by side are not taken for printed lines', async () => {
  const { picture } = await makeHardCapture(31, [600, 700]);
  expect(cutOutInk(picture, plainInk).facts.lineCount).toBe(0);
});
