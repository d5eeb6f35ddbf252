import { type Kernels, bytes, call, roomFor } from '../kernels/heap';
import { FIRST_AREA, MARK, OUTSIDE, SOFT, SOFT_INSIDE } from '../kernels/interface';
import type { Raster } from '../raster/raster';
import { groundAt } from './measureGround';
import { setGround, viewsOf } from './groundDistance';
import type { FlatScene } from './flatScene';
import { type Box, filledBox, stackRoom } from './spreadGround';
import { type Body, measureBodies } from './bodyWidths';
import { bytesOfBits, findNesting } from './nesting';
import { type Question, type Settled, UNSURE_BELOW } from './settleScene';
import { settleTogether } from './settleTogether';
import { type AreaShape, type Judgement, judgeArea, scoreArea } from './judgeArea';

/** More of a pale part's rim on the outer ground than this: it is an ordinary part of the mark. */
const MOST_OUTSIDE = 0.04;
/** Half a ripple may stray into an area, and less into broad ones, whose middle is far from every edge. */
const STRAY_RIPPLE = 0.5;
const LEAST_STRAY = 0.2;
/** Areas of a family: widths alike, and closer together than their own size. */
const FAMILY_WIDTHS = 1.7;
const FAMILY_GAP = 0.9;
/** In a family of several, what the family says counts for most: single ones are misjudged more often. */
const OWN_WEIGHT = 0.15;
const FAMILY_WEIGHT = 0.85;
/** Areas are shown as one group when these are alike, larger over smaller. */
const ALIKE_AREAS = 1.8;
const ALIKE_WIDTHS = 1.4;
const ALIKE_WALLS = 1.8;

/** A patch of ground colour, or of one paler flat colour, with the mark all round it. */
export interface EnclosedArea {
  /** 1, 2, 3 … in the order in which a person should look at them. */
  readonly number: number;
  /** Label in the plane. */
  readonly label: number;
  /** A point well inside, working pixels of this picture; names the area for good. */
  readonly x: number;
  readonly y: number;
  readonly areaPx: number;
  readonly bounds: { x: number; y: number; width: number; height: number };
  readonly decision: 'open' | 'solid';
  /** 0.5 (a guess) to 1 (sure). A person's own choice is 1. */
  readonly certainty: number;
  readonly isChosen: boolean;
  /** Areas that look alike share a group, and so do those that one question is about. */
  readonly group: number;
  /** What a person is asked about the areas of its group; null when nothing is. */
  readonly asks: Question['about'] | null;
  readonly shape: AreaShape;
}

export { UNSURE_BELOW };
/** Areas smaller than this are noise or a pinhole: they follow their neighbours silently. */
const LEAST_AREA = 6;
/** A patch this far from the ground may still be a white that belongs to the mark. */
const PALEST = 64;
const MOST_RAYS = 96;

interface Found {
  readonly label: number;
  readonly areaPx: number;
  readonly start: number;
  readonly box: Box;
}

/**
 * Finds every enclosed area and labels its pixels in `labels` (in place: MARK becomes FIRST_AREA, FIRST_AREA+1 …).
 * Ground-coloured patches are found first, then flat patches of a colour close to the ground's but not the same
 * (a white eye on an off-white sheet): those are listed too, as solid.
 * @param onGroundPatches  called between the two, when the ground-coloured patches are labelled
 * @returns the areas, and how many labels were given out (patches too small to list have one too)
 */
export function findEnclosedAreas(
  scene: FlatScene,
  onGroundPatches: (labelCount: number) => void = () => {},
): { areas: EnclosedArea[]; labelCount: number } {
  const { raster, ground, calm: distance, labels, tolerance } = scene;
  const { width, height } = raster;
  const found: Found[] = [];
  const stack = stackRoom(width, height);
  const { runs, state } = scene.segments;
  const take = (k: Kernels, start: number) => {
    const label = FIRST_AREA + found.length;
    found.push({ label, areaPx: k.fillFrom(start, label), start, box: filledBox(k) });
  };
  call([distance, runs, state], [labels], stack, ({ k, at, scratch }) => {
    k.setFill({
      ofPlane: at(distance),
      ofLabels: at(labels),
      ofState: at(state),
      w: width,
      h: height,
      most: Math.floor(tolerance),
      room: scratch(stack, false),
    });
    k.startPatches();
    for (let i = k.nextPatch(at(runs), runs.length); i >= 0; i = k.nextPatch(at(runs), runs.length)) take(k, i);
  });
  onGroundPatches(found.length);
  const firstPale = found.length;
  findPalePatches(scene, take);

  const measured: Measured[] = [];
  const ordinary: Found[] = [];
  const listed = [...found.entries()].filter(([, f]) => {
    if (f.areaPx < LEAST_AREA) return false;
    const isOnlyAlike = ground.plane && goesOnBeyond(f, raster, labels, FIRST_AREA + firstPale);
    if (isOnlyAlike) relabel(f, labels, width, MARK);
    return !isOnlyAlike;
  });
  const bodyAt = measureBodies(labels, width);
  const others = bytes(bytesOfBits(width) * height);
  const noteOthers = () =>
    call([labels], [others], 0, ({ k, at }) => k.bitsOfOthers(at(labels), width, height, at(others)));
  noteOthers();
  for (const [k, f] of listed) {
    const m = measureShape(f, scene, { isPatch: k >= firstPale, bodyAt, others });
    // An ordinary pale part of the mark, not an enclosed one.
    if (k >= firstPale && m.shape.touchesOutside > MOST_OUTSIDE) ordinary.push(f);
    else measured.push(m);
  }
  for (const f of ordinary) relabel(f, labels, width, MARK);
  const judged = judgeTogether(measured);
  if (ordinary.length) noteOthers();
  const nesting = findNesting({ labels, width, segments: scene.segments, others, areas: measured.map((m) => m.found) });
  const settled = settleTogether(
    measured.map((m) => {
      const { shape, ...judgement } = judged.get(m.found.label) as Judgement & { shape: AreaShape };
      const { label, areaPx } = m.found;
      return { label, areaPx, ...sidesOf(m.found), shape, walls: wallsOf(m), judgement };
    }),
    nesting,
  );
  const areas = measured.map(({ found: f }) => {
    const { shape } = judged.get(f.label) as { shape: AreaShape };
    const { decision, certainty, question } = settled.get(f.label) as Settled;
    const [x, y] = deepPoint(f, labels, width);
    const [x0, y0, x1, y1] = f.box;
    return {
      label: f.label,
      x,
      y,
      areaPx: f.areaPx,
      bounds: { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 },
      decision,
      certainty,
      isChosen: false,
      question,
      shape,
    };
  });
  return { areas: groupAndNumber(areas), labelCount: found.length };
}

/** Steps from pixel to pixel, code values, that a flat patch may have: at least so many, and so many per noise. */
const LEAST_FLAT = 5;
const FLAT_PER_NOISE = 3;

// A patch counts when it is flat: each step from pixel to pixel stays within the noise.
function findPalePatches(scene: FlatScene, take: (k: Kernels, start: number) => void): void {
  const { calm: distance, labels, tolerance } = scene;
  const { width, height, data } = scene.raster;
  const { runs } = scene.segments;
  const flat = Math.max(LEAST_FLAT, scene.ground.noise * FLAT_PER_NOISE);
  const stack = stackRoom(width, height);
  call(
    [data, distance, runs],
    [labels],
    roomFor(labels.length, labels.length * 4, stack),
    ({ k, at, scratch, intsAt }) => {
      const [step, list, waiting] = [
        scratch(labels.length, false),
        scratch(labels.length * 4, false),
        scratch(stack, false),
      ];
      k.fillBytes(step, 255, labels.length);
      k.setFill({
        ofPlane: at(distance),
        ofLabels: at(labels),
        ofState: 0,
        w: width,
        h: height,
        most: Math.floor(tolerance),
        room: waiting,
      });
      const count = k.findFlat({
        picture: at(data),
        distance: at(distance),
        above: Math.floor(tolerance),
        palest: PALEST,
        flat,
        runs: at(runs),
        runCount: runs.length,
        step,
        list,
      });
      k.setFill({
        ofPlane: step,
        ofLabels: at(labels),
        ofState: 0,
        w: width,
        h: height,
        most: Math.floor(flat),
        room: waiting,
      });
      const candidates = intsAt(list, count);
      for (let c = k.nextMarked(list, 0, count); c < count; c = k.nextMarked(list, c + 1, count))
        take(k, candidates[c]);
    },
  );
}

const sidesOf = ({ box: [left, top, right, bottom] }: Found) => ({ left, top, right, bottom });

function relabel(f: Found, labels: Int32Array, width: number, to: number): void {
  call([], [labels], 0, ({ k, at }) => k.relabel({ label: f.label, ...sidesOf(f), labels: at(labels), width, to }));
}

/** Of the pixels round a patch so many in its own colour say that it only happens to match the ground there. */
const GOES_ON = 0.2;

// On a ground of several colours a white part of the mark matches it in its white squares alone.
function goesOnBeyond(f: Found, { width, height, data }: Raster, labels: Int32Array, paleFrom: number): boolean {
  const [x0, y0, x1, y1] = f.box;
  const SKIP = 2;
  let rim = 0;
  let alike = 0;
  for (let y = y0; y <= y1; y++) {
    for (let x = x0, i = y * width + x; x <= x1; x++, i++) {
      if (labels[i] !== f.label) continue;
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]) {
        if (x + dx < 0 || y + dy < 0 || x + dx >= width || y + dy >= height || labels[i + dx + dy * width] === f.label)
          continue;
        rim++;
        const [px, py] = [x + dx * SKIP, y + dy * SKIP];
        if (px < 0 || py < 0 || px >= width || py >= height) continue;
        const n = py * width + px;
        if (
          (labels[n] === MARK || labels[n] === SOFT_INSIDE || labels[n] >= paleFrom) &&
          [0, 1, 2].every((c) => Math.abs(data[n * 4 + c] - data[i * 4 + c]) <= 10)
        )
          alike++;
      }
    }
  }
  return alike > rim * GOES_ON;
}

// Large areas are measured on every nth row: rim and area are counted alike, and only their ratio matters.
const MEASURED_ROWS = 260;

/** What is known of all patches before one is measured. */
interface Surroundings {
  readonly isPatch: boolean;
  readonly bodyAt: (pixel: number) => Body;
  /** One bit a pixel, set where it is not the mark's. */
  readonly others: Uint8Array;
}

// A small area's colour strays by as much as compression ripples.
function measureShape(f: Found, scene: FlatScene, { isPatch, bodyAt, others }: Surroundings): Measured {
  const { raster, ground, calm: distance, labels, ripple } = scene;
  const { width, height, data } = raster;
  const [x0, y0, x1, y1] = f.box;
  const step = Math.max(1, Math.floor((y1 - y0 + 1) / MEASURED_ROWS));
  const B = groundAt(ground, (x0 + x1) >> 1, (y0 + y1) >> 1, width, height);
  const room = (x1 - x0 + 1) * (y1 - y0 + 1) * 4;
  return call([data, distance, labels, others, ...viewsOf(ground)], [], roomFor(room, 88, RAY_ROOM), (c) => {
    const { k, at } = c;
    const [place, numbers, ray] = [c.scratch(room, false), c.scratch(88), c.scratch(RAY_ROOM, false)];
    setGround(c, ground, width, height);
    k.measureShape({
      label: f.label,
      ...sidesOf(f),
      step,
      picture: at(data),
      distance: at(distance),
      labels: at(labels),
      width,
      height,
      byPlace: Boolean(ground.plane),
      out: numbers,
      rim: place,
    });
    const [sum, counted, outside, beside, a0, a1, a2, i0, i1, i2, rims] = c.realsAt(numbers, 11);
    const rim = c.intsAt(place, rims);
    const halfWidth = (2 * counted) / Math.max(1, rims);
    const limit = Math.min(400, Math.max(12, halfWidth * 8));
    const stray = ground.noise + STRAY_RIPPLE * ripple * Math.min(1, Math.max(LEAST_STRAY, (8 - halfWidth) / 4));
    const isPale =
      isPatch ||
      (beside > 0 &&
        isOwnColour(
          [i0, i1, i2].map((v, n) => v / counted - B[n]),
          [a0, a1, a2].map((v, n) => v / beside - B[n]),
          stray,
        ));
    // From points on the rim, straight out across whatever surrounds the area, up to a limit.
    const rayStep = Math.max(1, Math.floor(rims / MOST_RAYS));
    const met = c.intsAt(
      ray,
      k.castRays({
        rim: place,
        length: rims,
        step: rayStep,
        own: f.label,
        labels: at(labels),
        others: at(others),
        width,
        height,
        limit,
        out: ray,
      }),
    );
    const rays: Ray[] = [];
    for (let n = 0; n < met.length;) {
      const end = n + 1 + 2 * met[n];
      const own: { at: number; label: number }[] = [];
      for (n++; n < end; n += 2) own.push({ at: met[n], label: met[n + 1] });
      rays.push(own);
    }
    return {
      found: f,
      limit,
      rays,
      shape: {
        areaPx: f.areaPx,
        halfWidth,
        body: bodyAround(rim, labels, width, bodyAt) ?? halfWidth,
        isPale,
        offset: sum / Math.max(1, counted),
        touchesOutside: outside / Math.max(1, rims),
      },
    };
  });
}

/**
 * Bytes for what rays meet: two numbers for each of at most 400 steps and their number, of fewer than twice as many
 * rays as asked for.
 */
const RAY_ROOM = 2 * MOST_RAYS * 801 * 4;

/** How far an area's mean must lie from the ground, away from what surrounds it, to be a colour of its own. */
const LEAST_OWN = 7;

// Blur and compression draw an area's colour towards what surrounds it. One that lies on the other side of the ground
// (a white eye in a red head on an off-white sheet) was painted.
function isOwnColour(offset: readonly number[], surround: readonly number[], stray: number): boolean {
  const largest = Math.max(...offset.map(Math.abs));
  const dot = offset[0] * surround[0] + offset[1] * surround[1] + offset[2] * surround[2];
  return largest >= LEAST_OWN + 2 * stray && dot < 0;
}

/** What a straight line meets on its way out of an area: places and labels of the ground-coloured patches it enters. */
type Ray = readonly { readonly at: number; readonly label: number }[];

/** The largest of the pieces that an area touches. */
function bodyAround(
  rim: Int32Array,
  labels: Int32Array,
  width: number,
  bodyAt: (pixel: number) => Body,
): number | null {
  let largest: Body | null = null;
  const stride = Math.max(1, Math.floor(rim.length / MOST_RAYS));
  for (let k = 0; k < rim.length; k += stride) {
    for (const n of [rim[k] - 1, rim[k] + 1, rim[k] - width, rim[k] + width]) {
      if (n < 0 || n >= labels.length || labels[n] !== MARK) continue;
      const body = bodyAt(n);
      if (!largest || body.areaPx > largest.areaPx) largest = body;
    }
  }
  return largest && largest.halfWidth;
}

/** How far it is to whatever comes next, on every way out, sorted. */
const wallsOf = ({ rays, limit }: Measured): number[] => rays.map((ray) => ray[0]?.at ?? limit).sort((a, b) => a - b);

/** The wall as it is once some areas count as open. */
function wallOf(
  { rays, limit }: Measured,
  isOpen: (label: number) => boolean,
): Pick<AreaShape, 'wall' | 'wallIsOuter'> {
  let logs = 0;
  let ended = 0;
  for (const ray of rays) {
    const end = ray.find((m) => isOpen(m.label));
    logs += Math.log(end ? end.at : limit);
    if (end) ended++;
  }
  return rays.length
    ? { wall: Math.exp(logs / rays.length), wallIsOuter: ended / rays.length }
    : { wall: limit, wallIsOuter: 0 };
}

interface Measured {
  readonly found: Found;
  readonly rays: readonly Ray[];
  readonly limit: number;
  readonly shape: Omit<AreaShape, 'wall' | 'wallIsOuter'>;
}

/**
 * Decides all areas together, from the outside in: what lies behind a wall that faces the outside is judged first, and
 * once it is open it is outside to what it encloses. So the gaps of a wheel inside a ring are judged by the wheel's
 * rim, and letters knocked out of a plate never come to face anything.
 */
function judgeTogether(measured: readonly Measured[]): Map<number, Judgement & { shape: AreaShape }> {
  const decided = new Map<number, Judgement & { shape: AreaShape }>();
  const families = findFamilies(measured);
  // By label, since rays ask many thousand times.
  const labelCount = measured.reduce((most, m) => Math.max(most, m.found.label), FIRST_AREA) + 1;
  const familyOf = new Int32Array(labelCount).fill(-1);
  for (const [k, m] of measured.entries()) familyOf[m.found.label] = families[k];
  const isOpen = new Uint8Array(labelCount);
  isOpen[OUTSIDE] = isOpen[SOFT] = 1;
  for (let round = 0, hasChanged = true; hasChanged && round < 8; round++) {
    hasChanged = false;
    // An area is judged as if its like were open: the gaps of a lattice have each other for neighbours.
    const shapes = measured.map((m, k): AreaShape => ({
      ...m.shape,
      ...wallOf(m, (label) => isOpen[label] === 1 || (familyOf[label] === families[k] && label !== m.found.label)),
    }));
    const scores = poolScores(shapes.map(scoreArea), shapes, families);
    const judged = measured.flatMap((m, k) =>
      decided.get(m.found.label)?.decision === 'open'
        ? []
        : [{ label: m.found.label, value: { ...judgeArea(shapes[k], scores[k]), shape: shapes[k] } }],
    );
    for (const { label, value } of judged) {
      if (value.decision === 'open') {
        hasChanged = true;
        isOpen[label] = 1;
      }
      decided.set(label, value);
    }
  }
  // Neighbours that opened after it make an open area's wall thinner: what was a guess then may be sure now.
  for (const m of measured) {
    const first = decided.get(m.found.label) as Judgement & { shape: AreaShape };
    if (first.decision !== 'open') continue;
    const shape: AreaShape = { ...m.shape, ...wallOf(m, (label) => label !== m.found.label && isOpen[label] === 1) };
    const again = judgeArea(shape);
    if (again.decision === 'open' && again.certainty > first.certainty) decided.set(m.found.label, { ...again, shape });
  }
  return decided;
}

/**
 * Areas that belong together, such as the letters of a word or the pieces of one inner detail: near each other beside
 * their size, and of about one width. Returns for each area the number of its family.
 */
function findFamilies(measured: readonly Measured[]): number[] {
  const family = measured.map((_, k) => k);
  const root = (k: number): number => (family[k] === k ? k : (family[k] = root(family[k])));
  const near = (p: number, q: number, ratio: number) => Math.max(p, q) <= ratio * Math.min(p, q);
  const few = measured.slice(0, 600);
  for (const [a, m] of few.entries()) {
    for (let b = a + 1; b < few.length; b++) {
      const n = few[b];
      if (
        m.shape.isPale !== n.shape.isPale ||
        !near(m.shape.halfWidth, n.shape.halfWidth, FAMILY_WIDTHS) ||
        !near(m.found.areaPx, n.found.areaPx, 5)
      )
        continue;
      const [p, q] = [m.found.box, n.found.box];
      const gap = Math.max(p[0] - q[2], q[0] - p[2], p[1] - q[3], q[1] - p[3], 0);
      const size = Math.min(Math.max(p[2] - p[0], p[3] - p[1]), Math.max(q[2] - q[0], q[3] - q[1])) + 1;
      if (gap <= size * FAMILY_GAP) family[root(a)] = root(b);
    }
  }
  return family.map((_, k) => root(k));
}

// Each area's score drawn to the mean of its family: one letter is not cut out while its neighbours stay.
function poolScores(scores: readonly number[], shapes: readonly AreaShape[], families: readonly number[]): number[] {
  const sum = new Map<number, { total: number; count: number }>();
  for (const [k, f] of families.entries()) {
    if (shapes[k].isPale) continue;
    const s = sum.get(f) ?? { total: 0, count: 0 };
    s.total += Math.max(-4, Math.min(4, scores[k]));
    s.count++;
    sum.set(f, s);
  }
  return scores.map((own, k) => {
    const s = sum.get(families[k]);
    return !s || s.count < 2 ? own : OWN_WEIGHT * own + FAMILY_WEIGHT * (s.total / s.count);
  });
}

// The middle of the longest run, taken on the row where it is: inside for certain, and away from the rim.
function deepPoint(f: Found, labels: Int32Array, width: number): [number, number] {
  const step = Math.max(1, Math.floor((f.box[3] - f.box[1] + 1) / 160));
  const at = call([labels], [], 0, ({ k, at }) =>
    k.deepPoint({ start: f.start, label: f.label, ...sidesOf(f), step, labels: at(labels), width }),
  );
  return [at % width, Math.floor(at / width)];
}

type Ungrouped = Omit<EnclosedArea, 'number' | 'group' | 'asks'> & { readonly question: Question | null };

// Questions first, by their largest area, and what one of them is about together; then all others by size.
function groupAndNumber(areas: Ungrouped[]): EnclosedArea[] {
  const leaders: { area: Ungrouped; group: number }[] = [];
  const asked = new Map<string, number>();
  let groups = 0;
  const groupOf = (area: Ungrouped): number => {
    const key = area.question?.key;
    const known = key === undefined ? leaders.find((l) => isAlike(l.area, area))?.group : asked.get(key);
    if (known !== undefined) return known;
    groups++;
    if (key === undefined) leaders.push({ area, group: groups });
    else asked.set(key, groups);
    return groups;
  };
  const grouped = [...areas]
    .sort((a, b) => b.areaPx - a.areaPx)
    .map((area) => {
      const { question, ...rest } = area;
      return { ...rest, group: groupOf(area), asks: question?.about ?? null };
    });
  const isUnsure = (a: { certainty: number }) => a.certainty < UNSURE_BELOW;
  grouped.sort(
    (a, b) =>
      Number(isUnsure(b)) - Number(isUnsure(a)) ||
      (isUnsure(a) ? a.group - b.group : 0) ||
      b.areaPx - a.areaPx ||
      a.y - b.y ||
      a.x - b.x,
  );
  return grouped.map((area, k) => ({ ...area, number: k + 1 }));
}

function isAlike(a: Ungrouped, b: Ungrouped): boolean {
  const near = (p: number, q: number, ratio: number) => Math.max(p, q) <= ratio * Math.min(p, q);
  return (
    a.decision === b.decision &&
    a.shape.isPale === b.shape.isPale &&
    near(a.areaPx, b.areaPx, ALIKE_AREAS) &&
    near(a.shape.halfWidth, b.shape.halfWidth, ALIKE_WIDTHS) &&
    near(a.shape.wall + 1, b.shape.wall + 1, ALIKE_WALLS)
  );
}
