import { describe, expect, it } from 'vitest';
import { seededRandom } from '../seededRandom';
import { CLEAR, DEEP, MIXED, SEGMENT, eachMixed, eachRun, findSegments, isCalmBelow, markMixed } from './rowSegments';
import { FIRST_AREA, fillFrom, spreadGround } from './spreadGround';

const width = 3 * SEGMENT + 9;
const height = 4;
const plane = new Uint8Array(width * height);
plane.fill(200, width, width + 2 * SEGMENT); // row 1: two deep segments
plane[2 * width + 5] = 1; // row 2: one weak pixel
plane.fill(90, 3 * width + 3 * SEGMENT, 4 * width); // row 3: a short last segment, deep

describe('segments of rows', () => {
  const segments = findSegments(plane, width, height, 80);
  it('are clear, mixed or deep, the short last one as well', () => {
    expect(segments.columns).toBe(4);
    expect([...segments.state]).toEqual([CLEAR, CLEAR, CLEAR, CLEAR, DEEP, DEEP, CLEAR, CLEAR, MIXED, CLEAR, CLEAR, CLEAR, CLEAR, CLEAR, CLEAR, DEEP]);
  });
  it('are visited as runs of one state that cover every pixel once', () => {
    const runs: number[][] = [];
    eachRun(segments, width, height, (state, from, to, y) => runs.push([state, from - y * width, to - y * width, y]));
    expect(runs).toEqual([
      [CLEAR, 0, width, 0], [DEEP, 0, 2 * SEGMENT, 1], [CLEAR, 2 * SEGMENT, width, 1], [MIXED, 0, SEGMENT, 2], [CLEAR, SEGMENT, width, 2],
      [CLEAR, 0, 3 * SEGMENT, 3], [DEEP, 3 * SEGMENT, width, 3],
    ]);
    const mixed: number[] = [];
    eachMixed(segments, width, height, (from, to) => mixed.push(from, to));
    expect(mixed).toEqual([2 * width, 2 * width + SEGMENT]);
  });
  it('say where no edge can run, until a pixel of them is of another kind', () => {
    const own = findSegments(plane, width, height, 80);
    expect(isCalmBelow(own, 2, 0)).toBe(true);
    expect(isCalmBelow(own, 0, 0)).toBe(false);
    markMixed(own, width, [2 * SEGMENT + 3]);
    expect(isCalmBelow(own, 2, 0)).toBe(false);
  });
});

describe('filling over whole clear segments', () => {
  it('reaches exactly what filling pixel by pixel reaches', () => {
    const random = seededRandom(5);
    for (let round = 0; round < 12; round++) {
      const w = 40 + Math.floor(random() * 120);
      const h = 30;
      const ground = new Uint8Array(w * h);
      for (let k = 0; k < 26; k++) {
        const [x, y, long] = [Math.floor(random() * w), Math.floor(random() * h), Math.floor(random() * 50)];
        const isTall = random() < 0.5;
        for (let t = 0; t < long; t++) {
          const [px, py] = isTall ? [x, y + t] : [x + t, y];
          if (px < w && py < h) ground[py * w + px] = random() < 0.9 ? 120 : 8;
        }
      }
      const segments = findSegments(ground, w, h, 72);
      const plain = { columns: segments.columns, state: new Uint8Array(segments.state.length).fill(MIXED) };
      const fast = spreadGround(ground, segments, w, h, 10);
      const slow = spreadGround(ground, plain, w, h, 10);
      expect(fast).toEqual(slow);
      for (let i = 0, label = FIRST_AREA; i < fast.length; i++) {
        if (fast[i] !== 0 || ground[i] > 10) continue;
        const boxes: [number, number, number, number][] = [[w, h, 0, 0], [w, h, 0, 0]];
        const counts = [fillFrom(i, ground, fast, w, h, 10, label, [], boxes[0], segments), fillFrom(i, ground, slow, w, h, 10, label, [], boxes[1])];
        expect(counts[0]).toBe(counts[1]);
        expect(boxes[0]).toEqual(boxes[1]);
        label++;
      }
      expect(fast).toEqual(slow);
    }
  });
});
