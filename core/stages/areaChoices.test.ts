import { describe, expect, it } from 'vitest';
import { alikeTo, areaAt, chooseAreas, groupOf, markedOf, nextUnsure, questionsOf, rowsOf } from './areaChoices';
import type { AreaFact } from './cutOutFacts';

const area = (number: number, change: Partial<AreaFact> = {}): AreaFact => ({
  number,
  x: number * 10,
  y: 5,
  areaPx: 100,
  bounds: { x: 0, y: 0, width: 1, height: 1 },
  decision: 'open',
  certainty: 0.9,
  isUnsure: false,
  isChosen: false,
  group: number,
  asks: null,
  isPale: false,
  ...change,
});

describe('choices of enclosed areas', () => {
  it('gathers a group, and what is alike by kind, decision and size', () => {
    const areas = [
      area(1, { group: 7 }),
      area(2, { group: 7, areaPx: 900 }),
      area(3, { areaPx: 190 }),
      area(4, { isPale: true }),
      area(5, { decision: 'solid' }),
    ];
    expect(groupOf(areas, areas[0]).map((a) => a.number)).toEqual([1, 2]);
    expect(alikeTo(areas, areas[0]).map((a) => a.number)).toEqual([1, 3]);
  });
  it('replaces an earlier choice at the same place and keeps the others', () => {
    const before = [
      { x: 10, y: 5, decision: 'solid' as const },
      { x: 70, y: 5, decision: 'solid' as const },
    ];
    expect(chooseAreas(before, [area(1), area(2)], 'open')).toEqual([
      { x: 70, y: 5, decision: 'solid' },
      { x: 10, y: 5, decision: 'open' },
      { x: 20, y: 5, decision: 'open' },
    ]);
  });
  it('knows which area a press on the picture means', () => {
    const outer = area(1, { bounds: { x: 0, y: 0, width: 100, height: 100 } });
    const inner = area(2, { bounds: { x: 40, y: 40, width: 20, height: 20 } });
    const at = (x: number, y: number, seen: readonly [number, number, number] = [250, 250, 250]) =>
      areaAt([outer, inner], { x, y }, seen, [255, 255, 255], 12)?.number ?? null;
    expect([at(50, 50), at(10, 10), at(150, 10)]).toEqual([2, 1, null]);
    expect(at(50, 50, [40, 90, 70]), 'on the mark itself').toBeNull();
  });
  it('goes from one unsure area to the next and round again', () => {
    const areas = [area(1, { isUnsure: true }), area(2), area(3, { isUnsure: true })];
    expect(nextUnsure(areas, null)?.number).toBe(1);
    expect(nextUnsure(areas, 1)?.number).toBe(3);
    expect(nextUnsure(areas, 3)?.number).toBe(1);
    expect(nextUnsure([area(2)], null)).toBeNull();
  });
  it('asks once for what belongs together, and marks it once on the picture until it is answered apart', () => {
    const of = (n: number, change: Partial<AreaFact> = {}) =>
      area(n, { group: 7, asks: 'figure', isUnsure: true, decision: 'solid', ...change });
    const areas = [of(1), of(2), area(3, { isUnsure: true, asks: 'area' }), of(4), area(5)];
    expect(questionsOf(areas).map((q) => q.map((a) => a.number))).toEqual([[1, 2, 4], [3]]);
    expect(nextUnsure(areas, 1)?.number, 'past the rest of its own question').toBe(3);
    expect(rowsOf(areas).map((r) => r.areas.length)).toEqual([3, 1, 1]);
    expect(markedOf(areas).map((r) => r.lead.number)).toEqual([1, 3]);
    const one = { isUnsure: false, isChosen: true, asks: null };
    const answered = [of(1, one), of(2, { ...one, decision: 'open' }), of(4, one)];
    expect(markedOf(answered).map((r) => r.areas.map((a) => a.number))).toEqual([[1, 4], [2]]);
  });
  it('lists unsure areas of their own first, sure ones that are alike as one row, and each area once', () => {
    const areas = [
      area(1),
      area(2, { isUnsure: true }),
      area(3),
      area(4, { decision: 'solid' }),
      area(5, { areaPx: 9000 }),
    ];
    const rows = rowsOf(areas);
    expect(rows.map((r) => r.areas.map((a) => a.number))).toEqual([[2], [1, 3], [4], [5]]);
    expect(rows.map((r) => r.lead.number)).toEqual([2, 1, 4, 5]);
  });
});
