import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, onGround, pixel, ring } from '../../tests/support/pictures';
import { artworkOfRaster } from '../artwork/artwork';
import { renderDrawing } from '../artwork/renderDrawing';
import { CoreError } from '../errors';
import { IDENTITY } from '../geometry/matrix';
import { initialValues } from '../params';
import { initialRecipe } from '../recipe/recipe';
import { makeVariant } from '../recipe/runRecipe';
import type { Raster } from '../raster/raster';
import { type TraceValues, trace } from './trace';
import type { TraceFacts } from './traceFacts';
import { plainContext } from '../../tests/support/stageContext';

const [GREEN, RED, CREAM] = ['#1f5a45', '#b5322b', '#e9ddc4'];
const over = (a: Raster, b: Raster): Raster => {
  const data = a.data.slice();
  for (let k = 0; k < data.length; k += 4) if (b.data[k + 3] > 127) data.set(b.data.subarray(k, k + 4), k);
  return { ...a, data };
};
const paint = (shape: ReturnType<typeof disc>, rgb: [number, number, number]) => drawMark(300, 200, shape, rgb);
/** A green plate with two cream discs on it, and a red disc that stands alone. */
const picture = over(
  over(paint(disc(110, 100, 80), [31, 90, 69]), paint(either(disc(80, 100, 14), disc(140, 100, 14)), [233, 221, 196])),
  paint(disc(250, 100, 20), [181, 50, 43]),
);
const values = (change: Partial<TraceValues> = {}): TraceValues => ({
  ...initialValues(trace.params),
  use: 'all',
  ...change,
});
const run = (change: Partial<TraceValues> = {}, reduction = 1) => {
  const result = trace.run(artworkOfRaster(picture, reduction), values(change), plainContext);
  return { ...result, facts: result.facts as TraceFacts };
};
const at = (facts: TraceFacts, hex: string, x: number) =>
  facts.pieces.find((p) => p.found === hex && Math.abs(p.x - x) < 20) as TraceFacts['pieces'][number];

describe('pieces of the outlines', () => {
  it('are told one by one, each with a place inside it and the colour round it', () => {
    const { facts } = run();
    expect(facts.pieces.map((p) => p.found).sort()).toEqual([GREEN, RED, CREAM, CREAM].sort());
    expect(at(facts, CREAM, 80)).toMatchObject({ beside: GREEN, isDropped: false });
    expect(at(facts, RED, 250).beside).toBeNull();
    expect(Math.abs(at(facts, CREAM, 80).areaPx - Math.PI * 14 ** 2)).toBeLessThan(6);
    // The place in the plate is in the plate itself, not in what lies on it.
    const green = at(facts, GREEN, 110);
    expect(pixel(picture, Math.round(green.x), Math.round(green.y)).slice(0, 3)).toEqual([31, 90, 69]);
  });
  it('are left out, covered and recoloured alone, and the others stay as they were', () => {
    const { facts } = run();
    const change = (x: number, hex: string, to: string | null) => {
      const piece = at(facts, hex, x);
      return { x: piece.x, y: piece.y, from: hex, to };
    };
    const after = run({ pieces: [change(80, CREAM, GREEN), change(250, RED, null)] });
    const raster = after.artwork.raster;
    expect(pixel(raster, 80, 100)).toEqual([31, 90, 69, 255]);
    expect(pixel(raster, 140, 100)).toEqual([233, 221, 196, 255]);
    expect(pixel(raster, 250, 100)[3]).toBe(0);
    // Where one was covered no rim of the other colour shows.
    for (let x = 60; x < 100; x++) {
      const [r, g, b, alpha] = pixel(raster, x, 100);
      expect([r, g, b]).toEqual([31, 90, 69]);
      expect(alpha).toBeGreaterThan(250);
    }
    expect(at(after.facts, CREAM, 80)).toMatchObject({ hex: GREEN, isChanged: true, isDropped: false });
    expect(at(after.facts, RED, 250)).toMatchObject({ isChanged: true, isDropped: true });
  });
  it('stay in sight when their colour is left out but they were given another', () => {
    const { facts } = run();
    const { x, y } = at(facts, CREAM, 140);
    const { raster } = run({ changes: [{ from: CREAM, to: null }], pieces: [{ x, y, from: CREAM, to: RED }] }).artwork;
    expect(pixel(raster, 140, 100)).toEqual([181, 50, 43, 255]);
    expect(pixel(raster, 80, 100)[3]).toBe(0);
  });
  it('are known again in a smaller picture of the same mark', () => {
    const { x, y } = at(run({}, 2).facts, RED, 500);
    const { facts } = run({ pieces: [{ x, y, from: RED, to: null }] }, 2);
    expect(at(facts, RED, 500)).toMatchObject({ isDropped: true });
    expect(Math.abs(x - 500)).toBeLessThan(4);
    expect(Math.abs(y - 200)).toBeLessThan(30);
  });
});

describe('outlines', () => {
  it('for vector files alone leave the pixels as they were, and are there for who asks for paths', () => {
    const logo = onGround(drawMark(240, 240, ring(120, 120, 90, 50), [31, 90, 69]), [250, 250, 250]);
    const recipe = initialRecipe();
    const stages = { ...recipe.stages, trace: { ...recipe.stages.trace, use: 'vector' as const } };
    const black = recipe.variants[1];
    const [pixels, paths] = [false, true].map((asPaths) =>
      makeVariant(logo, { stages }, black, { pictureKey: 'ring', asPaths }),
    );
    expect(pixels.drawing).toBeNull();
    const without = makeVariant(logo, recipe, black, { pictureKey: 'ring' });
    expect(pixels.raster.data).toEqual(without.raster.data);
    expect(paths.drawing?.shapes).toHaveLength(1);
    const [{ paint: own }] = paths.drawing?.shapes ?? [];
    expect(own).toEqual({ kind: 'colour', hex: '#000000' });
    const drawn = renderDrawing(paths.drawing as NonNullable<typeof paths.drawing>, {
      width: 240,
      height: 240,
      matrix: IDENTITY,
    });
    let off = 0;
    for (let k = 3; k < drawn.data.length; k += 4) off += Math.abs(drawn.data[k] - pixels.raster.data[k]);
    expect(off / (drawn.data.length / 4)).toBeLessThan(0.3);
  });
  it('have fewer nodes and are farther off with a larger tolerance', () => {
    const { byTolerance } = run().facts;
    const nodes = byTolerance.map((p) => p.nodes);
    expect(nodes).toEqual([...nodes].sort((a, b) => b - a));
    expect(byTolerance[0].meanPx).toBeLessThan(byTolerance[byTolerance.length - 1].meanPx);
  });
  it('tell how far they are, and stop between steps', () => {
    const shares: number[] = [];
    trace.run(artworkOfRaster(picture), values(), {
      ...plainContext,
      onStep: (_, share) => void (share !== undefined && shares.push(share)),
    });
    expect(shares.length).toBeGreaterThan(3);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    const stop = () => {
      throw new CoreError('work/stopped');
    };
    expect(() => trace.run(artworkOfRaster(picture), values(), { ...plainContext, onStep: stop })).toThrow(CoreError);
  });
});
