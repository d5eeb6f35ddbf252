import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { makeTestLogo } from '../bench/testLogos';
import { measureAccuracy } from '../bench/measure';
import { enclosedTruth, scoreEnclosed } from '../bench/enclosedTruth';
import { connectedWithChoke, hardColourKey } from '../bench/baselines';
import { cutOutFlat, plainFlat } from '../core/matte/cutOutFlat';
import { openSvg } from '../codecs/readSvg';
import { clustersOfDrawing } from '../core/artwork/drawingClusters';
import { decodePicture } from '../codecs/decodePicture';
import { measureInkResult } from '../bench/measureInk';
import { cutOutInk, plainInk } from '../core/ink/cutOutInk';
import { drawGrounds, drawLogos, drawPencil, drawSheets } from './scenario';

/** Drawn once for all that only look at it. */
let logos: ReturnType<typeof drawLogos> | null = null;
const logosOnce = () => (logos ??= drawLogos());
const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

describe('the demo scenario', () => {
  it('is drawn the same every time, each file with its truth on the same grid', async () => {
    const [a, b] = [await logosOnce(), await drawLogos()];
    expect(a.map((m) => sha(m.bytes))).toEqual(b.map((m) => sha(m.bytes)));
    for (const mark of a) {
      const { raster } = await decodePicture(mark.bytes, mark.fileName);
      expect([raster.width, raster.height], mark.id).toEqual([mark.truth.width, mark.truth.height]);
    }
    expect((await drawGrounds(160, 100)).map((g) => sha(g.bytes))).toEqual(
      (await drawGrounds(160, 100)).map((g) => sha(g.bytes)),
    );
  });
  it('has a sheet of twelve signs, each told apart', () => {
    const [sheet] = drawSheets();
    const { drawing, notes } = openSvg(sheet.bytes, sheet.fileName);
    expect(clustersOfDrawing(drawing)).toHaveLength(12);
    expect(notes).toEqual([]);
  });
  it('has light and dark grounds that are what they say', async () => {
    const mean = async (bytes: Uint8Array) => {
      const { raster } = await decodePicture(bytes, 'g.jpg');
      return raster.data.reduce((s, v, i) => (i % 4 < 3 ? s + v : s), 0) / ((raster.data.length / 4) * 3);
    };
    for (const g of await drawGrounds(160, 100)) {
      const m = await mean(g.bytes);
      if (g.tone === 'light') expect(m).toBeGreaterThan(170);
      if (g.tone === 'dark') expect(m).toBeLessThan(70);
    }
  });
  it('the badge comes out with its eye and waterline solid and every gap open, without a setting', async () => {
    const badge = (await logosOnce()).find((m) => m.id === 'badge') as Awaited<ReturnType<typeof drawLogos>>[number];
    const { raster } = await decodePicture(badge.bytes, badge.fileName);
    const { picture } = cutOutFlat(raster, plainFlat);
    const accuracy = measureAccuracy(picture, badge.truth);
    expect(accuracy.alpha).toBeLessThan(0.02);
    expect(accuracy.compositeMean).toBeLessThan(2.5);
    expect(accuracy.compositeP99).toBeLessThan(20);
  });
});

// The sheet of five tries is taken off its paper in tests/browser/sheet.test.ts.
it('the pencil comes off its paper as it was drawn, whole and without its specks', async () => {
  const mark = await drawPencil();
  const { raster } = await decodePicture(mark.bytes, mark.fileName);
  expect([raster.width, raster.height]).toEqual([mark.truth.width, mark.truth.height]);
  const { picture, facts } = cutOutInk(raster, plainInk);
  expect(facts.marks).toHaveLength(1);
  const accuracy = measureAccuracy(picture, mark.truth);
  expect(accuracy.alpha).toBeLessThan(0.035);
  expect(accuracy.compositeMean).toBeLessThan(4);
  const { f, thin, strays } = measureInkResult(picture, mark.truth);
  expect(f).toBeGreaterThan(0.98);
  expect(thin).toBeGreaterThan(0.99);
  expect(strays).toBe(0);
}, 120_000);

describe('measuring', () => {
  it('finds no error in the truth itself, and a large one in an empty picture', async () => {
    const { truth } = await makeTestLogo(1003, 'all', [300]);
    expect(measureAccuracy(truth, truth)).toEqual({ alpha: 0, colour: 0, compositeMean: 0, compositeP99: 0 });
    expect(measureAccuracy({ ...truth, data: new Uint8Array(truth.data.length) }, truth).compositeP99).toBeGreaterThan(
      30,
    );
  });
  it('tells open from solid inside, and scores decisions the wrong way round as wrong', async () => {
    const logo = await makeTestLogo(2, 'all', [420]); // a plate with knocked-out lettering
    const { kinds, anchors } = enclosedTruth(logo);
    expect(anchors.length).toBeGreaterThan(2);
    expect(anchors.every((a) => a.decision === 'solid')).toBe(true);
    expect(scoreEnclosed(logo.truth, kinds).solidsLost).toBe(0);
    expect(scoreEnclosed({ ...logo.truth, data: new Uint8Array(logo.truth.data.length) }, kinds).solidsLost).toBe(1);
  });
  it('on logos of every kind our cut-out is nearer to the truth than either baseline', async () => {
    const sum = { ours: 0, key: 0, connected: 0 };
    for (let seed = 2000; seed < 2006; seed++) {
      const { picture, truth } = await makeTestLogo(seed, 'all', [300]);
      sum.ours += measureAccuracy(cutOutFlat(picture, plainFlat).picture, truth).compositeMean;
      sum.key += measureAccuracy(hardColourKey(picture), truth).compositeMean;
      sum.connected += measureAccuracy(connectedWithChoke(picture), truth).compositeMean;
    }
    expect(sum.ours * 1.5).toBeLessThan(sum.key);
    expect(sum.ours * 3).toBeLessThan(sum.connected);
  }, 60_000);
});
