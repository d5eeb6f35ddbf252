import { describe, expect, it } from 'vitest';
import { fills } from './fills';
import { formats } from './formats';
import { checkValues, initialValues } from './params';
import { purposes } from './purposes';
import { artworkOfDrawing, artworkOfRaster } from './artwork/artwork';
import { casts } from './casts';
import { PX_PER_MM } from './decoration';
import { createRaster } from './raster/raster';
import { makeFile } from './recipe/makeFile';
import { initialRecipe, lineOf, partOf, readRecipe } from './recipe/recipe';
import { sizes } from './sizes';
import { anywhere, wholePixels } from './sizes/size';
import { PathBuilder } from './vector/path';
import { defineRegistry } from './registry';
import { stageIds, stages } from './stages';
import { surrounds } from './surrounds';
import { plainContext } from '../tests/support/stageContext';

describe('defineRegistry', () => {
  it('refuses two definitions of one id', () => {
    expect(() => defineRegistry('thing', { id: 'a', title: 'A' }, { id: 'a', title: 'B' })).toThrow('share the id "a"');
  });
  it('names what exists when asked for something that does not', () => {
    expect(() => purposes.get('billboard')).toThrow(/no purpose "billboard"; there are web, watermark/);
  });
});

describe('every definition', () => {
  const withParams = [...stages.all, ...fills.all, ...surrounds.all, ...casts.all, ...sizes.all, ...formats.all];
  it.each(withParams.map((d) => [d.id, d] as const))(
    '%s has initial values that pass its own check and survive JSON',
    (_, d) => {
      const values = initialValues(d.params);
      expect(checkValues(d.params, JSON.parse(JSON.stringify(values)), d.id)).toEqual(values);
    },
  );
  it.each(withParams.map((d) => [d.id, d] as const))('%s refuses a setting that it does not have', (_, d) => {
    expect(() => checkValues(d.params, { nonsense: 1 }, d.id)).toThrow('no setting "nonsense"');
  });
  it('has an id and a title of its own', () => {
    for (const registry of [stages, fills, surrounds, casts, sizes, formats, purposes]) {
      for (const d of registry.all) expect(d.title.length, d.id).toBeGreaterThan(1);
      expect(new Set(registry.all.map((d) => d.title)).size).toBe(registry.all.length);
    }
  });
  it('lists every stage that the recipe has', () => expect([...stageIds]).toEqual(stages.ids));
});

const square = new PathBuilder().moveTo(8.5, 6).lineTo(16, 6).lineTo(15, 14).lineTo(9, 13).done();
const drawn = artworkOfDrawing({
  widthPx: 24,
  heightPx: 20,
  shapes: [{ id: 'a', path: square, rule: 'nonzero', paint: { kind: 'colour', hex: '#143c78' }, opacity: 1 }],
});

describe('every stage', () => {
  const picture = createRaster(24, 20);
  for (let i = 0; i < picture.data.length; i += 4)
    picture.data.set(
      (i >> 2) % 24 > 8 && (i >> 2) % 24 < 16 && i > 800 && i < 1500 ? [20, 60, 120, 255] : [250, 250, 250, 255],
      i,
    );
  const before = picture.data.slice();
  it.each(stages.all.map((s) => [s.id, s] as const))(
    '%s leaves its input unchanged, gives the same bytes twice, and says where anything can be visible',
    (_, stage) => {
      const run = () => stage.run(artworkOfRaster(picture), initialValues(stage.params) as never, plainContext).artwork;
      expect(run().raster.data).toEqual(run().raster.data);
      expect(picture.data).toEqual(before);
      const { within, raster } = run();
      expect(within.x + within.width).toBeLessThanOrEqual(raster.width);
      expect(within.y + within.height).toBeLessThanOrEqual(raster.height);
    },
  );
});

describe('every fill, surround and cast', () => {
  const decorations = [...fills.all, ...surrounds.all, ...casts.all];
  const context = {
    reduction: 1,
    palette: [],
    density: null,
    markHeightPx: 8,
    pxLength: 1,
    mmLength: PX_PER_MM,
  };
  it.each(decorations.map((d) => [d.id, d] as const))(
    '%s leaves its input unchanged, pixels and paths, and has words for itself',
    (_, d) => {
      for (const input of [drawn, { ...drawn, drawing: null }]) {
        const before = structuredClone(input);
        const out = d.apply(input, initialValues(d.params) as never, context);
        expect(input).toEqual(before);
        expect(out.reduction).toBe(1);
        if (!input.drawing) expect(out.drawing).toBeNull();
      }
      expect(d.describe(initialValues(d.params) as never).length).toBeGreaterThan(3);
    },
  );
});

describe('every format, size and purpose', () => {
  it.each(formats.all.map((f) => [f.id, f] as const))('%s writes what its ending says', async (_, format) => {
    const purpose = format.needsGround?.(initialValues(format.params) as never) ? 'stamp' : 'web';
    const order = {
      ...{ size: partOf(sizes, 'width', { widthPx: 40 }), format: partOf(formats, format.id) },
      purpose: { id: purpose, params: {} },
    };
    const host = { encode: async (kind: string) => new TextEncoder().encode(kind) };
    const { bytes } = await makeFile(drawn, order, host);
    const head = new TextDecoder('latin1').decode(bytes.subarray(0, 4));
    const heads: Record<string, string> = { svg: '<svg', pdf: '%PDF', eps: '%!PS', ico: '\0\0\x01\0' };
    expect(head).toBe(heads[format.id] ?? format.id);
  });
  it.each(sizes.all.map((s) => [s.id, s] as const))(
    '%s lays a mark out inside its page, whole pixels or not',
    (_, size) => {
      const params = initialValues(size.params) as never;
      for (const grid of [wholePixels, anywhere]) {
        for (const mark of [
          { width: 300, height: 20 },
          { width: 20, height: 300 },
        ]) {
          const { width, height, mark: at } = size.layOut(mark, params, grid);
          expect(at.x).toBeGreaterThanOrEqual(0);
          expect(at.x + at.width).toBeLessThanOrEqual(width + 1e-9);
          expect(at.y + at.height).toBeLessThanOrEqual(height + 1e-9);
          if (grid === wholePixels) expect([width, height, ...Object.values(at)].every(Number.isInteger)).toBe(true);
        }
      }
      expect(size.describe(params)).toMatch(/\d/);
    },
  );
  it.each(purposes.all.map((p) => [p.id, p] as const))('%s starts a line that a recipe accepts', (_, purpose) => {
    const recipe = initialRecipe();
    const line = lineOf('own', 'colour', purpose);
    expect(readRecipe({ ...recipe, files: { ...recipe.files, lines: [line] } }).files.lines).toEqual([line]);
  });
});
