import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView, TakenIn } from '../../contract/views';
import { photographSheet } from '../../core/ink/testSheet';
import { toJpeg } from '../../demo/capture';
import { decodePicture } from '../../codecs/decodePicture';
import { disc, drawMark, either, jpegOf, onGround, pngOf, ring } from '../support/pictures';
import { type BrowserRig, ready, startRig } from './rig';

let rig: BrowserRig;
beforeAll(async () => {
  rig = await startRig();
});
afterAll(() => rig?.stop());

const take = async (name: string, bytes: Uint8Array) =>
  (await rig.post<TakenIn>(`${paths.brandMarks(rig.brand.id)}?name=${name}`, bytes)).mark;
const stored = async (mark: MarkView) => ((await rig.get(paths.mark(mark.id))) as MarkView).recipe.stages;
const sheet = async (name: string, angle: number) =>
  take(name, await toJpeg(photographSheet({ noise: 2 }, angle).picture, 90));

describe('the crop', () => {
  it('turns by number, along a drawn line, and by the writing itself', async () => {
    const mark = await sheet('turn.jpg', -6);
    const page = await rig.open(`/marks/${mark.id}/crop`);
    await page.getByRole('button', { name: /^Signature 1; press/ }).waitFor();
    const turn = page.getByRole('spinbutton', { name: 'Turn' });
    await turn.fill('3.5');
    await turn.press('Enter');
    await expect.poll(async () => (await stored(mark)).crop.turn).toBe(3.5);

    await page.getByRole('button', { name: 'Straighten along a line' }).click();
    const pad = (await page.getByRole('img', { name: 'Draw a line along the writing' }).boundingBox()) as {
      x: number;
      y: number;
    };
    await page.mouse.move(pad.x + 300, pad.y + 300);
    await page.mouse.down();
    await page.mouse.move(pad.x + 600, pad.y + 270);
    await page.mouse.up();
    await expect
      .poll(async () => (await stored(mark)).crop.turn)
      .toBeCloseTo((Math.atan2(-30, 300) * 180) / Math.PI, 0);

    await page.getByRole('button', { name: 'Straighten by the writing' }).click();
    await expect.poll(async () => Math.abs((await stored(mark)).crop.turn + 6)).toBeLessThan(1.6);
    await page.close();
  });
  it('takes a signature by its box, and the whole sheet again', async () => {
    const mark = await sheet('take.jpg', -4);
    const page = await rig.open(`/marks/${mark.id}/crop`);
    await page.getByRole('button', { name: /^Signature 2; press/ }).click();
    await expect.poll(async () => (await stored(mark)).cutOut.mark).not.toBeNull();
    await page.getByRole('button', { name: 'Whole sheet again' }).click();
    await expect.poll(async () => (await stored(mark)).crop.rect).toBeNull();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await stored(mark)).crop.rect).not.toBeNull();
    await page.close();
  });
  it('puts the sheet flat by its corners, moved by keyboard', async () => {
    const mark = await sheet('corners.jpg', 0);
    const page = await rig.open(`/marks/${mark.id}/crop`);
    await page.getByRole('button', { name: 'Set the corners' }).click();
    const corner = page.getByRole('button', { name: /^Sheet’s top left corner/ });
    await corner.focus();
    await corner.press('Shift+ArrowRight');
    await expect.poll(async () => (await stored(mark)).crop.corners?.length).toBe(4);
    const { crop } = await stored(mark);
    expect(crop.corners?.[0].x).toBe(Math.round(640 * 0.08) + 10);
    await page.getByRole('button', { name: 'As photographed' }).click();
    await expect.poll(async () => (await stored(mark)).crop.corners).toBeNull();
    await page.close();
  });
});

describe('findings', () => {
  it('a speck is shown by the magnifier, which goes there at a press', async () => {
    const dusty = drawMark(
      900,
      900,
      either(ring(400, 400, 300, 200), disc(860, 850, 3), disc(60, 850, 3)),
      [31, 90, 69],
    );
    const mark = await take('dusty.png', await pngOf(onGround(dusty, [250, 250, 250])));
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const show = page.getByRole('button', { name: 'Show me: 2 specks left' });
    await show.waitFor();
    await ready(page);
    await show.click();
    const glass = page.getByRole('group', { name: 'Magnifier: 2 specks left, place 1 of 2' });
    await glass.waitFor();
    await page.getByRole('button', { name: 'Next place' }).click();
    await page.getByRole('group', { name: /place 2 of 2/ }).waitFor();
    await page.getByRole('button', { name: 'Go to this place' }).click();
    await page.getByText('600 %').waitFor();
    await page.keyboard.press('Escape');
    await expect.poll(() => page.getByRole('group', { name: /^Magnifier/ }).count()).toBe(0);
    await page.getByText('Trouble', { exact: true }).click();
    expect(await page.getByRole('button', { name: /^2 specks left, place/ }).count()).toBe(2);
    await page.close();
  });
  it('a fringe is mended by the press that it offers', async () => {
    const outlined = drawMark(800, 800, disc(400, 400, 300), [140, 165, 150]);
    const inner = drawMark(800, 800, disc(400, 400, 298.3), [31, 90, 69]);
    for (let i = 0; i < outlined.data.length; i += 4)
      if (inner.data[i + 3] > 200) outlined.data.set(inner.data.subarray(i, i + 4), i);
    const mark = await take('fringe.png', await pngOf(onGround(outlined, [255, 255, 255])));
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    const fix = page.getByRole('button', { name: 'Choke the edge by 0.5 px' });
    await fix.waitFor();
    for (let k = 1; k <= 9 && (await fix.count()); k++) {
      await fix.click();
      await expect.poll(async () => (await stored(mark)).cutOut.choke).toBe(k * 0.5);
      // The next result decides whether the finding is still there.
      await fix.waitFor({ state: 'detached', timeout: 10_000 }).catch(() => {});
    }
    expect(await fix.count(), 'the finding goes once the fringe is gone').toBe(0);
    await page.close();
  });
});

describe('a press on the picture', () => {
  it('turns the enclosed area there from open to solid, and on the mark does nothing', async () => {
    const mark = await take(
      'press.png',
      await pngOf(onGround(drawMark(600, 600, ring(300, 300, 250, 150), [31, 90, 69]), [250, 250, 250])),
    );
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    await page.getByRole('region', { name: 'Enclosed areas' }).waitFor();
    const box = (await page.getByRole('group', { name: /^Picture\./ }).boundingBox()) as {
      x: number;
      y: number;
      width: number;
      height: number;
    };
    const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.click(cx + 170, cy); // on the ring itself
    await page.mouse.click(cx + 40, cy + 20);
    await expect.poll(async () => (await stored(mark)).cutOut.areas.map((a) => a.decision)).toEqual(['solid']);
    await page.close();
  });
});

describe('the numbers under the pointer', () => {
  it('tell the original’s colour, the ground, the unmixed colour and the opacity', async () => {
    const mark = await take(
      'numbers.jpg',
      await jpegOf(onGround(drawMark(600, 600, disc(300, 300, 200), [31, 90, 69]), [250, 250, 250]), 95),
    );
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    await page.getByRole('slider', { name: 'Tolerance' }).waitFor();
    const box = (await page.getByRole('group', { name: /^Picture\./ }).boundingBox()) as {
      x: number;
      y: number;
      width: number;
      height: number;
    };
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.locator('.hover-numbers').getByText('opacity 100 %').waitFor();
    expect(await page.locator('.hover-numbers').innerText()).toMatch(/unmixed\s+#1[EF20]5[9AB]4[456]/);
    await page.mouse.move(box.x + box.width / 2 + 200, box.y + box.height / 2 - 180);
    await page.locator('.hover-numbers').getByText('opacity 0 %', { exact: true }).waitFor();
    await page.close();
  });
});

describe('several grounds', () => {
  it('are picked one after another, and both go', async () => {
    // The mark stands on two colours side by side.
    const picture = onGround(drawMark(600, 400, disc(300, 200, 120), [20, 30, 60]), [240, 235, 220]);
    for (let y = 0; y < 400; y++)
      for (let x = 300; x < 600; x++)
        if (Math.hypot(x - 300, y - 200) > 121) picture.data.set([150, 200, 160], (y * 600 + x) * 4);
    const mark = await take('two-grounds.png', await pngOf(picture));
    const page = await rig.open(`/marks/${mark.id}/cutOut`);
    // A colour is picked off a picture that is there.
    await page.getByRole('button', { name: /^White · \d/ }).waitFor();
    const box = (await page.getByRole('group', { name: /^Picture\./ }).boundingBox()) as {
      x: number;
      y: number;
      width: number;
      height: number;
    };
    const pick = async (button: string, x: number) => {
      await page.getByRole('button', { name: button }).click();
      await page.mouse.click(box.x + box.width / 2 + x, box.y + 60);
    };
    await page.getByText('Flat ground', { exact: true }).click();
    await pick('Pick it in the picture', -220);
    await expect.poll(async () => (await stored(mark)).cutOut.ground.length).toBe(1);
    await pick('Pick one more', 220);
    await expect.poll(async () => (await stored(mark)).cutOut.ground).toEqual(['#f0ebdc', '#96c8a0']);
    const { revision } = (await rig.get(paths.mark(mark.id))) as MarkView;
    const { raster } = await decodePicture(
      new Uint8Array(await (await fetch(rig.url + paths.markMaster(mark.id, revision))).arrayBuffer()),
      'm.png',
    );
    for (const [x, y, alpha] of [
      [20, 20, 0],
      [580, 380, 0],
      [300, 200, 255],
    ])
      expect(raster.data[(y * 600 + x) * 4 + 3], `${x}, ${y}`).toBe(alpha);
    await page.close();
  });
});

it('no page reported an error', () => expect(rig.problems).toEqual([]));
