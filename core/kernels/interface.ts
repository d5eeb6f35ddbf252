// Made from core/kernels/assembly by `npm run kernels`; do not edit.

/** What a pixel is, in a label plane. Anything from `FIRST_AREA` up is an enclosed area's number plus that. */
export const MARK = 0;
export const OUTSIDE = 1;
/** A shadow or glow: part of the artwork, but outside its edges. */
export const SOFT = 2;
/** The same inside an enclosed area, until it is known whether that area is open. */
export const SOFT_INSIDE = 3;
export const FIRST_AREA = 16;
/** Pixels of a row that are looked at together. */
export const SEGMENT = 32;
/** What a segment holds: nothing but ground, something of both, nothing but the mark. */
export const CLEAR = 0;
export const MIXED = 1;
export const DEEP = 2;
/** No shadow or glow is stronger than this, and none is level above that: there a mark begins. */
export const DEEPEST = 185;

/** Bytes that the largest struct of arguments takes. */
export const ARGUMENT_BYTES = 64;

/**
 * The kernels: places are addresses in their memory, counts and coordinates whole numbers unless their sources say
 * otherwise.
 */
export interface Kernels {
  /**
   * One area's shape, see core/matte/enclosedAreas.ts. Writes eleven numbers into `out`: sum of distances, pixels
   * counted, pixels near the outside, mark's pixels beside it, the sums of their colours, of the area's own colours, and
   * the length of `rim`, which gets the rim's pixels. `byPlace`: the ground's colour changes from place to place, so the
   * area's is taken relative to it, at the colour in its middle.
   */
  measureShape(args: {
    readonly label: number;
    readonly left: number;
    readonly top: number;
    readonly right: number;
    readonly bottom: number;
    readonly step: number;
    readonly picture: number;
    readonly distance: number;
    readonly labels: number;
    readonly width: number;
    readonly height: number;
    readonly byPlace: boolean;
    readonly out: number;
    readonly rim: number;
  }): void;
  /**
   * One bit a pixel, set where it is not the mark's: so small that reading it down a column costs little. `out`: all 0.
   */
  bitsOfOthers(labels: number, width: number, height: number, out: number): void;
  /**
   * Rays from every `step`th pixel of a rim. For each that has a way out `out` gets the number of its pairs, then the
   * pairs; returns how many numbers in all.
   */
  castRays(args: {
    readonly rim: number;
    readonly length: number;
    readonly step: number;
    readonly own: number;
    readonly labels: number;
    readonly others: number;
    readonly width: number;
    readonly height: number;
    readonly limit: number;
    readonly out: number;
  }): number;
  /** The middle of an area's longest run, on the row where it is deepest; the start where there is none. */
  deepPoint(args: {
    readonly start: number;
    readonly label: number;
    readonly left: number;
    readonly top: number;
    readonly right: number;
    readonly bottom: number;
    readonly step: number;
    readonly labels: number;
    readonly width: number;
  }): number;
  bodyRim(): number;
  /**
   * Numbers, in `piece` (16 bits a pixel), the piece of the mark round a pixel; returns its pixels. `stack`: six bytes a
   * pixel.
   */
  measureBody(args: {
    readonly start: number;
    readonly id: number;
    readonly labels: number;
    readonly width: number;
    readonly total: number;
    readonly piece: number;
    readonly stack: number;
  }): number;
  /** Gives an area's pixels another label. */
  relabel(args: {
    readonly label: number;
    readonly left: number;
    readonly top: number;
    readonly right: number;
    readonly bottom: number;
    readonly labels: number;
    readonly width: number;
    readonly to: number;
  }): void;
  /**
   * Gives each clear pixel of a picture the colour of a near visible one, if there is any. `room`: all 0, four bytes a
   * pixel and seven a cell. `runList`: room for three numbers for every other pixel and each row.
   */
  bleed(picture: number, w: number, h: number, room: number, runList: number): void;
  startBox(width: number): void;
  boxLeft(): number;
  boxRight(): number;
  boxTop(): number;
  boxBottom(): number;
  /** Rows of a picture, the first of them number `y0`: what lies further than `above` from a colour. */
  boxStrays(args: {
    readonly picture: number;
    readonly width: number;
    readonly rows: number;
    readonly y0: number;
    readonly r: number;
    readonly g: number;
    readonly b: number;
    readonly above: number;
  }): void;
  /** Rows of a plane of bytes: what is larger than `above`. */
  boxAbove(plane: number, width: number, rows: number, y0: number, above: number): void;
  /** Rows of a picture: what has at least so much alpha. */
  boxVisible(picture: number, width: number, rows: number, y0: number, leastAlpha: number): void;
  startTransparent(): void;
  clearCount(): number;
  partCount(): number;
  /** Adds to the two counts how many of so many pixels are wholly see-through, and how many partly. */
  countTransparent(picture: number, count: number): void;
  /**
   * In which direction from the ground, and how far, every `step`th pixel of a list lies; those too near it are left out.
   * For each: `pixels` and `keys` a number, `lengths` a real. `counts`: a number for each of 32768 keys, all 0. Returns
   * how many there are.
   */
  binDirections(args: {
    readonly picture: number;
    readonly width: number;
    readonly list: number;
    readonly count: number;
    readonly step: number;
    readonly pixels: number;
    readonly keys: number;
    readonly lengths: number;
    readonly counts: number;
  }): number;
  /** The pixels and lengths of one key; returns how many there are. */
  ofDirection(args: {
    readonly key: number;
    readonly count: number;
    readonly pixels: number;
    readonly keys: number;
    readonly lengths: number;
    readonly outPixels: number;
    readonly outLengths: number;
  }): number;
  /** See core/matte/removeDirt.ts. `state`: a byte a pixel, all 0. `piece`: room for `most` + 9 numbers. */
  removeDirt(args: {
    readonly distance: number;
    readonly labels: number;
    readonly runs: number;
    readonly runCount: number;
    readonly width: number;
    readonly total: number;
    readonly tolerance: number;
    readonly strong: number;
    readonly most: number;
    readonly state: number;
    readonly piece: number;
  }): void;
  /**
   * The pixels on both sides of the edge. `ofDepth`: a signed byte a pixel, all 0. `room`: a number a pixel; the inner
   * pixels come to its beginning, the outer ones, in order, to its end. Returns how many inner ones there are;
   * `outerCount` tells of the others.
   */
  findEdge(args: {
    readonly ofLabels: number;
    readonly openByLabel: number;
    readonly runs: number;
    readonly rowStart: number;
    readonly w: number;
    readonly h: number;
    readonly ofDepth: number;
    readonly room: number;
  }): number;
  outerCount(): number;
  /**
   * One step on from a ring, eight neighbours, over pixels of the wanted openness that have no depth yet. Returns how
   * many it adds at `next`.
   */
  growRing(ring: number, count: number, next: number, mark: number, wanted: number): number;
  /** Copies, opaque, all pixels whose label is not see-through. */
  copyMark(picture: number, ofLabels: number, openByLabel: number, runs: number, runCount: number, out: number): void;
  /** Counts how often each ground distance occurs in a list of pixels, soft ones left out, in `count[0..255]`. */
  countDistances(ring: number, length: number, distance: number, ofLabels: number, count: number): void;
  /**
   * Adds up the colours of a ring's nearest solid pixels, every third, in 4096 bins of five reals: red, green, blue,
   * number, order of appearance (0: empty).
   */
  binColours(args: {
    readonly picture: number;
    readonly w: number;
    readonly nearest: number;
    readonly ring: number;
    readonly length: number;
    readonly bins: number;
    readonly seen: number;
  }): number;
  /**
   * The strongest pixel within three pixels of each pixel of a ring that has no solid pixel near. Returns how many `out`
   * holds.
   */
  strongestOfThin(args: {
    readonly ring: number;
    readonly length: number;
    readonly nearest: number;
    readonly distance: number;
    readonly w: number;
    readonly h: number;
    readonly out: number;
  }): number;
  /**
   * The first of those up to three pixels away that lie farthest from the ground; the pixel itself unless another lies
   * farther.
   */
  strongestNear(distance: number, x: number, y: number, w: number, h: number): number;
  /**
   * Of every `step`th pixel the colours of those of the mark away from its edge or three pixels in. Returns how many
   * `out` holds.
   */
  sampleMark(picture: number, ofMark: number, ofDepth: number, total: number, step: number, out: number): number;
  /** Counts a list of colours in 32768 bins of eight levels a channel. */
  countColours(samples: number, length: number, counts: number): void;
  /** How many of a list of colours lie near one, each channel within `reach`; the sums of theirs come to `sums[0..2]`. */
  sumWithin(args: {
    readonly samples: number;
    readonly length: number;
    readonly r: number;
    readonly g: number;
    readonly b: number;
    readonly reach: number;
    readonly sums: number;
  }): number;
  /** Of the region that `fillFrom` filled last: left, top, right and bottom. */
  filledLeft(): number;
  filledTop(): number;
  filledRight(): number;
  filledBottom(): number;
  /**
   * What the fills to come work on. `state`: segments of that very plane, or 0. `stack`: six bytes a pixel and four for
   * each row and column.
   */
  setFill(args: {
    readonly ofPlane: number;
    readonly ofLabels: number;
    readonly ofState: number;
    readonly w: number;
    readonly h: number;
    readonly most: number;
    readonly room: number;
  }): void;
  /** Fills the four-connected region round a pixel, run by run; returns how many pixels it has. */
  fillFrom(start: number, label: number): number;
  /** Labels OUTSIDE all ground that is joined to the border. */
  fillFromBorder(): void;
  startPatches(): void;
  /** The next pixel that could begin a patch, or −1. A clear run is of one patch, so its first pixel speaks for it. */
  nextPatch(runs: number, runCount: number): number;
  /**
   * Steps from pixel to pixel, for patches paler than the mark: `step` is 255 where none can be. Returns how many flat
   * ones `list` holds.
   */
  findFlat(args: {
    readonly picture: number;
    readonly distance: number;
    readonly above: number;
    readonly palest: number;
    readonly flat: number;
    readonly runs: number;
    readonly runCount: number;
    readonly step: number;
    readonly list: number;
  }): number;
  /** The first place from `k` on in a list of pixels whose pixel is still MARK; the list's end when there is none. */
  nextMarked(list: number, k: number, count: number): number;
  setGroundColour(r: number, g: number, b: number): void;
  setGroundPlane(at: number, stride: number): void;
  /** To be called for each channel, then once with the frame. */
  setGroundSurface(args: {
    readonly channel: number;
    readonly k0: number;
    readonly k1: number;
    readonly k2: number;
    readonly k3: number;
    readonly k4: number;
    readonly k5: number;
  }): void;
  setGroundFrame(x: number, y: number, width: number, height: number): void;
  /** Ground distance of `count` pixels from one colour: the largest difference of a channel. `out` must be all 0. */
  distanceFromColour(picture: number, count: number, r: number, g: number, b: number, out: number): void;
  /** The same from a ground that drifts: evaluated every 16 pixels, and interpolated along each row. */
  distanceFromSurface(picture: number, width: number, height: number, out: number): void;
  /** The same from a plane of R, G, B under each pixel. */
  distanceFromPlane(picture: number, count: number, under: number, out: number): void;
  copyBytes(from: number, to: number, count: number): void;
  /** Brings together, at the beginning of a plane, a rectangle of it: `x`, `width` and `stride` in bytes. */
  moveRows(plane: number, stride: number, x: number, y: number, width: number, height: number): void;
  fillBytes(at: number, value: number, count: number): void;
  /**
   * Counts, in `count[0..47]`, the ground distances three to six pixels past the end of strong runs. Returns how many.
   */
  sampleRipple(args: {
    readonly distance: number;
    readonly runs: number;
    readonly rowStart: number;
    readonly width: number;
    readonly height: number;
    readonly step: number;
    readonly count: number;
  }): number;
  /** Cells within reach of a strong pixel, in `cells`. `strong` is scratch; both all 0, one byte a cell. */
  cellsNearStrong(args: {
    readonly distance: number;
    readonly runs: number;
    readonly rowStart: number;
    readonly width: number;
    readonly height: number;
    readonly strong: number;
    readonly cells: number;
  }): void;
  /**
   * Takes back, in `cells`, those of a pale part that a strong edge crosses: nearly all its weak pixels there are at one
   * level, where a ripple swings about nothing, and it goes on beyond the reach of ripples. `near` has a copy of `cells`,
   * `seen` a byte a cell, all 0, and `queue` room for ten numbers a cell.
   */
  exceptPale(args: {
    readonly cells: number;
    readonly near: number;
    readonly seen: number;
    readonly queue: number;
    readonly distance: number;
    readonly width: number;
    readonly height: number;
    readonly forgiven: number;
  }): void;
  /** Takes what is forgiven off the weak pixels of marked cells, from `distance` into `out`, which has a copy. */
  forgive(args: {
    readonly distance: number;
    readonly runs: number;
    readonly runCount: number;
    readonly cells: number;
    readonly width: number;
    readonly forgiven: number;
    readonly out: number;
  }): void;
  /** What every piece of SEGMENT pixels holds; see core/matte/rowSegments.ts. Returns how many numbers `runs` has got. */
  findSegments(args: {
    readonly distance: number;
    readonly width: number;
    readonly height: number;
    readonly deepFrom: number;
    readonly state: number;
    readonly runs: number;
    readonly rowStart: number;
  }): number;
  /** Longest runs of one state: state, first pixel, the pixel after the last. */
  findRuns(state: number, width: number, height: number, runs: number, rowStart: number): number;
  /** Counts how often each value occurs, in `count[0..255]`. */
  countBytes(plane: number, length: number, count: number): void;
  /** Every pixel `step` rows and columns apart, packed together. */
  thinOut(plane: number, width: number, height: number, step: number, out: number): void;
  /**
   * The least tolerance at which ground from the border reaches each pixel. `scratch`: 1024 + 5·w·h + 16 bytes, all 0.
   */
  floodOrder(distance: number, w: number, h: number, level: number, scratch: number): void;
  /** Pieces that hold a pixel of a list are of more than one kind. */
  markMixed(pixels: number, length: number, width: number, state: number): void;
  /**
   * The level of every pixel but those of ground outside the mark that are the ground's colour exactly: theirs is 0.
   * `out`: two bytes a pixel, all 0.
   */
  smoothDistance(out: number): void;
  /** Counts the levels of a region, in `counts[0..2295]`. */
  countLevels(members: number, count: number, counts: number): void;
  /**
   * Adds up in `sums[0..2]` by how much the pixels of a region that are no stronger than `most` differ from the ground,
   * and in `sums[3..5]` the ground under them.
   */
  sumColours(members: number, count: number, most: number, sums: number): void;
  /**
   * Those of a region whose colour lies on the line from the ground in a direction of some length; returns how many `out`
   * holds.
   */
  keepOnLine(args: {
    readonly members: number;
    readonly count: number;
    readonly u0: number;
    readonly u1: number;
    readonly u2: number;
    readonly length: number;
    readonly out: number;
  }): number;
  /**
   * How many of a region lie between two levels, in `out[0]`, and how many of at least a third level have a neighbour
   * under it, in `out[1]`.
   */
  countFade(members: number, count: number, above: number, below: number, contour: number, out: number): void;
  /**
   * Of every `step`th of a region that is at least `half` strong: how many there are, in `out[0]`; how many differ from
   * all their neighbours by less than `flatBelow`, in `out[1]`; how far the one farthest from open ground lies from it,
   * up to `reach`, in `out[2]`.
   */
  countHigh(args: {
    readonly members: number;
    readonly count: number;
    readonly step: number;
    readonly half: number;
    readonly flatBelow: number;
    readonly reach: number;
    readonly out: number;
  }): void;
  /**
   * The open labels beside a region, each once; returns how many `out` holds. `noted`: a byte a label, all 0, and left
   * so.
   */
  labelsBeside(members: number, count: number, noted: number, out: number): number;
  /** Gives a region its label. */
  labelRegion(members: number, count: number, label: number): void;
  /**
   * Where the fade goes on over open ground, falling, down to `floor` and up to `farthest` pixels out; all of it gets the
   * label. Returns how many `members` holds then. `room`: a number for each it held before.
   */
  addTail(members: number, count: number, label: number, floor: number, farthest: number, room: number): number;
  /** The colour that a soft region is taken to have. */
  setSoftColour(r: number, g: number, b: number): void;
  /** The alpha of every `step`th of a region, as 32-bit reals; returns how many `out` holds. */
  alphasOf(members: number, count: number, step: number, out: number): number;
  /** Writes a region into a picture: the colour, each pixel as strong as it holds it. */
  writeSoft(members: number, count: number, out: number): void;
  /**
   * A shadow also falls on ground that the mark encloses, such as the counters of letters: there it never comes down to
   * the ground. Patches inside the mark, between the region's outermost rows and columns, that lie on the shadow's own
   * colour line, no stronger than the shadow, uneven as a shadow is, become part of it. `tolerated`: how far from the
   * line a weak pixel may lie, code values. `seen`: a byte a pixel, all 0, and left so. `room`: a number a pixel. Returns
   * how many `members` holds then.
   */
  addShaded(members: number, count: number, tolerated: number, seen: number, room: number): number;
  /** What the search works on; begins it. `region`: a byte a pixel, all 0, remembers all that was looked at. */
  startSoft(args: {
    readonly ofPicture: number;
    readonly ofDistance: number;
    readonly ofLabels: number;
    readonly openByLabel: number;
    readonly ofRegion: number;
    readonly w: number;
    readonly h: number;
    readonly steepest: number;
  }): void;
  /** The next pixel beside open ground from which a gradual part may rise, or −1. */
  nextSoftSeed(runs: number, runCount: number): number;
  /**
   * Spreads over pixels that are gradual on every side; returns how many `members` holds. Both lists: room for a number a
   * pixel.
   */
  growSoft(start: number, faintest: number, members: number, room: number): number;
  /**
   * On from what was grown, over gradual pixels of any strength; returns how many were added behind it. `own`: a byte a
   * pixel, all 0, and left so.
   */
  growCore(grown: number, count: number, room: number, own: number): number;
  /**
   * Pixels of a ring that hold one colour unmixed become their own nearest solid pixel; see core/matte/nearestSolid.ts.
   */
  findSolid(args: {
    readonly picture: number;
    readonly width: number;
    readonly height: number;
    readonly ring: number;
    readonly length: number;
    readonly distance: number;
    readonly leastDistance: number;
    readonly depth: number;
    readonly flat: number;
    readonly nearest: number;
  }): void;
  /** Each pixel of a ring takes the nearest of the places that its neighbours know, there and back again. */
  handOn(ring: number, length: number, nearest: number, width: number, total: number): void;
  /** Pixels of a ring that are soft stand for themselves: each becomes its own soft pixel, counted from 1. */
  seedSoft(ring: number, length: number, labels: number, behind: number): void;
  /**
   * Each pixel of a ring takes the soft pixel that a neighbour of another ring knows: one beside it before one corner to
   * corner. `room`: a number for each.
   */
  handSoftOn(ring: number, length: number, behind: number, width: number, height: number, room: number): void;
  startTrouble(ofOut: number, w: number, h: number): void;
  /**
   * Edge pixels that still hold the ground's colour, at least the part `tinted`, and pixels that surely were no ground
   * and are gone. Two tables, one after the other: `amounts` a real a square, `firsts` and `order` a number a square, all
   * 0. `totals`: edge pixels, tinted ones, the sum of what those hold, pixels gone, squares of either kind.
   */
  findTrouble(args: {
    readonly distance: number;
    readonly runs: number;
    readonly runCount: number;
    readonly surely: number;
    readonly tinted: number;
    readonly size: number;
    readonly amounts: number;
    readonly firsts: number;
    readonly order: number;
    readonly totals: number;
  }): void;
  /** How many of every `step`th pixel are visible. */
  countVisible(step: number): number;
  startSpecks(): void;
  /**
   * The next piece of at most `most` visible pixels, corners joined, with nothing visible within `alone` pixels of the
   * one it begins at. Returns how many pixels `piece` holds, that one first; 0 when there is none left. `seen`: a byte a
   * pixel, all 0 at first. `piece`: room for `most` + 9 numbers.
   */
  nextSpeck(runs: number, runCount: number, most: number, alone: number, seen: number, piece: number): number;
  setUnmix(args: {
    readonly ofPicture: number;
    readonly toOut: number;
    readonly ofDistance: number;
    readonly ofDepth: number;
    readonly ofNearest: number;
    readonly w: number;
    readonly h: number;
    readonly floor: number;
    readonly rippleBy: number;
    readonly flatBy: number;
    readonly soiledBy: number;
  }): void;
  /** Lists of colours, three reals each. */
  setColours(ofPalette: number, colours: number, ofFlats: number, flatColours: number): void;
  /** The soft pixel behind each band pixel, counted from 1; 0 without any. Soft pixels stand in `out` already. */
  setBehind(softBehind: number): void;
  /** Works out the pixels of a ring outside the mark. */
  unmixOuter(ring: number, length: number): void;
  /**
   * Works out those of the ring of depth `own` that continue a ramp from outside; all of the first. The others are whole.
   * Rings come in order, from the outermost in; depths of pixels that continue a ramp change.
   */
  unmixInner(ring: number, length: number, own: number): void;
  /**
   * The palette's colour on whose line from the ground (where `groundAt` was asked last) a mixed colour lies: where it
   * stands, or 0. Of several, the one nearest to the mixed colour: it asks for the least transparency.
   */
  matchColour(v0: number, v1: number, v2: number): number;
  /**
   * The flat colour that compression has probably moved a colour away from: where it stands, or 0 when none is near
   * enough. Lightness is held closer than hue: compression keeps colour at half the resolution, so hue strays further.
   * `reach` is how far lightness may have strayed, code values.
   */
  nearestFlat(r: number, g: number, b: number, reach: number): number;
}

/** The kernels as WebAssembly exports them: numbers in, a number out. */
export type RawKernels = Readonly<Record<string, (...args: number[]) => number>>;

/**
 * The kernels with their arguments by name.
 * @param view  of the kernels' memory as it is now: it moves when the memory grows
 * @param at    where ARGUMENT_BYTES lie that nothing else uses; a multiple of 8
 */
export function bindKernels(raw: RawKernels, view: () => DataView, at: number): Kernels {
  return {
    ...(raw as unknown as Kernels),
    measureShape: (a) => {
      const v = view();
      v.setInt32(at + 0, a.label, true);
      v.setInt32(at + 4, a.left, true);
      v.setInt32(at + 8, a.top, true);
      v.setInt32(at + 12, a.right, true);
      v.setInt32(at + 16, a.bottom, true);
      v.setInt32(at + 20, a.step, true);
      v.setInt32(at + 24, a.picture, true);
      v.setInt32(at + 28, a.distance, true);
      v.setInt32(at + 32, a.labels, true);
      v.setInt32(at + 36, a.width, true);
      v.setInt32(at + 40, a.height, true);
      v.setInt8(at + 44, Number(a.byPlace));
      v.setInt32(at + 48, a.out, true);
      v.setInt32(at + 52, a.rim, true);
      return raw.measureShape(at);
    },
    castRays: (a) => {
      const v = view();
      v.setInt32(at + 0, a.rim, true);
      v.setInt32(at + 4, a.length, true);
      v.setInt32(at + 8, a.step, true);
      v.setInt32(at + 12, a.own, true);
      v.setInt32(at + 16, a.labels, true);
      v.setInt32(at + 20, a.others, true);
      v.setInt32(at + 24, a.width, true);
      v.setInt32(at + 28, a.height, true);
      v.setFloat64(at + 32, a.limit, true);
      v.setInt32(at + 40, a.out, true);
      return raw.castRays(at);
    },
    deepPoint: (a) => {
      const v = view();
      v.setInt32(at + 0, a.start, true);
      v.setInt32(at + 4, a.label, true);
      v.setInt32(at + 8, a.left, true);
      v.setInt32(at + 12, a.top, true);
      v.setInt32(at + 16, a.right, true);
      v.setInt32(at + 20, a.bottom, true);
      v.setInt32(at + 24, a.step, true);
      v.setInt32(at + 28, a.labels, true);
      v.setInt32(at + 32, a.width, true);
      return raw.deepPoint(at);
    },
    measureBody: (a) => {
      const v = view();
      v.setInt32(at + 0, a.start, true);
      v.setInt32(at + 4, a.id, true);
      v.setInt32(at + 8, a.labels, true);
      v.setInt32(at + 12, a.width, true);
      v.setInt32(at + 16, a.total, true);
      v.setInt32(at + 20, a.piece, true);
      v.setInt32(at + 24, a.stack, true);
      return raw.measureBody(at);
    },
    relabel: (a) => {
      const v = view();
      v.setInt32(at + 0, a.label, true);
      v.setInt32(at + 4, a.left, true);
      v.setInt32(at + 8, a.top, true);
      v.setInt32(at + 12, a.right, true);
      v.setInt32(at + 16, a.bottom, true);
      v.setInt32(at + 20, a.labels, true);
      v.setInt32(at + 24, a.width, true);
      v.setInt32(at + 28, a.to, true);
      return raw.relabel(at);
    },
    boxStrays: (a) => {
      const v = view();
      v.setInt32(at + 0, a.picture, true);
      v.setInt32(at + 4, a.width, true);
      v.setInt32(at + 8, a.rows, true);
      v.setInt32(at + 12, a.y0, true);
      v.setInt32(at + 16, a.r, true);
      v.setInt32(at + 20, a.g, true);
      v.setInt32(at + 24, a.b, true);
      v.setInt32(at + 28, a.above, true);
      return raw.boxStrays(at);
    },
    binDirections: (a) => {
      const v = view();
      v.setInt32(at + 0, a.picture, true);
      v.setInt32(at + 4, a.width, true);
      v.setInt32(at + 8, a.list, true);
      v.setInt32(at + 12, a.count, true);
      v.setInt32(at + 16, a.step, true);
      v.setInt32(at + 20, a.pixels, true);
      v.setInt32(at + 24, a.keys, true);
      v.setInt32(at + 28, a.lengths, true);
      v.setInt32(at + 32, a.counts, true);
      return raw.binDirections(at);
    },
    ofDirection: (a) => {
      const v = view();
      v.setInt32(at + 0, a.key, true);
      v.setInt32(at + 4, a.count, true);
      v.setInt32(at + 8, a.pixels, true);
      v.setInt32(at + 12, a.keys, true);
      v.setInt32(at + 16, a.lengths, true);
      v.setInt32(at + 20, a.outPixels, true);
      v.setInt32(at + 24, a.outLengths, true);
      return raw.ofDirection(at);
    },
    removeDirt: (a) => {
      const v = view();
      v.setInt32(at + 0, a.distance, true);
      v.setInt32(at + 4, a.labels, true);
      v.setInt32(at + 8, a.runs, true);
      v.setInt32(at + 12, a.runCount, true);
      v.setInt32(at + 16, a.width, true);
      v.setInt32(at + 20, a.total, true);
      v.setInt32(at + 24, a.tolerance, true);
      v.setFloat64(at + 32, a.strong, true);
      v.setInt32(at + 40, a.most, true);
      v.setInt32(at + 44, a.state, true);
      v.setInt32(at + 48, a.piece, true);
      return raw.removeDirt(at);
    },
    findEdge: (a) => {
      const v = view();
      v.setInt32(at + 0, a.ofLabels, true);
      v.setInt32(at + 4, a.openByLabel, true);
      v.setInt32(at + 8, a.runs, true);
      v.setInt32(at + 12, a.rowStart, true);
      v.setInt32(at + 16, a.w, true);
      v.setInt32(at + 20, a.h, true);
      v.setInt32(at + 24, a.ofDepth, true);
      v.setInt32(at + 28, a.room, true);
      return raw.findEdge(at);
    },
    binColours: (a) => {
      const v = view();
      v.setInt32(at + 0, a.picture, true);
      v.setInt32(at + 4, a.w, true);
      v.setInt32(at + 8, a.nearest, true);
      v.setInt32(at + 12, a.ring, true);
      v.setInt32(at + 16, a.length, true);
      v.setInt32(at + 20, a.bins, true);
      v.setInt32(at + 24, a.seen, true);
      return raw.binColours(at);
    },
    strongestOfThin: (a) => {
      const v = view();
      v.setInt32(at + 0, a.ring, true);
      v.setInt32(at + 4, a.length, true);
      v.setInt32(at + 8, a.nearest, true);
      v.setInt32(at + 12, a.distance, true);
      v.setInt32(at + 16, a.w, true);
      v.setInt32(at + 20, a.h, true);
      v.setInt32(at + 24, a.out, true);
      return raw.strongestOfThin(at);
    },
    sumWithin: (a) => {
      const v = view();
      v.setInt32(at + 0, a.samples, true);
      v.setInt32(at + 4, a.length, true);
      v.setFloat64(at + 8, a.r, true);
      v.setFloat64(at + 16, a.g, true);
      v.setFloat64(at + 24, a.b, true);
      v.setFloat64(at + 32, a.reach, true);
      v.setInt32(at + 40, a.sums, true);
      return raw.sumWithin(at);
    },
    setFill: (a) => {
      const v = view();
      v.setInt32(at + 0, a.ofPlane, true);
      v.setInt32(at + 4, a.ofLabels, true);
      v.setInt32(at + 8, a.ofState, true);
      v.setInt32(at + 12, a.w, true);
      v.setInt32(at + 16, a.h, true);
      v.setInt32(at + 20, a.most, true);
      v.setInt32(at + 24, a.room, true);
      return raw.setFill(at);
    },
    findFlat: (a) => {
      const v = view();
      v.setInt32(at + 0, a.picture, true);
      v.setInt32(at + 4, a.distance, true);
      v.setInt32(at + 8, a.above, true);
      v.setInt32(at + 12, a.palest, true);
      v.setFloat64(at + 16, a.flat, true);
      v.setInt32(at + 24, a.runs, true);
      v.setInt32(at + 28, a.runCount, true);
      v.setInt32(at + 32, a.step, true);
      v.setInt32(at + 36, a.list, true);
      return raw.findFlat(at);
    },
    setGroundSurface: (a) => {
      const v = view();
      v.setInt32(at + 0, a.channel, true);
      v.setFloat64(at + 8, a.k0, true);
      v.setFloat64(at + 16, a.k1, true);
      v.setFloat64(at + 24, a.k2, true);
      v.setFloat64(at + 32, a.k3, true);
      v.setFloat64(at + 40, a.k4, true);
      v.setFloat64(at + 48, a.k5, true);
      return raw.setGroundSurface(at);
    },
    sampleRipple: (a) => {
      const v = view();
      v.setInt32(at + 0, a.distance, true);
      v.setInt32(at + 4, a.runs, true);
      v.setInt32(at + 8, a.rowStart, true);
      v.setInt32(at + 12, a.width, true);
      v.setInt32(at + 16, a.height, true);
      v.setInt32(at + 20, a.step, true);
      v.setInt32(at + 24, a.count, true);
      return raw.sampleRipple(at);
    },
    cellsNearStrong: (a) => {
      const v = view();
      v.setInt32(at + 0, a.distance, true);
      v.setInt32(at + 4, a.runs, true);
      v.setInt32(at + 8, a.rowStart, true);
      v.setInt32(at + 12, a.width, true);
      v.setInt32(at + 16, a.height, true);
      v.setInt32(at + 20, a.strong, true);
      v.setInt32(at + 24, a.cells, true);
      return raw.cellsNearStrong(at);
    },
    exceptPale: (a) => {
      const v = view();
      v.setInt32(at + 0, a.cells, true);
      v.setInt32(at + 4, a.near, true);
      v.setInt32(at + 8, a.seen, true);
      v.setInt32(at + 12, a.queue, true);
      v.setInt32(at + 16, a.distance, true);
      v.setInt32(at + 20, a.width, true);
      v.setInt32(at + 24, a.height, true);
      v.setInt32(at + 28, a.forgiven, true);
      return raw.exceptPale(at);
    },
    forgive: (a) => {
      const v = view();
      v.setInt32(at + 0, a.distance, true);
      v.setInt32(at + 4, a.runs, true);
      v.setInt32(at + 8, a.runCount, true);
      v.setInt32(at + 12, a.cells, true);
      v.setInt32(at + 16, a.width, true);
      v.setInt32(at + 20, a.forgiven, true);
      v.setInt32(at + 24, a.out, true);
      return raw.forgive(at);
    },
    findSegments: (a) => {
      const v = view();
      v.setInt32(at + 0, a.distance, true);
      v.setInt32(at + 4, a.width, true);
      v.setInt32(at + 8, a.height, true);
      v.setInt32(at + 12, a.deepFrom, true);
      v.setInt32(at + 16, a.state, true);
      v.setInt32(at + 20, a.runs, true);
      v.setInt32(at + 24, a.rowStart, true);
      return raw.findSegments(at);
    },
    keepOnLine: (a) => {
      const v = view();
      v.setInt32(at + 0, a.members, true);
      v.setInt32(at + 4, a.count, true);
      v.setFloat64(at + 8, a.u0, true);
      v.setFloat64(at + 16, a.u1, true);
      v.setFloat64(at + 24, a.u2, true);
      v.setFloat64(at + 32, a.length, true);
      v.setInt32(at + 40, a.out, true);
      return raw.keepOnLine(at);
    },
    countHigh: (a) => {
      const v = view();
      v.setInt32(at + 0, a.members, true);
      v.setInt32(at + 4, a.count, true);
      v.setInt32(at + 8, a.step, true);
      v.setFloat64(at + 16, a.half, true);
      v.setFloat64(at + 24, a.flatBelow, true);
      v.setInt32(at + 32, a.reach, true);
      v.setInt32(at + 36, a.out, true);
      return raw.countHigh(at);
    },
    startSoft: (a) => {
      const v = view();
      v.setInt32(at + 0, a.ofPicture, true);
      v.setInt32(at + 4, a.ofDistance, true);
      v.setInt32(at + 8, a.ofLabels, true);
      v.setInt32(at + 12, a.openByLabel, true);
      v.setInt32(at + 16, a.ofRegion, true);
      v.setInt32(at + 20, a.w, true);
      v.setInt32(at + 24, a.h, true);
      v.setFloat64(at + 32, a.steepest, true);
      return raw.startSoft(at);
    },
    findSolid: (a) => {
      const v = view();
      v.setInt32(at + 0, a.picture, true);
      v.setInt32(at + 4, a.width, true);
      v.setInt32(at + 8, a.height, true);
      v.setInt32(at + 12, a.ring, true);
      v.setInt32(at + 16, a.length, true);
      v.setInt32(at + 20, a.distance, true);
      v.setFloat64(at + 24, a.leastDistance, true);
      v.setInt32(at + 32, a.depth, true);
      v.setInt32(at + 36, a.flat, true);
      v.setInt32(at + 40, a.nearest, true);
      return raw.findSolid(at);
    },
    findTrouble: (a) => {
      const v = view();
      v.setInt32(at + 0, a.distance, true);
      v.setInt32(at + 4, a.runs, true);
      v.setInt32(at + 8, a.runCount, true);
      v.setInt32(at + 12, a.surely, true);
      v.setFloat64(at + 16, a.tinted, true);
      v.setInt32(at + 24, a.size, true);
      v.setInt32(at + 28, a.amounts, true);
      v.setInt32(at + 32, a.firsts, true);
      v.setInt32(at + 36, a.order, true);
      v.setInt32(at + 40, a.totals, true);
      return raw.findTrouble(at);
    },
    setUnmix: (a) => {
      const v = view();
      v.setInt32(at + 0, a.ofPicture, true);
      v.setInt32(at + 4, a.toOut, true);
      v.setInt32(at + 8, a.ofDistance, true);
      v.setInt32(at + 12, a.ofDepth, true);
      v.setInt32(at + 16, a.ofNearest, true);
      v.setInt32(at + 20, a.w, true);
      v.setInt32(at + 24, a.h, true);
      v.setFloat64(at + 32, a.floor, true);
      v.setFloat64(at + 40, a.rippleBy, true);
      v.setFloat64(at + 48, a.flatBy, true);
      v.setFloat64(at + 56, a.soiledBy, true);
      return raw.setUnmix(at);
    },
  };
}
