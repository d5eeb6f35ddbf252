import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { drawMark } from '../../tests/support/pictures';
import { renderSvg } from '../../demo/render';
import { fromRaw } from '../../codecs/decodePicture';
import type { Raster } from '../raster/raster';
import { auditLogo } from './auditLogo';
import { compareEdges } from './edgeShapes';

/** Edges that lean every way, and no shape that tells its proportions. */
const BODY =
  '<path d="M20 60C60 10 150 30 190 70S260 190 330 150L300 260C200 300 90 250 60 200Z" fill="#1f5a45"/>' +
  '<path d="M90 110L150 96L170 170L104 190Z" fill="#fff"/>';
const sound = renderSvg(BODY, 525, 420, '0 0 350 280');

async function scaled(raster: Raster, width: number, height: number, kernel: 'lanczos3' | 'linear' | 'cubic') {
  const { data, info } = await fromRaw(raster)
    .resize(width, height, { fit: 'fill', kernel: sharp.kernel[kernel] })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
}
const stretchOf = (raster: Raster) => {
  const { problems, stretch } = auditLogo(raster, {
    ...{ room: { width: 324, height: 144 }, ground: [255, 255, 255], isDrawn: false },
  });
  return problems.includes('stretched') ? stretch : 1;
};

describe('edges along rows and down columns', () => {
  it('are alike where a mark was drawn so, or scaled both ways by one', async () => {
    for (const raster of [sound, await scaled(sound, 315, 252, 'lanczos3'), await scaled(sound, 700, 560, 'linear')]) {
      const { greys, softness, edges } = compareEdges(raster);
      expect(edges).toBeGreaterThan(120);
      expect(Math.abs(greys)).toBeLessThan(0.1);
      expect(Math.abs(softness)).toBeLessThan(0.03);
      expect(stretchOf(raster)).toBe(1);
    }
  });
  it.each(['lanczos3', 'linear', 'cubic'] as const)(
    'tell how far a mark was drawn out, by a %s filter',
    async (kernel) => {
      for (const by of [1.25, 1.4, 1.6]) {
        const wide = await scaled(sound, Math.round(sound.width * by), sound.height, kernel);
        expect(compareEdges(wide).greys).toBeGreaterThan(0.1);
        expect(Math.abs(stretchOf(wide) / by - 1)).toBeLessThan(0.12);
        const high = await scaled(sound, sound.width, Math.round(sound.height * by), kernel);
        expect(compareEdges(high).greys).toBeLessThan(-0.1);
        expect(Math.abs(stretchOf(high) * by - 1)).toBeLessThan(0.12);
      }
    },
  );
  it('tell that a mark was brought together, and which way', async () => {
    for (const by of [0.8, 0.7]) {
      expect(stretchOf(await scaled(sound, Math.round(sound.width * by), sound.height, 'lanczos3'))).toBeLessThan(0.9);
      expect(stretchOf(await scaled(sound, sound.width, Math.round(sound.height * by), 'lanczos3'))).toBeGreaterThan(
        1.1,
      );
    }
  });
  it('say nothing by a soft shadow to one side, nor by lines that lie on the grid', () => {
    const shadow =
      '<defs><filter id="s" width="150%"><feGaussianBlur stdDeviation="3 0"/></filter></defs>' +
      '<g filter="url(#s)" opacity=".4" transform="translate(7 0)">' +
      `${BODY.replace('#fff', '#1f5a45')}</g>`;
    expect(Math.abs(compareEdges(renderSvg(shadow + BODY, 560, 420, '0 0 373 280')).greys)).toBeLessThan(0.17);
    const bars = drawMark(300, 200, (x, y) => Number(x % 60 < 30 && y > 20), [30, 60, 90]);
    expect(compareEdges(bars).edges).toBeLessThan(20);
    expect(stretchOf(bars)).toBe(1);
  });
});
