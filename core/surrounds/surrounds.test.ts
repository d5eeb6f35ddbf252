import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, pixel, ring } from '../../tests/support/pictures';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../artwork/artwork';
import { extentsOf } from '../artwork/extentsOf';
import { PX_PER_MM } from '../decoration';
import { invertProjective, project } from '../geometry/projective';
import { initialValues } from '../params';
import { flattenPath } from '../vector/flattenPath';
import { IDENTITY } from '../geometry/matrix';
import { type Path, PathBuilder } from '../vector/path';
import { surrounds } from '.';

const apply = (artwork: Artwork, id: string, params: object, more: object = {}) => {
  const definition = surrounds.get(id);
  const ctx = { reduction: artwork.reduction, palette: [], density: null, pxLength: 1, mmLength: PX_PER_MM };
  const markHeightPx = extentsOf(artwork)?.height ?? 0;
  const values = { ...initialValues(definition.params), unit: 'px', ...params };
  return definition.apply(artwork, values as never, { ...ctx, markHeightPx, ...more });
};
const offsetOf = (out: Artwork) => project(invertProjective(out.toWorking), 0, 0);
const RED = [181, 50, 43] as [number, number, number];
const round = artworkOfRaster(drawMark(220, 220, disc(110.3, 109.6, 60.2), RED));
const drawn = (path: Path) =>
  artworkOfDrawing({
    widthPx: 220,
    heightPx: 220,
    shapes: [{ id: 'a', path, rule: 'nonzero', paint: { kind: 'colour', hex: '#b5322b' }, opacity: 1 }],
  });
const box = new PathBuilder().moveTo(60, 70).lineTo(160, 70).lineTo(160, 150).lineTo(60, 150).close().done();
const isHex = (artwork: Artwork, x: number, y: number, hex: string) => {
  const { x: dx, y: dy } = offsetOf(artwork);
  const [r, g, b, a] = pixel(artwork.raster, x + dx, y + dy);
  const found = `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}`;
  return a > 250 && found === hex;
};

describe('a rim', () => {
  it.each([4, 9.5, 20])('of %s px is so wide everywhere round a mark of pixels', (width) => {
    const out = apply(round, 'rim', { width, colour: '#ffffff' });
    const { x: dx, y: dy } = offsetOf(out);
    // Along rays: the alpha beyond the mark's own edge sums up to the width.
    let [worst, sum] = [0, 0];
    const rays = 90;
    for (let k = 0; k < rays; k++) {
      const [cos, sin] = [Math.cos((k / rays) * 2 * Math.PI), Math.sin((k / rays) * 2 * Math.PI)];
      let alpha = 0;
      for (let t = 0; t < 110; t += 0.05) {
        const [x, y] = [Math.floor(110.3 + dx + cos * t), Math.floor(109.6 + dy + sin * t)];
        if (x >= 0 && y >= 0 && x < out.raster.width && y < out.raster.height)
          alpha += (pixel(out.raster, x, y)[3] / 255) * 0.05;
      }
      const off = Math.abs(alpha - 60.2 - width);
      worst = Math.max(worst, off);
      sum += off;
    }
    expect(sum / rays).toBeLessThan(0.12);
    expect(worst).toBeLessThan(0.5);
    // The mark itself stays as it was.
    expect(pixel(out.raster, 110 + dx, 110 + dy)).toEqual([...RED, 255]);
  });
  it('of paths stays paths of few nodes, even to a twentieth of a pixel, under which the mark lies whole', () => {
    const out = apply(drawn(box), 'rim', { width: 8, colour: '#ffffff' });
    const [rim, own] = out.drawing?.shapes ?? [];
    expect(own.paint).toEqual({ kind: 'colour', hex: '#b5322b' });
    expect(rim.path.verbs.length).toBeLessThan(16);
    const lines = flattenPath(rim.path, IDENTITY);
    for (let k = 0; k < lines.length; k += 4) {
      const [x, y] = [lines[k], lines[k + 1]];
      const dx = Math.max(60 - x, 0, x - 160);
      const dy = Math.max(70 - y, 0, y - 150);
      expect(Math.abs(Math.hypot(dx, dy) - 8)).toBeLessThan(0.2);
    }
    const mitred = apply(drawn(box), 'rim', { width: 8, join: 'mitre' }).drawing?.shapes[0].path;
    expect(mitred?.verbs).toBe('MLLLZ');
  });
  it('goes round holes too, or leaves them as they are', () => {
    const hollow = artworkOfRaster(drawMark(220, 220, ring(110, 110, 80, 40), RED));
    const [rimmed, skipped] = ['rimmed', 'skipped'].map((holes) =>
      apply(hollow, 'rim', { width: 6, colour: '#ffffff', holes }),
    );
    expect(isHex(rimmed, 110 + 36, 110, '#ffffff')).toBe(true);
    const { x, y } = offsetOf(skipped);
    expect(pixel(skipped.raster, 110 + 36 + x, 110 + y)[3]).toBe(0);
    expect(isHex(skipped, 110 + 83, 110, '#ffffff')).toBe(true);
  });
  it('does not show through a mark that is half clear', () => {
    const faint = drawMark(120, 120, (x, y) => disc(60, 60, 40)(x, y) * 0.75, RED);
    const out = apply(artworkOfRaster(faint), 'rim', { width: 6, colour: '#ffffff' });
    const { x, y } = offsetOf(out);
    expect(pixel(out.raster, 60 + x, 60 + y)).toEqual([...RED, 191]);
  });
  it('is as wide in a reduced picture, by its own pixels, and in shares of the height or millimetres', () => {
    const half = artworkOfRaster(drawMark(110, 110, disc(55, 55, 30), RED), 2);
    const width = (out: Artwork) => (extentsOf(out)?.width ?? 0) - 120;
    expect(Math.abs(width(apply(half, 'rim', { width: 12 })) - 24)).toBeLessThanOrEqual(4);
    expect(Math.abs(width(apply(half, 'rim', { width: 10, unit: 'pct' })) - 24)).toBeLessThanOrEqual(4);
    expect(Math.abs(width(apply(half, 'rim', { width: 1, unit: 'mm' })) - 2 * PX_PER_MM)).toBeLessThanOrEqual(4);
  });
});

describe('what stands behind a mark', () => {
  it('a silhouette closes holes and spreads evenly', () => {
    const hollow = artworkOfRaster(drawMark(220, 220, either(ring(110, 110, 60, 30), disc(110, 110, 4)), RED));
    const out = apply(hollow, 'silhouette', { spread: 10, fill: '#7fa6bf' });
    expect(isHex(out, 110 + 20, 110, '#7fa6bf')).toBe(true);
    expect(isHex(out, 110 + 68, 110, '#7fa6bf')).toBe(true);
    const { x, y } = offsetOf(out);
    expect(pixel(out.raster, 110 + 72 + x, 110 + y)[3]).toBe(0);
  });
  it.each([
    ['rectangle', 4],
    ['rounded', 8],
    ['circle', 8],
  ])('a %s plate keeps its clear space, and grows the page evenly', (shape, verbs) => {
    const out = apply(drawn(box), 'plate', { shape, padding: 90, radius: 12, colour: '#e9ddc4' });
    const path = out.drawing?.shapes[0].path as Path;
    expect(path.verbs.replace(/[MZ]/g, '').length).toBeLessThanOrEqual(verbs);
    const { width, height } = extentsOf(out) ?? { width: 0, height: 0 };
    const across = shape === 'circle' ? Math.hypot(100, 80) + 180 : 280;
    expect([width, height].map(Math.round)).toEqual([across, shape === 'circle' ? across : 260].map(Math.round));
    const { x, y } = offsetOf(out);
    expect(x).toBe(y);
    expect(out.raster.width - 220).toBe(2 * x);
  });
  it('a frame line is hollow, of its weight, beyond its clear space', () => {
    const out = apply(artworkOfRaster(drawMark(220, 220, disc(110, 110, 50), RED)), 'frameLine', {
      ...{ weight: 5, padding: 20, colour: '#000000' },
    });
    const { x, y } = offsetOf(out);
    const row = Array.from({ length: out.raster.width }, (_, k) => pixel(out.raster, k, 110 + y)[3] > 250);
    const lines = row.flatMap((isOn, k) => (isOn && !row[k - 1] ? [k - x] : []));
    expect(lines).toEqual([35, 60, 180]);
    expect(row.slice(35 + x, 42 + x)).toEqual([true, true, true, true, true, false, false]);
  });
  it('several stand in order, each round what was there before', () => {
    const plate = apply(drawn(box), 'plate', { shape: 'rectangle', padding: 10, colour: '#e9ddc4' });
    const rimmed = apply(plate, 'rim', { width: 5, join: 'mitre', colour: '#b5322b' });
    expect(extentsOf(rimmed)).toMatchObject({ width: 130, height: 110 });
    expect(rimmed.drawing?.shapes).toHaveLength(3);
  });
  it('nothing stands round nothing', () => {
    const nothing = artworkOfRaster(drawMark(40, 40, () => 0, RED));
    for (const id of surrounds.ids) expect(apply(nothing, id, {}).raster.data.every((v) => v === 0)).toBe(true);
  });
  it('what would be far too large is refused in words', () => {
    expect(() => apply(round, 'plate', { padding: 1000, unit: 'mm' })).toThrow(/megapixels; the most is 120/);
  });
});

describe('what is laid over a mark', () => {
  it('a tint changes colours by its blend mode, of paths too, and no transparency', () => {
    const out = apply(drawn(box), 'tint', { colour: '#000000', opacity: 0.5, blend: 'normal' });
    expect(out.drawing?.shapes[0].paint).toEqual({ kind: 'colour', hex: '#5b1916' });
    const faint = artworkOfRaster(drawMark(60, 60, (x, y) => disc(30, 30, 20)(x, y) * 0.5, RED));
    const multiplied = apply(faint, 'tint', { colour: '#ff0000', opacity: 1, blend: 'multiply' }).raster;
    expect(pixel(multiplied, 30, 30)).toEqual([181, 0, 0, 128]);
  });
  it('a tint before a rim leaves the rim as it is', () => {
    const tinted = apply(drawn(box), 'tint', { colour: '#000000', opacity: 1 });
    const rimmed = apply(tinted, 'rim', { width: 6, colour: '#ffffff' });
    expect(rimmed.drawing?.shapes.map((s) => (s.paint.kind === 'colour' ? s.paint.hex : ''))).toEqual([
      '#ffffff',
      '#000000',
    ]);
  });
  it('grain is the same for a seed, another for another, and none where there is no mark', () => {
    const [a, b, other] = [1, 1, 2].map((seed) => apply(round, 'grain', { amount: 0.5, scale: 3, seed }).raster);
    expect(a.data).toEqual(b.data);
    expect(a.data).not.toEqual(other.data);
    const inside = a.data.filter((_, k) => k % 4 === 0 && a.data[k + 3] === 255);
    const mean = inside.reduce((sum, v) => sum + v, 0) / inside.length;
    expect(Math.abs(mean - RED[0])).toBeLessThan(6);
    expect(new Set(inside).size).toBeGreaterThan(40);
    for (let k = 3; k < a.data.length; k += 4) expect(a.data[k]).toBe(round.raster.data[k]);
  });
});
