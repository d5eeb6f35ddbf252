import { describe, expect, it } from 'vitest';
import { type Place, findGaps, placeBox } from './placement';

const ground = { width: 1920, height: 1080 };
const mark = { width: 400, height: 100 };
const place = (change: Partial<Place> = {}): Place => ({
  at: 'lower-right',
  inset: { value: 4, unit: 'pct' },
  size: { value: 18, unit: 'pct' },
  ...change,
});

describe('where a mark comes to lie', () => {
  it('its width is a share of the ground’s, its distance from the edges one of the shorter side', () => {
    // 18 % of 1920 is 345.6; 4 % of 1080 is 43.2.
    expect(placeBox(ground, mark, place())).toEqual({ x: 1920 - 43 - 346, y: 1080 - 43 - 87, width: 346, height: 87 });
  });
  it.each([
    ['upper-left', 10, 20 - 10],
    ['upper', 910, 10],
    ['left', 10, 527],
    ['centre', 910, 527],
    ['lower', 910, 1045],
  ] as const)('%s is named as a corner, a side or the middle', (at, x, y) =>
    expect(
      placeBox(ground, mark, place({ at, inset: { value: 10, unit: 'px' }, size: { value: 100, unit: 'px' } })),
    ).toEqual({
      ...{ x, y, width: 100, height: 25 },
    }),
  );
  it('at a point its middle is there, also where it then reaches beyond the ground', () =>
    expect(placeBox(ground, mark, place({ at: { x: 0, y: 40 }, size: { value: 200, unit: 'px' } }))).toEqual({
      ...{ x: -100, y: 15, width: 200, height: 50 },
    }));
  it('is made smaller where it would not lie within the inset', () =>
    expect(
      placeBox({ width: 300, height: 60 }, { width: 10, height: 10 }, place({ size: { value: 90, unit: 'pct' } }))
        .height,
    ).toBe(55));
});

it('gaps are pixels that nothing covers whole, in a rectangle', () => {
  const data = new Uint8Array(16 * 4).fill(255);
  for (const [x, y] of [
    [1, 1],
    [2, 1],
    [2, 3],
  ])
    data[(y * 4 + x) * 4 + 3] = x === 1 ? 254 : 0;
  expect(findGaps({ width: 4, height: 4, data })).toEqual({ px: 3, box: { x: 1, y: 1, width: 2, height: 3 } });
  expect(findGaps({ width: 1, height: 1, data: Uint8Array.from([0, 0, 0, 255]) })).toBeNull();
});
