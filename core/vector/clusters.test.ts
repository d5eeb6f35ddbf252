import { describe, expect, it } from 'vitest';
import { findClusters } from './clusters';

const box = (x: number, y: number, width = 40, height = 40) => ({ x, y, width, height });
const sheet = { width: 400, height: 300 };

describe('pictures of a sheet', () => {
  it('are told apart by their gaps, though each has several parts, in rows from the top left', () => {
    const parts = [0, 1, 2].flatMap((row) =>
      [0, 1, 2, 3].flatMap((col) => {
        const [x, y] = [col * 100 + 20, row * 100 + 20];
        return [box(x, y, 50, 20), box(x + 4, y + 23, 20, 30), box(x + 28, y + 24, 20, 30)];
      }),
    );
    const shuffled = parts.map((_, k) => parts[(k * 7) % parts.length]);
    const found = findClusters(shuffled, sheet);
    expect(found).toHaveLength(12);
    expect(found.map((c) => c.members.length)).toEqual(Array(12).fill(3));
    expect(found.slice(0, 5).map((c) => [c.box.x, c.box.y])).toEqual([
      [20, 20],
      [120, 20],
      [220, 20],
      [320, 20],
      [20, 120],
    ]);
  });
  it('stand in uneven rows too', () => {
    const found = findClusters([box(10, 10), box(80, 22), box(170, 4), box(40, 120, 90, 60), box(220, 130)], sheet);
    expect(found.map((c) => c.members)).toEqual([[0], [1], [2], [3], [4]]);
  });
  it('do not hold what lies behind all of them', () => {
    const found = findClusters([box(0, 0, 400, 300), box(30, 30), box(200, 40)], sheet);
    expect(found.map((c) => c.members)).toEqual([[1], [2]]);
  });
  it('are parted or joined by a gap that is set by hand', () => {
    const boxes = [box(10, 10), box(55, 10), box(150, 10)];
    expect(findClusters(boxes, sheet, 0.01).map((c) => c.members)).toEqual([[0], [1], [2]]);
    expect(findClusters(boxes, sheet, 0.02).map((c) => c.members)).toEqual([[0, 1], [2]]);
    expect(findClusters(boxes, sheet, 0.16)).toHaveLength(1);
  });
  it('are one where parts touch or lie within one another', () => {
    expect(findClusters([box(10, 10, 100, 100), box(20, 20), box(108, 60)], sheet)).toHaveLength(1);
    expect(findClusters([box(0, 0, 400, 300)], sheet)).toHaveLength(1);
  });
});
