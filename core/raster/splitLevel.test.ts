import { expect, it } from 'vitest';
import { splitLevel } from './splitLevel';

const counts = (entries: Record<number, number>) => Float64Array.from({ length: 256 }, (_, v) => entries[v] ?? 0);

it('parts two heaps between them, and tells how far apart their means are', () => {
  const { level, step } = splitLevel(counts({ 20: 300, 30: 300, 200: 900 }));
  expect(level).toBeGreaterThanOrEqual(30);
  expect(level).toBeLessThan(200);
  expect(step).toBeCloseTo(175, 6);
});
it('finds no step where all is one level', () => expect(splitLevel(counts({ 77: 10 })).step).toBe(0));
