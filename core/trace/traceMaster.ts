import { hexFromRgb } from '../colour/hex';
import type { Drawing, Shape } from '../artwork/drawing';
import { type Plane, type Raster, matteOf } from '../raster/raster';
import { colourCoverage } from './colourCoverage';
import { dissolveSlivers } from './dissolveSlivers';
import { type FlatColour, type Palette, findPalette } from './findPalette';
import { FAINT } from './insideMask';
import { type TraceOptions, type Traced, traceCoverage } from './traceCoverage';

export interface MasterTraceOptions extends TraceOptions {
  /** How many colours; null for what the picture proposes. */
  readonly colours: number | null;
}

/** One colour's outlines. */
export interface TracedLayer {
  readonly hex: string;
  readonly traced: Traced;
  /** Pixels that it covers in sight. */
  readonly areaPx: number;
}

export interface TracedMaster {
  readonly drawing: Drawing;
  readonly layers: readonly TracedLayer[];
  readonly palette: Palette;
}

/** Pieces of a colour smaller than this are what compression leaves at edges. */
/** Mixtures are off by the noise: so much of coverage, of 255, for every code value of it. */
const FAINT_BY_NOISE = 8;
const SLIVER_PX = 8;
const SLIVER_BY_NOISE_PX = 2;

/**
 * A master as few flat colours, each drawn as one path. The largest lies lowest; each goes a pixel beneath those above
 * it, so that no seam shows, and never beyond the mark's own outline.
 * @param raster  straight alpha
 */
export function traceMaster(
  raster: Raster,
  options: MasterTraceOptions,
  onStep: (share: number) => void = () => {},
): TracedMaster {
  const palette = findPalette(raster, options.colours);
  const { width, height } = raster;
  const colours = palette.colours;
  const unmixed = colours.length > 1 ? colourCoverage(raster, colours, palette.noise) : null;
  const planes = unmixed ? unmixed.planes : [matteOf(raster).data];
  const noise = unmixed?.noise ?? 0;
  const smallest = unmixed ? SLIVER_PX + SLIVER_BY_NOISE_PX * noise : 0;
  if (smallest > 0) dissolveSlivers(planes, raster, smallest);
  const order = planes
    .map((plane, k) => ({ plane, colour: colours[k] as FlatColour | undefined, areaPx: sum(plane) / 255 }))
    .filter((l) => l.areaPx > 0)
    .sort((a, b) => b.areaPx - a.areaPx);
  const layers: TracedLayer[] = [];
  order.forEach(({ plane, colour, areaPx }, k) => {
    const above = order.slice(k + 1).map((o) => o.plane);
    const own = above.length > 0 ? underlapped({ width, height, data: plane }, above) : plane;
    const traced = traceCoverage(
      { width, height, data: own },
      {
        ...options,
        smallestPx: Math.max(options.smallestPx, smallest / 2),
        faint: Math.min(110, FAINT + FAINT_BY_NOISE * noise),
      },
    );
    onStep((k + 1) / order.length);
    if (traced.path.verbs === '') return;
    layers.push({ hex: hexFromRgb(colour ? colour.rgb : [0, 0, 0]), traced, areaPx });
  });
  const shapes = layers.map(({ hex, traced }, k): Shape => ({
    id: `colour-${k + 1}`,
    path: traced.path,
    rule: 'nonzero',
    paint: { kind: 'colour', hex },
    opacity: 1,
  }));
  return { drawing: { widthPx: width, heightPx: height, shapes }, layers, palette };
}

function sum(plane: Uint8Array): number {
  let total = 0;
  for (let i = 0; i < plane.length; i++) total += plane[i];
  return total;
}

/** A colour's coverage grown by a pixel, but only into what colours above it cover. */
function underlapped({ width, height, data }: Plane, above: readonly Uint8Array[]): Uint8Array {
  const out = data.slice();
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      let over = 0;
      for (const plane of above) over += plane[p];
      if (over === 0) continue;
      let grown = data[p];
      if (x > 0 && data[p - 1] > grown) grown = data[p - 1];
      if (x + 1 < width && data[p + 1] > grown) grown = data[p + 1];
      if (y > 0 && data[p - width] > grown) grown = data[p - width];
      if (y + 1 < height && data[p + width] > grown) grown = data[p + width];
      out[p] = Math.min(data[p] + over, Math.max(data[p], grown));
    }
  }
  return out;
}
