import { describe, expect, it } from 'vitest';
import { seededRandom } from '../seededRandom';
import { boxMean, boxSum, meanOfNine } from './boxMean';
import { closing, dilate, withoutLines } from './morphology';

const [width, height] = [23, 17];
const random = seededRandom(4);
const plane = Float32Array.from({ length: width * height }, () => Math.floor(random() * 200));
const around = (x: number, y: number, r: number): number[] => {
  const out: number[] = [];
  for (let py = Math.max(0, y - r); py <= Math.min(height - 1, y + r); py++)
    for (let px = Math.max(0, x - r); px <= Math.min(width - 1, x + r); px++) out.push(plane[py * width + px]);
  return out;
};
const each = (check: (x: number, y: number, i: number) => void) => {
  for (let i = 0; i < plane.length; i++) check(i % width, Math.floor(i / width), i);
};

describe('sums and means over squares', () => {
  it.each([0, 1, 4, 30])('agree with adding up one by one, radius %d', (r) => {
    const [sum, mean] = [boxSum(plane, width, height, r), boxMean(plane, width, height, r)];
    each((x, y, i) => {
      const list = around(x, y, r);
      const total = list.reduce((a, b) => a + b, 0);
      expect(sum[i]).toBeCloseTo(total, 2);
      expect(mean[i]).toBeCloseTo(total / list.length, 3);
    });
  });
  it('of nine agree inside and leave the rim as it is', () => {
    const mean = meanOfNine(plane, width, height);
    each((x, y, i) => {
      const isRim = x === 0 || y === 0 || x === width - 1 || y === height - 1;
      expect(mean[i]).toBeCloseTo(isRim ? plane[i] : around(x, y, 1).reduce((a, b) => a + b, 0) / 9, 3);
    });
  });
});

describe('dilate', () => {
  it.each([0, 1, 3])('marks exactly what lies within the square, radius %d', (r) => {
    const mask = Uint8Array.from(plane, (v) => (v > 185 ? 1 : 0));
    const grown = dilate(mask, width, height, r);
    each((x, y, i) => expect(grown[i]).toBe(around(x, y, r).some((v) => v > 185) ? 1 : 0));
  });
});

describe('closing', () => {
  it('takes out a dark line narrower than its square and leaves the edge of a shadow where it is', () => {
    const sheet = Float32Array.from({ length: 40 * 20 }, (_, i) => (i % 40 >= 25 ? 120 : i % 40 === 10 ? 30 : 220));
    const closed = closing(sheet, 40, 20, 3);
    for (let y = 0; y < 20; y++) for (let x = 0; x < 40; x++) expect(closed[y * 40 + x]).toBe(x >= 25 ? 120 : 220);
  });
  it('never darkens, and closed twice is closed once', () => {
    const once = closing(plane, width, height, 2);
    each((_x, _y, i) => expect(once[i]).toBeGreaterThanOrEqual(plane[i]));
    expect(closing(once, width, height, 2)).toEqual(once);
  });
});

it('a mask loses single pixels and lines, and keeps squares as they are', () => {
  const rows = ['#......#', '..##....', '..##.###', '..##....', '#######.'];
  const mask = Uint8Array.from(rows.join(''), (c) => (c === '#' ? 1 : 0));
  const kept = withoutLines(mask, 8, 5);
  const shown = rows.map((_, y) => [...kept.subarray(y * 8, y * 8 + 8)].map((v) => '.#'[v]).join(''));
  expect(shown).toEqual(['........', '..##....', '..##....', '..##....', '..##....']);
});
