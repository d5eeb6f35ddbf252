import { expect, it } from 'vitest';
import { decodePicture } from '../../codecs/decodePicture';
import { disc, drawMark, either, jpegOf, onGround, ring } from '../../tests/support/pictures';
import type { Raster } from '../raster/raster';
import { seededRandom } from '../seededRandom';
import { findPieces } from '../tidy/pieces';
import { cutOutFlat, plainFlat } from './cutOutFlat';
import { removeCrumbs } from './removeCrumbs';

const pieces = (picture: Raster) =>
  findPieces(picture, { x: 0, y: 0, width: picture.width, height: picture.height }).pieces;
/** Every pixel is of the edge. */
const all = ({ width, height }: Raster) => ({
  depth: new Int8Array(width * height),
  rings: [Int32Array.from({ length: width * height }, (_, i) => i)],
  outer: [],
});

it('takes faint pieces that touch nothing, and nothing that goes on into the mark', () => {
  const picture = drawMark(60, 40, disc(20, 20, 8), [31, 90, 69]);
  const dot = (x: number, y: number, alpha: number) => picture.data.set([31, 90, 69, alpha], (y * 60 + x) * 4);
  for (const [x, y] of [
    [40, 10],
    [41, 11],
    [50, 30],
  ])
    dot(x, y, 30);
  // The thin end of a stroke, and a dot of the drawing.
  for (let x = 28; x < 36; x++) dot(x, 20, 255 - (x - 27) * 28);
  dot(50, 10, 200);
  removeCrumbs(picture, all(picture));
  expect(pieces(picture).map((p) => p.peak)).toEqual([200, 255]);
  expect(picture.data[(20 * 60 + 35) * 4 + 3]).toBe(31);
});

it.each([75, 80, 86, 92])('leaves a drawing’s own pieces of a JPEG of quality %i', async (quality) => {
  const random = seededRandom(quality);
  for (let k = 0; k < 5; k++) {
    const at = () => 60 + 200 * random();
    const drawing = either(
      ring(160 + 10 * k, 160, 120, 104),
      disc(at(), at(), 12 + 20 * random()),
      disc(420, 160, 4 + 30 * random()),
      (x, y) => +(x > 380 && x < 384 + 3 * k && y > 240 && y < 300),
    );
    const mark = drawMark(520, 320, drawing, [200 * random(), 90, 160 * random()]);
    const bytes = await jpegOf(onGround(mark, k % 2 ? [255, 255, 255] : [244, 239, 228]), quality);
    const { raster } = await decodePicture(bytes, 'mark.jpg');
    const { picture } = cutOutFlat(raster, { ...plainFlat, enclosed: 'open' });
    expect(Math.abs(pieces(picture).length - pieces(mark).length), `drawing ${k}`).toBeLessThanOrEqual(2);
  }
});
