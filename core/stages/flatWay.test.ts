import { describe, expect, it } from 'vitest';
import { disc, drawMark, jpegOf, onGround, pixel, ring } from '../../tests/support/pictures';
import { decodePicture } from '../../codecs/decodePicture';
import { project, invertProjective } from '../geometry/projective';
import type { Raster } from '../raster/raster';
import { initialRecipe } from '../recipe/recipe';
import { cutOutFacts, runStages } from '../recipe/runRecipe';
import type { StageValues } from './index';
import { type FlatWayFacts, areasOf } from './cutOutFacts';

const { stages } = initialRecipe();
let n = 0;
const run = (
  picture: Raster,
  cutOut: Partial<StageValues['cutOut']> = {},
  crop: Partial<StageValues['crop']> = {},
  reduction = 1,
) =>
  runStages(
    picture,
    { ...stages, crop: { ...stages.crop, ...crop }, cutOut: { ...stages.cutOut, ...cutOut } },
    { pictureKey: `flat ${n++}`, reduction },
  );
const badge = onGround(drawMark(300, 260, ring(150, 130, 110, 70), [31, 90, 69]), [244, 239, 228]);
const alphaAt = (result: ReturnType<typeof run>, x: number, y: number) => {
  const { raster, toWorking } = result.master;
  const p = project(invertProjective(toWorking), x, y);
  return pixel(raster, Math.floor(p.x), Math.floor(p.y))[3];
};

describe('the flat ground way', () => {
  it('keeps a choice by its place when the crop is turned or put flat', () => {
    const areas = [{ x: 150, y: 130, decision: 'solid' as const }];
    const corners = [
      { x: 20, y: 10 },
      { x: 290, y: 0 },
      { x: 280, y: 255 },
      { x: 10, y: 250 },
    ] as const;
    for (const crop of [{}, { turn: 20 }, { rect: { x: 20, y: 10, width: 260, height: 240 }, turn: -8 }, { corners }]) {
      const result = run(badge, { areas }, crop);
      expect(
        areasOf(cutOutFacts(result)).filter((a) => a.isChosen),
        JSON.stringify(crop),
      ).toHaveLength(1);
      expect(alphaAt(result, 150, 130), JSON.stringify(crop)).toBe(255);
      expect(alphaAt(result, 240, 130), 'the ring').toBe(255);
      expect(alphaAt(result, 40, 40), 'outside').toBe(0);
    }
  });
  it('measures lengths at full size, whatever the reduction', () => {
    const visible = (r: ReturnType<typeof run>) =>
      r.master.raster.data.reduce((s, v, i) => (i % 4 === 3 ? s + v : s), 0);
    expect(visible(run(badge, { choke: 4 }, {}, 2))).toBe(visible(run(badge, { choke: 2 })));
    expect(visible(run(badge, { softness: 6 }, {}, 3))).toBe(visible(run(badge, { softness: 2 })));
    const [own, reduced] = [run(badge), run(badge, {}, {}, 3)].map((r) => areasOf(cutOutFacts(r))[0]);
    expect(reduced.areaPx).toBe(own.areaPx * 9);
  });
  it('takes several grounds by their colours', () => {
    const two = onGround(drawMark(300, 200, disc(150, 100, 60), [20, 30, 60]), [240, 235, 220]);
    for (let y = 0; y < 200; y++)
      for (let x = 150; x < 300; x++)
        if (Math.hypot(x + 0.5 - 150, y + 0.5 - 100) > 61) two.data.set([150, 200, 160], (y * 300 + x) * 4);
    const result = run(two, { ground: ['#f0ebdc', '#96c8a0'] });
    for (const [x, y, alpha] of [
      [20, 20, 0],
      [280, 180, 0],
      [150, 100, 255],
      [110, 100, 255],
      [190, 100, 255],
    ])
      expect(alphaAt(result, x, y), `${x}, ${y}`).toBe(alpha);
  });
  it('with no clean-up keeps more of what compression left than with all of it', async () => {
    const { raster } = await decodePicture(
      await jpegOf(onGround(drawMark(300, 260, ring(150, 130, 110, 70), [150, 20, 60]), [255, 255, 255]), 30),
      'x.jpg',
    );
    const faint = (cleanUp: number) =>
      run(raster, { cleanUp, tolerance: 6 }).master.raster.data.reduce(
        (k, v, i) => (i % 4 === 3 && v > 0 && v < 255 ? k + 1 : k),
        0,
      );
    expect(faint(0)).toBeGreaterThan(faint(2));
  });
  it('gives charts over all tolerances, and a start in the middle of its steady range', () => {
    const { groundLeft, artworkEaten, steady, tolerance } = cutOutFacts(run(badge)) as FlatWayFacts;
    expect(groundLeft).toHaveLength(97);
    expect(artworkEaten).toHaveLength(97);
    expect(tolerance).toBe(steady.start);
    expect(steady.start).toBeGreaterThanOrEqual(steady.from);
    expect(steady.start).toBeLessThanOrEqual(steady.to);
    for (let t = 1; t < 97; t++) expect(groundLeft[t]).toBeLessThanOrEqual(groundLeft[t - 1] + 1e-9);
  });
});
