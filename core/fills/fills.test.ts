import { describe, expect, it } from 'vitest';
import { disc, drawMark, pixel } from '../../tests/support/pictures';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../artwork/artwork';
import { PX_PER_MM } from '../decoration';
import { initialValues } from '../params';
import type { Raster } from '../raster/raster';
import { type Path, PathBuilder } from '../vector/path';
import { fills } from '.';

const fill = (artwork: Artwork, id: string, params: object = {}) => {
  const definition = fills.get(id);
  const ctx = { reduction: 1, palette: [], pxLength: 1, mmLength: PX_PER_MM, markHeightPx: 0 };
  return definition.apply(artwork, { ...initialValues(definition.params), ...params } as never, ctx);
};
const over = (a: Raster, b: Raster): Raster => {
  const data = a.data.slice();
  for (let k = 0; k < data.length; k += 4) if (b.data[k + 3] > 127) data.set(b.data.subarray(k, k + 4), k);
  return { ...a, data };
};
const paint = (shape: ReturnType<typeof disc>, rgb: [number, number, number]) => drawMark(200, 160, shape, rgb);
/** A green plate with a white eye on it. */
const eyed = over(paint(disc(100, 80, 60), [31, 90, 69]), paint(disc(110, 70, 12), [255, 255, 255]));
const square = (x: number, y: number, side: number): Path =>
  new PathBuilder()
    .moveTo(x, y)
    .lineTo(x + side, y)
    .lineTo(x + side, y + side)
    .lineTo(x, y + side)
    .close()
    .done();
const drawing = (...shapes: [Path, string][]) =>
  artworkOfDrawing({
    widthPx: 200,
    heightPx: 160,
    shapes: shapes.map(([path, hex], k) => ({
      ...{ id: `s${k}`, path, rule: 'nonzero' as const, opacity: 1 },
      paint: { kind: 'colour' as const, hex },
    })),
  });

describe('one colour', () => {
  it('is exactly that colour wherever anything is visible, its transparency unchanged', () => {
    const faint = drawMark(200, 160, (x, y) => disc(100, 80, 60)(x, y) * 0.4, [9, 99, 200]);
    const { raster } = fill(artworkOfRaster(faint), 'oneColour', { colour: '#6a2a5b' });
    for (let p = 0; p < faint.data.length; p += 4) {
      expect(raster.data[p + 3]).toBe(faint.data[p + 3]);
      if (raster.data[p + 3] > 0) expect([...raster.data.subarray(p, p + 3)]).toEqual([106, 42, 91]);
    }
  });
  it('leaves light parts inside as gaps, or fills them', () => {
    const [open, filled] = ['open', 'filled'].map((insides) => fill(artworkOfRaster(eyed), 'oneColour', { insides }));
    expect(pixel(open.raster, 110, 70)[3]).toBe(0);
    expect(pixel(open.raster, 80, 100)[3]).toBe(255);
    expect(pixel(filled.raster, 110, 70)[3]).toBe(255);
  });
  it('cuts light shapes out of those beneath, and a mark that is light throughout stays whole', () => {
    const out = fill(drawing([square(40, 40, 80), '#1f5a45'], [square(60, 60, 20), '#ffffff']), 'oneColour');
    expect(out.drawing?.shapes).toHaveLength(1);
    expect([pixel(out.raster, 70, 70)[3], pixel(out.raster, 50, 70)[3]]).toEqual([0, 255]);
    const white = fill(artworkOfRaster(paint(disc(100, 80, 60), [255, 255, 255])), 'oneColour');
    expect(pixel(white.raster, 100, 80)).toEqual([0, 0, 0, 255]);
  });
});

describe('two tones', () => {
  it('of one ink run with its transparency from the one to the other, never back', () => {
    const ramp = drawMark(200, 160, (x) => x / 200, [20, 40, 90]);
    const { raster } = fill(artworkOfRaster(ramp), 'twoTones', { dark: '#000000', light: '#ff8040' });
    const reds = Array.from({ length: 200 }, (_, x) => pixel(raster, x, 80)[0]);
    expect(reds).toEqual([...reds].sort((a, b) => b - a));
    expect([reds[0] > 250, reds[199] < 6]).toEqual([true, true]);
    expect(pixel(raster, 77, 80)[3]).toBe(pixel(ramp, 77, 80)[3]);
  });
  it('of several colours run by how dark they are', () => {
    const out = fill(
      drawing([square(10, 10, 50), '#000000'], [square(80, 10, 50), '#999999'], [square(10, 90, 50), '#eeeeee']),
      'twoTones',
      {
        ...{ dark: '#000000', light: '#ffffff' },
      },
    );
    const levels = [20, 90].map((x) => pixel(out.raster, x, 20)[0]);
    expect(levels[0]).toBe(0);
    expect(levels[1]).toBeGreaterThan(80);
    expect(pixel(out.raster, 20, 100)[0]).toBe(255);
  });
});

describe('a gradient', () => {
  const stops = [
    { at: 0, colour: '#ff0000' },
    { at: 1, colour: '#0000ff' },
  ];
  const near = (a: number[], b: number[]) => expect(Math.max(...a.map((v, k) => Math.abs(v - b[k])))).toBeLessThan(9);
  const wide = artworkOfRaster(
    drawMark(200, 160, (x, y) => (x > 20 && x < 180 && y > 30 && y < 130 ? 1 : 0), [1, 2, 3]),
  );
  it.each([
    [0, [21, 80], [179, 80]],
    [90, [100, 31], [100, 129]],
    [180, [179, 80], [21, 80]],
    [45, [21, 31], [179, 129]],
  ])('towards %s° begins and ends with its stops', (angleDeg, [x0, y0], [x1, y1]) => {
    const { raster } = fill(wide, 'gradient', { stops, angleDeg });
    near(pixel(raster, x0, y0), [255, 0, 0, 255]);
    near(pixel(raster, x1, y1), [0, 0, 255, 255]);
    near(pixel(fill(wide, 'gradient', { stops, angleDeg, reverse: true }).raster, x0, y0), [0, 0, 255, 255]);
  });
  it('is one paint of paths, over all of them or over each', () => {
    const two = drawing([square(20, 20, 40), '#000000'], [square(120, 80, 40), '#000000']);
    const [mark, piece] = ['mark', 'piece'].map((over) => fill(two, 'gradient', { stops, over }).drawing?.shapes ?? []);
    expect(mark.map((s) => s.paint)).toEqual([mark[0].paint, mark[0].paint]);
    expect(mark[0].paint).toMatchObject({ kind: 'linear', geometry: { x1: 20, x2: 160 } });
    expect(piece[1].paint).toMatchObject({ geometry: { x1: 120, x2: 160 } });
  });
  it('runs over each piece of a picture', () => {
    const two = over(paint(disc(50, 80, 30), [0, 0, 0]), paint(disc(150, 80, 30), [0, 0, 0]));
    const { raster } = fill(artworkOfRaster(two), 'gradient', { stops, over: 'piece' });
    near(pixel(raster, 79, 80), [0, 0, 255, 255]);
    near(pixel(raster, 121, 80), [255, 0, 0, 255]);
    const radial = fill(artworkOfRaster(two), 'gradient', { stops, over: 'piece', type: 'radial' }).raster;
    expect(pixel(radial, 50, 80)[2]).toBeLessThan(9);
    expect(pixel(radial, 79, 80)[0]).toBeLessThan(9);
  });
});

describe('colour by colour', () => {
  const pairs = [
    { from: '#1f5a45', to: '#ffffff' },
    { from: '#ffffff', clear: true },
  ];
  it('changes one colour and takes another away, with no rim of either left', () => {
    const { raster } = fill(artworkOfRaster(eyed), 'byColour', { pairs });
    expect(pixel(raster, 80, 100)).toEqual([255, 255, 255, 255]);
    expect(pixel(raster, 110, 70)[3]).toBe(0);
    for (let x = 85; x < 135; x++) {
      const [r, g, b, a] = pixel(raster, x, 70);
      if (a > 0) expect([r, g, b]).toEqual([255, 255, 255]);
    }
  });
  it('leaves what is not named as it is, and cuts what goes out of the paths beneath', () => {
    const three = drawing(
      [square(40, 40, 80), '#1f5a45'],
      [square(60, 60, 20), '#ffffff'],
      [square(5, 5, 20), '#b5322b'],
    );
    const out = fill(three, 'byColour', { pairs });
    expect(out.drawing?.shapes.map((s) => s.paint)).toEqual([
      { kind: 'colour', hex: '#ffffff' },
      { kind: 'colour', hex: '#b5322b' },
    ]);
    expect([pixel(out.raster, 70, 70)[3], pixel(out.raster, 50, 70)[3]]).toEqual([0, 255]);
  });
});
