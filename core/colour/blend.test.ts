import { describe, expect, it } from 'vitest';
import { type BlendMode, blend, blendModes } from './blend';

const [BACK, OVER] = [
  [204, 102, 51],
  [51, 153, 204],
] as [[number, number, number], [number, number, number]];

describe('a colour laid over another', () => {
  // By hand from the formulas of the recommendation.
  it.each([
    ['normal', [51, 153, 204]],
    ['multiply', [41, 61, 41]],
    ['screen', [214, 194, 214]],
    ['overlay', [173, 122, 82]],
    ['darken', [51, 102, 51]],
    ['lighten', [204, 153, 204]],
    ['color-dodge', [255, 255, 255]],
    ['color-burn', [0, 0, 0]],
    ['hard-light', [82, 133, 173]],
    ['difference', [153, 51, 153]],
    ['exclusion', [173, 133, 173]],
  ] as [BlendMode, number[]][])('by %s is what the recommendation says', (mode, meant) => {
    const found = blend(BACK, OVER, mode, 1);
    found.forEach((v, k) => expect(Math.abs(v - meant[k])).toBeLessThanOrEqual(mode === 'color-burn' ? 0 : 1));
  });
  it('keeps what a mode keeps: luminosity of the backdrop, or of what is laid over', () => {
    const lum = ([r, g, b]: readonly number[]) => 0.3 * r + 0.59 * g + 0.11 * b;
    for (const mode of ['hue', 'saturation', 'color'] as const)
      expect(Math.abs(lum(blend(BACK, OVER, mode, 1)) - lum(BACK))).toBeLessThan(1.5);
    expect(Math.abs(lum(blend(BACK, OVER, 'luminosity', 1)) - lum(OVER))).toBeLessThan(1.5);
  });
  it('changes nothing where it is clear, and stays in range in every mode', () => {
    for (const mode of blendModes) {
      expect(blend(BACK, OVER, mode, 0)).toEqual(BACK);
      for (const v of blend([255, 0, 128], [0, 255, 3], mode, 1)) expect(v >= 0 && v <= 255).toBe(true);
    }
  });
});
