import { artworkOfRaster } from '../artwork/artwork';
import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, onGround, ring } from '../../tests/support/pictures';
import { plainCapture, simulateCapture } from '../capture/simulateCapture';
import { drawStrokes, archLine, blueInk, photographSheet } from '../ink/testSheet';
import type { Raster } from '../raster/raster';
import { initialRecipe } from '../recipe/recipe';
import { runStages } from '../recipe/runRecipe';
import type { StageValues } from '../stages';
import { cutOutFindings } from './cutOutFindings';
import type { Finding } from './finding';

let count = 0;
function findingsOf(picture: Raster, change: Partial<StageValues['cutOut']> = {}): Finding[] {
  const { stages } = initialRecipe();
  return [
    ...runStages(
      picture,
      { ...stages, cutOut: { ...stages.cutOut, ...change } },
      { pictureKey: `findings ${count++}`, reduction: 1 },
    ).findings,
  ];
}
const find = (list: readonly Finding[], id: Finding['id']) => list.find((f) => f.id === id);
const green = [31, 90, 69] as const;
const large = drawMark(800, 800, ring(400, 400, 360, 250), green);

describe('findings of a flat ground', () => {
  it('a clean cut-out of a large mark has none', () =>
    expect(findingsOf(onGround(large, [244, 239, 228]))).toEqual([]));
  it('a light outline of the old ground is a fringe, with its places and a choke that mends it', () => {
    // An outline half way to the ground, two pixels wide: what a careless earlier cut-out left.
    const outlined = drawMark(800, 800, disc(400, 400, 300), [140, 165, 150]);
    const inner = drawMark(800, 800, disc(400, 400, 297.5), green);
    for (let i = 0; i < outlined.data.length; i += 4)
      if (inner.data[i + 3] > 200) outlined.data.set(inner.data.subarray(i, i + 4), i);
    const fringe = find(findingsOf(onGround(outlined, [255, 255, 255])), 'fringe');
    expect(fringe?.places.length).toBeGreaterThan(5);
    for (const p of fringe?.places ?? []) expect(Math.abs(Math.hypot(p.x - 400, p.y - 400) - 300)).toBeLessThan(5);
    const { choke } = fringe?.fixes?.[0].change as { choke: number };
    expect(choke).toBe(0.5);
    expect(find(findingsOf(onGround(outlined, [255, 255, 255]), { choke: 4 }), 'fringe')).toBeUndefined();
  });
  it('what stands out from the ground but was cleaned away is told, with where it was, and kept by the fix', () => {
    // Crumbs like a sprinkled texture beside the mark, in a picture with the dirt of compression.
    const dirty = onGround(drawMark(700, 700, disc(250, 350, 180), green), [255, 255, 255]);
    const whole = findingsOf(dirty);
    expect(find(whole, 'artwork-eaten')).toBeUndefined();
    const lost = cutOutFindings(
      { ...dirty, data: new Uint8Array(dirty.data.length).fill(255) },
      {
        areas: [],
        ground: { colour: [255, 255, 255], noise: 0, drift: 0, share: 1, surface: null },
        groundHex: '#ffffff',
        tolerance: 50,
        ripple: 4,
        study: { steadyFrom: 5, steadyTo: 30, start: 15, groundLeft: [], artworkEaten: [] },
        trouble: {
          fringe: { share: 0, strength: 0, places: [] },
          eaten: { areaPx: 900, places: [{ x: 12, y: 34, amount: 900 }] },
          specks: [],
        },
      },
      { choke: 0, cleanUp: 1 },
      artworkOfRaster(dirty, 2),
    );
    const eaten = find(lost, 'artwork-eaten');
    expect(eaten?.places).toEqual([{ x: 25, y: 69 }]);
    expect(eaten?.detail).toContain('3600 px');
    expect(eaten?.fixes?.[0].change).toEqual({ tolerance: null });
  });
  it('a speck far from the mark is counted, measured and placed', () => {
    const dusty = drawMark(900, 900, either(ring(400, 400, 300, 200), disc(860, 850, 3)), green);
    const specks = find(findingsOf(onGround(dusty, [250, 250, 250])), 'specks');
    expect(specks?.title).toBe('1 speck left');
    expect(Math.hypot((specks?.places[0].x ?? 0) - 860, (specks?.places[0].y ?? 0) - 850)).toBeLessThan(5);
  });
});

describe('findings of ink on paper', () => {
  const ids = (picture: Raster, change: Partial<StageValues['cutOut']> = {}) =>
    findingsOf(picture, { way: 'paper', ...change });
  it('several signatures on a sheet are told, with a place each, until one is taken', () => {
    const { picture } = photographSheet();
    expect(find(ids(picture), 'several-marks')?.places).toHaveLength(3);
    expect(find(ids(picture, { mark: { x: 150, y: 90 } }), 'several-marks')).toBeUndefined();
  });
  it('a stroke that hardly reaches the level is near loss, and the fix keeps it for sure', () => {
    const ink = drawStrokes(900, 420, [archLine(70, 200, 12, 55, 110), archLine(80, 330, 3, 55, 40)], blueInk, 9);
    // The second line was written with hardly any ink.
    for (let y = 240; y < 420; y++)
      for (let x = 0; x < 900; x++) ink.data[(y * 900 + x) * 4 + 3] = Math.round(ink.data[(y * 900 + x) * 4 + 3] * 0.3);
    const { picture } = simulateCapture(ink, { ...plainCapture, blurPx: 0.7, noise: 1 });
    const faint = find(ids(picture, { level: 0.22 }), 'strokes-faint');
    expect(faint?.places.length).toBeGreaterThan(0);
    expect(faint?.places[0].y).toBeGreaterThan(240);
    const { level } = faint?.fixes?.[0].change as { level: number };
    expect(find(ids(picture, { level }), 'strokes-faint')).toBeUndefined();
  });
  it('specks left out are told with the largest', () => {
    const ink = drawStrokes(
      900,
      420,
      [
        archLine(70, 200, 12, 55, 110),
        [
          [850, 390],
          [850.5, 390],
        ],
      ],
      blueInk,
      9,
    );
    for (const [x, y] of [
      [700, 390],
      [30, 30],
    ])
      for (let d = 0; d < 3; d++) ink.data.set([60, 60, 60, 255], (y * 900 + x + d) * 4);
    expect(find(ids(simulateCapture(ink, { ...plainCapture, blurPx: 0.6 }).picture), 'stray-pieces')?.detail).toMatch(
      /largest of \d+ px/,
    );
  });
  it('writing cut by the picture’s edge, a blurred and a faint one are told', () => {
    const ink = drawStrokes(900, 420, [archLine(-20, 220, 14, 55, 110)], blueInk, 9);
    expect(
      find(ids(simulateCapture(ink, { ...plainCapture, blurPx: 0.6 }).picture), 'touches-border')?.detail,
    ).toContain('left');
    const whole = drawStrokes(900, 420, [archLine(60, 220, 12, 55, 110)], blueInk, 14);
    expect(find(ids(simulateCapture(whole, { ...plainCapture, blurPx: 4 }).picture), 'blurred')).toBeDefined();
    expect(find(ids(simulateCapture(whole, { ...plainCapture, blurPx: 0.6 }).picture), 'blurred')).toBeUndefined();
    const pale = drawStrokes(900, 420, [archLine(60, 220, 12, 55, 110)], [196, 196, 200], 9);
    expect(find(ids(simulateCapture(pale, { ...plainCapture, blurPx: 0.6 }).picture), 'ink-faint')).toBeDefined();
  });
  it('small writing is told by its strokes', () => {
    const small = drawStrokes(300, 120, [archLine(20, 80, 12, 20, 30)], blueInk, 2);
    expect(find(ids(simulateCapture(small, { ...plainCapture, blurPx: 0.4 }).picture), 'source-small')?.detail).toMatch(
      /strokes of \d\.\d px/,
    );
  });
});
