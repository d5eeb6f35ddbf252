import { expect, it } from 'vitest';
import { disc, drawMark, either, onGround, ring } from '../../tests/support/pictures';
import { type Recipe, initialRecipe, readRecipe } from './recipe';
import { runStages } from './runRecipe';
import { scaleRecipe } from './scaleRecipe';

const at = (k: number) =>
  onGround(
    drawMark(
      160 * k,
      120 * k,
      either(ring(60 * k, 60 * k, 40 * k, 20 * k), disc(140 * k, 20 * k, 6 * k)),
      [31, 90, 69],
    ),
    [250, 248, 240],
  );
const base = initialRecipe();
const recipe = {
  ...base,
  stages: {
    ...base.stages,
    trace: { ...base.stages.trace, pieces: [{ x: 140, y: 20, from: '#1f5a45', to: null }] },
    crop: { ...base.stages.crop, rect: { x: 8, y: 4, width: 150, height: 110 } },
    cutOut: { ...base.stages.cutOut, areas: [{ x: 60, y: 60, decision: 'solid' as const }] },
    tidy: {
      ...base.stages.tidy,
      drop: [{ x: 140, y: 20 }],
      outside: [[0, 0, 160, 0, 160, 100, 0, 100]],
      edits: [{ kind: 'rub' as const, size: 12, hardness: 1, points: [60, 24, 1, 60, 34, 1] }],
    },
  },
};
const shareOf = (k: number, own: Recipe = recipe) => {
  const { raster } = runStages(at(k), own.stages, { pictureKey: `k${k}` }).master;
  let sum = 0;
  for (let i = 3; i < raster.data.length; i += 4) sum += raster.data[i];
  return sum / 255 / (k * k);
};

it('does to a larger picture of the same mark what it did to the smaller one', () => {
  const scaled = scaleRecipe(recipe, 2, 2);
  expect(readRecipe(scaled)).toEqual(scaled);
  expect(scaled.stages.trace.pieces).toEqual([{ x: 280, y: 40, from: '#1f5a45', to: null }]);
  const [before, after] = [shareOf(1), shareOf(2, scaled)];
  expect(Math.abs(after - before) / before).toBeLessThan(0.01);
  // Without carrying over it does something else.
  expect(Math.abs(shareOf(2) - before) / before).toBeGreaterThan(0.05);
});

it('a picture of the same size keeps it as it is', () => expect(scaleRecipe(recipe, 1, 1)).toBe(recipe));
