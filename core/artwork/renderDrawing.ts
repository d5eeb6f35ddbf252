import { rgbFromHex } from '../colour/hex';
import type { Matrix } from '../geometry/matrix';
import { type Raster, createRaster } from '../raster/raster';
import { AreaCoverage } from '../vector/areaCoverage';
import { flattenPath } from '../vector/flattenPath';
import type { Drawing, Paint, Shape, Stop } from './drawing';

/** A picture's size in whole pixels, and where a drawing's pixels lie on it. */
export interface Canvas {
  readonly width: number;
  readonly height: number;
  readonly matrix: Matrix;
}

interface Layer {
  readonly coverage: AreaCoverage;
  readonly opacity: number;
  /** Fills r, g, b at a pixel's middle, code values. */
  readonly colourAt: (x: number, y: number, rgb: Float64Array) => void;
  readonly row: Float64Array;
}

/**
 * A drawing as a picture: every pixel's alpha is the area that its shapes cover of it, to the nearest of 255. Shapes
 * lie over one another as straight sRGB colours, the first lowest; where two meet within a pixel both cover their share
 * of it.
 */
export function renderDrawing(drawing: Drawing, { width, height, matrix }: Canvas): Raster {
  const out = createRaster(width, height);
  const layers = drawing.shapes
    .filter((shape) => shape.opacity > 0 && shape.path.verbs !== '')
    .map((shape) => toLayer(shape, width, height, matrix));
  if (layers.length === 0) return out;
  const top = Math.min(...layers.map((l) => l.coverage.top));
  const bottom = Math.max(...layers.map((l) => l.coverage.bottom));
  // Premultiplied code values and alpha of the row under way.
  const sum = new Float64Array(width * 4);
  const rgb = new Float64Array(3);
  for (let y = top; y < bottom; y++) {
    let [from, to] = [width, 0];
    for (const layer of layers) {
      if (y < layer.coverage.top || y >= layer.coverage.bottom) continue;
      const span = layer.coverage.row(y, layer.row);
      if (!span) continue;
      from = Math.min(from, span[0]);
      to = Math.max(to, span[1]);
      for (let x = span[0]; x < span[1]; x++) {
        const alpha = layer.row[x] * layer.opacity;
        if (alpha <= 0) continue;
        layer.colourAt(x + 0.5, y + 0.5, rgb);
        const rest = 1 - alpha;
        for (let c = 0; c < 3; c++) sum[x * 4 + c] = sum[x * 4 + c] * rest + rgb[c] * alpha;
        sum[x * 4 + 3] = sum[x * 4 + 3] * rest + alpha;
      }
    }
    writeRow(sum, out, y, from, to);
  }
  return out;
}

function writeRow(sum: Float64Array, { width, data }: Raster, y: number, from: number, to: number): void {
  for (let x = from, i = from * 4, o = (y * width + from) * 4; x < to; x++, i += 4, o += 4) {
    const alpha = sum[i + 3];
    const byte = Math.round(alpha * 255);
    if (byte > 0) {
      for (let c = 0; c < 3; c++) data[o + c] = Math.round(sum[i + c] / alpha);
      data[o + 3] = byte;
    }
    sum[i] = sum[i + 1] = sum[i + 2] = sum[i + 3] = 0;
  }
}

function toLayer(shape: Shape, width: number, height: number, matrix: Matrix): Layer {
  const coverage = new AreaCoverage(flattenPath(shape.path, matrix), shape.rule, width, height);
  return { coverage, opacity: shape.opacity, colourAt: painter(shape.paint, matrix), row: new Float64Array(width) };
}

/** What a paint is at a pixel's middle, code values. @param matrix  from the paint's own pixels to the picture's */
export function painter(paint: Paint, matrix: Matrix): Layer['colourAt'] {
  if (paint.kind === 'colour') {
    const [r, g, b] = rgbFromHex(paint.hex);
    return (_x, _y, rgb) => {
      rgb[0] = r;
      rgb[1] = g;
      rgb[2] = b;
    };
  }
  const [a, b, c, d, e, f] = matrix;
  const det = a * d - b * c;
  const wayAt = paint.kind === 'linear' ? linearWay(paint.geometry) : radialWay(paint.geometry);
  const colours = paint.stops.map((s) => ({ at: s.at, rgb: rgbFromHex(s.hex) }));
  return (x, y, rgb) => {
    const [u, v] = [x - e, y - f];
    mixStops(colours, wayAt((d * u - c * v) / det, (a * v - b * u) / det), rgb);
  };
}

const linearWay = ({ x1, y1, x2, y2 }: { x1: number; y1: number; x2: number; y2: number }) => {
  const [dx, dy] = [x2 - x1, y2 - y1];
  const length = dx * dx + dy * dy || 1;
  return (x: number, y: number) => ((x - x1) * dx + (y - y1) * dy) / length;
};
const radialWay =
  ({ cx, cy, r }: { cx: number; cy: number; r: number }) =>
  (x: number, y: number) =>
    Math.sqrt((x - cx) * (x - cx) + (y - cy) * (y - cy)) / (r || 1);

interface ColourStop extends Pick<Stop, 'at'> {
  readonly rgb: readonly [number, number, number];
}

// Before the first stop and after the last their colours go on.
function mixStops(stops: readonly ColourStop[], way: number, out: Float64Array): void {
  let k = 0;
  while (k < stops.length && stops[k].at <= way) k++;
  const [a, b] = [stops[Math.max(0, k - 1)], stops[Math.min(stops.length - 1, k)]];
  const share = b.at > a.at ? Math.min(1, Math.max(0, (way - a.at) / (b.at - a.at))) : 0;
  for (let c = 0; c < 3; c++) out[c] = a.rgb[c] + (b.rgb[c] - a.rgb[c]) * share;
}
