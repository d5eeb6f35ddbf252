import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround, pixel, ring } from '../../tests/support/pictures';
import { type Recipe, initialRecipe } from './recipe';
import { project } from '../geometry/projective';
import { areasOf } from '../stages/cutOutFacts';
import { cutOutFacts, makeVariant, runStages } from './runRecipe';
import { createStageCache } from './stageCache';

const badge = () => {
  const mark = drawMark(200, 200, ring(100, 100, 80, 60), [31, 90, 69]);
  const inner = drawMark(200, 200, disc(100, 100, 30), [180, 40, 40]);
  for (let i = 0; i < mark.data.length; i += 4)
    if (inner.data[i + 3] > 0) mark.data.set(inner.data.subarray(i, i + 4), i);
  for (let y = 90; y < 100; y++) for (let x = 95; x < 105; x++) mark.data.set([255, 255, 255, 255], (y * 200 + x) * 4);
  return onGround(mark, [238, 230, 214]);
};
const run = { pictureKey: 'badge', reduction: 1 };
const variant = (recipe: Recipe, id: string) => recipe.variants.find((v) => v.id === id) as Recipe['variants'][number];

describe('runStages', () => {
  it('crops first: every later stage sees only the region, in the same coordinates', () => {
    const recipe = initialRecipe();
    const values = {
      ...recipe.stages,
      crop: { ...recipe.stages.crop, rect: { x: 10, y: 20, width: 180, height: 170 } },
    };
    const { master } = runStages(badge(), values, run);
    expect([master.raster.width, master.raster.height]).toEqual([180, 170]);
    expect(project(master.toWorking, 0.5, 0.5)).toEqual({ x: 10.5, y: 20.5 });
  });
  it('keeps a choice when the crop changes, because it is anchored to a place', () => {
    const recipe = initialRecipe();
    const cutOut = { ...recipe.stages.cutOut, areas: [{ x: 100, y: 55, decision: 'solid' as const }] };
    for (const rect of [null, { x: 8, y: 8, width: 184, height: 184 }]) {
      const result = runStages(badge(), { ...recipe.stages, crop: { ...recipe.stages.crop, rect }, cutOut }, run);
      expect(areasOf(cutOutFacts(result)).filter((a) => a.isChosen)).toHaveLength(1);
    }
  });
  it('gives facts in working-picture pixels from a reduced picture too', () => {
    const half = badge();
    const result = runStages(half, initialRecipe().stages, { pictureKey: 'half', reduction: 3 });
    const ringArea = areasOf(cutOutFacts(result)).find((a) => !a.isPale);
    expect(ringArea?.areaPx).toBeGreaterThan(9 * 5000);
    expect(result.master.toWorking[0]).toBe(3);
  });
  it('does not repeat a stage whose input and settings are the same', () => {
    const cache = createStageCache();
    const steps: string[] = [];
    const options = { ...run, cache, onStep: (s: string) => void steps.push(s) };
    runStages(badge(), initialRecipe().stages, options);
    const first = steps.length;
    expect(first).toBeGreaterThan(3);
    runStages(badge(), initialRecipe().stages, options);
    expect(steps.length).toBe(first);
  });
  it('keeps artwork that is transparent already as it is', () => {
    const own = drawMark(50, 50, disc(25, 25, 15), [255, 255, 255]);
    const recipe = initialRecipe();
    const result = runStages(own, { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, way: 'keep' } }, run);
    expect(result.master.raster.data).toEqual(own.data);
    expect(result.findings).toEqual([]);
  });
});

describe('makeVariant', () => {
  const recipe = initialRecipe();
  it('keeps the white that belongs to the mark in colour, and leaves it as a gap in one colour', () => {
    expect(pixel(makeVariant(badge(), recipe, variant(recipe, 'colour'), run).raster, 100, 95)).toEqual([
      255, 255, 255, 255,
    ]);
    expect(pixel(makeVariant(badge(), recipe, variant(recipe, 'black'), run).raster, 100, 95)[3]).toBe(0);
    expect(pixel(makeVariant(badge(), recipe, variant(recipe, 'black'), run).raster, 100, 118)).toEqual([0, 0, 0, 255]);
  });
  it('makes every visible pixel of the reversed variant pure white', () => {
    const { data } = makeVariant(badge(), recipe, variant(recipe, 'reversed'), run).raster;
    for (let i = 0; i < data.length; i += 4)
      if (data[i + 3] > 0) expect([...data.subarray(i, i + 3)]).toEqual([255, 255, 255]);
  });
  it('fills inner light areas when the variant says so', () => {
    const filled = {
      ...variant(recipe, 'black'),
      fill: { id: 'oneColour', params: { colour: '#000000', insides: 'filled' } },
    };
    expect(pixel(makeVariant(badge(), recipe, filled, run).raster, 100, 95)).toEqual([0, 0, 0, 255]);
  });
});

describe('findings', () => {
  it('tell of a small source, of a mark at the border, and of nothing left', () => {
    const ids = (picture: ReturnType<typeof badge>, tolerance: number | null = null) => {
      const recipe2 = initialRecipe();
      return runStages(
        picture,
        { ...recipe2.stages, cutOut: { ...recipe2.stages.cutOut, tolerance } },
        { ...run, pictureKey: String(Math.random()) },
      ).findings.map((f) => f.id);
    };
    expect(ids(badge())).toContain('source-small');
    expect(
      ids(
        onGround(
          drawMark(300, 200, (x, y) => (x < 90 && y > 60 && y < 140 ? 1 : 0), [20, 20, 20]),
          [255, 255, 255],
        ),
      ),
    ).toContain('touches-border');
    expect(ids(onGround(drawMark(100, 100, disc(50, 50, 20), [250, 250, 250]), [255, 255, 255]), 40)).toEqual([
      'nothing-left',
    ]);
  });
});
