import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, MarkCard, MarkView, TakenIn } from '../../contract/views';
import { rectangleToCorners } from '../../core/geometry/projective';
import { photographSheet } from '../../core/ink/testSheet';
import { findInkPieces } from '../../core/ink/inkPieces';
import { findExtents } from '../../core/raster/extents';
import type { Raster } from '../../core/raster/raster';
import { warpRaster } from '../../core/raster/warpRaster';
import { cropRaster } from '../../core/raster/cropRaster';
import { toJpeg } from '../../demo/capture';
import { type DemoMark, drawFiveTries } from '../../demo/scenario';
import { decodePicture } from '../../codecs/decodePicture';
import { chunkTypes } from '../../codecs/readBackPng';
import { type BrowserRig, dropFiles, startRig } from './rig';

let rig: BrowserRig;
let sheet: DemoMark;
/** Its pixels a quarter of a telephone's: what they cost is measured by the bench. */
const HALF = 0.5;

beforeAll(async () => {
  [rig, sheet] = await Promise.all([startRig(), drawFiveTries(HALF)]);
});
afterAll(() => rig?.stop());

/** The drawing itself inside a turned region: what a perfect cut-out of that signature would be. */
function truthIn(truth: Raster, r: { x: number; y: number; width: number; height: number }, turnDeg: number): Raster {
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const [cx, cy] = [r.x + r.width / 2, r.y + r.height / 2];
  const at = (u: number, v: number) => ({ x: cx + u * cos - v * sin, y: cy + u * sin + v * cos });
  const [w, h] = [r.width / 2, r.height / 2];
  const seen = warpRaster(
    truth,
    rectangleToCorners(r.width, r.height, [at(-w, -h), at(w, -h), at(w, h), at(-w, h)]),
    Math.round(r.width),
    Math.round(r.height),
    false,
  );
  return cropRaster(seen, findExtents(seen) as NonNullable<ReturnType<typeof findExtents>>);
}

const inked = ({ data }: Raster) => data.reduce((s, v, i) => (i % 4 === 3 ? s + v / 255 : s), 0) / (data.length / 4);
const piecesOf = ({ width, height, data }: Raster) =>
  findInkPieces(
    Float32Array.from({ length: width * height }, (_, i) => data[i * 4 + 3] / 255),
    width,
    height,
    0.2,
    0.5,
  ).pieces;

describe('a sheet of five tries, photographed uphill on lined paper', () => {
  it('becomes one black and one white signature in five actions: drop, take one, Files, make, download', async () => {
    const page = await rig.open('/marks');
    await page.getByText('Drop files here').waitFor();
    expect(sheet.bytes.includes('Stand-in'), 'written by a camera').toBe(true);
    await dropFiles(page, [{ name: sheet.fileName, type: sheet.mediaType, bytes: sheet.bytes }]); // 1
    const third = page.getByRole('button', { name: /^Signature 3; press to take it/ });
    await third.waitFor();
    expect(await page.locator('.candidate').count()).toBe(5);
    await third.click(); // 2
    await page.getByRole('button', { name: 'Signature 3, taken' }).waitFor();
    await page
      .getByRole('navigation', { name: 'Stages' })
      .getByRole('button', { name: /^Files/ })
      .click(); // 3
    await page.getByRole('button', { name: 'Make 3 files' }).click(); // 4
    const link = page.getByRole('link', { name: /^Download/ });
    await link.waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]); // 5
    const zip = unzipSync(new Uint8Array(readFileSync(await download.path())));
    const id = /marks\/([^/]+)/.exec(page.url())?.[1] as string;
    await page.close();

    const { recipe } = (await rig.get(paths.mark(id))) as MarkView;
    const { rect, turn } = recipe.stages.crop;
    expect(turn, 'set level').toBeGreaterThan(-9);
    expect(turn, 'set level').toBeLessThan(-4.5);
    const truth = truthIn(sheet.truth, rect as NonNullable<typeof rect>, turn);
    for (const [name, value] of [
      ['black', 0],
      ['reversed', 255],
    ] as const) {
      const bytes = Object.entries(zip).find(([file]) => file.includes(`-${name}-`))?.[1] as Uint8Array;
      expect(
        chunkTypes(bytes).filter((c) => !['IHDR', 'sRGB', 'PLTE', 'tRNS', 'IDAT', 'IEND'].includes(c)),
        'nothing of the photograph’s tags',
      ).toEqual([]);
      const { raster } = await decodePicture(bytes, `${name}.png`);
      expect(findExtents(raster, 1)).toMatchObject({ x: 0, y: 0, width: raster.width, height: raster.height });
      // As large as the signature is on the photograph, and no larger.
      expect(raster.width / (rect as NonNullable<typeof rect>).width).toBeGreaterThan(0.75);
      expect(raster.width / (rect as NonNullable<typeof rect>).width).toBeLessThanOrEqual(1);
      for (let i = 0; i < raster.data.length; i += 4)
        if (raster.data[i + 3] > 0 && raster.data[i] !== value)
          throw new Error(`${name} holds a pixel of another colour`);
      expect(
        Math.abs(raster.width / raster.height / (truth.width / truth.height) - 1),
        'as wide for its height as the drawing',
      ).toBeLessThan(0.03);
      expect(Math.abs(inked(raster) / inked(truth) - 1), 'as much ink as the drawing').toBeLessThan(0.05);
      expect(piecesOf(raster).length, 'no stroke lost or broken, nothing beside').toBe(piecesOf(truth).length);
    }
  });

  it('can become a mark of its own for each try, all of one original', async () => {
    // A smaller sheet than a telephone's: how long a large one takes is no matter here.
    const brand = await rig.post<BrandView>(paths.brands, { name: 'Three tries', palette: [] });
    const tries = await toJpeg(photographSheet({ noise: 2 }, -4).picture, 90);
    const { mark } = await rig.post<TakenIn>(`${paths.brandMarks(brand.id)}?name=three-tries.jpg`, tries);
    const page = await rig.open(`/marks/${mark.id}/crop`);
    await page.getByRole('button', { name: 'Make each a separate mark' }).click();
    await page.getByRole('link', { name: /^Three tries 3 ?signature/i }).waitFor();
    const marks = (await rig.get(paths.brandMarks(brand.id))) as MarkCard[];
    expect(marks).toHaveLength(4);
    expect(new Set(marks.map((m) => m.originalName)).size).toBe(1);
    const { recipe } = (await rig.get(paths.mark(marks[0].id))) as MarkView;
    expect(recipe.stages.cutOut.mark).not.toBeNull();
    await page.close();
  });

  it('no page reported an error', () => expect(rig.problems).toEqual([]));
});
