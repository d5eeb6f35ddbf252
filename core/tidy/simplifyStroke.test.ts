import { expect, it } from 'vitest';
import { fromMatrix } from '../geometry/projective';
import { coverStroke } from './coverage';
import { type BrushEdit, isEdit } from './edits';
import { simplifyStroke } from './simplifyStroke';

const wave = (n: number): BrushEdit => ({
  kind: 'rub',
  size: 24,
  hardness: 1,
  points: Array.from({ length: n }, (_, k) => [
    k * 0.7 + 20,
    80 + Math.sin(k / 40) * 30,
    0.6 + Math.sin(k / 90) * 0.3,
  ]).flat(),
});
const covers = (edit: BrushEdit) =>
  coverStroke(edit, fromMatrix([1, 0, 0, 1, 0, 0]), { width: 400, height: 160 })?.share ?? new Uint8Array();

it('keeps what a stroke covers, in less than two kilobytes', () => {
  const drawn = wave(500);
  const simple = simplifyStroke(drawn);
  expect(isEdit(simple)).toBe(true);
  expect(JSON.stringify(simple).length).toBeLessThan(2000);
  const [a, b] = [covers(drawn), covers(simple)];
  const off = a.reduce((sum, v, k) => sum + Math.abs(v - (b[k] ?? 0)), 0);
  expect(off / a.reduce((sum, v) => sum + v, 0)).toBeLessThan(0.02);
});

it('a dab stays a dab, and a scribble is thinned until it is short enough', () => {
  expect(simplifyStroke({ ...wave(1) }).points).toHaveLength(3);
  const scribble = {
    ...wave(3000),
    size: 2,
    points: wave(900).points.map((v, k) => (k % 3 === 1 ? v + (k % 2) * 9 : v)),
  };
  expect(simplifyStroke(scribble).points.length).toBeLessThanOrEqual(300);
});
