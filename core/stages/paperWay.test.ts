import { describe, expect, it } from 'vitest';
import { project } from '../geometry/projective';
import { photographSheet } from '../ink/testSheet';
import { type Raster, createRaster } from '../raster/raster';
import { initialRecipe, readRecipe } from '../recipe/recipe';
import { cutOutFacts, runStages } from '../recipe/runRecipe';
import type { StageValues } from './index';
import { type PaperWayFacts, marksOf } from './cutOutFacts';

const { stages } = initialRecipe();
const paper = (cutOut: Partial<StageValues['cutOut']> = {}, crop: Partial<StageValues['crop']> = {}): StageValues => ({
  ...stages,
  crop: { ...stages.crop, ...crop },
  cutOut: { ...stages.cutOut, way: 'paper', ...cutOut },
});
const { picture } = photographSheet({ noise: 2 }, -5);
let n = 0;
const run = (values: StageValues, reduction = 1, raster: Raster = picture) =>
  runStages(raster, values, { pictureKey: `paper ${n++}`, reduction });
const facts = (values: StageValues, reduction = 1) => cutOutFacts(run(values, reduction)) as PaperWayFacts;

describe('the ink on paper way', () => {
  it('gives marks in full-size pixels from a reduced picture', () => {
    const [own, reduced] = [facts(paper()), facts(paper(), 3)];
    expect(reduced.marks.length).toBe(own.marks.length);
    own.marks.forEach((m, k) => {
      expect(reduced.marks[k].x).toBe(m.x * 3);
      expect(reduced.marks[k].at.x).toBeCloseTo(m.at.x * 3, 6);
      expect(reduced.marks[k].angleDeg).toBe(m.angleDeg);
    });
    expect(reduced.strokePx).toBeCloseTo(own.strokePx * 3, 6);
  });
  it('keeps the chosen mark when the crop is turned, because it is named by a place', () => {
    const [, second] = facts(paper()).marks;
    for (const crop of [
      {},
      { rect: { x: 60, y: 150, width: 560, height: 200 } },
      { turn: -5 },
      { rect: { x: 60, y: 150, width: 560, height: 200 }, turn: -5 },
    ]) {
      const result = run(paper({ mark: second.at }, crop));
      const { raster, toWorking } = result.master;
      let [inside, outside] = [0, 0];
      for (let y = 0, i = 3; y < raster.height; y++)
        for (let x = 0; x < raster.width; x++, i += 4) {
          if (raster.data[i] < 128) continue;
          const at = project(toWorking, x + 0.5, y + 0.5);
          const isIn =
            at.x > second.x - 5 &&
            at.x < second.x + second.width + 5 &&
            at.y > second.y - 5 &&
            at.y < second.y + second.height + 5;
          if (isIn) inside++;
          else outside++;
        }
      expect(inside, JSON.stringify(crop)).toBeGreaterThan(600);
      expect(outside, JSON.stringify(crop)).toBe(0);
    }
  });
  it('makes strokes heavier by the same on paper, whatever the reduction', () => {
    const ink = (values: StageValues, reduction: number) =>
      run(values, reduction).master.raster.data.reduce((s, v, i) => (i % 4 === 3 ? s + v : s), 0);
    const [own, heavier, reduced] = [ink(paper(), 1), ink(paper({ weight: 2 }), 1), ink(paper({ weight: 4 }), 2)];
    expect(heavier).toBeGreaterThan(own * 1.15);
    expect(reduced).toBe(heavier);
  });
  it('has a level below which more comes and above which less', () => {
    const count = (level: number) =>
      run(paper({ level })).master.raster.data.reduce((s, v, i) => (i % 4 === 3 && v > 0 ? s + 1 : s), 0);
    const [low, middle, high] = [count(0.03), count(facts(paper()).steady.start), count(0.88)];
    expect(low).toBeGreaterThanOrEqual(middle);
    expect(high).toBeLessThanOrEqual(middle);
  });
  it('gives charts of one length, with shares from 0 to 1', () => {
    const { levels, strayPieces, inkLost } = facts(paper());
    expect([strayPieces.length, inkLost.length]).toEqual([levels.length, levels.length]);
    for (const v of inkLost) expect(v >= 0 && v <= 1).toBe(true);
    for (let k = 1; k < levels.length; k++) expect(levels[k]).toBeGreaterThan(levels[k - 1]);
  });
});

describe('properties of ink on paper', () => {
  const alphaOf = (r: Raster) => Float32Array.from({ length: r.width * r.height }, (_, i) => r.data[i * 4 + 3]);
  const own = run(paper());
  const differ = (a: Float32Array, b: Float32Array) =>
    a.reduce((s, v, i) => s + Math.abs(v - b[i]), 0) /
    Math.max(
      1,
      a.reduce((s, v) => s + (v > 0 ? 1 : 0), 0),
    );
  it('swapping channels swaps the ink’s colour and leaves its coverage', () => {
    const swapped = createRaster(picture.width, picture.height);
    for (let i = 0; i < picture.data.length; i += 4)
      swapped.data.set([picture.data[i + 2], picture.data[i], picture.data[i + 1], 255], i);
    const result = run(paper(), 1, swapped);
    expect(differ(alphaOf(own.master.raster), alphaOf(result.master.raster))).toBeLessThan(1);
    const [hex, turned] = [own, result].map((r) => (cutOutFacts(r) as PaperWayFacts).inkHex);
    expect(turned).toBe(`#${hex.slice(5, 7)}${hex.slice(1, 3)}${hex.slice(3, 5)}`);
  });
  it('in two thirds of the light the ink comes out the same', () => {
    const dim = { ...picture, data: picture.data.map((v, i) => (i % 4 === 3 ? 255 : Math.round(v * 0.66))) };
    expect(differ(alphaOf(own.master.raster), alphaOf(run(paper(), 1, dim).master.raster))).toBeLessThan(9);
  });
  it('mirrored writing is cut out as the mirror image', () => {
    const mirror = (r: Raster): Raster => {
      const out = createRaster(r.width, r.height);
      for (let y = 0; y < r.height; y++)
        for (let x = 0; x < r.width; x++)
          out.data.set(
            r.data.subarray((y * r.width + x) * 4, (y * r.width + x) * 4 + 4),
            (y * r.width + r.width - 1 - x) * 4,
          );
      return out;
    };
    const back = mirror(run(paper(), 1, mirror(picture)).master.raster);
    expect(differ(alphaOf(own.master.raster), alphaOf(back))).toBeLessThan(4);
  });
  it('more bare paper round the sheet changes nothing that matters', () => {
    const wide = createRaster(picture.width + 160, picture.height + 120);
    for (let y = 0; y < wide.height; y++)
      for (let x = 0; x < wide.width; x++) {
        const s =
          (Math.min(picture.height - 1, Math.max(0, y - 60)) * picture.width +
            Math.min(picture.width - 1, Math.max(0, x - 80))) *
          4;
        wide.data.set(picture.data.subarray(s, s + 4), (y * wide.width + x) * 4);
      }
    const result = run(paper(), 1, wide);
    expect(marksOf(cutOutFacts(result))).toHaveLength(3);
    const inner = createRaster(picture.width, picture.height);
    for (let y = 0; y < picture.height; y++)
      inner.data.set(
        result.master.raster.data.subarray(
          ((y + 60) * wide.width + 80) * 4,
          ((y + 60) * wide.width + 80 + picture.width) * 4,
        ),
        y * picture.width * 4,
      );
    expect(differ(alphaOf(own.master.raster), alphaOf(inner))).toBeLessThan(9);
  });
});

describe('recipes from before', () => {
  it('read with the settings they did not have yet at their start', () => {
    const old = {
      ...initialRecipe(),
      stages: { crop: { rect: { x: 1, y: 2, width: 30, height: 40 } }, cutOut: { way: 'flat', tolerance: 20 } },
    };
    const { stages: read } = readRecipe(JSON.parse(JSON.stringify(old)));
    expect(read.crop).toEqual({ version: 2, rect: { x: 1, y: 2, width: 30, height: 40 }, turn: 0, corners: null });
    expect(read.cutOut).toMatchObject({
      tolerance: 20,
      cleanUp: 1,
      level: null,
      mark: null,
      keepLines: false,
    });
  });
  it.each([
    [{ crop: { turn: 60 } }, '"turn" must be a number from -45 to 45'],
    [{ crop: { corners: [{ x: 0, y: 0 }] } }, 'four corners'],
    [
      {
        crop: {
          corners: [
            { x: 0, y: 0 },
            { x: 9, y: 9 },
            { x: 9, y: 0 },
            { x: 0, y: 9 },
          ],
        },
      },
      'convex',
    ],
    [{ cutOut: { mark: { x: 'a', y: 1 } } }, '"mark" must be null or { x, y }'],
    [{ cutOut: { level: 2 } }, '"level" must be null or a number'],
    [{ cutOut: { ink: ['#000000', '#ffffff'] } }, 'at most 1 colour'],
    [{ cutOut: { pen: 'quill' } }, 'there is no setting "pen"'],
  ])('refuses %j and says what was expected', (change, words) => {
    expect(() => readRecipe({ ...initialRecipe(), stages: change })).toThrow(words);
  });
});
