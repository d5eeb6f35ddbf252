import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { seededRandom } from '../seededRandom';
import { groundDistance } from './groundDistance';
import { groundOfColour, measureGround } from './measureGround';
import { findRegion, findStrays, studyPicture } from './studyPicture';

const random = seededRandom(12);
const whole = (below: number) => Math.floor(random() * below);
const WHITE = [255, 255, 255] as const;

/** A white sheet with a few specks, each so far from white. */
function specks(width: number, height: number, count: number, least: number): Raster {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let n = 0; n < count; n++) {
    const i = (Math.floor(height / 3) + whole(height / 4)) * width + Math.floor(width / 3) + whole(width / 4);
    data[i * 4 + whole(3)] = 255 - least - whole(255 - least);
  }
  return { width, height, data };
}

describe('the region that holds the mark', () => {
  it('is the same whether pixels or distances are looked at', () => {
    for (let round = 0; round < 20; round++) {
      const picture = specks(300 + whole(200), 260 + whole(150), 1 + whole(5), 1 + whole(30));
      const ground = groundOfColour(WHITE, measureGround(picture));
      const plane = groundDistance(picture, ground);
      for (const above of [0, 3, 12, 40])
        expect(findStrays(picture, WHITE, above)).toEqual(findRegion(plane, picture.width, picture.height, above));
    }
  });
  it('leaves room round the one pixel that strays, but ends at the border', () => {
    const picture = specks(500, 400, 0, 0);
    picture.data[(200 * 500 + 250) * 4 + 1] = 200;
    expect(findStrays(picture, WHITE, 10)).toEqual({ x: 190, y: 140, width: 121, height: 121 });
    picture.data[(0 * 500 + 499) * 4] = 0;
    expect(findStrays(picture, WHITE, 10)).toEqual({ x: 190, y: 0, width: 310, height: 261 });
  });
  it('is the whole picture where nothing strays, and where nearly all does', () => {
    const empty = specks(200, 150, 0, 0);
    expect(findStrays(empty, WHITE, 0)).toEqual({ x: 0, y: 0, width: 200, height: 150 });
    const full = onGround(
      drawMark(200, 150, () => 1, [20, 20, 20]),
      WHITE,
    );
    expect(findStrays(full, WHITE, 10)).toEqual({ x: 0, y: 0, width: 200, height: 150 });
  });
});

describe('studyPicture', () => {
  const mark = drawMark(600, 500, disc(300, 260, 60), [31, 90, 69]);
  it('measures in the region alone, and what it measures there is what the whole picture has', () => {
    const seen = onGround(mark, [244, 239, 228]);
    const study = studyPicture(seen, [], 1, () => {});
    const all = groundDistance(seen, measureGround(seen));
    const { x, y, width, height } = study.region;
    expect(width * height).toBeLessThan(600 * 500 * 0.3);
    for (let row = 0; row < height; row++) {
      const own = study.distance.subarray(row * width, (row + 1) * width);
      expect(Buffer.compare(own, all.subarray((y + row) * 600 + x, (y + row) * 600 + x + width)), `row ${row}`).toBe(0);
    }
    expect(study.ripple, 'a clean picture has none').toBe(0);
    expect(Buffer.compare(study.calm, study.distance)).toBe(0);
  });
  it('is remembered by the picture, and measured anew for another ground or clean-up', () => {
    const seen = onGround(mark, [250, 250, 250]);
    const steps: string[] = [];
    const first = studyPicture(seen, [], 1, (s) => steps.push(s));
    expect(steps).toEqual(['ground', 'distance', 'tolerance']);
    expect(studyPicture(seen, [], 1, (s) => steps.push(s))).toBe(first);
    expect(steps).toHaveLength(3);
    expect(studyPicture(seen, [], 0.5, () => {})).not.toBe(first);
    expect(studyPicture(seen, [[31, 90, 69]], 1, () => {}).ground.colour).toEqual([31, 90, 69]);
  });
  it('keeps what it measured when other pictures come after it', () => {
    const seen = onGround(mark, [250, 250, 250]);
    const study = studyPicture(seen, [], 1, () => {});
    const [distance, calm] = [study.distance.slice(), study.calm.slice()];
    for (const radius of [20, 150])
      studyPicture(onGround(drawMark(600, 500, disc(200, 250, radius), [200, 20, 20]), [0, 0, 0]), [], 1, () => {});
    expect(Buffer.compare(study.distance, distance)).toBe(0);
    expect(Buffer.compare(study.calm, calm)).toBe(0);
  });
});
