import { describe, expect, it } from 'vitest';
import { plainCapture, simulateCapture } from '../capture/simulateCapture';
import { rgbFromHex } from '../colour/hex';
import { createRaster } from '../raster/raster';
import { cutOutInk, plainInk } from './cutOutInk';
import { alphaError, archLine, blueInk, drawStrokes, photographSheet } from './testSheet';

const visible = (data: Uint8Array) => data.filter((_, i) => i % 4 === 3).reduce((n, a) => n + (a > 127 ? 1 : 0), 0);

describe('cutOutInk', () => {
  it('takes ink off plain paper in its own colour with its own coverage', () => {
    const { picture, truth } = photographSheet();
    const { picture: result, facts } = cutOutInk(picture, plainInk);
    expect(alphaError(result, truth)).toBeLessThan(0.05);
    rgbFromHex(facts.inkHex).forEach((v, c) => expect(Math.abs(v - blueInk[c])).toBeLessThan(12));
    expect(facts.marks).toHaveLength(3);
  });

  it('is not misled by light that falls off, a shadow edge and camera noise', () => {
    const { picture, truth } = photographSheet({
      falloff: 0.45,
      shadow: 0.35,
      shadowEdgePx: 12,
      noise: 4,
      lightColour: [1, 0.95, 0.86],
    });
    const { picture: result, facts } = cutOutInk(picture, plainInk);
    expect(alphaError(result, truth)).toBeLessThan(0.09);
    expect(facts.marks).toHaveLength(3);
    // Bare paper on both sides of the shadow's edge is wholly clear.
    for (const [x, y] of [
      [20, 20],
      [600, 30],
      [300, 330],
      [620, 440],
    ])
      expect(result.data[(y * 640 + x) * 4 + 3]).toBe(0);
  });

  it('takes printed lines out without cutting the strokes that cross them, and leaves them when asked', () => {
    const lines = { lines: 'ruled' as const, lineSpacingPx: 34, lineWidthPx: 2, lineAngleDeg: 1.2 };
    const { picture, truth } = photographSheet({ ...lines, noise: 2 });
    const off = cutOutInk(picture, plainInk);
    expect(off.facts.lineCount).toBeGreaterThan(8);
    expect(alphaError(off.picture, truth)).toBeLessThan(0.1);
    let lost = 0;
    for (let i = 3; i < truth.data.length; i += 4) if (truth.data[i] > 200 && off.picture.data[i] < 100) lost++;
    expect(lost).toBeLessThan(visible(truth.data) * 0.01);
    const kept = cutOutInk(picture, { ...plainInk, keepLines: true });
    expect(kept.facts.lineCount).toBe(0);
  });

  it('keeps one mark of the sheet by a point and clears the others', () => {
    const { picture } = photographSheet();
    const { facts } = cutOutInk(picture, plainInk);
    const wanted = facts.marks[1].box;
    const { picture: one } = cutOutInk(picture, {
      ...plainInk,
      at: { x: wanted.x + wanted.width / 2, y: wanted.y + wanted.height / 2 },
    });
    let outside = 0;
    for (let y = 0; y < one.height; y++)
      for (let x = 0; x < one.width; x++) {
        const isIn =
          x >= wanted.x - 4 && x < wanted.x + wanted.width + 4 && y >= wanted.y - 4 && y < wanted.y + wanted.height + 4;
        if (!isIn && one.data[(y * one.width + x) * 4 + 3] > 0) outside++;
      }
    expect(outside).toBe(0);
    expect(visible(one.data)).toBeGreaterThan(500);
  });

  it('tells where the pen went from how much ink it left', () => {
    const pale = drawStrokes(420, 260, [archLine(50, 170, 8, 40, 90)], blueInk, 8);
    for (let i = 3; i < pale.data.length; i += 4)
      if ((i >> 2) % 420 > 210) pale.data[i] = Math.round(pale.data[i] * 0.5);
    const { picture } = simulateCapture(pale, { ...plainCapture, blurPx: 0.5 });
    const strongest = (r: { data: Uint8Array }, from: number, to: number) => {
      let most = 0;
      for (let y = 0; y < 260; y++)
        for (let x = from; x < to; x++) most = Math.max(most, r.data[(y * 420 + x) * 4 + 3]);
      return most;
    };
    const { picture: pressure, ink } = cutOutInk(picture, plainInk);
    expect(strongest(pressure, 60, 200)).toBeGreaterThan(235);
    expect(Math.abs(strongest(pressure, 240, 360) - 128)).toBeLessThan(24);
    // The pale half is covered as wholly, and holds half the ink.
    const coverage = { data: pressure.data.map((v, i) => (i % 4 === 3 ? ink.coverage[i >> 2] : v)) };
    const density = { data: pressure.data.map((v, i) => (i % 4 === 3 ? ink.density[i >> 2] : v)) };
    expect([strongest(coverage, 60, 200), strongest(coverage, 240, 360)]).toEqual([255, 255]);
    expect(Math.abs(strongest(density, 240, 360) / strongest(density, 60, 200) - 0.5)).toBeLessThan(0.1);
  });

  it('makes strokes heavier and thinner by the weight', () => {
    const { picture } = photographSheet();
    const own = visible(cutOutInk(picture, plainInk).picture.data);
    expect(visible(cutOutInk(picture, { ...plainInk, weightPx: 1 }).picture.data)).toBeGreaterThan(own * 1.1);
    expect(visible(cutOutInk(picture, { ...plainInk, weightPx: -1 }).picture.data)).toBeLessThan(own * 0.9);
  });

  it('starts in the steady range, where a little more or less changes nearly nothing', () => {
    const { picture } = photographSheet({ noise: 3 });
    const { facts, picture: own } = cutOutInk(picture, plainInk);
    const { steadyFrom, steadyTo, start } = facts.study;
    expect(start).toBeGreaterThanOrEqual(steadyFrom);
    expect(start).toBeLessThanOrEqual(steadyTo);
    const near = cutOutInk(picture, { ...plainInk, level: start * 1.15 }).picture;
    expect(Math.abs(visible(near.data) - visible(own.data))).toBeLessThan(visible(own.data) * 0.01);
  });

  it('drops specks far from the writing and says where they were', () => {
    const ink = drawStrokes(
      640,
      460,
      [
        archLine(60, 110, 7, 40, 60),
        [
          [560, 400],
          [561, 400],
        ],
      ],
      blueInk,
      6,
    );
    for (const [x, y] of [
      [600, 60],
      [420, 420],
    ])
      ink.data.set([40, 40, 40, 255, 40, 40, 40, 255], (y * 640 + x) * 4);
    const { picture } = simulateCapture(ink, { ...plainCapture, blurPx: 0.6 });
    const { picture: result, facts } = cutOutInk(picture, plainInk);
    expect(result.data[(60 * 640 + 600) * 4 + 3]).toBe(0);
    expect(facts.marks).toHaveLength(1);
  });

  it('puts the chosen ink colour into every pixel', () => {
    const { picture } = photographSheet();
    const { picture: result } = cutOutInk(picture, { ...plainInk, colour: [200, 30, 40] });
    for (let i = 0; i < result.data.length; i += 4)
      if (result.data[i + 3]) expect([...result.data.subarray(i, i + 3)]).toEqual([200, 30, 40]);
  });

  it('says so when there is no ink', () => {
    const { picture } = simulateCapture(createRaster(300, 200), { ...plainCapture, noise: 2, texture: 3 });
    expect(() => cutOutInk(picture, plainInk)).toThrowError(expect.objectContaining({ code: 'cutout/no-ink' }));
  });

  it('gives the same bytes twice and leaves its input alone', () => {
    const { picture } = photographSheet({ noise: 4, falloff: 0.3 });
    const before = picture.data.slice();
    const first = cutOutInk(picture, plainInk).picture;
    const again = cutOutInk({ ...picture }, plainInk).picture;
    expect(picture.data.every((v, i) => v === before[i])).toBe(true);
    expect(again.data.every((v, i) => v === first.data[i])).toBe(true);
  });
});

describe('the turn of each mark', () => {
  it.each([-12, -4, 0, 7])('is measured for writing turned by %d degrees', (angle) => {
    const { picture } = photographSheet({ noise: 2 }, angle);
    const { facts } = cutOutInk(picture, plainInk);
    expect(facts.marks.length).toBe(3);
    for (const m of facts.marks) expect(Math.abs(m.angleDeg - angle)).toBeLessThan(1.6);
  });
});
