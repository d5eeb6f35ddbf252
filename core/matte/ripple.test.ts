import { describe, expect, it } from 'vitest';
import { decodePicture } from '../../server/codecs/decodePicture';
import { disc, drawMark, either, jpegOf, onGround, pixel, ring } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { cutOutFlat, plainFlat } from './cutOutFlat';
import { groundDistance } from './groundDistance';
import { measureGround } from './measureGround';
import { removeDirt } from './removeDirt';
import { allMixed } from './rowSegments';
import { forgiveRipple, sampleRipple, strongSegments } from './ripple';
import { MARK, OUTSIDE, spreadGround } from './spreadGround';

const mark = drawMark(240, 240, either(ring(120, 120, 100, 70), disc(120, 120, 40)), [31, 60, 120]);
const jpeg = async (quality: number) => (await decodePicture(await jpegOf(onGround(mark, [255, 255, 255]), quality), 'x.jpg')).raster;
const rippleOf = (r: Raster) => {
  const distance = groundDistance(r, measureGround(r));
  return sampleRipple(distance, strongSegments(distance, r.width, r.height), r.width, r.height);
};

describe('ripples', () => {
  it('are none in a clean picture and grow as the quality falls', async () => {
    const clean = onGround(mark, [255, 255, 255]);
    expect(rippleOf(clean)).toBe(0);
    const [high, low] = [await jpeg(95), await jpeg(35)].map(rippleOf);
    expect(low).toBeGreaterThan(high);
    expect(low).toBeGreaterThan(4);
  });
  it('are forgiven near strong edges only, and never a strong pixel', () => {
    const distance = new Uint8Array(64 * 64);
    distance[32 * 64 + 32] = 200;
    distance[32 * 64 + 36] = 12;
    distance[2 * 64 + 2] = 12;
    const calm = forgiveRipple(distance, strongSegments(distance, 64, 64), 64, 64, 10);
    expect([calm[32 * 64 + 32], calm[32 * 64 + 36], calm[2 * 64 + 2]]).toEqual([200, 0, 12]);
    expect(distance[32 * 64 + 36]).toBe(12);
  });
  it.each([80, 50, 35])('leave neither dirt outside nor holes inside at JPEG quality %i', async (quality) => {
    const { picture } = cutOutFlat(await jpeg(quality), plainFlat);
    for (const [x, y] of [[120, 10], [10, 120], [230, 230], [120, 65]]) expect(pixel(picture, x, y)[3], `${x}, ${y}`).toBe(0);
    for (const [x, y] of [[120, 120], [120, 35], [205, 120]]) expect(pixel(picture, x, y)[3], `${x}, ${y}`).toBe(255);
    let error = 0;
    for (let i = 3; i < picture.data.length; i += 4) error += Math.abs(picture.data[i] - mark.data[i]);
    expect(error / 255 / (240 * 240)).toBeLessThan(0.006);
  });
});

describe('removeDirt', () => {
  const at = (x: number, y: number) => y * 40 + x;
  it('takes weak crumbs, keeps strong ones and weak ones that hang on something strong', () => {
    const distance = new Uint8Array(1600);
    for (const x of [5, 6]) distance[at(x, 5)] = 20;
    distance[at(20, 20)] = 180;
    for (const x of [21, 22]) distance[at(x, 20)] = 20;
    distance[at(35, 35)] = 180;
    const labels = spreadGround(distance, allMixed(40, 40), 40, 40, 12);
    removeDirt(distance, labels, allMixed(40, 40), 40, 12, 8);
    expect([labels[at(5, 5)], labels[at(6, 5)]]).toEqual([OUTSIDE, OUTSIDE]);
    for (const [x, y] of [[20, 20], [21, 20], [22, 20], [35, 35]]) expect(labels[at(x, y)], `${x}, ${y}`).toBe(MARK);
  });
  it('leaves small enclosed ground to be judged as an area', () => {
    const distance = new Uint8Array(1600);
    for (let y = 10; y < 20; y++) for (let x = 10; x < 20; x++) distance[at(x, y)] = x === 14 && y === 14 ? 0 : 200;
    const labels = spreadGround(distance, allMixed(40, 40), 40, 40, 12);
    removeDirt(distance, labels, allMixed(40, 40), 40, 12, 8);
    expect(labels[at(14, 14)]).toBe(MARK);
  });
});
