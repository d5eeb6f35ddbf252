import { describe, expect, it } from 'vitest';
import { pixel } from '../../tests/support/pictures';
import { blendModes } from '../colour/blend';
import { createRaster } from '../raster/raster';
import { layOnGround } from './layOnGround';

const flat = (width: number, height: number, rgba: number[]) => {
  const out = createRaster(width, height);
  for (let p = 0; p < out.data.length; p += 4) out.data.set(rgba, p);
  return out;
};

describe('a mark laid on a ground', () => {
  it('covers what lies beneath by its alpha and its opacity, and nothing beside itself', () => {
    const ground = flat(6, 4, [200, 100, 50, 255]);
    layOnGround(ground, flat(2, 2, [0, 0, 0, 128]), { x: 1, y: 1 }, { opacity: 0.5, mode: 'normal' });
    const share = (128 / 255) * 0.5;
    expect(pixel(ground, 1, 1)).toEqual([200, 100, 50].map((v) => Math.round(v * (1 - share))).concat(255));
    expect([pixel(ground, 0, 1), pixel(ground, 3, 1)]).toEqual([pixel(ground, 5, 3), pixel(ground, 5, 3)]);
  });
  it('keeps its own colour on a clear ground, whatever the mode', () => {
    for (const mode of blendModes) {
      const ground = createRaster(3, 3);
      layOnGround(ground, flat(3, 3, [10, 20, 30, 200]), { x: 0, y: 0 }, { opacity: 1, mode });
      expect([mode, pixel(ground, 1, 1)]).toEqual([mode, [10, 20, 30, 200]]);
    }
  });
  it('multiplies where it is asked to, and is cut off at the ground’s edge', () => {
    const ground = flat(4, 4, [128, 255, 0, 255]);
    layOnGround(ground, flat(4, 4, [128, 128, 128, 255]), { x: 2, y: -2 }, { opacity: 1, mode: 'multiply' });
    expect(pixel(ground, 2, 1)).toEqual([64, 128, 0, 255]);
    expect(pixel(ground, 1, 1)).toEqual([128, 255, 0, 255]);
    expect(pixel(ground, 2, 2)).toEqual([128, 255, 0, 255]);
  });
});
