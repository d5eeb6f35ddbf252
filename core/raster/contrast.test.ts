import { describe, expect, it } from 'vitest';
import { contrastRatio, luminance } from './contrast';
import { hexFromRgb, rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { linearFromSrgb, srgbFromLinear } from '../colour/srgb';

describe('sRGB tables', () => {
  it('invert each other on all 256 codes', () => {
    for (let v = 0; v < 256; v++) expect(srgbFromLinear[linearFromSrgb[v]]).toBe(v);
  });
  it('agree with the standard at mid grey: code 188 is about half the light', () => {
    expect(linearFromSrgb[188] / 65535).toBeCloseTo(0.5029, 3);
    expect(linearFromSrgb[0]).toBe(0);
    expect(linearFromSrgb[255]).toBe(65535);
  });
});

describe('OKLab', () => {
  it('agrees with the published values of white and red', () => {
    const white = oklabFromSrgb(255, 255, 255);
    expect(white[0]).toBeCloseTo(1, 3);
    expect(Math.hypot(white[1], white[2])).toBeLessThan(0.001);
    const red = oklabFromSrgb(255, 0, 0); // Ottosson: 0.628, 0.225, 0.126
    expect(red[0]).toBeCloseTo(0.628, 2);
    expect(red[1]).toBeCloseTo(0.225, 2);
    expect(red[2]).toBeCloseTo(0.126, 2);
  });
  it('measures black to white as 100', () =>
    expect(deltaE(oklabFromSrgb(0, 0, 0), oklabFromSrgb(255, 255, 255))).toBeCloseTo(100, 1));
});

describe('contrast', () => {
  it('is 21 for black on white and 1 for a colour on itself (WCAG)', () => {
    expect(contrastRatio(luminance(0, 0, 0), luminance(255, 255, 255))).toBeCloseTo(21, 5);
    expect(contrastRatio(luminance(90, 90, 90), luminance(90, 90, 90))).toBe(1);
  });
});

it('hexadecimal colours go there and back', () => {
  expect(rgbFromHex('#1f5a45')).toEqual([31, 90, 69]);
  expect(hexFromRgb([31, 90, 69])).toBe('#1f5a45');
});
