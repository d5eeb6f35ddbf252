import { describe, expect, it } from 'vitest';
import { disc, drawMark } from '../../tests/support/pictures';
import { auditLogo, isSameMark } from './auditLogo';
import { levelWall } from './levelWall';
import { measureOptics } from './opticalSize';
import { measureSharpness } from './sharpness';
import { resizeRaster } from '../raster/resize';

const bar = (w: number, h: number, width = w, height = h) =>
  drawMark(width, height, (x, y) => (x < w && y < h ? 1 : 0), [30, 60, 90]);

describe('optical size', () => {
  it('of a filled square is its side, of a long bar that of a square as large', () => {
    expect(measureOptics(bar(80, 80)).size).toBeCloseTo(80, 1);
    expect(measureOptics(bar(160, 40)).size).toBeCloseTo(80, 1);
  });
  it('counts ink and spread alike: a ring looks smaller than a disc, larger than its ink alone', () => {
    const ring = drawMark(200, 200, (x, y) => disc(100, 100, 90)(x, y) - disc(100, 100, 76)(x, y), [0, 0, 0]);
    const whole = measureOptics(drawMark(200, 200, disc(100, 100, 90), [0, 0, 0])).size;
    const ink = Math.sqrt(Math.PI * (90 * 90 - 76 * 76));
    expect(measureOptics(ring).size).toBeLessThan(whole);
    expect(measureOptics(ring).size).toBeGreaterThan(ink * 1.2);
  });
  it('lies where the ink lies, and of nothing is nothing', () => {
    expect(measureOptics(bar(40, 40, 200, 100)).middle).toEqual({ x: 20, y: 20 });
    expect(measureOptics(bar(0, 0, 20, 20)).size).toBe(0);
  });
});

describe('levelling', () => {
  const marks = [bar(100, 100), bar(300, 40), bar(60, 90)].map((m) => ({
    width: m.width,
    height: m.height,
    optics: measureOptics(m),
  }));
  const slot = { width: 360, height: 180, padding: 18 };
  const spread = (list: number[]) => Math.max(...list) / Math.min(...list);
  it('at 0 each fills its box, at 1 all look alike, between the two in between, and none leaves its box', () => {
    const [none, half, full] = [0, 0.5, 1].map((level) => levelWall(marks, slot, level));
    expect(none.map((s, k) => Math.max(s.scale * marks[k].width - 324, s.scale * marks[k].height - 144))).toEqual(
      marks.map(() => expect.closeTo(0, 6)),
    );
    const sizes = (list: typeof none) => list.map((s) => s.opticalSizeAfter);
    expect(spread(sizes(full))).toBeLessThan(1.05);
    expect(spread(sizes(half))).toBeLessThan(spread(sizes(none)));
    expect(spread(sizes(half))).toBeGreaterThan(spread(sizes(full)));
    for (const [k, s] of full.entries()) {
      expect(s.x).toBeGreaterThanOrEqual(18);
      expect(s.x + s.scale * marks[k].width).toBeLessThanOrEqual(342.001);
      expect(s.opticalSizeBefore).toBeCloseTo(none[k].opticalSizeAfter, 6);
    }
  });
});

describe('the audit', () => {
  const look = { room: { width: 90, height: 90 }, ground: [255, 255, 255] as const, isDrawn: false };
  const sound = drawMark(200, 200, disc(100, 100, 99), [30, 60, 90]);
  it('finds nothing wrong with a sound mark, and knows its copy', () => {
    expect(auditLogo(sound, look).problems).toEqual([]);
    expect(isSameMark(sound, resizeRaster(sound, 150, 150))).toBe(true);
    expect(isSameMark(sound, bar(200, 200))).toBe(false);
  });
  it('too few pixels for the slot, a ground as pale as the mark, and an empty rim are told', () => {
    expect(auditLogo(sound, { ...look, room: { width: 400, height: 400 } }).problems).toEqual(['enlarged']);
    expect(auditLogo(sound, { ...look, ground: [40, 66, 92] }).problems).toEqual(['lost']);
    const small = drawMark(300, 300, disc(150, 150, 90), [30, 60, 90]);
    expect(auditLogo(small, look).problems).toEqual(['margins']);
  });
  it('sees which way a picture was stretched', () => {
    const wide = resizeRaster(sound, 480, 200);
    const { alongRows, downColumns } = measureSharpness(wide);
    expect(downColumns).toBeGreaterThan(alongRows * 1.38);
    expect(auditLogo(wide, look).problems).toContain('stretched');
  });
});
