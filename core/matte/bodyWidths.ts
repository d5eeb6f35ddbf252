import { call, shorts } from '../kernels/heap';
import { stackRoom } from './spreadGround';

/**
 * Tells how wide the piece of the mark is that a pixel belongs to: twice its area over the length of its rim, so about
 * the stroke's width for a letter and the radius for a disc. Pieces are measured when first asked for.
 * @param labels  label plane; only what is MARK counts, four neighbours joined; must not change between calls
 */
export function measureBodies(labels: Int32Array, width: number): (pixel: number) => Body {
  const total = labels.length;
  const piece = shorts(total);
  const bodies: Body[] = [];
  const stack = stackRoom(width, Math.ceil(total / width));
  const measure = (start: number): Body => {
    // Beyond so many pieces the mark is dust, and dust shares a number.
    const id = Math.min(bodies.length + 1, 65535);
    const body = call([labels], [piece], stack, ({ k, at, scratch }) => {
      const areaPx = k.measureBody({
        start,
        id,
        labels: at(labels),
        width,
        total,
        piece: at(piece),
        stack: scratch(stack, false),
      });
      return { areaPx, halfWidth: (2 * areaPx) / Math.max(1, k.bodyRim()) };
    });
    bodies[id - 1] = body;
    return body;
  };
  return (pixel) => (piece[pixel] ? bodies[piece[pixel] - 1] : measure(pixel));
}

export interface Body {
  readonly areaPx: number;
  readonly halfWidth: number;
}
