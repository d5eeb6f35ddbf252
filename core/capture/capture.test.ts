import { describe, expect, it } from 'vitest';
import { archLine, blueInk, drawStrokes } from '../ink/testSheet';
import { createRaster } from '../raster/raster';
import { type CaptureChoice, captureFromChoice } from './captureLooks';
import { plainCapture, simulateCapture } from './simulateCapture';

const bare = createRaster(240, 160);
const mean = (r: { data: Uint8Array }, from = 0, to = 240) => {
  let [sum, n] = [0, 0];
  for (let i = 0; i < r.data.length; i += 4) {
    const x = (i >> 2) % 240;
    if (x < from || x >= to) continue;
    sum += r.data[i];
    n++;
  }
  return sum / n;
};

describe('simulateCapture', () => {
  it('of nothing on plain paper is the paper', () => {
    const { picture, truth } = simulateCapture(bare, plainCapture);
    for (let i = 0; i < picture.data.length; i += 4)
      expect([...picture.data.subarray(i, i + 4)]).toEqual([...plainCapture.paper, 255]);
    expect(truth.data.every((v) => v === 0)).toBe(true);
  });
  it('is the same picture from the same seed, and another from another', () => {
    const take = (seed: number) => simulateCapture(bare, { ...plainCapture, seed, noise: 5, texture: 4 }).picture.data;
    expect(take(3)).toEqual(take(3));
    expect(take(3)).not.toEqual(take(4));
  });
  it('darkens away from the light, and under a shadow by its depth', () => {
    const lamp = simulateCapture(bare, { ...plainCapture, falloff: 0.5, lightAngleDeg: 180 }).picture;
    expect(mean(lamp, 0, 40)).toBeGreaterThan(mean(lamp, 200, 240) + 40);
    const shadow = simulateCapture(bare, { ...plainCapture, shadow: 0.4, shadowEdgePx: 4 }).picture;
    expect(mean(shadow, 200, 240) / mean(shadow, 0, 40)).toBeCloseTo(0.6, 1);
  });
  it('noise has the deviation asked for', () => {
    const { picture } = simulateCapture(bare, { ...plainCapture, paper: [128, 128, 128], noise: 6 });
    const m = mean(picture);
    let square = 0;
    for (let i = 0; i < picture.data.length; i += 4) square += (picture.data[i] - m) ** 2;
    expect(Math.sqrt(square / (picture.data.length / 4))).toBeCloseTo(6, 0);
  });
  it('blur spreads ink without making or losing any, and the truth is blurred alike', () => {
    const ink = drawStrokes(240, 160, [archLine(40, 100, 4, 40, 60)], blueInk, 7);
    const sum = (d: Uint8Array) => d.reduce((s, v, i) => (i % 4 === 3 ? s + v : s), 0);
    const { truth, picture } = simulateCapture(ink, { ...plainCapture, blurPx: 1.5 });
    expect(sum(truth.data) / sum(ink.data)).toBeCloseTo(1, 2);
    for (let i = 0; i < truth.data.length; i += 4) {
      const a = truth.data[i + 3] / 255;
      for (let c = 0; c < 3; c++)
        expect(
          Math.abs(picture.data[i + c] - (truth.data[i + c] * a + plainCapture.paper[c] * (1 - a))),
        ).toBeLessThanOrEqual(1);
    }
  });
  it('prints lines at their distance, and squared ones both ways', () => {
    const dark = (lines: 'ruled' | 'squared') => {
      const { picture } = simulateCapture(bare, { ...plainCapture, lines, lineSpacingPx: 20, lineWidthPx: 2 });
      const column = Array.from({ length: 160 }, (_, y) => picture.data[(y * 240 + 10) * 4]).filter(
        (v) => v < 200,
      ).length;
      const row = Array.from({ length: 240 }, (_, x) => picture.data[(10 * 240 + x) * 4]).filter((v) => v < 200).length;
      return { column, row };
    };
    expect(dark('ruled').row).toBe(0);
    expect(dark('ruled').column).toBeGreaterThanOrEqual(7);
    expect(dark('squared').row).toBeGreaterThanOrEqual(11);
  });
});

describe('captureFromChoice', () => {
  const choice: CaptureChoice = {
    paper: 'cream',
    lines: 'ruled',
    light: 'even',
    tiltDeg: -8,
    noise: 4,
    blurPx: 0.8,
    quality: 80,
    hasPlace: true,
    widthPx: 2000,
  };
  it('keeps lines and shadows in proportion to the width', () => {
    const [small, large] = [captureFromChoice({ ...choice, widthPx: 1000 }, 1), captureFromChoice(choice, 1)];
    expect(large.lineSpacingPx / small.lineSpacingPx).toBe(2);
    expect(captureFromChoice({ ...choice, light: 'shadow' }, 1).shadowEdgePx).toBe(40);
  });
  it.each(['lamp', 'shadow', 'flash'] as const)('a %s makes the light uneven', (light) => {
    const uneven = captureFromChoice({ ...choice, light }, 1);
    expect(uneven.falloff + uneven.shadow + uneven.flash).toBeGreaterThan(0.3);
  });
});
