import { describe, expect, it } from 'vitest';
import { photographSheet } from '../ink/testSheet';
import { marksOf } from '../stages/cutOutFacts';
import { proposeRecipe } from './proposeRecipe';
import { initialRecipe } from './recipe';
import { cutOutFacts, runStages } from './runRecipe';
import { takeMark, takeWholeSheet } from './takeMark';

const inked = (d: Uint8Array) => d.reduce((s, v, i) => (i % 4 === 3 && v > 127 ? s + 1 : s), 0);
const { picture } = photographSheet({ noise: 2 }, -6);
const paper = { ...initialRecipe().stages, cutOut: { ...initialRecipe().stages.cutOut, way: 'paper' as const } };
const sheet = runStages(picture, paper, { pictureKey: 'sheet', reduction: 1 });
const marks = marksOf(cutOutFacts(sheet));

describe('takeMark', () => {
  it('crops one signature, sets it level and leaves its neighbours’ strokes out', () => {
    expect(marks).toHaveLength(3);
    const taken = takeMark(paper, marks[1], picture);
    expect(taken.crop.turn).toBe(marks[1].angleDeg);
    const one = runStages(picture, taken, { pictureKey: 'one', reduction: 1 });
    const found = marksOf(cutOutFacts(one));
    expect(found).toHaveLength(1);
    expect(Math.abs(found[0].angleDeg), 'level by now').toBeLessThan(1.2);
    const share = inked(one.master.raster.data) / inked(sheet.master.raster.data);
    expect(share).toBeGreaterThan(0.2);
    expect(share).toBeLessThan(0.45);
  });
  it('goes back to the whole sheet, all other settings kept', () => {
    const back = takeWholeSheet({
      ...takeMark(paper, marks[0], picture),
      cutOut: { ...paper.cutOut, level: 0.3, mark: marks[0].at },
    });
    expect(back).toMatchObject({ crop: { rect: null, turn: 0 }, cutOut: { level: 0.3, mark: null } });
  });
  it('does not turn what hardly leans, and keeps an upright crop inside the picture', () => {
    const flat = { ...marks[0], angleDeg: 0.2, x: 2, y: 3 };
    const { crop } = takeMark(paper, flat, picture);
    expect(crop.turn).toBe(0);
    expect(crop.rect).toMatchObject({ x: 0, y: 0 });
  });
});

describe('proposeRecipe', () => {
  it('keeps all of a sheet of several signatures and says how many there are', () => {
    const { recipe, markCount } = proposeRecipe(picture, 1, 'paper');
    expect(markCount).toBe(3);
    expect(recipe.stages).toMatchObject({ crop: { rect: null }, cutOut: { way: 'paper', mark: null } });
  });
  it('falls back from paper without ink to a flat ground', () => {
    const blank = { width: 60, height: 40, data: new Uint8Array(9600).fill(250) };
    expect(proposeRecipe(blank, 1, 'paper').recipe.stages.cutOut.way).toBe('flat');
  });
});
