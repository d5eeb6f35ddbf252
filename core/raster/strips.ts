import { type Kernels, call, copyPartIn, roomFor, withHeap } from '../kernels/heap';
import type { RectPx } from '../params';
import type { Raster } from './raster';

const ROWS = 64;

/**
 * Brings a part of a picture into the kernels' memory some rows at a time, for kernels that only look; ends when
 * `visit` answers that it saw enough.
 */
export function eachStrip(
  raster: Raster,
  part: RectPx,
  visit: (k: Kernels, at: number, rows: number, y: number) => boolean | void,
): void {
  const bytes = part.width * 4;
  let isEnough = false;
  for (let y = part.y; y < part.y + part.height && !isEnough; y += ROWS) {
    const rows = Math.min(ROWS, part.y + part.height - y);
    withHeap(roomFor(bytes * rows), () => {
      const strip = copyPartIn(raster.data, raster.width * 4, { x: part.x * 4, y, width: bytes, height: rows });
      isEnough = call([strip], [], 0, ({ k, at }) => visit(k, at(strip), rows, y)) === true;
    });
  }
}

/**
 * The box that kernels found since `startBox`, or null when they found nothing; `left` is where their columns begin.
 */
export function boxFound(k: Kernels, left = 0): RectPx | null {
  const top = k.boxTop();
  if (top < 0) return null;
  const x = k.boxLeft();
  return { x: left + x, y: top, width: k.boxRight() - x + 1, height: k.boxBottom() - top + 1 };
}
