import { expect, it } from 'vitest';
import { disc, drawMark, onGround } from '../../tests/support/pictures';
import { normalFrom, seededRandom } from '../seededRandom';
import { inspectPicture } from './inspectPicture';

const mark = drawMark(160, 120, disc(80, 60, 30), [31, 90, 69]);

it('tells transparent artwork, a flat ground and textured paper apart', () => {
  expect(inspectPicture(mark).way).toBe('transparent');
  expect(inspectPicture(onGround(mark, [255, 255, 255]))).toMatchObject({ way: 'flat', groundHex: '#ffffff' });
  const paper = onGround(mark, [222, 214, 196]);
  const noise = normalFrom(seededRandom(2));
  for (let i = 0; i < paper.data.length; i += 4) {
    const n = Math.round(noise() * 11);
    for (let c = 0; c < 3; c++) paper.data[i + c] = Math.min(255, Math.max(0, paper.data[i + c] + n));
  }
  expect(inspectPicture(paper).way).toBe('paper');
});
it('does not take an alpha channel that hides nothing for transparency', () => {
  expect(inspectPicture(onGround(mark, [200, 210, 220])).way).toBe('flat');
  expect(inspectPicture(mark).clearShare).toBeGreaterThan(0.8);
});
