import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, onGround, pixel, ring } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { placeOnCanvas } from '../raster/cropRaster';
import { type FlatOptions, cutOutFlat, plainFlat } from './cutOutFlat';

const cut = (picture: Raster, options: Partial<FlatOptions> = {}) => cutOutFlat(picture, { ...plainFlat, ...options });
const alphaError = (a: Raster, b: Raster) => {
  let sum = 0;
  for (let i = 3; i < a.data.length; i += 4) sum += Math.abs(a.data[i] - b.data[i]) / 255;
  return sum / (a.data.length / 4);
};
/** A picture placed on a larger sheet of its first pixel's colour. */
function placeOn(picture: Raster, width: number, height: number, x: number, y: number): Raster {
  const placed = placeOnCanvas(picture, width, height, x, y);
  const px = new Int32Array(placed.data.buffer);
  for (let i = 0; i < px.length; i++) if (px[i] === 0) px[i] = new Int32Array(picture.data.buffer)[0];
  return placed;
}
const green = [31, 90, 69] as const;

describe('cutOutFlat', () => {
  const truth = drawMark(160, 160, disc(80, 80, 50.3), green);

  it('gives back the drawn coverage of a disc to a few thousandths, on any ground', () => {
    for (const ground of [
      [255, 255, 255],
      [244, 239, 228],
      [0, 0, 0],
      [214, 229, 238],
    ] as const) {
      const { picture } = cut(onGround(truth, ground));
      expect(alphaError(picture, truth), String(ground)).toBeLessThan(0.001);
    }
  });
  it('puts the same result into the memory of a picture that is not needed any more', () => {
    for (const ground of [
      [255, 255, 255],
      [18, 20, 30],
    ] as const) {
      const seen = onGround(truth, ground);
      const kept = cut(seen);
      const before = seen.data.slice();
      const spent = { ...seen, data: seen.data.slice() };
      const taken = cut(spent, { consumes: true });
      expect(Buffer.compare(seen.data, before), 'a picture is not changed otherwise').toBe(0);
      expect(Buffer.compare(taken.picture.data, kept.picture.data)).toBe(0);
      expect(taken.picture.data.buffer).toBe(spent.data.buffer);
    }
  });
  it('says where alone anything is visible', () => {
    for (const [x, y] of [
      [60, 50],
      [300, 20],
      [0, 400],
    ]) {
      const { picture, within } = cut(placeOn(onGround(truth, [255, 255, 255]), 700, 620, x, y));
      expect(within.width * within.height).toBeLessThan(700 * 620 * 0.6);
      for (let i = 3; i < picture.data.length; i += 4) {
        const [px, py] = [(i >> 2) % 700, Math.floor((i >> 2) / 700)];
        const isInside =
          px >= within.x && px < within.x + within.width && py >= within.y && py < within.y + within.height;
        if (!isInside && picture.data[i] !== 0) throw new Error(`something is visible at ${px}, ${py}`);
      }
    }
  });
  it('is the same however often, and in whatever order, pictures of different sizes come', () => {
    const pictures = [
      onGround(truth, [255, 255, 255]),
      placeOn(onGround(truth, [250, 240, 230]), 500, 400, 250, 200),
      onGround(drawMark(40, 30, disc(20, 15, 9), green), [255, 255, 255]),
    ];
    const first = pictures.map((p) => cut({ ...p }).picture.data);
    for (const k of [2, 1, 0, 0, 2, 1])
      expect(Buffer.compare(cut({ ...pictures[k] }).picture.data, first[k]), `picture ${k}`).toBe(0);
  });
  it('bears a picture in a fine dither, of which every second pixel is an area of its own', () => {
    const dithered = onGround(
      drawMark(900, 700, (x, y) => (x > 40 && y > 40 && x < 860 && y < 660 && (x + y) % 2 ? 1 : 0), green),
      [255, 255, 255],
    );
    const { picture } = cut(dithered);
    expect(pixel(picture, 0, 0)[3]).toBe(0);
    expect(pixel(picture, 401, 400)).toEqual([...green, 255]);
  }, 60_000);
  it('leaves no trace of the ground in edge colours', () => {
    const { picture } = cut(onGround(truth, [255, 255, 255]));
    for (let i = 0; i < picture.data.length; i += 4) {
      if (picture.data[i + 3] < 20) continue;
      for (let c = 0; c < 3; c++) expect(Math.abs(picture.data[i + c] - green[c])).toBeLessThanOrEqual(6);
    }
  });
  it('composited on the old ground, is the picture it came from', () => {
    const seen = onGround(truth, [244, 239, 228]);
    const back = onGround(cut(seen).picture, [244, 239, 228]);
    for (let i = 0; i < seen.data.length; i++) expect(Math.abs(back.data[i] - seen.data[i])).toBeLessThanOrEqual(4);
  });
  it('opens the inside of a ring and lists it', () => {
    const { picture, facts } = cut(onGround(drawMark(160, 160, ring(80, 80, 60, 44), green), [255, 255, 255]));
    expect(pixel(picture, 80, 80)[3]).toBe(0);
    expect(facts.areas).toHaveLength(1);
    expect(facts.areas[0]).toMatchObject({ decision: 'open' });
  });
  it('keeps a white of its own inside a mark on an off-white ground, and says that it is solid', () => {
    const mark = drawMark(200, 200, disc(100, 100, 70), green);
    for (let y = 0; y < 200; y++)
      for (let x = 0; x < 200; x++) if (disc(110, 90, 9)(x, y) > 0.5) mark.data.set([255, 255, 255], (y * 200 + x) * 4);
    const { picture, facts } = cut(onGround(mark, [236, 228, 210]));
    expect(pixel(picture, 110, 90)).toEqual([255, 255, 255, 255]);
    expect(facts.areas).toMatchObject([{ decision: 'solid', shape: { isPale: true } }]);
  });
  it('follows a person’s choice, named by a point, whatever the tolerance', () => {
    const picture = onGround(drawMark(160, 160, ring(80, 80, 60, 44), green), [255, 255, 255]);
    for (const tolerance of [6, 20, 50]) {
      const solid = cut(picture, { tolerance, anchors: [{ x: 80, y: 80, decision: 'solid' }] });
      expect(pixel(solid.picture, 80, 80)[3]).toBe(255);
      expect(solid.facts.areas[0]).toMatchObject({ isChosen: true, certainty: 1 });
    }
  });
  it('opens everything enclosed when asked to', () => {
    const mark = drawMark(120, 120, either(ring(60, 60, 50, 30), disc(60, 60, 12)), green);
    const { picture } = cut(onGround(mark, [255, 255, 255]), { enclosed: 'open' });
    expect(pixel(picture, 60, 38)[3]).toBe(0);
    expect(pixel(picture, 60, 60)[3]).toBe(255);
  });
  it('keeps a line thinner than a pixel at its true weight and colour', () => {
    const mark = drawMark(
      120,
      60,
      (x, y) => (y === 30 && x > 10 && x < 110 ? 0.5 : y > 40 && y < 50 && x > 10 && x < 110 ? 1 : 0),
      green,
    );
    const { picture } = cut(onGround(mark, [255, 255, 255]));
    const [r, g, b, a] = pixel(picture, 60, 30);
    expect(Math.abs(a - 128)).toBeLessThan(12);
    expect(Math.max(Math.abs(r - green[0]), Math.abs(g - green[1]), Math.abs(b - green[2]))).toBeLessThan(12);
  });
  it('says plainly when there is no flat ground', () => {
    const noise = onGround(truth, [255, 255, 255]);
    for (let i = 0; i < noise.data.length; i += 4) noise.data.set([(i * 7) % 256, (i * 13) % 251, (i * 29) % 241], i);
    expect(() => cut(noise)).toThrow(/of the border has one colour/);
  });

  describe('properties', () => {
    const mark = drawMark(90, 90, either(ring(45, 45, 36, 22), disc(45, 45, 10)), [180, 40, 50]);
    it('a wider border of ground changes nothing inside', () => {
      const small = onGround(mark, [255, 255, 255]);
      const wide = onGround(placeOnCanvas(mark, 150, 140, 30, 20), [255, 255, 255]);
      const a = cut(small, { tolerance: 20 }).picture;
      const b = cut(wide, { tolerance: 20 }).picture;
      for (let y = 0; y < 90; y++)
        for (let x = 0; x < 90; x++) expect(pixel(b, x + 30, y + 20)).toEqual(pixel(a, x, y));
    });
    it('swapping channels swaps the result', () => {
      fc.assert(
        fc.property(fc.constantFrom([0, 2, 1], [2, 1, 0], [1, 2, 0]), (order) => {
          const picture = onGround(mark, [240, 230, 220]);
          const swapped = { ...picture, data: picture.data.slice() };
          for (let i = 0; i < picture.data.length; i += 4)
            for (let c = 0; c < 3; c++) swapped.data[i + c] = picture.data[i + order[c]];
          const a = cut(picture).picture;
          const b = cut(swapped).picture;
          for (let i = 0; i < a.data.length; i += 4) {
            if (a.data[i + 3] === 0 && b.data[i + 3] === 0) continue;
            expect([...b.data.subarray(i, i + 4)]).toEqual([
              a.data[i + order[0]],
              a.data[i + order[1]],
              a.data[i + order[2]],
              a.data[i + 3],
            ]);
          }
        }),
        { numRuns: 3 },
      );
    });
    it('comes out the same on its own colour’s complement as on white', () => {
      const onComplement = cut(onGround(mark, [75, 215, 205])).picture;
      expect(alphaError(onComplement, mark)).toBeLessThan(0.002);
      expect(alphaError(cut(onGround(mark, [255, 255, 255])).picture, onComplement)).toBeLessThan(0.003);
    });
  });

  it('chokes and spreads to a tenth of a pixel', () => {
    const picture = onGround(truth, [255, 255, 255]);
    const area = (chokePx: number) =>
      cut(picture, { chokePx }).picture.data.reduce((s, v, i) => (i % 4 === 3 ? s + v / 255 : s), 0);
    const base = area(0);
    const ring1 = 2 * Math.PI * 50.3;
    expect((base - area(0.1)) / ring1).toBeGreaterThan(0.05);
    expect((base - area(0.1)) / ring1).toBeLessThan(0.2);
    expect((area(-1) - base) / ring1).toBeGreaterThan(0.7);
    expect(area(0.5)).toBeLessThan(area(0.3));
  });
  it('softness spreads the edge without moving it', () => {
    const soft = cut(onGround(truth, [255, 255, 255]), { softnessPx: 3 }).picture;
    const area = (r: Raster) => r.data.reduce((s, v, i) => (i % 4 === 3 ? s + v / 255 : s), 0);
    expect(area(soft) / area(truth)).toBeCloseTo(1, 2);
    expect(pixel(soft, 80, 80)[3]).toBe(255);
    expect(pixel(soft, 80 + 52, 80)[3]).toBeGreaterThan(20);
  });
});
