import { describe, expect, it } from 'vitest';
import { flatRaster } from '../placements/placeItem';
import type { Raster } from '../raster/raster';
import { type PageWord, scoreLines } from './chooseLine';
import { type PageLine, findLines } from './findLines';
import { signatureBox } from './signatureBox';

const PX = 2;
const page = () => flatRaster(400 * PX, 300 * PX, '#ffffff');
function ink(to: Raster, x: number, y: number, width: number, height: number): void {
  for (let row = Math.round(y * PX); row < Math.round((y + height) * PX); row++)
    to.data.fill(0, (row * to.width + Math.round(x * PX)) * 4, (row * to.width + Math.round((x + width) * PX)) * 4);
  for (let p = 3; p < to.data.length; p += 4) to.data[p] = 255;
}
const found = (draw: (to: Raster) => void) => {
  const to = page();
  draw(to);
  return findLines(to, PX);
};

describe('lines of a page', () => {
  it('are rules with room above them, by their ends and height', () => {
    const [line, ...others] = found((to) => ink(to, 60, 200, 150, 1));
    expect(others).toEqual([]);
    expect(line).toMatchObject({ x: 60, y: 200.5, width: 150, isBroken: false, isBoxed: false });
    expect(line.room).toBeGreaterThan(80);
  });
  it('may be rows of dots or dashes', () => {
    const dots = found((to) => {
      for (let k = 0; k < 40; k++) ink(to, 60 + k * 4, 200, 1, 1);
    });
    expect(dots).toEqual([expect.objectContaining({ x: 60, isBroken: true })]);
    expect(dots[0].width).toBeCloseTo(157, 0);
  });
  it('are no bars, no writing, no underlines, no short strokes', () => {
    expect(found((to) => ink(to, 60, 200, 150, 6))).toEqual([]);
    expect(found((to) => ink(to, 60, 200, 30, 1))).toEqual([]);
    const underlined = (to: Raster) => {
      for (let k = 0; k < 30; k++) ink(to, 60 + k * 5, 190, 2, 7);
      ink(to, 60, 199, 150, 1);
    };
    expect(found(underlined).filter((l) => l.room > 12)).toEqual([]);
  });
  it('of a box are told as such, with the room inside', () => {
    const boxed = found((to) => {
      ink(to, 60, 140, 150, 1);
      ink(to, 60, 200, 150, 1);
      ink(to, 60, 140, 1, 60);
      ink(to, 209, 140, 1, 60);
    });
    const foot = boxed.find((l) => Math.abs(l.y - 200.5) < 1) as PageLine;
    expect(foot.isBoxed).toBe(true);
    expect(foot.room).toBeCloseTo(59, 0);
  });
});

describe('the line to sign on', () => {
  const line = (x: number, y: number, width = 150): PageLine => ({
    ...{ x, y, width, room: 40, isBroken: false, isBoxed: false },
  });
  const word = (text: string, x: number, y: number): PageWord => ({ text, x, y, width: text.length * 5, height: 9 });
  const size = { width: 595, height: 842 };
  const best = (lines: PageLine[], words: PageWord[]) => scoreLines(lines, words, size)[0];
  it('is the one whose words say so, below it or before it', () => {
    const lines = [line(70, 600), line(330, 600)];
    expect(best(lines, [word('Date', 70, 604), word('Signature of the tenant', 330, 604)]).x).toBe(330);
    expect(best(lines, [word('Signed', 36, 592), word('Date', 300, 592)]).x).toBe(70);
  });
  it('is none of a heading, of a list of fields, or without room', () => {
    const scores = scoreLines([line(70, 60, 455), { ...line(70, 700), room: 6 }], [], size);
    expect(scores.map((s) => s.score > 12)).toEqual([false]);
    const fields = [200, 230, 260, 290].map((y) => line(120, y));
    const words = fields.flatMap((f, k) => word(['Name:', 'Address:', 'Phone:', 'Boat:'][k], 70, f.y - 9));
    expect(best([...fields, line(120, 500)], words).y).toBe(500);
  });
});

describe('a signature on its line', () => {
  const on = { x: 100, y: 500, width: 200, room: 30 };
  it('has its middle over the line’s and its foot on it, at the width asked for', () => {
    const box = signatureBox(on, { width: 400, height: 100 }, 25.4);
    expect(box).toEqual({ x: 164, y: 482, width: 72, height: 18 });
  });
  it('takes no more than the line and the room above it allow', () => {
    const tall = signatureBox(on, { width: 100, height: 100 }, null);
    expect(tall.height).toBeCloseTo(34.0, 0);
    expect(signatureBox({ ...on, width: 60 }, { width: 400, height: 50 }, null).width).toBeCloseTo(51, 6);
    expect(signatureBox({ ...on, width: 0, room: Infinity }, { width: 4, height: 1 }, null).width).toBeCloseTo(
      141.7,
      1,
    );
  });
});
