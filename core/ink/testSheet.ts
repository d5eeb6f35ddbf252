import { type CaptureOptions, plainCapture, simulateCapture } from '../capture/simulateCapture';
import type { Rgb } from '../colour/hex';
import { type Raster, createRaster } from '../raster/raster';

/**
 * For tests: strokes of one ink drawn by distance to a polyline, with soft edges; no drawing library is at hand in
 * core.
 */
export function drawStrokes(
  width: number,
  height: number,
  strokes: readonly (readonly (readonly [number, number])[])[],
  ink: Rgb,
  penPx: number,
): Raster {
  const out = createRaster(width, height);
  for (const stroke of strokes)
    for (let k = 0; k + 1 < stroke.length; k++) {
      const [ax, ay] = stroke[k];
      const [bx, by] = stroke[k + 1];
      const [dx, dy] = [bx - ax, by - ay];
      const length = Math.max(1e-6, dx * dx + dy * dy);
      const reach = penPx / 2 + 1;
      for (
        let y = Math.max(0, Math.floor(Math.min(ay, by) - reach));
        y < Math.min(height, Math.max(ay, by) + reach);
        y++
      ) {
        for (
          let x = Math.max(0, Math.floor(Math.min(ax, bx) - reach));
          x < Math.min(width, Math.max(ax, bx) + reach);
          x++
        ) {
          const t = Math.min(1, Math.max(0, ((x + 0.5 - ax) * dx + (y + 0.5 - ay) * dy) / length));
          const off = Math.hypot(x + 0.5 - ax - t * dx, y + 0.5 - ay - t * dy);
          const a = Math.round(255 * Math.min(1, Math.max(0, penPx / 2 + 0.5 - off)));
          const i = (y * width + x) * 4;
          if (a <= out.data[i + 3]) continue;
          out.data.set([...ink, a], i);
        }
      }
    }
  return out;
}

/**
 * For tests: a line of arches as of joined letters, its baseline through (x, y) turned by `angleDeg`, clockwise
 * positive.
 */
export function archLine(
  x: number,
  y: number,
  count: number,
  wide: number,
  tall: number,
  angleDeg = 0,
): [number, number][] {
  const [cos, sin] = [Math.cos((angleDeg * Math.PI) / 180), Math.sin((angleDeg * Math.PI) / 180)];
  const points: [number, number][] = [];
  for (let k = 0; k <= count * 12; k++) {
    const u = (k / 12) * wide;
    const v = -tall * Math.abs(Math.sin((k / 12) * Math.PI)) * (0.75 + 0.25 * Math.cos(k));
    points.push([x + u * cos - v * sin, y + u * sin + v * cos]);
  }
  return points;
}

export const blueInk: Rgb = [31, 58, 147];

/** For tests: three lines of arches on a sheet, as a photograph with its truth. */
export function photographSheet(options: Partial<CaptureOptions> = {}, angleDeg = 0) {
  const ink = drawStrokes(
    640,
    460,
    [
      archLine(60, 110, 7, 40, 60, angleDeg),
      archLine(330, 260, 6, 40, 60, angleDeg),
      archLine(60, 430, 6, 40, 60, angleDeg),
    ],
    blueInk,
    6,
  );
  return simulateCapture(ink, { ...plainCapture, blurPx: 0.6, ...options });
}

/** Mean alpha error over pixels where either picture shows anything. */
export function alphaError(result: Raster, truth: Raster): number {
  let sum = 0;
  let count = 0;
  for (let i = 3; i < truth.data.length; i += 4) {
    if (result.data[i] === 0 && truth.data[i] === 0) continue;
    sum += Math.abs(result.data[i] - truth.data[i]) / 255;
    count++;
  }
  return sum / Math.max(1, count);
}
