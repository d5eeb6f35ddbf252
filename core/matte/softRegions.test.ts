import { describe, expect, it } from 'vitest';
import { drawMark, onGround, pixel } from '../../tests/support/pictures';
import { renderSvg } from '../../demo/render';
import { cutOutFlat, plainFlat } from './cutOutFlat';
import { farthestColour } from './softRegions';

const shadowed = renderSvg(
  '<defs><filter id="s" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur ' +
    'stdDeviation="9"/></filter></defs><rect x="80" y="70" width="160" height="110" ' +
    'rx="18" fill="#000" fill-opacity=".4" filter="url(#s)" transform="translate(10 ' +
    '16)"/><rect x="80" y="70" width="160" height="110" rx="18" fill="#b5322b"/>',
  320,
  260,
);

describe('shadows and glows', () => {
  it.each([[[255, 255, 255]], [[214, 229, 238]], [[230, 220, 200]]] as const)(
    'a soft shadow on %j comes back as black at its own strength',
    (ground) => {
      const { picture } = cutOutFlat(onGround(shadowed, ground), plainFlat);
      let sum = 0;
      let n = 0;
      for (let y = 190; y < 230; y++) {
        for (let x = 60; x < 270; x++) {
          const [r, g, b, a] = pixel(picture, x, y);
          sum += Math.abs(a - pixel(shadowed, x, y)[3]);
          n++;
          if (a > 20) expect(Math.max(r, g, b)).toBeLessThan(26);
        }
      }
      expect(sum / n).toBeLessThan(4);
      expect(pixel(picture, 160, 120)).toEqual([181, 50, 43, 255]);
    },
  );
  it('a pale part with a hard edge is no shadow', () => {
    const pale = drawMark(200, 160, (x, y) => (x > 40 && x < 160 && y > 40 && y < 120 ? 1 : 0), [222, 222, 222]);
    expect(pixel(cutOutFlat(onGround(pale, [255, 255, 255]), plainFlat).picture, 100, 80)).toEqual([
      222, 222, 222, 255,
    ]);
  });
  it('farthestColour is where the line through the cube ends', () => {
    expect(farthestColour([255, 255, 255], [-10, -10, -10])).toEqual([0, 0, 0]);
    expect(farthestColour([255, 255, 255], [0, -95, -255])).toEqual([255, 160, 0]);
    expect(farthestColour([100, 100, 100], [0, 0, 0])).toEqual([100, 100, 100]);
  });
});
