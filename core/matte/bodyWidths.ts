import { MARK } from './spreadGround';

/**
 * Tells how wide the piece of the mark is that a pixel belongs to: twice its area over the length of its rim, so about
 * the stroke's width for a letter and the radius for a disc. Pieces are measured when first asked for.
 * @param labels  label plane; only what is MARK counts, four neighbours joined; must not change between calls
 */
export function measureBodies(labels: Int32Array, width: number): (pixel: number) => Body {
  const total = labels.length;
  const piece = new Uint16Array(total);
  const bodies: Body[] = [];
  const stack: number[] = [];
  const measure = (start: number): Body => {
    // Beyond so many pieces the mark is dust, and dust shares a number.
    const id = Math.min(bodies.length + 1, 65535);
    let areaPx = 0;
    let rimPx = 0;
    stack.push(start);
    while (stack.length) {
      const i = stack.pop() as number;
      if (piece[i]) continue;
      const rowStart = i - (i % width);
      let left = i;
      while (left > rowStart && labels[left - 1] === MARK) left--;
      let right = i;
      while (right + 1 < rowStart + width && labels[right + 1] === MARK) right++;
      piece.fill(id, left, right + 1);
      areaPx += right - left + 1;
      let isOpenAbove = false;
      let isOpenBelow = false;
      for (let k = left; k <= right; k++) {
        const isAbove = k >= width && labels[k - width] === MARK;
        const isBelow = k + width < total && labels[k + width] === MARK;
        if (k === left || k === right || !isAbove || !isBelow) rimPx++;
        if (isAbove && !isOpenAbove && !piece[k - width]) stack.push(k - width);
        if (isBelow && !isOpenBelow && !piece[k + width]) stack.push(k + width);
        isOpenAbove = isAbove;
        isOpenBelow = isBelow;
      }
    }
    const body = { areaPx, halfWidth: (2 * areaPx) / Math.max(1, rimPx) };
    bodies[id - 1] = body;
    return body;
  };
  return (pixel) => (piece[pixel] ? bodies[piece[pixel] - 1] : measure(pixel));
}

export interface Body { readonly areaPx: number; readonly halfWidth: number }
