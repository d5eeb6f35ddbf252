import { expect, it } from 'vitest';
import { surrounds } from '../surrounds';
import { partOf } from './recipe';
import { thinParts } from './thinParts';

it('lines of a mark and round it are told with the width from which on they are wide enough', () => {
  const variant = {
    surrounds: [
      partOf(surrounds, 'rim', { width: 2, unit: 'pct' }),
      partOf(surrounds, 'frameLine', { weight: 1, unit: 'px' }),
      partOf(surrounds, 'plate'),
    ],
  };
  expect(thinParts(variant, { thinnestPx: 6, gapPx: 3, width: 600, height: 400 })).toEqual(
    [
      { name: 'Frame line', widthPx: 1, leastMarkPx: 900 },
      { name: 'Rim', widthPx: 8, leastMarkPx: 113 },
      { name: 'Thinnest line', widthPx: 6, leastMarkPx: 150 },
      { name: 'Narrowest gap', widthPx: 3, leastMarkPx: 300 },
    ]
      .sort((a, b) => b.leastMarkPx - a.leastMarkPx)
      // A quarter of a point is 0.0882 mm.
      .map((line) => ({ ...line, leastMarkMm: expect.closeTo((0.088194 * 600) / line.widthPx, 3) })),
  );
  expect(thinParts({ surrounds: [] }, { thinnestPx: null, gapPx: null, width: 600, height: 400 })).toEqual([]);
});
