import type { EdgeRing } from '../trace/edgePoints';

/** A closed border that is round, or turns into itself as a star or a gear does, once it has the right proportions. */
export interface RoundPart {
  /** How many times too wide it is for that; under 1 too high. */
  readonly ratio: number;
  /** A circle's kind, or one with points, teeth or corners. */
  readonly kind: 'round' | 'regular';
  readonly isHole: boolean;
  readonly x: number;
  readonly y: number;
  /** Half its width and height, px. */
  readonly halfWidth: number;
  readonly halfHeight: number;
}

/** Smaller borders are round by chance. */
const LEAST_HALF_PX = 5;
/** A border as high as wide when turned: how far its longer way may lie off the grid, as a share. */
const MOST_LEAN = 0.03;
const TURNS = 360;
/** How far a circle may be off, of its radius, and px: what pixels leave uncertain. */
const ROUND = { share: 0.005, px: 0.12 };
/** Of a star or gear: so much relief at least, of its radius, and that much of it the same after each turn. */
const REGULAR = { relief: 0.025, off: 0.16, least: 5, most: 24 };

/** Rounded corners of a box, px. */
export interface RoundedBox {
  readonly rx: number;
  readonly ry: number;
  readonly width: number;
  readonly height: number;
}

/** Boxes with rounded corners among measured borders. */
export const roundedBoxes = (rings: readonly EdgeRing[]): RoundedBox[] =>
  rings.flatMap((ring) => {
    const box = Math.abs(ring.area2) / 2 < LEAST_BOX_PX ** 2 ? null : roundedBox(ring);
    return box ? [box] : [];
  });

/** A box has such sides at least, and corners of such radii. */
const LEAST_BOX_PX = 24;
const LEAST_RADIUS_PX = 5;
/** With larger ones, of its side, it is a pill or an oval, or the end of a stroke. */
const MOST_RADIUS = 0.42;
/** What lies no farther inside than this, px, is its straight side. */
const SIDE_PX = 0.6;
/** Opposite sides are as long but for this, px and of the box. */
const UNLIKE = { px: 2, share: 0.03 };
/** What the corners leave out of the box, against what such radii would leave. */
const LEFT_OUT = { from: 0.85, to: 1.15 };

function roundedBox(ring: EdgeRing): RoundedBox | null {
  const { xs, ys } = ring;
  const across = sidesOf(ys, xs);
  const down = sidesOf(xs, ys);
  // As high as the sides of which the one pair lie, and the other way round.
  const [width, height] = [down.apart, across.apart];
  if (!across.areLike || !down.areLike || Math.min(width, height) < LEAST_BOX_PX) return null;
  const [cutX, cutY] = [(width - across.length) / 2, (height - down.length) / 2];
  // Of an arc's ends so much counts as straight: x = rx √(2 s / ry) lies s inside.
  let [rx, ry] = [cutX, cutY];
  for (let k = 0; k < ROUNDS; k++) {
    const straight = (other: number) => Math.max(0.3, 1 - Math.sqrt((2 * SIDE_PX) / Math.max(1, other)));
    [rx, ry] = [cutX / straight(ry), cutY / straight(rx)];
  }
  if (Math.min(rx, ry) < LEAST_RADIUS_PX || rx > MOST_RADIUS * width || ry > MOST_RADIUS * height) return null;
  const share = (width * height - (momentsOf(ring)?.area ?? 0)) / ((4 - Math.PI) * rx * ry);
  return share > LEFT_OUT.from && share < LEFT_OUT.to ? { rx, ry, width, height } : null;
}
const ROUNDS = 8;

/** The two straight sides at which `across` is least and most: their length, and whether they are alike. */
function sidesOf(across: Float64Array, along: Float64Array) {
  let [low, high] = [Infinity, -Infinity];
  for (const v of across) {
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  const side = (isOn: (v: number) => boolean) => {
    let [from, to] = [Infinity, -Infinity];
    across.forEach((v, k) => {
      if (!isOn(v)) return;
      from = Math.min(from, along[k]);
      to = Math.max(to, along[k]);
    });
    return { from, to };
  };
  const [a, b] = [side((v) => v < low + SIDE_PX), side((v) => v > high - SIDE_PX)];
  const off = UNLIKE.px + UNLIKE.share * (b.to - b.from);
  const areLike = Math.abs(a.from - b.from) < off && Math.abs(a.to - b.to) < off;
  return { apart: high - low, length: (a.to - a.from + b.to - b.from) / 2, areLike };
}

/** All such parts of measured borders. */
export const roundParts = (rings: readonly EdgeRing[]): RoundPart[] =>
  rings.flatMap((ring) => {
    const part = Math.abs(ring.area2) / 2 < Math.PI * LEAST_HALF_PX ** 2 ? null : roundPart(ring);
    return part ? [part] : [];
  });

function roundPart(ring: EdgeRing): RoundPart | null {
  const m = momentsOf(ring);
  if (!m || Math.abs(m.xy) > MOST_LEAN * Math.sqrt(m.xx * m.yy)) return null;
  // Whatever turns into itself by less than half a turn is as far spread one way as the other.
  const ratio = Math.sqrt(m.xx / m.yy);
  const [halfWidth, halfHeight] = [2 * Math.sqrt(m.xx), 2 * Math.sqrt(m.yy)];
  if (Math.min(halfWidth, halfHeight) < LEAST_HALF_PX) return null;
  const radii = radiiOf(ring, m, Math.sqrt(ratio));
  if (!radii) return null;
  const mean = radii.reduce((sum, r) => sum + r, 0) / TURNS;
  const relief = rms(radii, (r) => r - mean);
  const isHole = ring.area2 < 0;
  const found = { ratio, isHole, x: m.x, y: m.y, halfWidth, halfHeight };
  if (relief < ROUND.share * mean + ROUND.px) return { ...found, kind: 'round' };
  if (relief < REGULAR.relief * mean) return null;
  for (let n = REGULAR.least; n <= REGULAR.most; n++) {
    const off = rms(radii, (r, k) => r - radii[Math.round(k + TURNS / n) % TURNS]);
    if (off < REGULAR.off * relief) return { ...found, kind: 'regular' };
  }
  return null;
}

const rms = (list: Float64Array, off: (value: number, k: number) => number) =>
  Math.sqrt(list.reduce((sum, v, k) => sum + off(v, k) ** 2, 0) / list.length);

/** The middle of what a ring encloses, and how far it is spread, px², each by its own area. */
function momentsOf({ xs, ys }: EdgeRing) {
  const n = xs.length;
  if (n < 8) return null;
  // From its first place, so that large coordinates take nothing from the sums.
  const [ox, oy] = [xs[0], ys[0]];
  let [area, sx, sy, sxx, syy, sxy] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < n; k++) {
    const [x0, y0] = [xs[k] - ox, ys[k] - oy];
    const [x1, y1] = [xs[(k + 1) % n] - ox, ys[(k + 1) % n] - oy];
    const cross = x0 * y1 - x1 * y0;
    area += cross / 2;
    sx += ((x0 + x1) * cross) / 6;
    sy += ((y0 + y1) * cross) / 6;
    sxx += ((x0 * x0 + x0 * x1 + x1 * x1) * cross) / 12;
    syy += ((y0 * y0 + y0 * y1 + y1 * y1) * cross) / 12;
    sxy += ((x0 * y1 + 2 * x0 * y0 + 2 * x1 * y1 + x1 * y0) * cross) / 24;
  }
  if (area === 0) return null;
  const [x, y] = [sx / area, sy / area];
  const [xx, yy, xy] = [sxx / area - x * x, syy / area - y * y, sxy / area - x * y];
  return xx > 0 && yy > 0 ? { x: x + ox, y: y + oy, area: Math.abs(area), xx, yy, xy } : null;
}

/** Distances from the middle all round once the width is `half` squared times less; null where a ray meets it twice. */
function radiiOf({ xs, ys }: EdgeRing, middle: { x: number; y: number }, half: number): Float64Array | null {
  const n = xs.length;
  const at = (k: number) => {
    const [x, y] = [(xs[k % n] - middle.x) / half, (ys[k % n] - middle.y) * half];
    return { angle: Math.atan2(y, x), radius: Math.hypot(x, y) };
  };
  const radii = new Float64Array(TURNS);
  const way = Math.sign(turnBetween(at(0).angle, at(Math.max(1, n >> 5)).angle));
  let round = 0;
  let from = at(0);
  for (let k = 1; k <= n; k++) {
    const to = at(k);
    const turn = turnBetween(from.angle, to.angle) * way;
    if (turn < -BACKWARDS_RAD) return null;
    round += turn;
    // Every whole step of the turn that lies between the two.
    const start = (from.angle * way * TURNS) / (2 * Math.PI);
    const end = start + (turn * TURNS) / (2 * Math.PI);
    for (let step = Math.ceil(start); step <= end; step++) {
      const t = end > start ? (step - start) / (end - start) : 0;
      radii[((step % TURNS) + TURNS) % TURNS] = from.radius + t * (to.radius - from.radius);
    }
    from = to;
  }
  return Math.abs(round - 2 * Math.PI) < 0.1 && radii.every((r) => r > 0) ? radii : null;
}

/** Borders are measured to a fraction of a pixel: so far a ray may go back. */
const BACKWARDS_RAD = 0.06;
const turnBetween = (a: number, b: number) =>
  ((((b - a + Math.PI) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)) - Math.PI;
