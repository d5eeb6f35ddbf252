import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround, pixel } from '../../tests/support/pictures';
import { composeProjective, fromMatrix, invertProjective, turning } from '../geometry/projective';
import { warpRaster } from './warpRaster';

const picture = onGround(drawMark(120, 100, disc(60, 50, 25), [20, 60, 120]), [240, 230, 210]);
const identity = fromMatrix([1, 0, 0, 1, 0, 0]);

describe('warpRaster', () => {
  it('gives the very picture for the mapping that changes nothing', () => {
    expect(warpRaster(picture, identity, 120, 100, true).data).toEqual(picture.data);
  });
  it('moves by whole pixels without a loss, and goes on with the outermost pixels of an opaque picture', () => {
    const moved = warpRaster(picture, fromMatrix([1, 0, 0, 1, 7, -5]), 120, 100, true);
    expect(pixel(moved, 40, 60)).toEqual(pixel(picture, 47, 55));
    expect(pixel(moved, 119, 0)).toEqual(pixel(picture, 119, 0));
  });
  it('leaves nothing visible where a transparent picture has ended', () => {
    const moved = warpRaster(
      drawMark(40, 40, disc(20, 20, 30), [0, 0, 0]),
      fromMatrix([1, 0, 0, 1, 30, 0]),
      40,
      40,
      false,
    );
    expect(pixel(moved, 20, 20)[3]).toBe(0);
  });
  it('keeps a disc a disc of the same area when it is turned about its middle', () => {
    const about = composeProjective(
      fromMatrix([1, 0, 0, 1, 60, 50]),
      composeProjective(turning(31), fromMatrix([1, 0, 0, 1, -60, -50])),
    );
    const mark = drawMark(120, 100, disc(60, 50, 25), [20, 60, 120]);
    const turned = warpRaster(mark, about, 120, 100, false);
    const area = (d: Uint8Array) => d.reduce((s, v, i) => (i % 4 === 3 ? s + v / 255 : s), 0);
    expect(area(turned.data)).toBeCloseTo(Math.PI * 625, -1);
    for (let i = 0; i < turned.data.length; i += 4)
      if (turned.data[i + 3] > 8) expect([...turned.data.subarray(i, i + 3)]).toEqual([20, 60, 120]);
  });
  it('turned there and back is nearly the picture', () => {
    const about = composeProjective(
      fromMatrix([1, 0, 0, 1, 60, 50]),
      composeProjective(turning(12), fromMatrix([1, 0, 0, 1, -60, -50])),
    );
    const back = warpRaster(warpRaster(picture, about, 120, 100, true), invertProjective(about), 120, 100, true);
    let sum = 0;
    for (let y = 20; y < 80; y++)
      for (let x = 20; x < 100; x++) sum += Math.abs(pixel(back, x, y)[0] - pixel(picture, x, y)[0]);
    expect(sum / 4800).toBeLessThan(2.5);
  });
});
