import { describe, expect, it } from 'vitest';
import { alikeTo, chooseAreas, groupOf, nextUnsure } from './areaChoices';
import type { AreaFact } from './cutOutFacts';

const area = (number: number, change: Partial<AreaFact> = {}): AreaFact => ({
  number, x: number * 10, y: 5, areaPx: 100, bounds: { x: 0, y: 0, width: 1, height: 1 }, decision: 'open', certainty: 0.9, isUnsure: false, isChosen: false, group: number, isPale: false, ...change,
});

describe('choices of enclosed areas', () => {
  it('gathers a group, and what is alike by kind, decision and size', () => {
    const areas = [area(1, { group: 7 }), area(2, { group: 7, areaPx: 900 }), area(3, { areaPx: 190 }), area(4, { isPale: true }), area(5, { decision: 'solid' })];
    expect(groupOf(areas, areas[0]).map((a) => a.number)).toEqual([1, 2]);
    expect(alikeTo(areas, areas[0]).map((a) => a.number)).toEqual([1, 3]);
  });
  it('replaces an earlier choice at the same place and keeps the others', () => {
    const before = [{ x: 10, y: 5, decision: 'solid' as const }, { x: 70, y: 5, decision: 'solid' as const }];
    expect(chooseAreas(before, [area(1), area(2)], 'open')).toEqual([{ x: 70, y: 5, decision: 'solid' }, { x: 10, y: 5, decision: 'open' }, { x: 20, y: 5, decision: 'open' }]);
  });
  it('goes from one unsure area to the next and round again', () => {
    const areas = [area(1, { isUnsure: true }), area(2), area(3, { isUnsure: true })];
    expect(nextUnsure(areas, null)?.number).toBe(1);
    expect(nextUnsure(areas, 1)?.number).toBe(3);
    expect(nextUnsure(areas, 3)?.number).toBe(1);
    expect(nextUnsure([area(2)], null)).toBeNull();
  });
});
