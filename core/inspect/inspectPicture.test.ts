import { expect, it } from 'vitest';
import { disc, drawMark, onGround } from '../../tests/support/pictures';
import { photographSheet } from '../ink/testSheet';
import { normalFrom, seededRandom } from '../seededRandom';
import { inspectPicture } from './inspectPicture';

const mark = drawMark(160, 120, disc(80, 60, 30), [31, 90, 69]);

it('tells transparent artwork, a flat ground and writing on paper apart', () => {
  expect(inspectPicture(mark).way).toBe('transparent');
  expect(inspectPicture(onGround(mark, [255, 255, 255]))).toMatchObject({ way: 'flat', groundHex: '#ffffff' });
  expect(inspectPicture(photographSheet({ noise: 4, falloff: 0.3, paper: [243, 234, 212] }).picture).way).toBe('paper');
});
it('takes a picture of one colour for a plate, as it was saved or heavily compressed', () => {
  const plate = onGround(
    drawMark(160, 120, () => 0, [0, 0, 0]),
    [31, 90, 69],
  );
  expect(inspectPicture(plate)).toMatchObject({ way: 'opaque', groundHex: '#1f5a45' });
  const noise = normalFrom(seededRandom(2));
  for (let i = 0; i < plate.data.length; i += 4) plate.data[i] += Math.round(noise());
  expect(inspectPicture(plate).way).toBe('opaque');
  plate.data.set([90, 140, 120], (60 * 160 + 80) * 4);
  expect(inspectPicture(plate).way).toBe('flat');
});
it('takes a logo of several colours for no writing, however noisy its ground is', () => {
  const other = drawMark(160, 120, disc(40, 40, 18), [190, 40, 40]);
  for (let i = 0; i < mark.data.length; i += 4)
    if (other.data[i + 3] > 0) mark.data.set(other.data.subarray(i, i + 4), i);
  const noisy = onGround(mark, [222, 214, 196]);
  const noise = normalFrom(seededRandom(2));
  for (let i = 0; i < noisy.data.length; i++)
    if (i % 4 < 3) noisy.data[i] = Math.min(255, Math.max(0, noisy.data[i] + Math.round(noise() * 6)));
  expect(inspectPicture(noisy).way).toBe('flat');
});
it('does not take an alpha channel that hides nothing for transparency', () => {
  expect(inspectPicture(onGround(mark, [200, 210, 220])).way).toBe('flat');
  expect(inspectPicture(mark).clearShare).toBeGreaterThan(0.7);
});
