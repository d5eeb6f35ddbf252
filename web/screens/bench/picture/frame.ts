import { invertProjective, project } from '../../../../core/geometry/projective';
import type { Shown } from '../../../data/useEngine';

export interface Place {
  readonly x: number;
  readonly y: number;
}

/**
 * From places in the working picture to the frame that the crop lets through, and back. Frame pixels are full-size
 * pixels.
 */
export function frameMapping(shown: Shown | null): { toFrame: (p: Place) => Place; toWorking: (p: Place) => Place } {
  if (!shown) return { toFrame: (p) => p, toWorking: (p) => p };
  const back = invertProjective(shown.shown.toWorking);
  const { reduction } = shown;
  return {
    toFrame: ({ x, y }) => {
      const p = project(back, x, y);
      return { x: p.x * reduction, y: p.y * reduction };
    },
    toWorking: ({ x, y }) => project(shown.shown.toWorking, x / reduction, y / reduction),
  };
}
