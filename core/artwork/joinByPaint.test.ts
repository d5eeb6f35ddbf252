import { describe, expect, it } from 'vitest';
import { reversePath } from '../vector/windings';
import type { Drawing, Shape } from './drawing';
import { joinByPaint } from './joinByPaint';
import { renderDrawing } from './renderDrawing';

const square = (hex: string, x: number, y: number, side: number, change: Partial<Shape> = {}): Shape => ({
  id: `${hex}-${x}`,
  path: { verbs: 'MLLLZ', coords: [x, y, x + side, y, x + side, y + side, x, y + side] },
  rule: 'nonzero',
  paint: { kind: 'colour', hex },
  opacity: 1,
  ...change,
});
const drawing = (...shapes: Shape[]): Drawing => ({ widthPx: 60, heightPx: 40, shapes });
const pixels = (d: Drawing) => renderDrawing(d, { width: 60, height: 40, matrix: [1, 0, 0, 1, 0, 0] }).data;
const same = (d: Drawing, count: number) => {
  const joined = joinByPaint(d);
  expect(joined.shapes).toHaveLength(count);
  expect(pixels(joined)).toEqual(pixels(d));
};

describe('one path a colour', () => {
  it('joins what lies apart, and what lies over its own colour, whichever way round it was drawn', () => {
    const turned = square('#000000', 8, 8, 10);
    same(
      drawing(square('#000000', 2, 2, 10), { ...turned, path: reversePath(turned.path) }, square('#000000', 40, 2, 5)),
      1,
    );
  });
  it('keeps the order where another colour stands between', () => {
    same(drawing(square('#000000', 2, 2, 20), square('#ff0000', 10, 10, 20), square('#000000', 20, 20, 15)), 3);
    same(drawing(square('#000000', 2, 2, 20), square('#ff0000', 10, 10, 20), square('#000000', 45, 2, 5)), 2);
  });
  it('leaves alone what is faint, or filled by the even-odd rule', () => {
    same(drawing(square('#000000', 2, 2, 20), square('#000000', 10, 10, 20, { opacity: 0.5 })), 2);
    same(drawing(square('#000000', 2, 2, 20), square('#000000', 10, 10, 20, { rule: 'evenodd' })), 2);
  });
});
