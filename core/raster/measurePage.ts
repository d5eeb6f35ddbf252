import { hexFromRgb } from '../colour/hex';
import type { RectPx } from '../params';
import { findExtents } from './extents';
import type { Raster } from './raster';

/** What a finished page shows, by its pixels. */
export interface PageFacts {
  /** The least and the most opaque pixel, 0..255. */
  readonly alphaRange: readonly [number, number];
  /** The smallest rectangle round all that is visible, px; null where nothing is. */
  readonly extents: RectPx | null;
  /** Whether all four corners are fully see-through. */
  readonly cornersClear: boolean;
  /** Colours that cover a hundredth of what is visible, the most common first. */
  readonly colours: readonly string[];
  /** Share of the page that is fully see-through, 0..1. */
  readonly clearShare: number;
}

const MOST_COLOURS = 16;
const LEAST_SHARE = 0.01;
const OPAQUE = 250;
const MOST_COUNTED = 1 << 16;

/**
 * Measures a page.
 * @param raster  straight alpha; of a page without any the extents are those of what differs from its upper left corner
 */
export function measurePage(raster: Raster): PageFacts {
  const { width, height, data } = raster;
  const px = new Uint32Array(data.buffer, data.byteOffset, width * height);
  let [least, most, clear] = [255, 0, 0];
  const counts = new Map<number, number>();
  let visible = 0;
  // Most of a mark is flat: runs of one colour are counted together.
  for (let i = 0; i < px.length;) {
    const colour = px[i];
    const from = i;
    while (i < px.length && px[i] === colour) i++;
    const a = colour >>> 24;
    const run = i - from;
    if (a < least) least = a;
    if (a > most) most = a;
    if (a === 0) clear += run;
    if (a < OPAQUE) continue;
    visible += run;
    const key = colour & 0xffffff;
    const before = counts.get(key);
    if (before !== undefined) counts.set(key, before + run);
    // A photo has more colours than are worth a count.
    else if (counts.size < MOST_COUNTED) counts.set(key, run);
  }
  const corners = [0, width - 1, (height - 1) * width, height * width - 1];
  const colours = [...counts]
    .filter(([, n]) => n >= visible * LEAST_SHARE)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_COLOURS)
    .map(([key]) => hexFromRgb([key & 255, (key >> 8) & 255, key >> 16]));
  return {
    alphaRange: [least, most],
    extents: least === 255 ? extentsOnGround(raster) : findExtents(raster),
    cornersClear: corners.every((i) => data[i * 4 + 3] === 0),
    colours,
    clearShare: clear / (width * height),
  };
}

/** Compression moves a flat colour by no more. */
const LEAST_STEP = 8;

function extentsOnGround({ width, height, data }: Raster): RectPx | null {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = (y * width + x) * 4;
      const [r, g, b] = [data[p] - data[0], data[p + 1] - data[1], data[p + 2] - data[2]];
      const step = Math.max(Math.abs(r), Math.abs(g), Math.abs(b));
      if (step <= LEAST_STEP) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  }
  return right < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
