import type { RectPx } from '../params';
import type { Raster } from '../raster/raster';
import type { Covered } from './coverage';

/** Above this a pixel is the mark's. */
const SOLID = 128;
/** Edge pixels beside what was closed off are part of its rim. */
const RIM_PX = 2;

/**
 * What a line drawn over an opening closes off, such as a door whose foot was open: the clear pixels that could be
 * reached from outside before and cannot be once the line is solid, with the soft rim round them. What was enclosed
 * before stays as it is. Four neighbours, so that no slanting outline leaks.
 * @param within  where alone anything is visible
 * @returns null where the line closes nothing off
 */
export function closedOff({ width, data }: Raster, within: RectPx, line: Covered): Covered | null {
  // One pixel of clear room round the mark, from which everything outside is reached.
  const [w, h] = [within.width + 2, within.height + 2];
  const isSolid = new Uint8Array(w * h);
  for (let y = 0; y < within.height; y++)
    for (let x = 0; x < within.width; x++)
      if (data[((within.y + y) * width + within.x + x) * 4 + 3] >= SOLID) isSolid[(y + 1) * w + x + 1] = 1;
  const before = reachable(isSolid, w, h);
  for (let y = 0, k = 0; y < line.box.height; y++) {
    for (let x = 0; x < line.box.width; x++, k++) {
      const [px, py] = [line.box.x + x - within.x + 1, line.box.y + y - within.y + 1];
      if (line.share[k] >= SOLID && px >= 0 && py >= 0 && px < w && py < h) isSolid[py * w + px] = 1;
    }
  }
  const after = reachable(isSolid, w, h);
  let [left, top, right, bottom] = [w, h, -1, -1];
  for (let k = 0; k < before.length; k++) {
    if (!before[k] || after[k] || isSolid[k]) continue;
    const [x, y] = [k % w, Math.floor(k / w)];
    [left, top] = [Math.min(left, x), Math.min(top, y)];
    [right, bottom] = [Math.max(right, x), Math.max(bottom, y)];
  }
  if (right < 0) return null;
  const x0 = Math.max(1, left - RIM_PX);
  const y0 = Math.max(1, top - RIM_PX);
  const box = {
    x: within.x + x0 - 1,
    y: within.y + y0 - 1,
    width: Math.min(w - 2, right + RIM_PX) - x0 + 1,
    height: Math.min(h - 2, bottom + RIM_PX) - y0 + 1,
  };
  const share = new Uint8Array(box.width * box.height);
  for (let k = 0; k < before.length; k++) {
    if (!before[k] || after[k] || isSolid[k]) continue;
    const [x, y] = [(k % w) - x0, Math.floor(k / w) - y0];
    for (let ny = Math.max(0, y - RIM_PX); ny <= Math.min(box.height - 1, y + RIM_PX); ny++)
      for (let nx = Math.max(0, x - RIM_PX); nx <= Math.min(box.width - 1, x + RIM_PX); nx++) {
        // The far side of a thin wall is not the rim of this side.
        const at = (ny + y0) * w + nx + x0;
        if (!after[at]) share[ny * box.width + nx] = 255;
      }
  }
  return { box, share };
}

/** What is not solid and can be reached from the first pixel. */
function reachable(isSolid: Uint8Array, w: number, h: number): Uint8Array {
  const seen = new Uint8Array(w * h);
  const open = new Int32Array(w * h);
  let count = 1;
  seen[0] = 1;
  const visit = (k: number) => {
    if (seen[k] || isSolid[k]) return;
    seen[k] = 1;
    open[count++] = k;
  };
  while (count > 0) {
    const k = open[--count];
    const x = k % w;
    if (x > 0) visit(k - 1);
    if (x < w - 1) visit(k + 1);
    if (k >= w) visit(k - w);
    if (k < w * (h - 1)) visit(k + w);
  }
  return seen;
}
