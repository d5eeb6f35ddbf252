import { describe, expect, it } from 'vitest';
import { disc, drawMark } from '../../tests/support/pictures';
import { auditLogo } from './auditLogo';
import { copiesAmong, isSameMark, lookOfMark } from './copies';
import { levelWall } from './levelWall';
import { measureOptics } from './opticalSize';
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

describe('one odd logo among others', () => {
  it('does not make all others small, and leaves under a third of the spread', () => {
    const sizes = [100, 110, 120, 130, 140, 30, 150, 160];
    const odd = sizes.map((size) => ({ width: 100, height: 100, optics: { size, middle: { x: 50, y: 50 } } }));
    const placed = levelWall(odd, { width: 100, height: 100, padding: 0 }, 1);
    const spread = (list: number[]) => {
      const mean = list.reduce((a, b) => a + b) / list.length;
      return Math.sqrt(list.reduce((s, v) => s + (v - mean) ** 2, 0) / list.length) / mean;
    };
    const after = placed.map((p) => p.opticalSizeAfter);
    expect(spread(after)).toBeLessThan(spread(sizes) / 3);
    expect(Math.max(...after)).toBeGreaterThan(30);
  });
  it('as a file that stays as it came fills its slot, and no other is levelled by it', () => {
    const [a, b] = [100, 40].map((size) => ({ width: 100, height: 100, optics: { size, middle: { x: 50, y: 50 } } }));
    const slot = { width: 100, height: 100, padding: 0 };
    const [first, second] = levelWall([a, { ...b, isAsItCame: true }], slot, 1);
    expect([first.scale, second.scale]).toEqual([1, 1]);
  });
});

describe('the audit', () => {
  const order = { room: { width: 90, height: 90 }, ground: [255, 255, 255] as const, isDrawn: false };
  const sound = drawMark(200, 200, disc(100, 100, 99), [30, 60, 90]);
  it('finds nothing wrong with a sound mark, and knows its copy', () => {
    expect(auditLogo(sound, order).problems).toEqual([]);
    const look = lookOfMark(sound);
    expect(isSameMark(look, lookOfMark(resizeRaster(sound, 150, 150)))).toBe(true);
    expect(isSameMark(look, lookOfMark(bar(200, 200)))).toBe(false);
  });
  it('of several copies the best stays, whichever comes first', () => {
    const entry = (file: string, side: number, change: object = {}) => ({
      ...{
        file,
        look: lookOfMark(side === 200 ? sound : resizeRaster(sound, side, side)),
        isDrawn: false,
        problems: 0,
      },
      ...change,
    });
    /** The first is the copy, in whichever order they come. */
    const isCopyOf = (copy: ReturnType<typeof entry>, best: ReturnType<typeof entry>) => {
      expect(copiesAmong([copy, best])).toEqual([true, false]);
      expect(copiesAmong([best, copy])).toEqual([false, true]);
    };
    isCopyOf(entry('a.png', 150), entry('b.png', 200));
    // Blown up it has more pixels and shows no more.
    isCopyOf(entry('a.png', 300), entry('b.png', 200));
    isCopyOf(entry('m-2.png', 200), entry('m.png', 200));
    isCopyOf(entry('a.png', 200, { problems: 1 }), entry('b.png', 150));
    isCopyOf(entry('b.png', 200), entry('a.svg', 150, { isDrawn: true }));
    expect(copiesAmong([entry('a.png', 200), entry('b.png', 200), entry('c.png', 150)])).toEqual([false, true, true]);
    const other = { ...entry('d.png', 200), look: lookOfMark(bar(200, 60)) };
    expect(copiesAmong([entry('a.png', 200), other])).toEqual([false, false]);
    expect(copiesAmong([entry('a.png', 200, { key: 'x' }), { ...other, key: 'x' }]).sort()).toEqual([false, true]);
  });
  it('too few pixels for the slot, a ground as pale as the mark, and an empty rim are told', () => {
    expect(auditLogo(sound, { ...order, room: { width: 400, height: 400 } }).problems).toEqual(['enlarged']);
    expect(auditLogo(sound, { ...order, ground: [40, 66, 92] }).problems).toEqual(['lost']);
    const small = drawMark(300, 300, disc(150, 150, 90), [30, 60, 90]);
    expect(auditLogo(small, order).problems).toEqual(['margins']);
  });
  it('sees which way a picture was stretched, and about how far', () => {
    const wide = resizeRaster(sound, 400, 200);
    const [across, down] = [auditLogo(wide, order), auditLogo(resizeRaster(sound, 200, 400), order)];
    expect(across.problems).toContain('stretched');
    expect(Math.abs(across.stretch - 2)).toBeLessThan(0.6);
    expect(down.problems).toContain('stretched');
    expect(down.stretch).toBeCloseTo(1 / across.stretch, 1);
    // Bars that lie on the grid say nothing of it.
    expect(auditLogo(bar(200, 60), order).stretch).toBe(1);
  });
});
