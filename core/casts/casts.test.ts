import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, pixel } from '../../tests/support/pictures';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../artwork/artwork';
import { PX_PER_MM } from '../decoration';
import { invertProjective, project } from '../geometry/projective';
import { initialValues } from '../params';
import { PathBuilder } from '../vector/path';
import { casts } from '.';

const cast = (artwork: Artwork, id: string, params: object) => {
  const definition = casts.get(id);
  const ctx = { reduction: artwork.reduction, palette: [], density: null, pxLength: 1, mmLength: PX_PER_MM };
  const values = { ...initialValues(definition.params), unit: 'px', ...params };
  return definition.apply(artwork, values as never, { ...ctx, markHeightPx: 100 });
};
const at = (out: Artwork, x: number, y: number) => {
  const { x: dx, y: dy } = project(invertProjective(out.toWorking), 0, 0);
  return pixel(out.raster, x + dx, y + dy);
};
const mark = artworkOfRaster(drawMark(120, 120, either(disc(40, 60, 20), disc(90, 60, 12)), [200, 30, 30]));

describe('a shadow', () => {
  it('follows the shape, thrown where it says, and never a box', () => {
    const out = cast(mark, 'shadow', { colour: '#102030', angleDeg: 90, distance: 40, softness: 0, opacity: 0.5 });
    expect(at(out, 40, 110)).toEqual([16, 32, 48, 128]);
    expect(at(out, 90, 105)).toEqual([16, 32, 48, 128]);
    // Between the two discs, and in the corners of their box, nothing.
    for (const [x, y] of [[66, 100], [22, 122], [60, 118]]) expect(at(out, x, y)[3]).toBe(0); // prettier-ignore
    expect(at(out, 40, 60)).toEqual([200, 30, 30, 255]);
  });
  it('fades over its softness as a bell does, and keeps its sum', () => {
    const dot = artworkOfRaster(drawMark(61, 61, disc(30.5, 30.5, 6), [0, 0, 0]));
    const out = cast(dot, 'shadow', { angleDeg: 0, distance: 60, softness: 10, opacity: 1, colour: '#000000' });
    const { raster } = out;
    const { x: dx, y: dy } = project(invertProjective(out.toWorking), 0, 0);
    let [sum, spread] = [0, 0];
    for (let y = 0; y < raster.height; y++)
      for (let x = dx + 60; x < raster.width; x++) {
        const a = pixel(raster, x, y)[3] / 255;
        sum += a;
        spread += a * (y + 0.5 - dy - 30.5) ** 2;
      }
    expect(Math.abs(sum / (Math.PI * 36) - 1)).toBeLessThan(0.02);
    // Variances add: of the disc a quarter of its radius squared, of the bell half the softness squared.
    expect(Math.abs(spread / sum / (9 + 25) - 1)).toBeLessThan(0.06);
  });
  it('lies as in a reduced picture by its own pixels', () => {
    const half = artworkOfRaster(drawMark(60, 60, disc(30, 30, 12), [0, 0, 0]), 2);
    const out = cast(half, 'shadow', { angleDeg: 0, distance: 40, softness: 0, opacity: 1, colour: '#ff0000' });
    expect(at(out, 30 + 20, 30)).toEqual([255, 0, 0, 255]);
  });
});

it('a glow lies evenly round the mark, and ends the paths', () => {
  const path = new PathBuilder().moveTo(40, 40).lineTo(80, 40).lineTo(80, 80).lineTo(40, 80).close().done();
  const shape = { id: 'a', path, rule: 'nonzero', paint: { kind: 'colour', hex: '#000000' }, opacity: 1 } as const;
  const out = cast(artworkOfDrawing({ widthPx: 120, heightPx: 120, shapes: [shape] }), 'glow', {
    ...{ colour: '#ffffff', softness: 12, opacity: 1 },
  });
  expect(out.drawing).toBeNull();
  const [left, right, above] = [at(out, 36, 60), at(out, 83, 60), at(out, 60, 36)];
  expect(left).toEqual(right);
  expect(left).toEqual(above);
  expect(left[3]).toBeGreaterThan(40);
  expect(left.slice(0, 3)).toEqual([255, 255, 255]);
});
