import { describe, expect, it } from 'vitest';
import type { PieceFact } from '../stages/tidyFacts';
import { colourGroups } from './colourGroups';

const piece = (areaPx: number, colour: string | null): PieceFact => ({
  x: areaPx,
  y: 0,
  areaPx,
  peak: 1,
  colour,
  box: { x: 0, y: 0, width: 1, height: 1 },
  distancePx: 0,
  treatment: 'kept',
  dropped: false,
});

describe('colourGroups', () => {
  it('puts together what a hand would call one colour, the largest area first', () => {
    const groups = colourGroups([
      piece(40, '#a03020'),
      piece(900, '#1f5a45'),
      piece(30, '#a53524'),
      piece(20, '#9a2f25'),
      piece(10, '#235f49'),
    ]);
    expect(groups.map((g) => [g.hex, g.pieces.map((p) => p.areaPx), g.areaPx])).toEqual([
      ['#1f5a45', [900, 10], 910],
      ['#a03020', [40, 30, 20], 90],
    ]);
  });
  it('leaves out what has no single colour, and tells black from a dark blue', () => {
    expect(colourGroups([piece(5, null)])).toEqual([]);
    expect(colourGroups([piece(5, '#101010'), piece(4, '#102050')])).toHaveLength(2);
  });
});
