import { describe, expect, it } from 'vitest';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import type { Raster } from '../core/raster/raster';
import { plainCapture, simulateCapture } from '../core/capture/simulateCapture';
import { archLine, blueInk, drawStrokes, photographSheet } from '../core/ink/testSheet';
import { disc, drawMark, onGround, ring } from '../tests/support/pictures';
import { runStages } from '../core/recipe/runRecipe';
import { describeFindings, describeFound } from './describe';

const sentence = (picture: Raster): string => {
  const seen = inspectPicture(picture);
  const { recipe, result } = proposeRecipe(picture, 1, seen.way);
  return describeFound(seen, recipe, result);
};

describe('describeFound', () => {
  it('says what a logo stands on and what became of its inside', () => {
    expect(sentence(onGround(drawMark(200, 200, ring(100, 100, 80, 50), [31, 90, 69]), [244, 239, 228]))).toBe(
      'Flat ground #f4efe4: cut out, 1 enclosed area, 1 open.',
    );
    expect(sentence(onGround(drawMark(200, 200, disc(100, 100, 60), [31, 90, 69]), [255, 255, 255]))).toBe(
      'Flat ground #ffffff: cut out, no enclosed areas.',
    );
  });
  it('keeps a picture of one colour opaque', () => {
    const plate = onGround(
      drawMark(200, 60, () => 0, [0, 0, 0]),
      [31, 90, 69],
    );
    expect(sentence(plate)).toBe('All of one colour, #1f5a45: kept opaque, as a plate or a strip.');
    const { recipe } = proposeRecipe(plate, 1, inspectPicture(plate).way);
    expect(runStages(plate, recipe.stages, { pictureKey: 'plate' }).master.raster.data[3]).toBe(255);
  });
  it('says how clear transparent artwork is', () =>
    expect(sentence(drawMark(200, 200, disc(100, 100, 60), [31, 90, 69]))).toMatch(
      /^Already transparent, 7\d % of it clear: kept as it is\.$/,
    ));
  it('counts the signatures on a sheet', () => {
    expect(sentence(photographSheet({ noise: 3, falloff: 0.3 }).picture)).toMatch(
      /^Ink on paper, 3 signatures found\. Take one, or make each a mark\.$/,
    );
  });
  it('says how a single one leans, and that printed lines are gone', () => {
    const ink = drawStrokes(640, 400, [archLine(80, 260, 9, 48, 80, -8)], blueInk, 7);
    const lined = simulateCapture(ink, {
      ...plainCapture,
      noise: 3,
      falloff: 0.3,
      blurPx: 0.6,
      lines: 'ruled',
      lineSpacingPx: 32,
    }).picture;
    expect(sentence(lined)).toMatch(
      /^Ink on paper: one signature, [789]\.\d° uphill and set level, printed lines taken out\.$/,
    );
  });
});

it('findings are stored without their places, which a reduced picture knows only roughly', () => {
  const { result } = proposeRecipe(photographSheet({ noise: 3 }).picture, 1, 'paper');
  const stored = describeFindings(result as NonNullable<typeof result>);
  expect(stored.map((f) => f.id)).toContain('several-marks');
  expect(stored.every((f) => f.places.length === 0)).toBe(true);
});
