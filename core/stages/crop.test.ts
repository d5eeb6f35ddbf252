import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround, pixel } from '../../tests/support/pictures';
import { project } from '../geometry/projective';
import { initialValues } from '../params';
import { crop } from './crop';
import { type Artwork, artworkOfRaster } from '../artwork/artwork';
import { plainContext } from '../../tests/support/stageContext';

const input = (
  reduction = 1,
  picture = onGround(drawMark(200, 160, disc(140, 60, 12), [180, 30, 30]), [250, 250, 250]),
): Artwork => artworkOfRaster(picture, reduction);
const none = initialValues(crop.params);
const run = (p: Partial<typeof none>, from = input()) => crop.run(from, { ...none, ...p }, plainContext).artwork;

describe('crop', () => {
  it('hands the picture on untouched when nothing is asked for', () => {
    const from = input();
    expect(run({}, from)).toBe(from);
  });
  it('sets what leans in the region upright about the region’s middle, and knows where each pixel came from', () => {
    const rect = { x: 60, y: 40, width: 100, height: 60 };
    const out = run({ rect, turn: 20 });
    expect([out.raster.width, out.raster.height]).toEqual([100, 60]);
    const middle = project(out.toWorking, 50, 30);
    expect(middle.x).toBeCloseTo(110, 6);
    expect(middle.y).toBeCloseTo(70, 6);
    // Along the region's own direction by 30: turned clockwise by 20 degrees on the picture.
    const along = project(out.toWorking, 80, 30);
    expect(Math.atan2(along.y - middle.y, along.x - middle.x) * (180 / Math.PI)).toBeCloseTo(20, 6);
  });
  it('shows at each place what the picture holds there', () => {
    const out = run({ rect: { x: 90, y: 20, width: 90, height: 80 }, turn: -30 });
    for (let y = 5; y < 75; y += 10)
      for (let x = 5; x < 85; x += 10) {
        const at = project(out.toWorking, x + 0.5, y + 0.5);
        const inside = Math.hypot(at.x - 140, at.y - 60) - 12;
        if (Math.abs(inside) > 2) expect(pixel(out.raster, x, y)[1], `${x}, ${y}`).toBe(inside < 0 ? 30 : 250);
      }
  });
  it('loses nothing of the whole picture when only a turn is asked for', () => {
    const out = run({ turn: 45 });
    const corners = [
      [0, 0],
      [200, 0],
      [200, 160],
      [0, 160],
    ];
    expect(out.raster.width).toBe(Math.round((200 + 160) * Math.SQRT1_2));
    const inside = project(out.toWorking, out.raster.width / 2, out.raster.height / 2);
    expect(inside.x).toBeCloseTo(100, 6);
    expect(corners).toHaveLength(4);
  });
  it('puts a sheet flat by its corners: each corner of the result is the one on the picture', () => {
    const corners = [
      { x: 30, y: 20 },
      { x: 180, y: 30 },
      { x: 170, y: 140 },
      { x: 20, y: 120 },
    ] as const;
    const out = run({ corners });
    const ends = [
      [0, 0],
      [out.raster.width, 0],
      [out.raster.width, out.raster.height],
      [0, out.raster.height],
    ];
    ends.forEach(([x, y], k) => {
      const at = project(out.toWorking, x, y);
      expect(at.x).toBeCloseTo(corners[k].x, 4);
      expect(at.y).toBeCloseTo(corners[k].y, 4);
    });
  });
  it('shows the same region of a reduced picture, smaller by the reduction', () => {
    const rect = { x: 180, y: 120, width: 300, height: 180 };
    const out = run({ rect, turn: 10 }, input(3));
    expect([out.raster.width, out.raster.height]).toEqual([100, 60]);
    expect(project(out.toWorking, 50, 30).x).toBeCloseTo(330, 6);
  });
  it('refuses a region that would blow the picture up', () => {
    expect(() => run({ rect: { x: 0, y: 0, width: 90_000, height: 90_000 }, turn: 5 })).toThrowError(
      expect.objectContaining({ code: 'crop/too-large' }),
    );
  });
});
