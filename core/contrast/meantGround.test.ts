import { describe, expect, it } from 'vitest';
import { disc, drawMark } from '../../tests/support/pictures';
import { type Rgb } from '../colour/hex';
import { meantGround } from './meantGround';
import { outlineMark } from './standing';

const badge = (rgb: Rgb) => drawMark(80, 80, disc(40, 40, 30), rgb);

describe('the background that a picture is meant for', () => {
  it.each<[string, Rgb, string]>([
    ['black', [0, 0, 0], '#ffffff'],
    ['white', [255, 255, 255], '#141414'],
    ['pale yellow', [250, 240, 160], '#141414'],
    ['a green that reads on both', [31, 120, 69], '#ffffff'],
  ])('of %s', (_, rgb, ground) => expect(meantGround(outlineMark(badge(rgb)))).toBe(ground));
  it('of a white mark with a dark rim is the page', () => {
    const rimmed = badge([20, 20, 20]);
    for (let y = 0; y < 80; y++)
      for (let x = 0; x < 80; x++)
        if (Math.hypot(x + 0.5 - 40, y + 0.5 - 40) < 22) rimmed.data.set([255, 255, 255], (y * 80 + x) * 4);
    expect(meantGround(outlineMark(rimmed))).toBe('#ffffff');
  });
  it('of nothing is the page', () =>
    expect(meantGround(outlineMark(drawMark(9, 9, () => 0, [0, 0, 0])))).toBe('#ffffff'));
});
