import { describe, expect, it } from 'vitest';
import { loadTypeface } from '../../codecs/loadTypeface';
import { renderSvgFile } from '../../codecs/renderSvg';
import { translation } from '../geometry/matrix';
import { matteOf } from '../raster/raster';
import { setType } from '../type/setType';
import { typefaces } from '../type/typefaces';
import { type Path, PathBuilder, printPath, transformPath, ringsOf } from '../vector/path';
import { signedAreaOf } from '../vector/windings';
import { plainTrace, traceCoverage } from './traceCoverage';
import { findTangled, withoutLoops } from './untangle';

const polygon = (...points: [number, number][]): Path => {
  const builder = new PathBuilder();
  points.forEach(([x, y], k) => (k ? builder.lineTo(x, y) : builder.moveTo(x, y)));
  return builder.done();
};
const square = polygon([0, 0], [10, 0], [10, 10], [0, 10]);
const bow = polygon([20, 0], [30, 10], [30, 0], [20, 10]);

describe('rings that are tangled', () => {
  it('cross themselves or one another; those that lie apart, within or side by side are not', () => {
    const within = polygon([2, 2], [4, 2], [4, 4], [2, 4]);
    const beside = polygon([10, 0], [18, 0], [18, 10], [10, 10]);
    expect([...findTangled([square, within, beside])]).toEqual([]);
    expect([...findTangled([square, bow])]).toEqual([1]);
    expect([...findTangled([square, polygon([5, 5], [15, 5], [15, 8]), bow])].sort()).toEqual([0, 1, 2]);
  });
  it('are found where a curve makes a loop', () => {
    const loop = new PathBuilder().moveTo(0, 0).curveTo(30, 10, -20, 10, 10, 0).lineTo(5, -9).done();
    expect(findTangled([loop]).size).toBe(1);
  });
  it('lose their loops, and keep what lies the longer way round', () => {
    const points: [number, number][] = [];
    for (let k = 0; k < 60; k++) points.push([50 + 40 * Math.cos(k / 9.55), 50 + 40 * Math.sin(k / 9.55)]);
    // A small loop at one place of the circle.
    points.splice(30, 0, [14, 44], [6, 56], [14, 56]);
    const clean = withoutLoops(points);
    expect(findTangled([polygon(...points)]).size).toBe(1);
    expect(findTangled([clean]).size).toBe(0);
    expect(Math.abs(signedAreaOf(clean))).toBeGreaterThan(4900);
  });
});

describe('what is traced of letters', () => {
  it.each(typefaces.map((t) => [t.id, t.file]))(
    'in %s crosses itself nowhere, and holds no ring of no area',
    (_, file) => {
      const face = loadTypeface(file);
      for (const words of ['Rbegs', 'Qwxyz', 'W@#R?', '0369%'])
        for (const sizePx of [40, 90]) {
          const [width, height] = [sizePx * 6, sizePx * 2];
          const text = setType([words], face, { sizePx, spacing: 0, lineHeight: 1.2, align: 'left' });
          const d = printPath(transformPath(text, translation(sizePx * 0.3, sizePx * 1.3)), 3);
          const view = `width="${width}" height="${height}"`;
          const svg = `<svg xmlns="http://www.w3.org/2000/svg" ${view}><path d="${d}"/></svg>`;
          const { path, rings } = traceCoverage(matteOf(renderSvgFile(svg, width, height)), plainTrace);
          const each = ringsOf(path);
          expect(each.length).toBe(rings.length);
          expect(findTangled(each).size, `${words} at ${sizePx}`).toBe(0);
          for (const ring of each) expect(Math.abs(signedAreaOf(ring))).toBeGreaterThan(0.1);
        }
    },
  );
});
