import { type Plane, type Raster, matteOf } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import { type EdgeRing, edgePoints } from '../trace/edgePoints';
import { colourCoverage } from '../trace/colourCoverage';
import { findPalette } from '../trace/findPalette';
import { type StrokePlace, strokePlaces } from '../trace/strokeWidths';
import { borderRings } from '../trace/traceCoverage';
import { type Path, PathBuilder } from '../vector/path';
import { type RoundPart, type RoundedBox, roundParts, roundedBoxes } from './roundParts';

/** Shapes are told on no more pixels. */
const MOST_PIXELS = 150_000;
const MOST_COLOURS = 6;
/** The parts that are large beside the largest are asked first, then those down to so small a share of it. */
const SHARES = [0.3, 0.05];
/** Of the mark's own size the largest is so much at least: letters have round parts of many proportions. */
const LEAST_PART = 0.1;
/** Ratios so near, by logarithm, are one; so near to 0 a part is as wide as high. */
const SAME = 0.03;
const UPRIGHT = 0.025;
/** Less than this is left alone: nobody sees it, and shapes are drawn so. */
const LEAST_STRETCH = Math.log(1.12);
/** So much of all parts, by size, must agree. */
const AGREED = 0.7;

export interface Proportions {
  /** How many times as wide as it was drawn, under 1 too high, 1 drawn so; null where its shapes do not tell. */
  readonly stretch: number | null;
  /** What would suit its strokes best: a guess for a mark that is known to be stretched. */
  guess(): number;
}

/**
 * Whether a mark is drawn out of its proportions, by its shapes: circles have become ovals of one proportion, stars and
 * gears no longer turn into themselves, and strokes of one width are broader one way than the other.
 * @param isScaled  its edges say that it was scaled one way
 */
export function proportionsOf(mark: Raster, isScaled: boolean): Proportions {
  const share = Math.min(1, Math.sqrt(MOST_PIXELS / (mark.width * mark.height)));
  const side = (px: number) => Math.max(1, Math.round(px * share));
  const small = share < 1 ? resizeRaster(mark, side(mark.width), side(mark.height)) : mark;
  const planes = planesOf(small);
  const borders = planes.map(bordersOf);
  const parts = borders.flatMap(roundParts);
  const largest = Math.max(0, ...parts.map(sizeOf));
  const sizePx = Math.sqrt(small.width * small.height);
  const isTold = largest >= LEAST_PART * sizePx;
  const tiers = isTold ? SHARES.map((least) => parts.filter((p) => sizeOf(p) >= least * largest)) : [];
  const large = once(() => largePartsOf(borders[0]));
  const strokes = (rings: readonly EdgeRing[]) => strokePlaces(outlineOf(rings), 'lines').places;
  const ofLarge = (rings: readonly EdgeRing[]) => strokes(rings.filter((r) => isIn(r, large())));
  const lines = once(() => fitLines(borders.flatMap(ofLarge), isScaled));
  const told = tiers.reduce<number | null>((found, tier) => found ?? byParts(tier, lines, isScaled), null);
  // Letters have bars thinner than their stems, as if they were drawn out.
  const byLines = () => (large().length < MANY_PARTS || isScaled ? lines().stretch : null);
  return {
    stretch: told ?? byCorners(borders.flatMap(roundedBoxes), 2 * LEAST_PART * sizePx) ?? byLines(),
    guess: () => lines().best,
  };
}

interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** Parts of a mark smaller than this share of its largest are its lettering, as a rule; so many large ones are, too. */
const LARGE_PART = 0.6;
const MANY_PARTS = 4;

/** The boxes of a mark's large parts. */
function largePartsOf(rings: readonly EdgeRing[]): Box[] {
  const boxes = rings.filter((r) => r.area2 > 0).map(boxOf);
  const sizeOfBox = ({ x0, y0, x1, y1 }: Box) => Math.sqrt((x1 - x0) * (y1 - y0));
  const largest = Math.max(0, ...boxes.map(sizeOfBox));
  return boxes.filter((box) => sizeOfBox(box) >= LARGE_PART * largest);
}

function boxOf({ xs, ys }: EdgeRing): Box {
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  for (let k = 0; k < xs.length; k++) {
    box.x0 = Math.min(box.x0, xs[k]);
    box.x1 = Math.max(box.x1, xs[k]);
    box.y0 = Math.min(box.y0, ys[k]);
    box.y1 = Math.max(box.y1, ys[k]);
  }
  return box;
}

/** Whether a border lies in one of these boxes, as far as pixels tell. */
function isIn(ring: EdgeRing, boxes: readonly Box[]): boolean {
  const own = boxOf(ring);
  return boxes.some((b) => own.x0 > b.x0 - 2 && own.x1 < b.x1 + 2 && own.y0 > b.y0 - 2 && own.y1 < b.y1 + 2);
}

function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

function planesOf(raster: Raster): Plane[] {
  const whole = matteOf(raster);
  const palette = findPalette(raster, MOST_COLOURS);
  if (palette.colours.length < 2) return [whole];
  const { planes } = colourCoverage(raster, palette);
  return [whole, ...planes.map((data) => ({ ...whole, data }))];
}

function byParts(parts: readonly RoundPart[], lines: () => Lines, isScaled: boolean): number | null {
  const total = parts.reduce((sum, p) => sum + sizeOf(p), 0);
  const near = (log: number, within: number) => parts.filter((p) => Math.abs(Math.log(p.ratio) - log) < within);
  const weightOf = (list: readonly RoundPart[]) => list.reduce((sum, p) => sum + sizeOf(p), 0) / total;
  if (weightOf(near(0, UPRIGHT)) > 1 - AGREED) return 1;
  const groups = parts.map((p) => near(Math.log(p.ratio), SAME));
  const group = groups.reduce((a, b) => (weightOf(b) > weightOf(a) ? b : a));
  const ratio = Math.exp(group.reduce((sum, p) => sum + Math.log(p.ratio), 0) / group.length);
  if (weightOf(group) < AGREED || Math.abs(Math.log(ratio)) < LEAST_STRETCH) return null;
  const apart = distinct(group);
  if (apart.every((p) => p.isHole)) return null;
  if (group.some((p) => p.kind === 'regular')) return ratio;
  if (apart.some((p, k) => apart.slice(0, k).some((q) => !isWithin(p, q)))) return ratio;
  // One within another: a line drawn round an oval is as broad above as at its sides.
  const rims = apart.flatMap((p, k) => apart.slice(0, k).map((q) => rimOf(p, q)));
  const told = rims.filter((r): r is number => r !== null);
  if (told.length > 0) {
    const rim = told.reduce((sum, r) => sum + r, 0) / told.length;
    return Math.abs(rim - Math.log(ratio)) < Math.abs(rim) ? ratio : 1;
  }
  // A single oval may be drawn so: its strokes or its edges must say the same.
  const { stretch } = lines();
  if (stretch !== null) return Math.abs(Math.log(stretch / ratio)) < LEAST_STRETCH ? ratio : stretch;
  return isScaled || lines().spreadAt(ratio) < BETTER * lines().spreadAt(1) ? ratio : null;
}

/** Corners are rounded as much one way as the other, measured to a tenth; drawn out by less they do not tell. */
const SAME_RADII = 0.1;
const UNLIKE_RADII = Math.log(1.2);

function byCorners(all: readonly RoundedBox[], leastPx: number): number | null {
  const boxes = all.filter(({ width, height }) => Math.sqrt(width * height) >= leastPx);
  const logs = boxes.map(({ rx, ry }) => Math.log(rx / ry));
  if (logs.length === 0) return null;
  if (logs.some((log) => Math.abs(log) < SAME_RADII)) return 1;
  const [low, high] = [Math.min(...logs), Math.max(...logs)];
  const isOne = high - low < 2 * SAME_RADII && (low > UNLIKE_RADII || high < -UNLIKE_RADII);
  return isOne ? Math.exp(logs.reduce((sum, v) => sum + v, 0) / logs.length) : null;
}

const sizeOf = (p: RoundPart) => Math.sqrt(p.halfWidth * p.halfHeight);

/** The same border is found in several colours: a hole in one is a part of another. */
function distinct(parts: readonly RoundPart[]): RoundPart[] {
  const out: RoundPart[] = [];
  for (const p of [...parts].sort((a, b) => Number(a.isHole) - Number(b.isHole)))
    if (!out.some((q) => Math.hypot(p.x - q.x, p.y - q.y) < 1.5 && Math.abs(sizeOf(p) - sizeOf(q)) < 1)) out.push(p);
  return out;
}

const isWithin = (p: RoundPart, q: RoundPart) =>
  Math.hypot(p.x - q.x, p.y - q.y) < 0.2 * Math.max(sizeOf(p), sizeOf(q));

/** How much broader, by logarithm, the rim between two ovals is at its sides; null where it is too thin to tell. */
function rimOf(p: RoundPart, q: RoundPart): number | null {
  const [across, down] = [Math.abs(p.halfWidth - q.halfWidth), Math.abs(p.halfHeight - q.halfHeight)];
  return Math.min(across, down) < LEAST_RIM_PX ? null : Math.log(across / down);
}
const LEAST_RIM_PX = 1.5;

/** Fewer places of strokes say nothing. */
const FEW_PLACES = 80;
/** Strokes agree with an oval when their widths differ so much less without its proportion. */
const BETTER = 0.85;
/** Widths of one stroke differ by so much, by logarithm, in a mark of such strokes; of a stretched one by more. */
const ONE_WIDTH = 0.07;
const UNEQUAL = 0.09;
/** And without its proportion by so small a part of that. */
const GONE = 0.4;
/** So much of the places must lie across, down, and between. */
const EACH_WAY = 0.1;
/** Tried up to this, by logarithm, in such steps. */
const FARTHEST = Math.log(2.2);
const STEP = 0.03;

interface Lines {
  /** How many times too wide a mark of lines of one width is; null for one of other lines. */
  readonly stretch: number | null;
  /** At what proportion its lines are nearest to one width; 1 where there are few. */
  readonly best: number;
  /** How unequal their widths would be without that proportion. */
  spreadAt(ratio: number): number;
}

function fitLines(strokes: readonly StrokePlace[], isScaled: boolean): Lines {
  const spread = (ratio: number) => spreadAt(strokes, ratio);
  if (strokes.length < FEW_PLACES) return { stretch: null, best: 1, spreadAt: () => 1 };
  let [best, least] = [0, Infinity];
  for (let log = -FARTHEST; log <= FARTHEST; log += STEP) {
    const here = spread(Math.exp(log));
    if (here < least) [best, least] = [log, here];
  }
  const found = { best: Math.exp(best), spreadAt: spread };
  if (least > ONE_WIDTH || !goEveryWay(strokes, found.best)) return { ...found, stretch: null };
  const asItIs = spread(1);
  if (Math.abs(best) < UPRIGHT) return { ...found, stretch: 1 };
  // Drawn out a little, lines are still nearly of one width.
  if (asItIs < ONE_WIDTH) return { ...found, stretch: isScaled ? null : 1 };
  const isUnequal = asItIs > UNEQUAL && least < GONE * asItIs;
  const isStretched = isUnequal && Math.abs(best) >= LEAST_STRETCH;
  return { ...found, stretch: isStretched ? found.best : null };
}

/** Deviation of the logarithms of widths had the mark been drawn out `ratio` times, without the tenth farthest off. */
function spreadAt(strokes: readonly StrokePlace[], ratio: number): number {
  const logs = strokes.map(({ width, nx, ny }) => Math.log(width / Math.hypot(ratio * nx, ny))).sort((a, b) => a - b);
  const middle = logs[logs.length >> 1];
  const off = logs.map((v) => (v - middle) ** 2).sort((a, b) => a - b);
  const kept = Math.floor(off.length * 0.9);
  return Math.sqrt(off.slice(0, kept).reduce((sum, v) => sum + v, 0) / kept);
}

function goEveryWay(strokes: readonly StrokePlace[], ratio: number): boolean {
  const counts = [0, 0, 0];
  for (const { nx, ny } of strokes) {
    const angle = Math.atan2(Math.abs(ny), Math.abs(ratio * nx)) / (Math.PI / 2);
    counts[angle < 0.25 ? 0 : angle < 0.75 ? 1 : 2]++;
  }
  return counts.every((c) => c >= EACH_WAY * strokes.length);
}

/** Borders as they were measured, without specks. */
const bordersOf = (plane: Plane): EdgeRing[] =>
  borderRings(plane)
    .filter((crack) => Math.abs(crack.area2) >= 2 * LEAST_AREA_PX)
    .map((crack) => edgePoints(plane, crack));
const LEAST_AREA_PX = 12;

/** A path along borders, smoothed a little. */
function outlineOf(rings: readonly EdgeRing[]): Path {
  const builder = new PathBuilder();
  for (const ring of rings) addSmoothed(builder, ring);
  return builder.done();
}

function addSmoothed(builder: PathBuilder, { xs, ys }: EdgeRing): void {
  const n = xs.length;
  if (n < 6) return;
  const mean = (v: Float64Array, k: number) => (v[(k + n - 1) % n] + 2 * v[k] + v[(k + 1) % n]) / 4;
  builder.moveTo(mean(xs, 0), mean(ys, 0));
  for (let k = 1; k < n; k++) builder.lineTo(mean(xs, k), mean(ys, k));
  builder.close();
}
