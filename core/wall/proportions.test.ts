import { describe, expect, it } from 'vitest';
import { renderSvg } from '../../demo/render';
import type { Raster } from '../raster/raster';
import { auditLogo } from './auditLogo';
import { proportionsOf } from './proportions';

const ink = 'fill="#1f5a45"';
const star = (n: number) =>
  Array.from({ length: 2 * n }, (_, k) => {
    const [a, r] = [(k * Math.PI) / n, k % 2 ? 38 : 90];
    return `${100 + r * Math.sin(a)},${100 - r * Math.cos(a)}`;
  }).join(' ');
/** Strokes of one width in every direction. */
const lines =
  '<path d="M20 20H180M20 20V180M30 180L170 60M40 40L170 170" stroke="#1f5a45" stroke-width="10" fill="none"/>';

const plate =
  `<rect x="5" y="5" width="190" height="190" ${ink}/>` +
  '<circle cx="100" cy="100" r="60" fill="#fff"/><circle cx="60" cy="30" r="14" fill="#fff"/>';

/** A drawing drawn out `by` times, as paths would be: without a softer edge. */
const drawn = (body: string, by = 1): Raster =>
  renderSvg(`<g transform="scale(${2 * by} 2)">${body}</g>`, Math.round(400 * by), 400);
const stretchOf = (raster: Raster, isScaled = false) => proportionsOf(raster, isScaled).stretch;

describe('proportions by shapes', () => {
  it.each([
    ['two discs', `<circle cx="60" cy="100" r="40" ${ink}/><circle cx="150" cy="60" r="25" ${ink}/>`],
    ['a star', `<polygon points="${star(5)}" ${ink}/>`],
    ['a gear', `<polygon points="${star(12)}" ${ink}/>`],
    ['a ring', `<circle cx="100" cy="100" r="70" fill="none" stroke="#1f5a45" stroke-width="24"/>`],
    ['a box with rounded corners', `<rect x="10" y="30" width="180" height="140" rx="34" ${ink}/>`],
    ['a disc in a plate', plate],
  ])('of %s are told as drawn, drawn out by a third, and brought together', (_, body) => {
    expect(stretchOf(drawn(body))).toBe(1);
    for (const by of [1.33, 0.7]) expect(Math.abs((stretchOf(drawn(body, by)) ?? 9) / by - 1)).toBeLessThan(0.06);
  });
  it('of lines of one width that go every way are told once they are drawn out far enough', () => {
    expect(stretchOf(drawn(lines))).toBe(1);
    for (const by of [1.6, 0.6]) expect(Math.abs((stretchOf(drawn(lines, by)) ?? 9) / by - 1)).toBeLessThan(0.06);
    expect(proportionsOf(drawn(lines, 1.33), false).guess()).toBeCloseTo(1.33, 1);
  });
  it('an oval that is drawn so is let be, with a rim as broad all round, or alone', () => {
    const rim = '<ellipse cx="100" cy="100" rx="90" ry="55" fill="none" stroke="#1f5a45" stroke-width="14"/>';
    expect(stretchOf(drawn(rim))).toBe(1);
    expect(stretchOf(drawn(`<ellipse cx="100" cy="100" rx="90" ry="55" ${ink}/>`))).toBeNull();
  });
  it('an oval alone is told where edges say that it was scaled one way', () =>
    expect(stretchOf(drawn(`<ellipse cx="100" cy="100" rx="90" ry="60" ${ink}/>`), true)).toBeCloseTo(1.5, 1));
  it('of ovals of many proportions nothing is told, nor of a picture without shapes', () => {
    const many = [20, 28, 36].map((r, k) => `<ellipse cx="${40 + 60 * k}" cy="100" rx="${r}" ry="${60 - r}" ${ink}/>`);
    expect(stretchOf(drawn(many.join('')))).toBeNull();
    expect(stretchOf(drawn(`<path d="M20 180L70 20L120 120L180 40V180Z" ${ink}/>`))).toBeNull();
  });
});

it('a drawn logo can be stretched too, and is told by its shapes', () => {
  const room = { width: 324, height: 144 };
  const body = `<circle cx="60" cy="100" r="40" ${ink}/><circle cx="150" cy="60" r="25" ${ink}/>`;
  const audit = (by: number) => auditLogo(drawn(body, by), { room, ground: [255, 255, 255], isDrawn: true });
  expect(audit(1).problems).not.toContain('stretched');
  const { problems, stretch } = audit(1.4);
  expect(problems).toContain('stretched');
  expect(stretch).toBeCloseTo(1.4, 1);
});
