import { describe, expect, it } from 'vitest';
import { composeProjective, fromMatrix, turning } from '../../../../core/geometry/projective';
import type { Shown } from '../../../data/useEngine';
import { frameMapping } from './frame';

const shown = (toWorking: Shown['shown']['toWorking'], reduction: number) =>
  ({ shown: { toWorking }, reduction }) as Shown;

describe('frameMapping', () => {
  it('leaves places alone while nothing is shown', () =>
    expect(frameMapping(null).toFrame({ x: 3, y: 4 })).toEqual({ x: 3, y: 4 }));
  it('takes off the crop, whatever the reduction', () => {
    const { toFrame } = frameMapping(shown(fromMatrix([4, 0, 0, 4, 100, 60]), 4));
    expect(toFrame({ x: 140, y: 60 })).toEqual({ x: 40, y: 0 });
  });
  it('follows a turn there and back', () => {
    const map = frameMapping(
      shown(
        composeProjective(
          fromMatrix([1, 0, 0, 1, 50, 20]),
          composeProjective(turning(17), fromMatrix([2, 0, 0, 2, 0, 0])),
        ),
        2,
      ),
    );
    const back = map.toWorking(map.toFrame({ x: 321, y: 123 }));
    expect(back.x).toBeCloseTo(321, 6);
    expect(back.y).toBeCloseTo(123, 6);
  });
});
