import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { hexFromRgb } from '../colour/hex';
import type { Drawing, Paint, Shape } from '../artwork/drawing';
import type { RectPx } from '../params';
import { transformPath } from '../vector/path';
import { type Plane, type Raster, matteOf } from '../raster/raster';
import { colourCoverage, labelFlat } from './colourCoverage';
import { dissolveSlivers } from './dissolveSlivers';
import { findGradients } from './findGradients';
import { type FlatColour, MOST_COLOURS, type Palette, findPalette } from './findPalette';
import { FAINT } from './insideMask';
import { type TraceOptions, type Traced, traceCoverage } from './traceCoverage';

export interface MasterTraceOptions extends TraceOptions {
  /** How many colours; null for what the picture proposes. */
  readonly colours: number | null;
}

/** One colour's outlines. */
export interface TracedLayer {
  /** Of a gradient the colour in its middle. */
  readonly hex: string;
  readonly paint: Paint;
  readonly traced: Traced;
  /** Pixels that it covers in sight. */
  readonly areaPx: number;
}

export interface TracedMaster {
  readonly drawing: Drawing;
  readonly layers: readonly TracedLayer[];
  readonly palette: Palette;
}

/** Mixtures are off by the noise: so much of coverage, of 255, for every code value of it. */
const FAINT_BY_NOISE = 8;
/** So many colours are looked for beyond those of flat insides. */
const MOST_MISSING = 4;
/** Pieces of a colour smaller than this are what compression leaves at edges. */
const SLIVER_PX = 8;
const SLIVER_BY_NOISE_PX = 2;

/** How the time of a trace is shared out between its parts. */
const SHARES = { palette: 0.1, gradients: 0.25, unmixed: 0.5, whole: 0.55 };

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
  let palette = findPalette(raster, options.colours);
  onStep(SHARES.palette);
  const { width, height } = raster;
  const gradients = options.colours === null ? gradientsIn(raster, palette) : [];
  onStep(SHARES.gradients);
  const isNew = (c: FlatColour) => !palette.colours.includes(c);
  const bands = [...new Set(gradients.flatMap((g) => g.members))].filter(isNew);
  const steady = palette.colours;
  palette = { ...palette, colours: [...steady, ...bands] };
  let unmixed = palette.colours.length > 1 ? colourCoverage(raster, palette) : null;
  // Small parts of a compressed picture are flat nowhere: what no mixture explains is a colour of its own.
  const most = options.colours ?? MOST_COLOURS;
  for (let k = 0; k < MOST_MISSING && unmixed?.missing && palette.colours.length < most; k++) {
    const at = steady.length + k;
    palette = { ...palette, colours: [...palette.colours.slice(0, at), unmixed.missing, ...palette.colours.slice(at)] };
    unmixed = colourCoverage(raster, palette);
    onStep(SHARES.unmixed);
  }
  const { colours } = palette;
  const steadyCount = colours.length - bands.length;
  const planes = unmixed ? unmixed.planes : [matteOf(raster).data];
  const noise = unmixed?.noise ?? 0;
  const smallest = unmixed ? SLIVER_PX + SLIVER_BY_NOISE_PX * noise : 0;
  if (unmixed) dissolveSlivers(unmixed, width, smallest);
  const paints = colours.map((c): Paint => ({ kind: 'colour', hex: hexFromRgb(c.rgb) }));
  const shapesOf = [...planes];
  const before = planes.map(totalOf);
  for (const { members, paint, mask } of gradients) {
    paints.push(paint);
    // Bands of the gradient, and colours that it passes through; what lies on it stays.
    const own = planes.filter((_, k) => isAmong(colours[k], members));
    shapesOf.push(takenOut(own, mask));
  }
  // Of bands that were there for a gradient alone hardly anything is left: it belongs to what is nearest.
  for (let k = 0; k < colours.length && gradients.length > 0; k++) {
    const isBand = k >= steadyCount || totalOf(planes[k]) < before[k] * LEFT_SHARE;
    if (!isBand) continue;
    const to = shapesOf[shapesOf.length - 1];
    for (let p = 0; p < planes[k].length; p++) {
      to[p] = Math.min(255, to[p] + planes[k][p]);
      planes[k][p] = 0;
    }
  }
  const order = shapesOf
    .map((plane, k) => ({
      plane,
      paint: paints[k] ?? ({ kind: 'colour', hex: '#000000' } as const),
      ...extentOf(plane, width, height),
    }))
    .filter((l) => l.areaPx > 0)
    .sort((a, b) => b.areaPx - a.areaPx);
  const layers: TracedLayer[] = [];
  // From the top down, so that what lies above each is known.
  const over = new Uint8Array(width * height);
  for (let k = order.length - 1; k >= 0; k--) {
    const { plane, paint, areaPx, box } = order[k];
    const own = cropped({ width, height, data: plane }, box);
    if (k < order.length - 1) underlap(own, cropped({ width, height, data: over }, box).data);
    if (k > 0) addWithin(over, plane, width, box);
    const traced = moved(
      traceCoverage(own, {
        ...options,
        smallestPx: Math.max(options.smallestPx, smallest / 2),
        faint: Math.min(110, FAINT + FAINT_BY_NOISE * noise),
      }),
      box.x,
      box.y,
    );
    onStep(SHARES.whole + (1 - SHARES.whole) * (1 - k / order.length));
    if (traced.path.verbs === '') continue;
    layers.unshift({ hex: hexOf(paint), paint, traced, areaPx });
  }
  const shapes = layers.map(({ paint, traced }, k): Shape => ({
    id: `colour-${k + 1}`,
    path: traced.path,
    rule: 'nonzero',
    paint,
    opacity: 1,
  }));
  return { drawing: { widthPx: width, heightPx: height, shapes }, layers, palette };
}

/** Gradients of a picture, by the finest colours that are told apart in it. */
function gradientsIn(raster: Raster, palette: Palette) {
  const { fine, flat, noise } = palette;
  if (fine.length < 2) return [];
  const labels = labelFlat(raster, { ...palette, colours: fine });
  return findGradients(raster, { labels, flat, noise, count: fine.length }).map((group) => ({
    ...group,
    members: group.members.map((m) => fine[m]),
  }));
}

/** Nearer than this to one of a gradient's colours, OKLab × 100, the gradient passes through it. */
const PASSED = 6;

function isAmong({ rgb }: FlatColour, members: readonly FlatColour[]): boolean {
  const lab = (c: FlatColour['rgb']) => oklabFromSrgb(...(c.map(Math.round) as [number, number, number]));
  const own = lab(rgb);
  return members.some((m) => deltaE(lab(m.rgb), own) < PASSED);
}

/** Less than this share of a colour, left beside a gradient, is the gradient's edge. */
const LEFT_SHARE = 0.03;

function totalOf(plane: Uint8Array): number {
  let total = 0;
  for (let p = 0; p < plane.length; p++) total += plane[p];
  return total;
}

/** What some planes cover where a mask is, as one plane, taken out of them. */
function takenOut(planes: readonly Uint8Array[], mask: Uint8Array): Uint8Array {
  const out = new Uint8Array(mask.length);
  for (let p = 0; p < mask.length; p++) {
    if (mask[p] === 0) continue;
    for (const plane of planes) {
      out[p] += plane[p];
      plane[p] = 0;
    }
  }
  return out;
}

function hexOf(paint: Paint): string {
  return paint.kind === 'colour' ? paint.hex : paint.stops[paint.stops.length >> 1].hex;
}

/** Room round a colour for what goes beneath others. */
const ROOM_PX = 2;

/** How much a plane covers in all, px, and where, with a little room. */
function extentOf(plane: Uint8Array, width: number, height: number): { areaPx: number; box: RectPx } {
  let left = width;
  let right = 0;
  let top = height;
  let bottom = 0;
  let total = 0;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let from = 0;
    while (from < width && plane[row + from] === 0) from++;
    if (from === width) continue;
    let to = width - 1;
    while (plane[row + to] === 0) to--;
    for (let p = row + from; p <= row + to; p++) total += plane[p];
    if (from < left) left = from;
    if (to > right) right = to;
    if (y < top) top = y;
    bottom = y;
  }
  const [x, y] = [Math.max(0, left - ROOM_PX), Math.max(0, top - ROOM_PX)];
  const box = {
    x,
    y,
    width: Math.min(width, right + 1 + ROOM_PX) - x,
    height: Math.min(height, bottom + 1 + ROOM_PX) - y,
  };
  return { areaPx: total / 255, box };
}

function addWithin(sum: Uint8Array, plane: Uint8Array, width: number, box: RectPx): void {
  for (let y = box.y; y < box.y + box.height; y++) {
    const end = y * width + box.x + box.width;
    for (let p = y * width + box.x; p < end; p++) sum[p] += plane[p];
  }
}

function cropped({ width, data }: Plane, box: RectPx): Plane {
  const out = new Uint8Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = (box.y + y) * width + box.x;
    out.set(data.subarray(from, from + box.width), y * box.width);
  }
  return { width: box.width, height: box.height, data: out };
}

const moved = ({ path, rings, ...rest }: Traced, dx: number, dy: number): Traced => ({
  ...rest,
  path: transformPath(path, [1, 0, 0, 1, dx, dy]),
  rings: rings.map((r) => ({ ...r, xs: r.xs.map((x) => x + dx), ys: r.ys.map((y) => y + dy) })),
});

/** Grows a colour's coverage by a pixel, in place, but only into what colours above it cover. */
function underlap({ width, height, data }: Plane, over: Uint8Array): void {
  const seen = data.slice();
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      if (over[p] === 0) continue;
      let grown = seen[p];
      if (x > 0 && seen[p - 1] > grown) grown = seen[p - 1];
      if (x + 1 < width && seen[p + 1] > grown) grown = seen[p + 1];
      if (y > 0 && seen[p - width] > grown) grown = seen[p - width];
      if (y + 1 < height && seen[p + width] > grown) grown = seen[p + width];
      if (grown > seen[p]) data[p] = Math.min(seen[p] + over[p], grown);
    }
  }
}
