import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import stored from '../../tests/support/recipesOfVersion1.json';
import { disc, drawMark, either, onGround, ring } from '../../tests/support/pictures';
import { photographSheet } from '../ink/testSheet';
import type { Raster } from '../raster/raster';
import { stages } from '../stages';
import { ordersOf } from './fileOrder';
import { prepareFile } from './makeFile';
import { purposes } from '../purposes';
import { initialRecipe, lineOf, readRecipe } from './recipe';
import { makeVariant } from './runRecipe';
import { RECIPE_VERSION } from './version';

const pictures: Record<string, Raster> = {
  badge: onGround(
    drawMark(240, 200, either(ring(120, 100, 80, 50), disc(120, 100, 20)), [31, 90, 69]),
    [244, 239, 228],
  ),
  sheet: photographSheet({ noise: 2 }, -5).picture,
};
const sha256 = (data: Uint8Array) => createHash('sha256').update(data).digest('hex');
const copy = (value: unknown) => JSON.parse(JSON.stringify(value));

// The recipes were stored by the program as it was when it wrote version 1; the pictures of their files are as that one
// made them, but for the way in which pixels are resampled since (docs/adr/0021).
describe('recipes stored by version 1', () => {
  it.each(stored.map((s) => [s.name, s] as const))('%s: opens, and its files hold the same pixels as then', (_, s) => {
    const recipe = readRecipe(copy(s.recipe));
    expect(recipe.version).toBe(RECIPE_VERSION);
    const made = recipe.files.lines.map((line) => {
      const variant = recipe.variants.find((v) => v.id === line.variant) as (typeof recipe.variants)[number];
      const drawn = makeVariant(pictures[s.picture], recipe, variant, { pictureKey: s.name, reduction: 1 });
      const { raster } = prepareFile(drawn, ordersOf(line)[0]).content;
      return {
        line: line.id,
        width: raster?.width,
        height: raster?.height,
        sha256: sha256(raster?.data as Uint8Array),
      };
    });
    // Solid ink is told from its density anew since (docs/adr/0031): it opens, and its pixels are other ones.
    const isSolid = (s.recipe.stages as { cutOut?: { pen?: string } }).cutOut?.pen === 'solid';
    const told = (files: readonly { line: string }[]) => (isSolid ? files.map((f) => f.line) : files);
    expect(told(made)).toEqual(told(s.files));
  });
  it('read once, stay what they are when read again', () => {
    for (const s of stored) {
      const once = readRecipe(copy(s.recipe));
      expect(readRecipe(copy(once))).toEqual(once);
    }
  });
});

describe('recipes stored by version 2', () => {
  const { files, ...now } = initialRecipe();
  const { cutOut } = now.stages;
  const before = (pen: string, way = 'paper') => ({
    ...{ ...now, version: 2, files },
    stages: { ...now.stages, cutOut: { ...cutOut, way, pen } },
    variants: [
      { ...now.variants[0], fill: { id: 'asIs', params: {} } },
      { ...now.variants[1], fill: { id: 'oneColour', params: { colour: '#000000' } } },
    ],
  });
  const penOf = (value: unknown) => readRecipe({ ...(value as object), files: { pattern: '{mark}', lines: [] } });
  it('show ink in each variant as they showed it in all', () => {
    const pens = (value: unknown) => penOf(value).variants.map((v) => v.fill.params.pen);
    expect(pens(before('pressure'))).toEqual(['pressure', 'pressure']);
    expect(pens(before('solid'))).toEqual(['solid', 'solid']);
    expect(pens(before('pressure', 'flat'))).toEqual(['pressure', 'solid']);
  });
  it('of a mask pair lose the choice that no receiver can read, and keep sizes as typed', () => {
    const { fitted: _, ...line } = lineOf('pair', 'black', purposes.get('maskPair'));
    const pair = { ...line, purposeParams: { polarity: 'black', colours: 'clear' } };
    const read = readRecipe({ ...before('solid'), files: { pattern: '{mark}', lines: [pair] } }).files.lines[0];
    expect(read).toMatchObject({ purposeParams: { polarity: 'black' } });
    expect(read.fitted).toBeUndefined();
  });
});

describe('what is not known is refused by name', () => {
  const old = stored[0].recipe;
  const now = initialRecipe();
  const part = now.variants[0];
  const line = now.files.lines[0];
  it.each([
    ['a key of the recipe', { ...now, note: 1 }, 'there is no "note"'],
    ['a key of an old recipe', { ...old, note: 1 }, 'there is no "note"'],
    ['a stage', { ...now, stages: { ...now.stages, polish: {} } }, 'stages: there is no "polish"'],
    ['a stage of an old recipe', { ...old, stages: { ...old.stages, polish: {} } }, 'stages: there is no "polish"'],
    [
      'a setting',
      { ...now, stages: { ...now.stages, crop: { version: 2, zoom: 2 } } },
      'crop: there is no setting "zoom"',
    ],
    ['a setting of an old recipe', { ...old, stages: { crop: { zoom: 2 } } }, 'crop: there is no setting "zoom"'],
    ['a key of a variant', { ...now, variants: [{ ...part, glow: 1 }] }, 'variants[0]: there is no "glow"'],
    [
      'a key of a part',
      { ...now, variants: [{ ...part, fill: { ...part.fill, of: 1 } }] },
      'variants[0].fill: there is no "of"',
    ],
    [
      'a setting of a part',
      { ...now, variants: [{ ...part, fill: { id: 'asIs', params: { hue: 1 } } }] },
      'there is no setting "hue"',
    ],
    ['a surround', { ...now, variants: [{ ...part, surrounds: [{ id: 'halo', params: {} }] }] }, 'no surround "halo"'],
    ['a key of files', { ...now, files: { ...now.files, zip: 1 } }, 'files: there is no "zip"'],
    [
      'a key of a line',
      { ...now, files: { ...now.files, lines: [{ ...line, dpi: 3 }] } },
      'files.lines[0]: there is no "dpi"',
    ],
    [
      'a size',
      { ...now, files: { ...now.files, lines: [{ ...line, size: { id: 'cubits', params: {} } }] } },
      'no size "cubits"; there are width',
    ],
    [
      'a format',
      { ...now, files: { ...now.files, lines: [{ ...line, format: { id: 'bmp', params: {} } }] } },
      'no format "bmp"; there are png',
    ],
  ])('%s', (_, recipe, words) => expect(() => readRecipe(copy(recipe))).toThrow(words));
});

describe('versions of stages', () => {
  it('stand with the settings of every stage', () => {
    const recipe = initialRecipe();
    for (const stage of stages.all) {
      expect((recipe.stages as unknown as Record<string, { version: number }>)[stage.id].version).toBe(stage.version);
    }
  });
  it('from the future are refused, naming the stage', () => {
    const recipe = initialRecipe();
    const later = { ...recipe, stages: { ...recipe.stages, crop: { ...recipe.stages.crop, version: 99 } } };
    expect(() => readRecipe(copy(later))).toThrowError(
      expect.objectContaining({ code: 'recipe/too-new', message: expect.stringContaining('Crop') }),
    );
  });
  it('a stage that a recipe does not have yet starts with its own settings', () => {
    const { crop: _, ...rest } = initialRecipe().stages;
    expect(readRecipe({ ...initialRecipe(), stages: rest })).toEqual(initialRecipe());
  });
});
