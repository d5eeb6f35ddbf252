import { type Call, call, roomFor } from '../kernels/heap';
import { SOFT } from '../kernels/interface';
import { setGround, viewsOf } from './groundDistance';
import type { Raster } from '../raster/raster';
import type { FlatScene } from './flatScene';
import { mostLabels } from './spreadGround';

/** A tail ends where it can no longer be told from noise. */
const LEAST_TAIL = 1.6;
const TAIL_OVER_NOISE = 2.2;
/** A step of less than this is level. */
const LEAST_STEP = 0.6;
const STEP_OF_NOISE = 0.5;
/** Half of a region's strength, where its contour is drawn; and from where to where it fades. */
const HALF = 0.5;
const FADE_FROM = 0.2;
const FADE_TO = 0.8;
/** One level, give or take: two values, and more where it is strong. */
const ONE_LEVEL = 0.035;
/** A region's strength is that of nine tenths of it, its opacity that of all but one pixel in a hundred. */
const STRENGTH_RANK = 0.9;
const OPACITY_RANK = 0.99;

/** Steepest change from pixel to pixel, code values, inside a shadow or glow. A drawn edge changes faster. */
const STEEPEST = 26;
/** A soft region is at least this large, and reaches at least this far from the ground. */
const LEAST_PIXELS = 48;
const LEAST_REACH = 4;
/** Above this share of level pixels a region is a pale part of the mark with a blurred edge, not a shadow. */
const MOST_LEVEL = 0.55;
const FARTHEST_TAIL = 48;
/** A fade this wide, in pixels from a fifth to four fifths of its strength, is no blurred edge. */
const WIDE_FADE = 8;
/** Narrower than this the rim of a level region is an edge. */
const LEAST_FADE = 5;
/** Share of a region within a few levels of its commonest one above which it is one pale colour, not a fade. */
const MOST_AT_ONE_LEVEL = 0.7;
/** Of a larger region so many pixels tell enough. */
const MANY = 4000;
/** Fainter than this, code values, a pixel is surely the shadow's own. */
const FAINT = 90;

/** Levels are sums of nine distances: ninths of a code value. */
const NINTHS = 9;
const LEVELS = 255 * NINTHS + 1;
const SMALL_ROOM = LEVELS * 4 + 256;

const scratchRoom = (pixels: number, labelCount: number): number =>
  roomFor(pixels * 4, pixels * 4, pixels * 2, pixels, pixels, labelCount, SMALL_ROOM);

/** Bytes of the kernels' memory that the search takes up. */
export const softRoom = (pixels: number): number =>
  scratchRoom(pixels, mostLabels(pixels)) + roomFor(mostLabels(pixels)) + 128;

/** A shadow or glow that was found. */
export interface SoftRegion {
  readonly members: Int32Array;
  /** Labels of the enclosed patches that it rises from. */
  readonly beside: ReadonlySet<number>;
  /** Its colour, R, G, B, and the farthest that all but one in a hundred of its pixels lie from the ground. */
  readonly colour: readonly [number, number, number];
  readonly strongest: number;
}

/**
 * A list of pixels in the kernels' memory, how many of them have each level, and how wide it fades once that was asked.
 */
interface Region {
  readonly at: number;
  readonly count: number;
  readonly levels: Int32Array;
  fade?: number;
}

/**
 * Finds shadows and glows: parts that rise gradually out of the ground. Their pixels become `as` in `labels`, and
 * `out` receives them as true half-transparency: the colour is nearly the one that explains them with the least alpha
 * on the line from the ground through them, and a grey shadow on white becomes black at its own strength. All planes
 * lie in the kernels' memory. The tails below the scene's tolerance are taken back.
 * @see T. Porter, T. Duff, "Compositing Digital Images", 1984, for the equation that is solved
 */
export function findSoftRegions(scene: FlatScene, out: Raster, from: SoftSource = OUTSIDE_ONLY): SoftRegion[] {
  const { raster, ground, distance, labels, tolerance } = scene;
  const { runs } = scene.segments;
  const { isOpen, as } = from;
  const { width, height } = raster;
  const pixels = width * height;
  const { noise } = ground;
  const found: SoftRegion[] = [];
  call([isOpen, ...viewsOf(ground)], [], scratchRoom(pixels, isOpen.length), (c) => {
    const { k, at, scratch, intsAt } = c;
    // Two lists of pixels: what grows, and what is kept of it. Each is at times the other's scratch.
    const [grown, kept] = [scratch(pixels * 4, false), scratch(pixels * 4, false)];
    const [level, looked, own, noted, numbers] = [
      scratch(pixels * 2),
      scratch(pixels),
      scratch(pixels),
      scratch(isOpen.length),
      scratch(SMALL_ROOM, false),
    ];
    let isSmoothed = false;
    setGround(c, ground, width, height);
    k.startSoft({
      ofPicture: at(raster.data),
      ofDistance: at(distance),
      ofLabels: at(labels),
      openByLabel: at(isOpen),
      ofRegion: looked,
      w: width,
      h: height,
      steepest: STEEPEST + noise,
    });
    for (let n = k.nextSoftSeed(at(runs), runs.length); n >= 0; n = k.nextSoftSeed(at(runs), runs.length)) {
      const count = k.growSoft(n, tolerance * 0.5, grown, kept);
      if (count < LEAST_PIXELS) continue;
      if (!isSmoothed) k.smoothDistance(level);
      isSmoothed = true;
      rise(count);
    }

    function rise(count: number): void {
      const region = chooseMembers(count);
      if (!isSoft(c, region, noise, numbers)) return;
      const strongest = levelOfRank(region, OPACITY_RANK) / NINTHS;
      const beside = new Set(as === SOFT ? [] : intsAt(grown, k.labelsBeside(kept, region.count, noted, grown)));
      k.labelRegion(kept, region.count, as);
      const faded = k.addTail(
        kept,
        region.count,
        as,
        Math.max(LEAST_TAIL, noise * TAIL_OVER_NOISE) * NINTHS,
        FARTHEST_TAIL,
        grown,
      );
      const colour = colourOf(c, kept, faded, numbers, grown);
      k.setSoftColour(...colour);
      k.writeSoft(kept, faded, at(out.data));
      let total = faded;
      if (as === SOFT) {
        total = k.addShaded(kept, faded, 5 + noise, own, grown);
        k.writeSoft(kept + faded * 4, total - faded, at(out.data));
      }
      found.push({ members: intsAt(kept, total).slice(), beside, colour, strongest });
    }

    // A wide fade may rise to a level core, which belongs to it; a narrow one is the blurred edge of something flat.
    function chooseMembers(count: number): Region {
      const members = onOneLine(c, grown, count, kept, numbers);
      if (members.count < LEAST_PIXELS || fadeWidth(c, members, numbers) < WIDE_FADE) return members;
      return onOneLine(c, grown, count + k.growCore(grown, count, kept, own), kept, numbers);
    }
  });
  return found;
}

/** What soft regions are looked for beside. */
export interface SoftSource {
  /** Per label from 0 up, which labels count as ground to rise from. */
  readonly isOpen: Uint8Array;
  /** SOFT for what rises from the outside, SOFT_INSIDE for what an enclosed area holds. */
  readonly as: number;
}
const OUTSIDE_ONLY: SoftSource = { isOpen: Uint8Array.of(0, 1, 0, 0), as: SOFT };

/**
 * Only those members whose colour lies on one line from the ground: a shadow has one colour, a mark beside it another.
 */
function onOneLine({ k, realsAt, intsAt }: Call, members: number, count: number, out: number, numbers: number): Region {
  k.sumColours(members, count, FAINT * NINTHS, numbers);
  const [r, g, b] = realsAt(numbers, 3);
  const length = Math.hypot(r, g, b);
  const kept = length === 0 ? 0 : k.keepOnLine({ members, count, u0: r, u1: g, u2: b, length, out });
  k.fillBytes(numbers, 0, LEVELS * 4);
  k.countLevels(out, kept, numbers);
  return { at: out, count: kept, levels: intsAt(numbers, LEVELS).slice() };
}

function isSoft(c: Call, region: Region, noise: number, numbers: number): boolean {
  const { at, count, levels } = region;
  if (
    count < LEAST_PIXELS ||
    (shareAtOneLevel(region) > MOST_AT_ONE_LEVEL && fadeWidth(c, region, numbers) < LEAST_FADE)
  )
    return false;
  let top = LEVELS - 1;
  while (levels[top] === 0) top--;
  c.k.countHigh({
    members: at,
    count,
    step: count > MANY ? 7 : 1,
    half: top * HALF,
    flatBelow: Math.max(LEAST_STEP, noise * STEP_OF_NOISE) * NINTHS,
    reach: LEAST_REACH,
    out: numbers,
  });
  const [high, flat, farthest] = c.intsAt(numbers, 3);
  return farthest >= LEAST_REACH && flat <= MOST_LEVEL * high;
}

// A flat pale part of the mark has nearly all its pixels at one level, however compression ruffles it.
function shareAtOneLevel({ count, levels }: Region): number {
  const upTo = new Float64Array(257);
  for (let level = 0; level < LEVELS; level++) upTo[((level / NINTHS) | 0) + 1] += levels[level];
  for (let t = 1; t <= 256; t++) upTo[t] += upTo[t - 1];
  let most = 0;
  for (let t = 9; t < 256; t++) {
    const reach = 2 + Math.round(t * ONE_LEVEL);
    most = Math.max(most, upTo[Math.min(256, t + reach + 1)] - upTo[Math.max(0, t - reach)]);
  }
  return most / count;
}

/** The level, in ninths, that a share of a region's pixels do not exceed. */
function levelOfRank({ count, levels }: Region, share: number): number {
  const rank = Math.floor(count * share);
  let top = 0;
  for (let below = levels[0]; below <= rank && top < LEVELS - 1; below += levels[++top]);
  return top;
}

/** Pixels from a fifth to four fifths of a region's strength. */
function fadeWidth({ k, intsAt }: Call, region: Region, numbers: number): number {
  if (region.fade !== undefined) return region.fade;
  const { at, count } = region;
  const top = levelOfRank(region, STRENGTH_RANK);
  k.countFade(at, count, top * FADE_FROM, top * FADE_TO, top * HALF, numbers);
  const [between, contour] = intsAt(numbers, 2);
  return (region.fade = between / Math.max(1, contour));
}

/** A colour no lighter than this, code values, cannot be told from black by the trace it leaves on a ground. */
const NEARLY_BLACK = 26;

/**
 * Few colours in use are as pure as can be; the usual one goes this part of the way from the ground to where it would
 * be.
 */
const USUAL_PART = 0.86;

/**
 * The colour of a soft region: nearly the one that explains it with the least alpha, black where that one is nearly
 * black.
 */
function colourOf(c: Call, members: number, count: number, numbers: number, room: number): [number, number, number] {
  c.k.sumColours(members, count, LEVELS, numbers);
  const sums = [...c.realsAt(numbers, 6)];
  const B = sums.slice(3).map((sum) => sum / count);
  const F = farthestColour(B, sums.slice(0, 3));
  if (Math.max(...F) <= NEARLY_BLACK) return [0, 0, 0];
  const part = Math.max(USUAL_PART, strongestAlpha(c, members, count, F, room));
  return F.map((f, channel) => B[channel] + (f - B[channel]) * part) as [number, number, number];
}

// All but the strongest hundredth, which noise has made stronger than it was.
function strongestAlpha(
  { k, intsAt }: Call,
  members: number,
  count: number,
  F: readonly [number, number, number],
  room: number,
): number {
  k.setSoftColour(...F);
  const found = intsAt(room, k.alphasOf(members, count, Math.max(1, Math.floor(count / MANY)), room));
  const alphas = new Float32Array(found.buffer, found.byteOffset, found.length).slice().sort();
  return alphas[Math.floor((alphas.length - 1) * OPACITY_RANK)];
}

/** The last colour inside the cube on the line from the ground in a direction. */
export function farthestColour(B: readonly number[], direction: readonly number[]): [number, number, number] {
  let t = Infinity;
  for (let c = 0; c < 3; c++) {
    if (direction[c] < 0) t = Math.min(t, -B[c] / direction[c]);
    else if (direction[c] > 0) t = Math.min(t, (255 - B[c]) / direction[c]);
  }
  if (!Number.isFinite(t)) t = 0;
  return [0, 1, 2].map((c) => Math.min(255, Math.max(0, B[c] + direction[c] * t))) as [number, number, number];
}
