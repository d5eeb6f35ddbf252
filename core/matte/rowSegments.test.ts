import { describe, expect, it } from 'vitest';
import { CLEAR, DEEP, FIRST_AREA, MIXED, SEGMENT } from '../kernels/interface';
import { fillFrom } from '../../tests/support/kernels';
import { seededRandom } from '../seededRandom';
import { allMixed, findSegments, markMixed } from './rowSegments';
import { spreadGround } from './spreadGround';

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
    expect([...segments.state]).toEqual([
      CLEAR,
      CLEAR,
      CLEAR,
      CLEAR,
      DEEP,
      DEEP,
      CLEAR,
      CLEAR,
      MIXED,
      CLEAR,
      CLEAR,
      CLEAR,
      CLEAR,
      CLEAR,
      CLEAR,
      DEEP,
    ]);
  });
  it('make runs of one state that cover every pixel once', () => {
    const runs = Array.from({ length: segments.runs.length / 3 }, (_, k) => [
      ...segments.runs.subarray(k * 3, k * 3 + 3),
    ]);
    expect(runs.map(([state, from, to]) => [state, from % width, to - from])).toEqual([
      [CLEAR, 0, width],
      [DEEP, 0, 2 * SEGMENT],
      [CLEAR, 2 * SEGMENT, width - 2 * SEGMENT],
      [MIXED, 0, SEGMENT],
      [CLEAR, SEGMENT, width - SEGMENT],
      [CLEAR, 0, 3 * SEGMENT],
      [DEEP, 3 * SEGMENT, width - 3 * SEGMENT],
    ]);
    expect([...segments.rowStart]).toEqual([0, 3, 9, 15, 21]);
  });
  it('are mixed once a pixel of them is of another kind, and those of the original stay', () => {
    const marked = markMixed(segments, width, height, [Int32Array.of(2 * SEGMENT + 3), Int32Array.of(4 * width - 1)]);
    expect([marked.state[2], marked.state[15]]).toEqual([MIXED, MIXED]);
    expect([segments.state[2], segments.state[15]]).toEqual([CLEAR, DEEP]);
    expect([...marked.runs.subarray(0, 9)]).toEqual([
      CLEAR,
      0,
      2 * SEGMENT,
      MIXED,
      2 * SEGMENT,
      3 * SEGMENT,
      CLEAR,
      3 * SEGMENT,
      width,
    ]);
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
      const plain = allMixed(w, h);
      const fast = spreadGround(ground, segments, w, h, 10);
      const slow = spreadGround(ground, plain, w, h, 10);
      expect(fast).toEqual(slow);
      for (let i = 0, label = FIRST_AREA; i < fast.length; i++) {
        if (fast[i] !== 0 || ground[i] > 10) continue;
        expect(
          fillFrom(i, label, { distance: ground, labels: fast, width: w, height: h, tolerance: 10, segments }),
        ).toEqual(fillFrom(i, label, { distance: ground, labels: slow, width: w, height: h, tolerance: 10 }));
        label++;
      }
      expect(fast).toEqual(slow);
    }
  });
});
