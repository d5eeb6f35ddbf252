import fc from 'fast-check';
import { expect, it } from 'vitest';
import { layOutFile } from '../recipe/makeFile';
import { lengthOnPaper } from './physical';

const png = { id: 'png', params: {} };

it('a size on paper has the resolution that was asked for, whatever whole pixels make of its width', () => {
  const asked = fc.record({
    widthMm: fc.double({ min: 2, max: 400, noNaN: true }),
    ppi: fc.integer({ min: 30, max: 600 }),
  });
  fc.assert(
    fc.property(asked, fc.constantFrom('page', 'ink'), fc.constantFrom(0, 4), (own, edge, paddingPct) => {
      const size = { id: 'physical', params: { ...own, edge, paddingPct } };
      const layout = layOutFile({ width: 300, height: 200 }, { size, format: png });
      expect(layout.ppi).toBe(own.ppi);
      const shown = edge === 'page' || paddingPct === 0 ? layout.width : layout.mark.width;
      if (edge === 'page' || paddingPct === 0)
        expect(Math.abs(shown - Math.max(1, (own.widthMm / 25.4) * own.ppi))).toBeLessThanOrEqual(0.5);
    }),
  );
});

it('a length is told in the unit in which it is round', () => {
  expect([203.2, 50.8, 100, 90, 73.4, 6.35].map(lengthOnPaper)).toEqual([
    '8 in',
    '2 in',
    '100 mm',
    '90 mm',
    '73.4 mm',
    '0.25 in',
  ]);
});
