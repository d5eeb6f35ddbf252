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
   * One row at another width. `pixels`: the row, straight RGBA of 8 bits. `table`: linear light of every code value, 32
   * bits each. `linear`: scratch, four reals for each source pixel. `out`: four reals for each output pixel. `isClamped`:
   * a result is kept between the least and the most of its main lobe. Most of a mark is flat: where all that a sample is
   * made of is one colour it is that colour. `runs`: scratch, a number for each source pixel. `y`: number of the row;
   * `before`: the row before it in `out`'s place, or 0; `since`: for each output pixel, from which row on it is the same.
   */
  resampleRow(args: {
    readonly pixels: number;
    readonly width: number;
    readonly table: number;
    readonly linear: number;
    readonly plan: number;
    readonly weights: number;
    readonly most: number;
    readonly isClamped: boolean;
    readonly outWidth: number;
    readonly out: number;
    readonly runs: number;
    readonly y: number;
    readonly before: number;
    readonly since: number;
  }): void;
  /**
   * One row of the result out of rows in linear light. `ring`: rows of four reals a pixel; source row `y` lies at place
   * `y % rows`. `codes`: the code value of every linear light 0..65535, a byte each. `places`: scratch, a
   * number for each tap. `since`: from which row on each pixel is the same. `out`: straight RGBA of 8 bits, all 0 where
   * nothing is visible.
   */
  blendRows(args: {
    readonly ring: number;
    readonly rows: number;
    readonly width: number;
    readonly plan: number;
    readonly weights: number;
    readonly most: number;
    readonly isClamped: boolean;
    readonly row: number;
    readonly codes: number;
    readonly places: number;
    readonly since: number;
    readonly out: number;
  }): void;
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
 * The kernels with their arguments by name, each checked.
 * @param view  of the kernels' memory as it is now: it moves when the memory grows
 * @param at    where ARGUMENT_BYTES lie that nothing else uses; a multiple of 8
 * @param isPlace  whether an address lies where arrays are handed out
 */
export function bindKernels(
  raw: RawKernels,
  view: () => DataView,
  at: number,
  isPlace: (address: number) => boolean,
): Kernels {
  const refuse = (name: string, expected: string, value: unknown): never => {
    throw new Error(`The kernel ${name} is given ${String(value)}: ${expected} was expected.`);
  };
  const whole = (v: number, name: string) => ((v | 0) === v ? v : refuse(name, 'a whole number of 32 bits', v));
  // 0 stands for an array that is not there.
  const place = (v: number, name: string) =>
    Number.isInteger(v) && (v === 0 || isPlace(v)) ? v : refuse(name, 'a place in memory', v);
  const real = (v: number, name: string) => (v === v ? v : refuse(name, 'a number', v));
  const flag = (v: boolean, _name: string) => Number(v);
  return {
    ...(raw as unknown as Kernels),
    measureShape: (a) => {
      const v = view();
      v.setInt32(at + 0, whole(a.label, 'measureShape: label'), true);
      v.setInt32(at + 4, whole(a.left, 'measureShape: left'), true);
      v.setInt32(at + 8, whole(a.top, 'measureShape: top'), true);
      v.setInt32(at + 12, whole(a.right, 'measureShape: right'), true);
      v.setInt32(at + 16, whole(a.bottom, 'measureShape: bottom'), true);
      v.setInt32(at + 20, whole(a.step, 'measureShape: step'), true);
      v.setInt32(at + 24, place(a.picture, 'measureShape: picture'), true);
      v.setInt32(at + 28, place(a.distance, 'measureShape: distance'), true);
      v.setInt32(at + 32, place(a.labels, 'measureShape: labels'), true);
      v.setInt32(at + 36, whole(a.width, 'measureShape: width'), true);
      v.setInt32(at + 40, whole(a.height, 'measureShape: height'), true);
      v.setInt8(at + 44, flag(a.byPlace, 'measureShape: byPlace'));
      v.setInt32(at + 48, place(a.out, 'measureShape: out'), true);
      v.setInt32(at + 52, place(a.rim, 'measureShape: rim'), true);
      return raw.measureShape(at);
    },
    bitsOfOthers: (labels, width, height, out) =>
      raw.bitsOfOthers(
        place(labels, 'bitsOfOthers: labels'),
        whole(width, 'bitsOfOthers: width'),
        whole(height, 'bitsOfOthers: height'),
        place(out, 'bitsOfOthers: out'),
      ),
    castRays: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.rim, 'castRays: rim'), true);
      v.setInt32(at + 4, whole(a.length, 'castRays: length'), true);
      v.setInt32(at + 8, whole(a.step, 'castRays: step'), true);
      v.setInt32(at + 12, whole(a.own, 'castRays: own'), true);
      v.setInt32(at + 16, place(a.labels, 'castRays: labels'), true);
      v.setInt32(at + 20, place(a.others, 'castRays: others'), true);
      v.setInt32(at + 24, whole(a.width, 'castRays: width'), true);
      v.setInt32(at + 28, whole(a.height, 'castRays: height'), true);
      v.setFloat64(at + 32, real(a.limit, 'castRays: limit'), true);
      v.setInt32(at + 40, place(a.out, 'castRays: out'), true);
      return raw.castRays(at);
    },
    deepPoint: (a) => {
      const v = view();
      v.setInt32(at + 0, whole(a.start, 'deepPoint: start'), true);
      v.setInt32(at + 4, whole(a.label, 'deepPoint: label'), true);
      v.setInt32(at + 8, whole(a.left, 'deepPoint: left'), true);
      v.setInt32(at + 12, whole(a.top, 'deepPoint: top'), true);
      v.setInt32(at + 16, whole(a.right, 'deepPoint: right'), true);
      v.setInt32(at + 20, whole(a.bottom, 'deepPoint: bottom'), true);
      v.setInt32(at + 24, whole(a.step, 'deepPoint: step'), true);
      v.setInt32(at + 28, place(a.labels, 'deepPoint: labels'), true);
      v.setInt32(at + 32, whole(a.width, 'deepPoint: width'), true);
      return raw.deepPoint(at);
    },
    measureBody: (a) => {
      const v = view();
      v.setInt32(at + 0, whole(a.start, 'measureBody: start'), true);
      v.setInt32(at + 4, whole(a.id, 'measureBody: id'), true);
      v.setInt32(at + 8, place(a.labels, 'measureBody: labels'), true);
      v.setInt32(at + 12, whole(a.width, 'measureBody: width'), true);
      v.setInt32(at + 16, whole(a.total, 'measureBody: total'), true);
      v.setInt32(at + 20, place(a.piece, 'measureBody: piece'), true);
      v.setInt32(at + 24, place(a.stack, 'measureBody: stack'), true);
      return raw.measureBody(at);
    },
    relabel: (a) => {
      const v = view();
      v.setInt32(at + 0, whole(a.label, 'relabel: label'), true);
      v.setInt32(at + 4, whole(a.left, 'relabel: left'), true);
      v.setInt32(at + 8, whole(a.top, 'relabel: top'), true);
      v.setInt32(at + 12, whole(a.right, 'relabel: right'), true);
      v.setInt32(at + 16, whole(a.bottom, 'relabel: bottom'), true);
      v.setInt32(at + 20, place(a.labels, 'relabel: labels'), true);
      v.setInt32(at + 24, whole(a.width, 'relabel: width'), true);
      v.setInt32(at + 28, whole(a.to, 'relabel: to'), true);
      return raw.relabel(at);
    },
    bleed: (picture, w, h, room, runList) =>
      raw.bleed(
        place(picture, 'bleed: picture'),
        whole(w, 'bleed: w'),
        whole(h, 'bleed: h'),
        place(room, 'bleed: room'),
        place(runList, 'bleed: runList'),
      ),
    startBox: (width) => raw.startBox(whole(width, 'startBox: width')),
    boxStrays: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.picture, 'boxStrays: picture'), true);
      v.setInt32(at + 4, whole(a.width, 'boxStrays: width'), true);
      v.setInt32(at + 8, whole(a.rows, 'boxStrays: rows'), true);
      v.setInt32(at + 12, whole(a.y0, 'boxStrays: y0'), true);
      v.setInt32(at + 16, whole(a.r, 'boxStrays: r'), true);
      v.setInt32(at + 20, whole(a.g, 'boxStrays: g'), true);
      v.setInt32(at + 24, whole(a.b, 'boxStrays: b'), true);
      v.setInt32(at + 28, whole(a.above, 'boxStrays: above'), true);
      return raw.boxStrays(at);
    },
    boxAbove: (plane, width, rows, y0, above) =>
      raw.boxAbove(
        place(plane, 'boxAbove: plane'),
        whole(width, 'boxAbove: width'),
        whole(rows, 'boxAbove: rows'),
        whole(y0, 'boxAbove: y0'),
        whole(above, 'boxAbove: above'),
      ),
    boxVisible: (picture, width, rows, y0, leastAlpha) =>
      raw.boxVisible(
        place(picture, 'boxVisible: picture'),
        whole(width, 'boxVisible: width'),
        whole(rows, 'boxVisible: rows'),
        whole(y0, 'boxVisible: y0'),
        whole(leastAlpha, 'boxVisible: leastAlpha'),
      ),
    countTransparent: (picture, count) =>
      raw.countTransparent(place(picture, 'countTransparent: picture'), whole(count, 'countTransparent: count')),
    binDirections: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.picture, 'binDirections: picture'), true);
      v.setInt32(at + 4, whole(a.width, 'binDirections: width'), true);
      v.setInt32(at + 8, place(a.list, 'binDirections: list'), true);
      v.setInt32(at + 12, whole(a.count, 'binDirections: count'), true);
      v.setInt32(at + 16, whole(a.step, 'binDirections: step'), true);
      v.setInt32(at + 20, place(a.pixels, 'binDirections: pixels'), true);
      v.setInt32(at + 24, place(a.keys, 'binDirections: keys'), true);
      v.setInt32(at + 28, place(a.lengths, 'binDirections: lengths'), true);
      v.setInt32(at + 32, place(a.counts, 'binDirections: counts'), true);
      return raw.binDirections(at);
    },
    ofDirection: (a) => {
      const v = view();
      v.setInt32(at + 0, whole(a.key, 'ofDirection: key'), true);
      v.setInt32(at + 4, whole(a.count, 'ofDirection: count'), true);
      v.setInt32(at + 8, place(a.pixels, 'ofDirection: pixels'), true);
      v.setInt32(at + 12, place(a.keys, 'ofDirection: keys'), true);
      v.setInt32(at + 16, place(a.lengths, 'ofDirection: lengths'), true);
      v.setInt32(at + 20, place(a.outPixels, 'ofDirection: outPixels'), true);
      v.setInt32(at + 24, place(a.outLengths, 'ofDirection: outLengths'), true);
      return raw.ofDirection(at);
    },
    removeDirt: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.distance, 'removeDirt: distance'), true);
      v.setInt32(at + 4, place(a.labels, 'removeDirt: labels'), true);
      v.setInt32(at + 8, place(a.runs, 'removeDirt: runs'), true);
      v.setInt32(at + 12, whole(a.runCount, 'removeDirt: runCount'), true);
      v.setInt32(at + 16, whole(a.width, 'removeDirt: width'), true);
      v.setInt32(at + 20, whole(a.total, 'removeDirt: total'), true);
      v.setInt32(at + 24, whole(a.tolerance, 'removeDirt: tolerance'), true);
      v.setFloat64(at + 32, real(a.strong, 'removeDirt: strong'), true);
      v.setInt32(at + 40, whole(a.most, 'removeDirt: most'), true);
      v.setInt32(at + 44, place(a.state, 'removeDirt: state'), true);
      v.setInt32(at + 48, place(a.piece, 'removeDirt: piece'), true);
      return raw.removeDirt(at);
    },
    findEdge: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.ofLabels, 'findEdge: ofLabels'), true);
      v.setInt32(at + 4, place(a.openByLabel, 'findEdge: openByLabel'), true);
      v.setInt32(at + 8, place(a.runs, 'findEdge: runs'), true);
      v.setInt32(at + 12, place(a.rowStart, 'findEdge: rowStart'), true);
      v.setInt32(at + 16, whole(a.w, 'findEdge: w'), true);
      v.setInt32(at + 20, whole(a.h, 'findEdge: h'), true);
      v.setInt32(at + 24, place(a.ofDepth, 'findEdge: ofDepth'), true);
      v.setInt32(at + 28, place(a.room, 'findEdge: room'), true);
      return raw.findEdge(at);
    },
    growRing: (ring, count, next, mark, wanted) =>
      raw.growRing(
        place(ring, 'growRing: ring'),
        whole(count, 'growRing: count'),
        place(next, 'growRing: next'),
        whole(mark, 'growRing: mark'),
        whole(wanted, 'growRing: wanted'),
      ),
    copyMark: (picture, ofLabels, openByLabel, runs, runCount, out) =>
      raw.copyMark(
        place(picture, 'copyMark: picture'),
        place(ofLabels, 'copyMark: ofLabels'),
        place(openByLabel, 'copyMark: openByLabel'),
        place(runs, 'copyMark: runs'),
        whole(runCount, 'copyMark: runCount'),
        place(out, 'copyMark: out'),
      ),
    countDistances: (ring, length, distance, ofLabels, count) =>
      raw.countDistances(
        place(ring, 'countDistances: ring'),
        whole(length, 'countDistances: length'),
        place(distance, 'countDistances: distance'),
        place(ofLabels, 'countDistances: ofLabels'),
        place(count, 'countDistances: count'),
      ),
    binColours: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.picture, 'binColours: picture'), true);
      v.setInt32(at + 4, whole(a.w, 'binColours: w'), true);
      v.setInt32(at + 8, place(a.nearest, 'binColours: nearest'), true);
      v.setInt32(at + 12, place(a.ring, 'binColours: ring'), true);
      v.setInt32(at + 16, whole(a.length, 'binColours: length'), true);
      v.setInt32(at + 20, place(a.bins, 'binColours: bins'), true);
      v.setInt32(at + 24, whole(a.seen, 'binColours: seen'), true);
      return raw.binColours(at);
    },
    strongestOfThin: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.ring, 'strongestOfThin: ring'), true);
      v.setInt32(at + 4, whole(a.length, 'strongestOfThin: length'), true);
      v.setInt32(at + 8, place(a.nearest, 'strongestOfThin: nearest'), true);
      v.setInt32(at + 12, place(a.distance, 'strongestOfThin: distance'), true);
      v.setInt32(at + 16, whole(a.w, 'strongestOfThin: w'), true);
      v.setInt32(at + 20, whole(a.h, 'strongestOfThin: h'), true);
      v.setInt32(at + 24, place(a.out, 'strongestOfThin: out'), true);
      return raw.strongestOfThin(at);
    },
    strongestNear: (distance, x, y, w, h) =>
      raw.strongestNear(
        place(distance, 'strongestNear: distance'),
        whole(x, 'strongestNear: x'),
        whole(y, 'strongestNear: y'),
        whole(w, 'strongestNear: w'),
        whole(h, 'strongestNear: h'),
      ),
    sampleMark: (picture, ofMark, ofDepth, total, step, out) =>
      raw.sampleMark(
        place(picture, 'sampleMark: picture'),
        place(ofMark, 'sampleMark: ofMark'),
        place(ofDepth, 'sampleMark: ofDepth'),
        whole(total, 'sampleMark: total'),
        whole(step, 'sampleMark: step'),
        place(out, 'sampleMark: out'),
      ),
    countColours: (samples, length, counts) =>
      raw.countColours(
        place(samples, 'countColours: samples'),
        whole(length, 'countColours: length'),
        place(counts, 'countColours: counts'),
      ),
    sumWithin: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.samples, 'sumWithin: samples'), true);
      v.setInt32(at + 4, whole(a.length, 'sumWithin: length'), true);
      v.setFloat64(at + 8, real(a.r, 'sumWithin: r'), true);
      v.setFloat64(at + 16, real(a.g, 'sumWithin: g'), true);
      v.setFloat64(at + 24, real(a.b, 'sumWithin: b'), true);
      v.setFloat64(at + 32, real(a.reach, 'sumWithin: reach'), true);
      v.setInt32(at + 40, place(a.sums, 'sumWithin: sums'), true);
      return raw.sumWithin(at);
    },
    setFill: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.ofPlane, 'setFill: ofPlane'), true);
      v.setInt32(at + 4, place(a.ofLabels, 'setFill: ofLabels'), true);
      v.setInt32(at + 8, place(a.ofState, 'setFill: ofState'), true);
      v.setInt32(at + 12, whole(a.w, 'setFill: w'), true);
      v.setInt32(at + 16, whole(a.h, 'setFill: h'), true);
      v.setInt32(at + 20, whole(a.most, 'setFill: most'), true);
      v.setInt32(at + 24, place(a.room, 'setFill: room'), true);
      return raw.setFill(at);
    },
    fillFrom: (start, label) => raw.fillFrom(whole(start, 'fillFrom: start'), whole(label, 'fillFrom: label')),
    nextPatch: (runs, runCount) =>
      raw.nextPatch(place(runs, 'nextPatch: runs'), whole(runCount, 'nextPatch: runCount')),
    findFlat: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.picture, 'findFlat: picture'), true);
      v.setInt32(at + 4, place(a.distance, 'findFlat: distance'), true);
      v.setInt32(at + 8, whole(a.above, 'findFlat: above'), true);
      v.setInt32(at + 12, whole(a.palest, 'findFlat: palest'), true);
      v.setFloat64(at + 16, real(a.flat, 'findFlat: flat'), true);
      v.setInt32(at + 24, place(a.runs, 'findFlat: runs'), true);
      v.setInt32(at + 28, whole(a.runCount, 'findFlat: runCount'), true);
      v.setInt32(at + 32, place(a.step, 'findFlat: step'), true);
      v.setInt32(at + 36, place(a.list, 'findFlat: list'), true);
      return raw.findFlat(at);
    },
    nextMarked: (list, k, count) =>
      raw.nextMarked(place(list, 'nextMarked: list'), whole(k, 'nextMarked: k'), whole(count, 'nextMarked: count')),
    setGroundColour: (r, g, b) =>
      raw.setGroundColour(real(r, 'setGroundColour: r'), real(g, 'setGroundColour: g'), real(b, 'setGroundColour: b')),
    setGroundPlane: (at, stride) =>
      raw.setGroundPlane(place(at, 'setGroundPlane: at'), whole(stride, 'setGroundPlane: stride')),
    setGroundSurface: (a) => {
      const v = view();
      v.setInt32(at + 0, whole(a.channel, 'setGroundSurface: channel'), true);
      v.setFloat64(at + 8, real(a.k0, 'setGroundSurface: k0'), true);
      v.setFloat64(at + 16, real(a.k1, 'setGroundSurface: k1'), true);
      v.setFloat64(at + 24, real(a.k2, 'setGroundSurface: k2'), true);
      v.setFloat64(at + 32, real(a.k3, 'setGroundSurface: k3'), true);
      v.setFloat64(at + 40, real(a.k4, 'setGroundSurface: k4'), true);
      v.setFloat64(at + 48, real(a.k5, 'setGroundSurface: k5'), true);
      return raw.setGroundSurface(at);
    },
    setGroundFrame: (x, y, width, height) =>
      raw.setGroundFrame(
        real(x, 'setGroundFrame: x'),
        real(y, 'setGroundFrame: y'),
        real(width, 'setGroundFrame: width'),
        real(height, 'setGroundFrame: height'),
      ),
    distanceFromColour: (picture, count, r, g, b, out) =>
      raw.distanceFromColour(
        place(picture, 'distanceFromColour: picture'),
        whole(count, 'distanceFromColour: count'),
        whole(r, 'distanceFromColour: r'),
        whole(g, 'distanceFromColour: g'),
        whole(b, 'distanceFromColour: b'),
        place(out, 'distanceFromColour: out'),
      ),
    distanceFromSurface: (picture, width, height, out) =>
      raw.distanceFromSurface(
        place(picture, 'distanceFromSurface: picture'),
        whole(width, 'distanceFromSurface: width'),
        whole(height, 'distanceFromSurface: height'),
        place(out, 'distanceFromSurface: out'),
      ),
    distanceFromPlane: (picture, count, under, out) =>
      raw.distanceFromPlane(
        place(picture, 'distanceFromPlane: picture'),
        whole(count, 'distanceFromPlane: count'),
        place(under, 'distanceFromPlane: under'),
        place(out, 'distanceFromPlane: out'),
      ),
    copyBytes: (from, to, count) =>
      raw.copyBytes(place(from, 'copyBytes: from'), place(to, 'copyBytes: to'), whole(count, 'copyBytes: count')),
    moveRows: (plane, stride, x, y, width, height) =>
      raw.moveRows(
        place(plane, 'moveRows: plane'),
        whole(stride, 'moveRows: stride'),
        whole(x, 'moveRows: x'),
        whole(y, 'moveRows: y'),
        whole(width, 'moveRows: width'),
        whole(height, 'moveRows: height'),
      ),
    fillBytes: (at, value, count) =>
      raw.fillBytes(place(at, 'fillBytes: at'), whole(value, 'fillBytes: value'), whole(count, 'fillBytes: count')),
    resampleRow: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.pixels, 'resampleRow: pixels'), true);
      v.setInt32(at + 4, whole(a.width, 'resampleRow: width'), true);
      v.setInt32(at + 8, place(a.table, 'resampleRow: table'), true);
      v.setInt32(at + 12, place(a.linear, 'resampleRow: linear'), true);
      v.setInt32(at + 16, place(a.plan, 'resampleRow: plan'), true);
      v.setInt32(at + 20, place(a.weights, 'resampleRow: weights'), true);
      v.setInt32(at + 24, whole(a.most, 'resampleRow: most'), true);
      v.setInt8(at + 28, flag(a.isClamped, 'resampleRow: isClamped'));
      v.setInt32(at + 32, whole(a.outWidth, 'resampleRow: outWidth'), true);
      v.setInt32(at + 36, place(a.out, 'resampleRow: out'), true);
      v.setInt32(at + 40, place(a.runs, 'resampleRow: runs'), true);
      v.setInt32(at + 44, whole(a.y, 'resampleRow: y'), true);
      v.setInt32(at + 48, place(a.before, 'resampleRow: before'), true);
      v.setInt32(at + 52, place(a.since, 'resampleRow: since'), true);
      return raw.resampleRow(at);
    },
    blendRows: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.ring, 'blendRows: ring'), true);
      v.setInt32(at + 4, whole(a.rows, 'blendRows: rows'), true);
      v.setInt32(at + 8, whole(a.width, 'blendRows: width'), true);
      v.setInt32(at + 12, place(a.plan, 'blendRows: plan'), true);
      v.setInt32(at + 16, place(a.weights, 'blendRows: weights'), true);
      v.setInt32(at + 20, whole(a.most, 'blendRows: most'), true);
      v.setInt8(at + 24, flag(a.isClamped, 'blendRows: isClamped'));
      v.setInt32(at + 28, whole(a.row, 'blendRows: row'), true);
      v.setInt32(at + 32, place(a.codes, 'blendRows: codes'), true);
      v.setInt32(at + 36, place(a.places, 'blendRows: places'), true);
      v.setInt32(at + 40, place(a.since, 'blendRows: since'), true);
      v.setInt32(at + 44, place(a.out, 'blendRows: out'), true);
      return raw.blendRows(at);
    },
    sampleRipple: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.distance, 'sampleRipple: distance'), true);
      v.setInt32(at + 4, place(a.runs, 'sampleRipple: runs'), true);
      v.setInt32(at + 8, place(a.rowStart, 'sampleRipple: rowStart'), true);
      v.setInt32(at + 12, whole(a.width, 'sampleRipple: width'), true);
      v.setInt32(at + 16, whole(a.height, 'sampleRipple: height'), true);
      v.setInt32(at + 20, whole(a.step, 'sampleRipple: step'), true);
      v.setInt32(at + 24, place(a.count, 'sampleRipple: count'), true);
      return raw.sampleRipple(at);
    },
    cellsNearStrong: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.distance, 'cellsNearStrong: distance'), true);
      v.setInt32(at + 4, place(a.runs, 'cellsNearStrong: runs'), true);
      v.setInt32(at + 8, place(a.rowStart, 'cellsNearStrong: rowStart'), true);
      v.setInt32(at + 12, whole(a.width, 'cellsNearStrong: width'), true);
      v.setInt32(at + 16, whole(a.height, 'cellsNearStrong: height'), true);
      v.setInt32(at + 20, place(a.strong, 'cellsNearStrong: strong'), true);
      v.setInt32(at + 24, place(a.cells, 'cellsNearStrong: cells'), true);
      return raw.cellsNearStrong(at);
    },
    exceptPale: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.cells, 'exceptPale: cells'), true);
      v.setInt32(at + 4, place(a.near, 'exceptPale: near'), true);
      v.setInt32(at + 8, place(a.seen, 'exceptPale: seen'), true);
      v.setInt32(at + 12, place(a.queue, 'exceptPale: queue'), true);
      v.setInt32(at + 16, place(a.distance, 'exceptPale: distance'), true);
      v.setInt32(at + 20, whole(a.width, 'exceptPale: width'), true);
      v.setInt32(at + 24, whole(a.height, 'exceptPale: height'), true);
      v.setInt32(at + 28, whole(a.forgiven, 'exceptPale: forgiven'), true);
      return raw.exceptPale(at);
    },
    forgive: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.distance, 'forgive: distance'), true);
      v.setInt32(at + 4, place(a.runs, 'forgive: runs'), true);
      v.setInt32(at + 8, whole(a.runCount, 'forgive: runCount'), true);
      v.setInt32(at + 12, place(a.cells, 'forgive: cells'), true);
      v.setInt32(at + 16, whole(a.width, 'forgive: width'), true);
      v.setInt32(at + 20, whole(a.forgiven, 'forgive: forgiven'), true);
      v.setInt32(at + 24, place(a.out, 'forgive: out'), true);
      return raw.forgive(at);
    },
    findSegments: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.distance, 'findSegments: distance'), true);
      v.setInt32(at + 4, whole(a.width, 'findSegments: width'), true);
      v.setInt32(at + 8, whole(a.height, 'findSegments: height'), true);
      v.setInt32(at + 12, whole(a.deepFrom, 'findSegments: deepFrom'), true);
      v.setInt32(at + 16, place(a.state, 'findSegments: state'), true);
      v.setInt32(at + 20, place(a.runs, 'findSegments: runs'), true);
      v.setInt32(at + 24, place(a.rowStart, 'findSegments: rowStart'), true);
      return raw.findSegments(at);
    },
    findRuns: (state, width, height, runs, rowStart) =>
      raw.findRuns(
        place(state, 'findRuns: state'),
        whole(width, 'findRuns: width'),
        whole(height, 'findRuns: height'),
        place(runs, 'findRuns: runs'),
        place(rowStart, 'findRuns: rowStart'),
      ),
    countBytes: (plane, length, count) =>
      raw.countBytes(
        place(plane, 'countBytes: plane'),
        whole(length, 'countBytes: length'),
        place(count, 'countBytes: count'),
      ),
    thinOut: (plane, width, height, step, out) =>
      raw.thinOut(
        place(plane, 'thinOut: plane'),
        whole(width, 'thinOut: width'),
        whole(height, 'thinOut: height'),
        whole(step, 'thinOut: step'),
        place(out, 'thinOut: out'),
      ),
    floodOrder: (distance, w, h, level, scratch) =>
      raw.floodOrder(
        place(distance, 'floodOrder: distance'),
        whole(w, 'floodOrder: w'),
        whole(h, 'floodOrder: h'),
        place(level, 'floodOrder: level'),
        place(scratch, 'floodOrder: scratch'),
      ),
    markMixed: (pixels, length, width, state) =>
      raw.markMixed(
        place(pixels, 'markMixed: pixels'),
        whole(length, 'markMixed: length'),
        whole(width, 'markMixed: width'),
        place(state, 'markMixed: state'),
      ),
    smoothDistance: (out) => raw.smoothDistance(place(out, 'smoothDistance: out')),
    countLevels: (members, count, counts) =>
      raw.countLevels(
        place(members, 'countLevels: members'),
        whole(count, 'countLevels: count'),
        place(counts, 'countLevels: counts'),
      ),
    sumColours: (members, count, most, sums) =>
      raw.sumColours(
        place(members, 'sumColours: members'),
        whole(count, 'sumColours: count'),
        whole(most, 'sumColours: most'),
        place(sums, 'sumColours: sums'),
      ),
    keepOnLine: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.members, 'keepOnLine: members'), true);
      v.setInt32(at + 4, whole(a.count, 'keepOnLine: count'), true);
      v.setFloat64(at + 8, real(a.u0, 'keepOnLine: u0'), true);
      v.setFloat64(at + 16, real(a.u1, 'keepOnLine: u1'), true);
      v.setFloat64(at + 24, real(a.u2, 'keepOnLine: u2'), true);
      v.setFloat64(at + 32, real(a.length, 'keepOnLine: length'), true);
      v.setInt32(at + 40, place(a.out, 'keepOnLine: out'), true);
      return raw.keepOnLine(at);
    },
    countFade: (members, count, above, below, contour, out) =>
      raw.countFade(
        place(members, 'countFade: members'),
        whole(count, 'countFade: count'),
        real(above, 'countFade: above'),
        real(below, 'countFade: below'),
        real(contour, 'countFade: contour'),
        place(out, 'countFade: out'),
      ),
    countHigh: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.members, 'countHigh: members'), true);
      v.setInt32(at + 4, whole(a.count, 'countHigh: count'), true);
      v.setInt32(at + 8, whole(a.step, 'countHigh: step'), true);
      v.setFloat64(at + 16, real(a.half, 'countHigh: half'), true);
      v.setFloat64(at + 24, real(a.flatBelow, 'countHigh: flatBelow'), true);
      v.setInt32(at + 32, whole(a.reach, 'countHigh: reach'), true);
      v.setInt32(at + 36, place(a.out, 'countHigh: out'), true);
      return raw.countHigh(at);
    },
    labelsBeside: (members, count, noted, out) =>
      raw.labelsBeside(
        place(members, 'labelsBeside: members'),
        whole(count, 'labelsBeside: count'),
        place(noted, 'labelsBeside: noted'),
        place(out, 'labelsBeside: out'),
      ),
    labelRegion: (members, count, label) =>
      raw.labelRegion(
        place(members, 'labelRegion: members'),
        whole(count, 'labelRegion: count'),
        whole(label, 'labelRegion: label'),
      ),
    addTail: (members, count, label, floor, farthest, room) =>
      raw.addTail(
        place(members, 'addTail: members'),
        whole(count, 'addTail: count'),
        whole(label, 'addTail: label'),
        real(floor, 'addTail: floor'),
        whole(farthest, 'addTail: farthest'),
        place(room, 'addTail: room'),
      ),
    setSoftColour: (r, g, b) =>
      raw.setSoftColour(real(r, 'setSoftColour: r'), real(g, 'setSoftColour: g'), real(b, 'setSoftColour: b')),
    alphasOf: (members, count, step, out) =>
      raw.alphasOf(
        place(members, 'alphasOf: members'),
        whole(count, 'alphasOf: count'),
        whole(step, 'alphasOf: step'),
        place(out, 'alphasOf: out'),
      ),
    writeSoft: (members, count, out) =>
      raw.writeSoft(
        place(members, 'writeSoft: members'),
        whole(count, 'writeSoft: count'),
        place(out, 'writeSoft: out'),
      ),
    addShaded: (members, count, tolerated, seen, room) =>
      raw.addShaded(
        place(members, 'addShaded: members'),
        whole(count, 'addShaded: count'),
        real(tolerated, 'addShaded: tolerated'),
        place(seen, 'addShaded: seen'),
        place(room, 'addShaded: room'),
      ),
    startSoft: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.ofPicture, 'startSoft: ofPicture'), true);
      v.setInt32(at + 4, place(a.ofDistance, 'startSoft: ofDistance'), true);
      v.setInt32(at + 8, place(a.ofLabels, 'startSoft: ofLabels'), true);
      v.setInt32(at + 12, place(a.openByLabel, 'startSoft: openByLabel'), true);
      v.setInt32(at + 16, place(a.ofRegion, 'startSoft: ofRegion'), true);
      v.setInt32(at + 20, whole(a.w, 'startSoft: w'), true);
      v.setInt32(at + 24, whole(a.h, 'startSoft: h'), true);
      v.setFloat64(at + 32, real(a.steepest, 'startSoft: steepest'), true);
      return raw.startSoft(at);
    },
    nextSoftSeed: (runs, runCount) =>
      raw.nextSoftSeed(place(runs, 'nextSoftSeed: runs'), whole(runCount, 'nextSoftSeed: runCount')),
    growSoft: (start, faintest, members, room) =>
      raw.growSoft(
        whole(start, 'growSoft: start'),
        real(faintest, 'growSoft: faintest'),
        place(members, 'growSoft: members'),
        place(room, 'growSoft: room'),
      ),
    growCore: (grown, count, room, own) =>
      raw.growCore(
        place(grown, 'growCore: grown'),
        whole(count, 'growCore: count'),
        place(room, 'growCore: room'),
        place(own, 'growCore: own'),
      ),
    findSolid: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.picture, 'findSolid: picture'), true);
      v.setInt32(at + 4, whole(a.width, 'findSolid: width'), true);
      v.setInt32(at + 8, whole(a.height, 'findSolid: height'), true);
      v.setInt32(at + 12, place(a.ring, 'findSolid: ring'), true);
      v.setInt32(at + 16, whole(a.length, 'findSolid: length'), true);
      v.setInt32(at + 20, place(a.distance, 'findSolid: distance'), true);
      v.setFloat64(at + 24, real(a.leastDistance, 'findSolid: leastDistance'), true);
      v.setInt32(at + 32, place(a.depth, 'findSolid: depth'), true);
      v.setInt32(at + 36, whole(a.flat, 'findSolid: flat'), true);
      v.setInt32(at + 40, place(a.nearest, 'findSolid: nearest'), true);
      return raw.findSolid(at);
    },
    handOn: (ring, length, nearest, width, total) =>
      raw.handOn(
        place(ring, 'handOn: ring'),
        whole(length, 'handOn: length'),
        place(nearest, 'handOn: nearest'),
        whole(width, 'handOn: width'),
        whole(total, 'handOn: total'),
      ),
    seedSoft: (ring, length, labels, behind) =>
      raw.seedSoft(
        place(ring, 'seedSoft: ring'),
        whole(length, 'seedSoft: length'),
        place(labels, 'seedSoft: labels'),
        place(behind, 'seedSoft: behind'),
      ),
    handSoftOn: (ring, length, behind, width, height, room) =>
      raw.handSoftOn(
        place(ring, 'handSoftOn: ring'),
        whole(length, 'handSoftOn: length'),
        place(behind, 'handSoftOn: behind'),
        whole(width, 'handSoftOn: width'),
        whole(height, 'handSoftOn: height'),
        place(room, 'handSoftOn: room'),
      ),
    startTrouble: (ofOut, w, h) =>
      raw.startTrouble(place(ofOut, 'startTrouble: ofOut'), whole(w, 'startTrouble: w'), whole(h, 'startTrouble: h')),
    findTrouble: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.distance, 'findTrouble: distance'), true);
      v.setInt32(at + 4, place(a.runs, 'findTrouble: runs'), true);
      v.setInt32(at + 8, whole(a.runCount, 'findTrouble: runCount'), true);
      v.setInt32(at + 12, whole(a.surely, 'findTrouble: surely'), true);
      v.setFloat64(at + 16, real(a.tinted, 'findTrouble: tinted'), true);
      v.setInt32(at + 24, whole(a.size, 'findTrouble: size'), true);
      v.setInt32(at + 28, place(a.amounts, 'findTrouble: amounts'), true);
      v.setInt32(at + 32, place(a.firsts, 'findTrouble: firsts'), true);
      v.setInt32(at + 36, place(a.order, 'findTrouble: order'), true);
      v.setInt32(at + 40, place(a.totals, 'findTrouble: totals'), true);
      return raw.findTrouble(at);
    },
    countVisible: (step) => raw.countVisible(whole(step, 'countVisible: step')),
    nextSpeck: (runs, runCount, most, alone, seen, piece) =>
      raw.nextSpeck(
        place(runs, 'nextSpeck: runs'),
        whole(runCount, 'nextSpeck: runCount'),
        real(most, 'nextSpeck: most'),
        whole(alone, 'nextSpeck: alone'),
        place(seen, 'nextSpeck: seen'),
        place(piece, 'nextSpeck: piece'),
      ),
    setUnmix: (a) => {
      const v = view();
      v.setInt32(at + 0, place(a.ofPicture, 'setUnmix: ofPicture'), true);
      v.setInt32(at + 4, place(a.toOut, 'setUnmix: toOut'), true);
      v.setInt32(at + 8, place(a.ofDistance, 'setUnmix: ofDistance'), true);
      v.setInt32(at + 12, place(a.ofDepth, 'setUnmix: ofDepth'), true);
      v.setInt32(at + 16, place(a.ofNearest, 'setUnmix: ofNearest'), true);
      v.setInt32(at + 20, whole(a.w, 'setUnmix: w'), true);
      v.setInt32(at + 24, whole(a.h, 'setUnmix: h'), true);
      v.setFloat64(at + 32, real(a.floor, 'setUnmix: floor'), true);
      v.setFloat64(at + 40, real(a.rippleBy, 'setUnmix: rippleBy'), true);
      v.setFloat64(at + 48, real(a.flatBy, 'setUnmix: flatBy'), true);
      v.setFloat64(at + 56, real(a.soiledBy, 'setUnmix: soiledBy'), true);
      return raw.setUnmix(at);
    },
    setColours: (ofPalette, colours, ofFlats, flatColours) =>
      raw.setColours(
        place(ofPalette, 'setColours: ofPalette'),
        whole(colours, 'setColours: colours'),
        place(ofFlats, 'setColours: ofFlats'),
        whole(flatColours, 'setColours: flatColours'),
      ),
    setBehind: (softBehind) => raw.setBehind(place(softBehind, 'setBehind: softBehind')),
    unmixOuter: (ring, length) => raw.unmixOuter(place(ring, 'unmixOuter: ring'), whole(length, 'unmixOuter: length')),
    unmixInner: (ring, length, own) =>
      raw.unmixInner(
        place(ring, 'unmixInner: ring'),
        whole(length, 'unmixInner: length'),
        whole(own, 'unmixInner: own'),
      ),
    matchColour: (v0, v1, v2) =>
      raw.matchColour(real(v0, 'matchColour: v0'), real(v1, 'matchColour: v1'), real(v2, 'matchColour: v2')),
    nearestFlat: (r, g, b, reach) =>
      raw.nearestFlat(
        real(r, 'nearestFlat: r'),
        real(g, 'nearestFlat: g'),
        real(b, 'nearestFlat: b'),
        real(reach, 'nearestFlat: reach'),
      ),
  };
}
