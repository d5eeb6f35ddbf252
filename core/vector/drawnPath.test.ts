import { expect, it } from 'vitest';
import { pixel } from '../../tests/support/pictures';
import type { PenPoint } from './penStroke';
import { renderDrawing } from '../artwork/renderDrawing';
import { drawnPath } from './drawnPath';
import type { Path } from './path';

const pen = { width: 20, thinning: 0.6, smoothing: 0.5, bySpeed: false };
const stroke = (pressure: (t: number) => number): PenPoint[] =>
  Array.from({ length: 40 }, (_, k) => [20 + k * 4, 60, pressure(k / 39)]);
const render = (path: Path) =>
  renderDrawing(
    {
      widthPx: 220,
      heightPx: 120,
      shapes: [{ id: 'a', path, rule: 'nonzero', paint: { kind: 'colour', hex: '#102030' }, opacity: 1 }],
    },
    { width: 220, height: 120, matrix: [1, 0, 0, 1, 0, 0] },
  );
const thickness = (d: Path, x: number) => {
  const r = render(d);
  return Array.from({ length: 120 }, (_, y) => pixel(r, x, y)[3] / 255).reduce((a, b) => a + b, 0);
};

it('runs where the pen ran, thicker where it pressed harder', () => {
  const d = drawnPath([stroke((t) => 0.15 + 0.8 * t)], pen);
  expect(pixel(render(d), 100, 60)).toEqual([16, 32, 48, 255]);
  expect(thickness(d, 150)).toBeGreaterThan(1.5 * thickness(d, 50));
});
it('without thinning is equally thick throughout', () => {
  const d = drawnPath([stroke((t) => 0.15 + 0.8 * t)], { ...pen, thinning: 0 });
  expect(Math.abs(thickness(d, 150) - thickness(d, 60))).toBeLessThan(1.5);
});
it('keeps a dot, and refuses an empty pad', () => {
  expect(thickness(drawnPath([[[100, 60, 0.8]]], pen), 100)).toBeGreaterThan(5);
  expect(() => drawnPath([], pen)).toThrowError(expect.objectContaining({ code: 'draw/empty' }));
});
