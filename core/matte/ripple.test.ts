import { describe, expect, it } from 'vitest';
import { MARK, OUTSIDE, SOFT } from '../kernels/interface';
import { renderSvg } from '../../demo/render';
import { decodePicture } from '../../codecs/decodePicture';
import { disc, drawMark, either, jpegOf, onGround, pixel, ring } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { cutOutFlat, plainFlat } from './cutOutFlat';
import { groundDistance } from './groundDistance';
import { measureGround } from './measureGround';
import { removeDirt } from './removeDirt';
import { allMixed } from './rowSegments';
import { forgiveRipple, sampleRipple, strongSegments } from './ripple';
import { spreadGround } from './spreadGround';
import { measureRipple } from './unmixEdges';

const mark = drawMark(240, 240, either(ring(120, 120, 100, 70), disc(120, 120, 40)), [31, 60, 120]);
const jpeg = async (quality: number) =>
  (await decodePicture(await jpegOf(onGround(mark, [255, 255, 255]), quality), 'x.jpg')).raster;
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
  describe('and shadows', () => {
    /** What is found past an edge that these distances follow, the same in every row. */
    const past = (...values: number[]) => {
      const [width, height] = [64, 60];
      const distance = new Uint8Array(width * height);
      for (let y = 0; y < height; y++) {
        distance.fill(200, y * width + 10, y * width + 20);
        distance.set(values, y * width + 20);
      }
      return sampleRipple(distance, strongSegments(distance, width, height), width, height);
    };
    it.each([
      ['swings about the ground', [30, 12, 20, 9, 18, 7, 12, 2, 0], 18],
      ['is even but ends within a block', [30, 20, 12, 12, 12, 12, 12, 12, 0], 12],
      ['goes on but comes down to the ground between', [30, 20, 12, 4, 3, 12, 12, 9, 9, 9], 12],
      ['goes on but jumps', [30, 20, 12, 19, 11, 19, 12, 9, 9, 9], 19],
      ['is even, goes on and is weak', [30, 15, 5, 5, 5, 5, 5, 5, 5, 5], 5],
      ['falls as a shadow does', [44, 41, 38, 35, 32, 29, 26, 23, 21, 19, 16, 14, 12, 9, 7, 5, 3], 0],
      ['rises under the mark as a shadow may', [20, 22, 24, 25, 26, 27, 27, 27, 26, 25, 24, 23, 20], 0],
    ])('past an edge what %s', (_, values, found) => {
      expect(past(...values)).toBe(found);
    });
    it.each([4, 9, 20])('a shadow %i px soft is not taken for compression', (blur) => {
      const filter =
        '<filter id="s" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur ' +
        `stdDeviation="${blur}"/></filter>`;
      const box = '<rect x="80" y="70" width="240" height="170" rx="18"';
      const shadowed = renderSvg(
        `<defs>${filter}</defs>${box} fill="#000" fill-opacity=".45" filter="url(#s)" ` +
          `transform="translate(9 14)"/>${box} fill="#b5322b"/>`,
        400,
        340,
      );
      const { facts } = cutOutFlat(onGround(shadowed, [255, 255, 255]), plainFlat);
      expect(facts.ripple).toBeLessThan(6);
      expect(facts.trouble?.fringe.share).toBeLessThan(0.01);
      expect(facts.trouble?.specks).toEqual([]);
    });
  });
  it('are measured past the edge on ground alone', () => {
    const distance = Uint8Array.from([200, 90, 20, 15, 15, 15, 40, 40, 40, 40]);
    const labels = Int32Array.from([MARK, MARK, OUTSIDE, OUTSIDE, OUTSIDE, OUTSIDE, SOFT, SOFT, SOFT, SOFT]);
    const outer = [[2], [3], [4, 6], [5, 7, 8], [9]].map((ring) => Int32Array.from(ring));
    const band = { depth: new Int8Array(10), rings: [], outer };
    expect(measureRipple(distance, labels, band)).toBe(15);
    expect(measureRipple(distance, labels.fill(SOFT), band), 'nothing but shadow').toBe(0);
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
    for (const [x, y] of [
      [120, 10],
      [10, 120],
      [230, 230],
      [120, 65],
    ])
      expect(pixel(picture, x, y)[3], `${x}, ${y}`).toBe(0);
    for (const [x, y] of [
      [120, 120],
      [120, 35],
      [205, 120],
    ])
      expect(pixel(picture, x, y)[3], `${x}, ${y}`).toBe(255);
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
    for (const [x, y] of [
      [20, 20],
      [21, 20],
      [22, 20],
      [35, 35],
    ])
      expect(labels[at(x, y)], `${x}, ${y}`).toBe(MARK);
  });
  it('leaves small enclosed ground to be judged as an area', () => {
    const distance = new Uint8Array(1600);
    for (let y = 10; y < 20; y++) for (let x = 10; x < 20; x++) distance[at(x, y)] = x === 14 && y === 14 ? 0 : 200;
    const labels = spreadGround(distance, allMixed(40, 40), 40, 40, 12);
    removeDirt(distance, labels, allMixed(40, 40), 40, 12, 8);
    expect(labels[at(14, 14)]).toBe(MARK);
  });
});
