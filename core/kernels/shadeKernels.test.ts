import { describe, expect, it } from 'vitest';
import { MARK, OUTSIDE, SOFT } from './interface';
import { seededRandom } from '../seededRandom';
import { nearestSoft } from '../matte/nearestSoft';
import { type Call, call } from './heap';

// Kernels that judge soft regions, beside the plainest code for the same, on pictures of chance.
const random = seededRandom(1207);
const whole = (below: number) => Math.floor(random() * below);
const sizes: [number, number][] = [
  [2, 2],
  [3, 9],
  [17, 12],
  [41, 33],
  [75, 28],
];
const SHADOW = [20, 30, 40];
/** A label of enclosed ground, and one of another patch. */
const [ENCLOSED, OTHER] = [16, 17];

/** What the search is begun with: a step of this much, code values, is still gradual. */
const STEEPEST = 15;

interface Scene {
  width: number;
  height: number;
  data: Uint8Array;
  distance: Uint8Array;
  labels: Int32Array;
  isOpen: Uint8Array;
  members: Int32Array;
  ground: (i: number) => number[];
  surface: number[][] | null;
}

/**
 * Blobs of shadow, mostly on their own line from the ground, on a ground of one colour or one that drifts; labels by
 * chance where it is weak.
 */
function scene(width: number, height: number, drifts: boolean): Scene {
  const surface = drifts ? [200, 210, 190].map((v) => [v, whole(20), whole(20), 0, whole(9), 0]) : null;
  const ground = (i: number) => {
    if (!surface) return [250, 240, 245];
    const [u, v] = [(i % width) / width - 0.5, Math.floor(i / width) / height - 0.5];
    return surface.map((k) =>
      Math.min(255, Math.max(0, k[0] + k[1] * u + k[2] * v + k[3] * u * u + k[4] * u * v + k[5] * v * v)),
    );
  };
  const data = new Uint8Array(width * height * 4).fill(255);
  const blobs = Array.from({ length: 3 }, () => [whole(width), whole(height), 4 + whole(14), 0.3 + random() * 0.7]);
  for (let i = 0; i < width * height; i++) {
    const strength = Math.max(
      ...blobs.map(
        ([x, y, r, most]) => most * Math.max(0, 1 - Math.hypot((i % width) - x, Math.floor(i / width) - y) / r),
      ),
    );
    const stray = whole(12) === 0 ? whole(90) : 0;
    for (let c = 0; c < 3; c++)
      data[i * 4 + c] = Math.round(
        Math.max(0, ground(i)[c] * (1 - strength) + SHADOW[c] * strength - (c === 1 ? stray : 0)),
      );
  }
  const distance = Uint8Array.from({ length: width * height }, (_, i) =>
    Math.round(Math.max(...ground(i).map((v, c) => Math.abs(v - data[i * 4 + c])))),
  );
  const labels = Int32Array.from(distance, (d) =>
    d > 25 ? [MARK, MARK, MARK, MARK, SOFT][whole(5)] : [OUTSIDE, OUTSIDE, ENCLOSED, OTHER, MARK][whole(5)],
  );
  const isOpen = new Uint8Array(18);
  isOpen[OUTSIDE] = isOpen[ENCLOSED] = 1;
  const members = [...labels.keys()].filter((i) => labels[i] === MARK && whole(4) > 0).sort(() => random() - 0.5);
  return { width, height, data, distance, labels, isOpen, members: Int32Array.from(members), ground, surface };
}

const four = ({ width, height }: Scene, i: number) =>
  [
    i % width > 0 ? i - 1 : -1,
    i % width < width - 1 ? i + 1 : -1,
    i >= width ? i - width : -1,
    i < width * (height - 1) ? i + width : -1,
  ].filter((n) => n >= 0);
const off = (s: Scene, i: number) => s.ground(i).map((v, c) => s.data[i * 4 + c] - v);
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, c) => sum + v * b[c], 0);

/**
 * In ninths: the sum of three by three, nine times the pixel itself at the border, 0 for other pixels than the mark's
 * that are ground exactly.
 */
function levelsOf(s: Scene): number[] {
  const { width, height, distance, labels } = s;
  return [...distance].map((d, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (x === 0 || y === 0 || x === width - 1 || y === height - 1) return d * 9;
    if (d === 0 && labels[i] !== MARK) return 0;
    return [-1, 0, 1].reduce(
      (sum, dy) => sum + [-1, 0, 1].reduce((row, dx) => row + distance[i + dy * width + dx], 0),
      0,
    );
  });
}

interface Tools extends Call {
  members: number;
  level: number;
  room: number;
  numbers: number;
  noted: number;
  seen: number;
  count: number;
}

function withKernels<T>(s: Scene, labels: Int32Array, out: Uint8Array, run: (t: Tools) => T): T {
  const pixels = s.width * s.height;
  return call([s.data, s.distance, s.isOpen], [labels, out], pixels * 12 + 10_000, (c) => {
    const { k, at, scratch, intsAt } = c;
    const [members, room, level, seen] = [
      scratch(pixels * 4),
      scratch(pixels * 4),
      scratch(pixels * 2),
      scratch(pixels),
    ];
    if (s.surface) {
      s.surface.forEach((c, channel) =>
        k.setGroundSurface({ channel, k0: c[0], k1: c[1], k2: c[2], k3: c[3], k4: c[4], k5: c[5] }),
      );
      k.setGroundFrame(0, 0, s.width, s.height);
    } else k.setGroundColour(...(s.ground(0) as [number, number, number]));
    k.startSoft({
      ofPicture: at(s.data),
      ofDistance: at(s.distance),
      ofLabels: at(labels),
      openByLabel: at(s.isOpen),
      ofRegion: scratch(pixels),
      w: s.width,
      h: s.height,
      steepest: STEEPEST,
    });
    k.smoothDistance(level);
    intsAt(members, s.members.length).set(s.members);
    return run({
      ...c,
      members,
      level,
      room,
      numbers: scratch(9300),
      noted: scratch(32),
      seen,
      count: s.members.length,
    });
  });
}

const read =
  (s: Scene) =>
  <T>(run: (t: Tools) => T): T =>
    withKernels(s, s.labels.slice(), new Uint8Array(s.data.length), run);
const rounds = sizes.flatMap(([w, h]) => [false, true].map((drifts) => [w, h, drifts] as const));

describe.each(rounds)('soft regions in %i × %i, the ground drifts: %s', (width, height, drifts) => {
  const scenes = Array.from({ length: 8 }, () => scene(width, height, drifts));

  it('have the levels of three by three pixels, counted', () => {
    for (const s of scenes) {
      const expected = levelsOf(s);
      const [levels, counts] = read(s)(({ k, intsAt, level, members, count, numbers }) => {
        k.countLevels(members, count, numbers);
        return [[...new Uint16Array(intsAt(level & ~3, 1).buffer, level, width * height)], [...intsAt(numbers, 2296)]];
      });
      expect(levels).toEqual(expected);
      const own = new Array<number>(2296).fill(0);
      for (const i of s.members) own[expected[i]]++;
      expect(counts).toEqual(own);
    }
  });

  it('are summed up to a level, and kept where they lie on a line', () => {
    for (const s of scenes) {
      const levels = levelsOf(s);
      const most = [400, 810, 2295][whole(3)];
      const faint = [...s.members].filter((i) => levels[i] <= most);
      const u = [-230 + whole(40), -210 + whole(40), -205 + whole(40)];
      const length = Math.hypot(...u);
      const [sums, kept] = read(s)(({ k, realsAt, intsAt, members, count, numbers, room }) => {
        k.sumColours(members, count, most, numbers);
        return [
          [...realsAt(numbers, 6)],
          [...intsAt(room, k.keepOnLine({ members, count, u0: u[0], u1: u[1], u2: u[2], length, out: room }))],
        ];
      });
      [0, 1, 2].forEach((c) => {
        expect(sums[c]).toBeCloseTo(
          faint.reduce((sum, i) => sum + off(s, i)[c], 0),
          6,
        );
        expect(sums[c + 3]).toBeCloseTo(
          faint.reduce((sum, i) => sum + s.ground(i)[c], 0),
          6,
        );
      });
      expect(kept).toEqual(
        [...s.members].filter((i) => {
          const v = off(s, i);
          const along = dot(v, u) / length;
          return along > 0 && Math.sqrt(Math.max(0, dot(v, v) - along * along)) <= 9 + 0.12 * along;
        }),
      );
    }
  });

  it('are measured for how they fade, how steep they are, and how far from open ground', () => {
    for (const s of scenes) {
      const levels = levelsOf(s);
      const [above, below, contour, half, flat, reach] = [
        whole(400) + 0.4,
        500 + whole(600),
        whole(900),
        whole(700),
        1 + whole(60) + 0.5,
        2 + whole(4),
      ];
      const [fade, high] = read(s)(({ k, intsAt, members, count, numbers }) => {
        k.countFade(members, count, above, below, contour, numbers);
        const found = [...intsAt(numbers, 2)];
        k.countHigh({ members, count, step: 2, half, flatBelow: flat, reach, out: numbers });
        return [found, [...intsAt(numbers, 3)]];
      });
      const own = [...s.members];
      expect(fade).toEqual([
        own.filter((i) => levels[i] > above && levels[i] < below).length,
        own.filter((i) => levels[i] >= contour && four(s, i).some((n) => levels[n] < contour)).length,
      ]);
      const asked = own.filter((i, k) => k % 2 === 0 && levels[i] >= half);
      const toOpen = (i: number) => {
        const [x, y] = [i % width, Math.floor(i / width)];
        const isOpen = (px: number, py: number) =>
          px >= 0 && py >= 0 && px < width && py < height && s.isOpen[s.labels[py * width + px]] === 1;
        for (let r = 1; r < reach; r++)
          if (isOpen(x - r, y) || isOpen(x + r, y) || isOpen(x, y - r) || isOpen(x, y + r)) return r;
        return reach;
      };
      expect(high).toEqual([
        asked.length,
        asked.filter((i) => four(s, i).every((n) => Math.abs(levels[n] - levels[i]) < flat)).length,
        Math.max(0, ...asked.map(toOpen)),
      ]);
    }
  });

  it('know the open labels beside them, and go on over open ground as it falls', () => {
    for (const s of scenes) {
      const levels = levelsOf(s);
      const floor = 20.5 + whole(200);
      const labels = s.labels.slice();
      const [beside, again, tail] = withKernels(
        s,
        labels,
        new Uint8Array(s.data.length),
        ({ k, intsAt, members, count, room, noted }) => {
          const besides = () => [...intsAt(room, k.labelsBeside(members, count, noted, room))].sort();
          const found = [besides(), besides()];
          k.labelRegion(members, count, SOFT);
          return [...found, [...intsAt(members, k.addTail(members, count, SOFT, floor, 3, room))]];
        },
      );
      const open = (i: number) => s.isOpen[s.labels[i]] === 1;
      expect(beside).toEqual(
        [
          ...new Set(
            [...s.members]
              .flatMap((i) => four(s, i))
              .filter(open)
              .map((n) => s.labels[n]),
          ),
        ].sort(),
      );
      expect(again, 'the second time as the first').toEqual(beside);
      const region = new Set(s.members);
      let edge = [...s.members];
      for (let step = 0; step < 3; step++) {
        const next = new Set(
          edge.flatMap((i) =>
            four(s, i).filter((n) => open(n) && !region.has(n) && levels[n] >= floor && levels[n] <= levels[i] + 9),
          ),
        );
        for (const n of next) region.add(n);
        edge = [...next];
      }
      expect(new Set(tail)).toEqual(region);
      expect(tail).toHaveLength(region.size);
      expect([...labels]).toEqual([...s.labels].map((label, i) => (region.has(i) ? SOFT : label)));
    }
  });

  it('are written as one colour at each pixel’s own strength', () => {
    for (const s of scenes) {
      const out = new Uint8Array(s.data.length);
      const alphas = withKernels(s, s.labels.slice(), out, ({ k, at, intsAt, members, count, room }) => {
        k.setSoftColour(20.2, 29.6, 40.5);
        k.writeSoft(members, count, at(out));
        const found = intsAt(room, k.alphasOf(members, count, 3, room));
        return [...new Float32Array(found.buffer, found.byteOffset, found.length)];
      });
      const alphaOf = (i: number) => {
        const f = s.ground(i).map((v, c) => [20.2, 29.6, 40.5][c] - v);
        return Math.min(1, Math.max(0, dot(off(s, i), f) / dot(f, f)));
      };
      expect(alphas).toEqual([...s.members].filter((_, k) => k % 3 === 0).map((i) => expect.closeTo(alphaOf(i), 6)));
      const own = new Set(s.members);
      for (let i = 0; i < width * height; i++)
        expect([...out.subarray(i * 4, i * 4 + 4)]).toEqual(
          own.has(i) ? [20, 30, 41, Math.round(alphaOf(i) * 255)] : [0, 0, 0, 0],
        );
    }
  });

  it('take in patches of the mark that are the shadow seen on enclosed ground', () => {
    for (const s of scenes) {
      // One level patch in the shadow, one uneven one that mostly lies in the open.
      for (const label of width > 30 ? [SOFT, OUTSIDE] : []) {
        const [x0, y0] = [1 + whole(width - 9), 1 + whole(height - 8)];
        for (let y = y0 - 1; y < y0 + 6; y++)
          for (let x = x0 - 1; x < x0 + 7; x++) {
            const i = y * width + x;
            const isWithin = y >= y0 && y < y0 + 5 && x >= x0 && x < x0 + 6;
            s.labels[i] = isWithin ? MARK : label;
            const strength = !isWithin ? 0 : label === SOFT ? 0.25 : 0.1 + (x - x0) * 0.03;
            s.ground(i).forEach((v, c) => {
              s.data[i * 4 + c] = Math.round(v * (1 - strength) + SHADOW[c] * strength);
            });
            s.distance[i] = Math.round(Math.max(...off(s, i).map(Math.abs)));
          }
      }
      s.members = s.members.filter((i) => s.labels[i] === MARK);
      const labels = s.labels.slice();
      const levels = levelsOf(s);
      const soft = s.members.filter(() => whole(2) === 0);
      const before = { ...s, members: soft };
      for (const i of soft) s.labels[i] = labels[i] = SOFT;
      const [members, seen] = withKernels(
        before,
        labels,
        new Uint8Array(s.data.length),
        ({ k, intsAt, members: at, count, seen: plane, room }) => {
          k.setSoftColour(SHADOW[0], SHADOW[1], SHADOW[2]);
          const found = [...intsAt(at, k.addShaded(at, count, 7, plane, room))];
          return [found, new Uint8Array(intsAt(at, 1).buffer, plane, width * height).some((v) => v > 0)];
        },
      );
      expect(seen, 'the scratch is left clean').toBe(false);
      expect(new Set(members)).toEqual(shadedWith(s, soft, levels));
      expect(labels).toEqual(s.labels.map((label, i) => (members.includes(i) ? SOFT : label)));
    }
  });
});

// The change across two pixels, the worst channel, along rows and columns.
function stepAt({ width, data }: Scene, i: number): number {
  const height = data.length / 4 / width;
  const [x, y] = [i % width, Math.floor(i / width)];
  const sides = [
    [x < width - 1 ? i + 1 : i, x > 0 ? i - 1 : i],
    [y < height - 1 ? i + width : i, y > 0 ? i - width : i],
  ];
  return Math.max(...sides.flatMap(([p, q]) => [0, 1, 2].map((c) => Math.abs(data[p * 4 + c] - data[q * 4 + c]))));
}

function shadedWith(s: Scene, soft: Int32Array, levels: readonly number[]): Set<number> {
  const { width, distance, labels } = s;
  const [xs, ys] = [[...soft].map((i) => i % width), [...soft].map((i) => Math.floor(i / width))];
  const strongest = Math.min(185, (Math.max(...[...soft].map((i) => levels[i])) / 9) * 1.15 + 6);
  const fits = (i: number) => {
    if (labels[i] !== MARK || distance[i] < 4 || distance[i] > strongest) return false;
    const [v, f] = [off(s, i), s.ground(i).map((b, c) => SHADOW[c] - b)];
    const along = dot(v, f) / Math.sqrt(dot(f, f));
    return along > 0 && dot(v, v) - along * along <= (7 + 0.06 * along) ** 2;
  };
  const seen = new Set<number>();
  const all = new Set(soft);
  for (const start of labels.keys()) {
    const [x, y] = [start % width, Math.floor(start / width)];
    if (
      seen.has(start) ||
      x < Math.min(...xs) ||
      x > Math.max(...xs) ||
      y < Math.min(...ys) ||
      y > Math.max(...ys) ||
      !fits(start)
    )
      continue;
    const patch = new Set([start]);
    for (const i of patch) for (const n of four(s, i)) if (fits(n)) patch.add(n);
    for (const i of patch) seen.add(i);
    const beside = [...patch].flatMap((i) => four(s, i)).map((n) => labels[n]);
    const mean = [...patch].reduce((sum, i) => sum + distance[i], 0) / patch.size;
    const deviation = Math.sqrt([...patch].reduce((sum, i) => sum + (distance[i] - mean) ** 2, 0) / patch.size);
    const bright = [...patch].flatMap((i) => four(s, i)).filter((n) => labels[n] === MARK && distance[n] < 4).length;
    const isSoft =
      beside.filter((l) => l === OUTSIDE).length <= beside.filter((l) => l === SOFT).length &&
      patch.size >= 12 &&
      deviation >= 0.025 * mean &&
      Math.max(...[...patch].map((i) => distance[i])) >= 0.35 * Math.floor(strongest) &&
      2 * [...patch].filter((i) => stepAt(s, i) <= 2 * STEEPEST).length >= patch.size &&
      4 * bright <= patch.size;
    if (isSoft) for (const i of patch) all.add(i);
  }
  return all;
}

it('the soft pixel behind each pixel of an edge is handed on from ring to ring, beside before corner to corner', () => {
  for (let round = 0; round < 30; round++) {
    const [width, height] = [5 + whole(30), 5 + whole(20)];
    const depth = Array.from({ length: width * height }, (_, i) =>
      Math.round((i % width) - width / 2 + 3 * Math.sin(i / width / 3)),
    );
    const labels = Int32Array.from(depth, () => [SOFT, SOFT, OUTSIDE][whole(3)]);
    const ring = (...asked: number[]) => Int32Array.from([...depth.keys()].filter((i) => asked.includes(depth[i])));
    const [rings, outer] = [
      [ring(1), ring(2)],
      [ring(0), ring(-1), ring(-2), ring(-3)],
    ];
    const expected = new Int32Array(width * height);
    for (const r of outer.slice(2)) for (const i of r) if (labels[i] === SOFT) expected[i] = i + 1;
    for (const r of [outer[1], outer[0], ...rings]) {
      const known = [...r].map((i) => {
        const at = [
          [0, -1],
          [-1, 0],
          [1, 0],
          [0, 1],
          [-1, -1],
          [1, -1],
          [-1, 1],
          [1, 1],
        ].map(([dx, dy]) => {
          const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
          return x < 0 || y < 0 || x >= width || y >= height ? 0 : expected[y * width + x];
        });
        return at.find((v) => v > 0) ?? 0;
      });
      r.forEach((i, k) => {
        expected[i] = known[k] || expected[i];
      });
    }
    expect(nearestSoft({ depth: Int8Array.from(depth), rings, outer }, labels, width, height)).toEqual(expected);
  }
});

it('a part of a picture that shadows fall on is of more than one kind, where they do', () => {
  const [width, pixels] = [70, Int32Array.of(0, 31, 69, 70 + 32, 140 + 65)];
  const state = new Uint8Array(3 * 3).fill(2);
  call([pixels], [state], 0, ({ k, at }) => k.markMixed(at(pixels), pixels.length, width, at(state)));
  expect([...state]).toEqual([1, 2, 1, 2, 1, 2, 2, 2, 1]);
});

describe('edges over a shadow', () => {
  it('are mixed of the mark and of what the shadow looks like beside them', () => {
    for (let round = 0; round < 20; round++) {
      const [width, height] = [16, 8];
      const data = Uint8Array.from({ length: width * height * 4 }, (_, k) => (k % 4 === 3 ? 255 : whole(256)));
      const depth = Int8Array.from({ length: width * height }, (_, i) => {
        const d = (i % width) - 7;
        return d < 1 ? d - 1 : d;
      });
      const out = new Uint8Array(width * height * 4);
      const behind = new Int32Array(width * height);
      const nearest = new Int32Array(width * height);
      for (const i of depth.keys()) {
        const row = i - (i % width);
        if (depth[i] === -3) out.set([9, 8, 7, 30 + whole(200)], i * 4);
        // The column whose depth is −3.
        if (Math.abs(depth[i]) <= 3 && depth[i] !== 0) behind[i] = whole(5) === 0 ? 0 : row + 5 + 1;
        if (depth[i] === -3) behind[i] = i + 1;
        if (Math.abs(depth[i]) <= 3 && (depth[i] !== -3 || whole(2) === 0))
          nearest[i] = ((Math.floor(i / width) << 16) | 12) + 1;
      }
      const before = out.slice();
      const ring = Int32Array.from([...depth.keys()].filter((i) => depth[i] === -1 || depth[i] === -3));
      const distance = new Uint8Array(width * height).fill(200);
      call([data, distance, depth, nearest, behind, ring], [out], 0, ({ k, at }) => {
        k.setGroundColour(255, 255, 255);
        k.setUnmix({
          ofPicture: at(data),
          toOut: at(out),
          ofDistance: at(distance),
          ofDepth: at(depth),
          ofNearest: at(nearest),
          w: width,
          h: height,
          floor: 2,
          rippleBy: 0,
          flatBy: 0,
          soiledBy: 0,
        });
        k.setColours(0, 0, 0, 0);
        k.setBehind(at(behind));
        k.unmixOuter(at(ring), ring.length);
      });
      for (const i of ring) {
        const own = [...out.subarray(i * 4, i * 4 + 4)];
        if (depth[i] === -3) {
          expect(own, 'a soft pixel stays').toEqual([...before.subarray(i * 4, i * 4 + 4)]);
          continue;
        }
        const r = behind[i] - 1;
        if (r < 0) continue;
        const solid = i - (i % width) + 12;
        const [c, f, under] = [i, solid, r].map((p) => [...data.subarray(p * 4, p * 4 + 3)]);
        const [v, line] = [c.map((x, n) => x - under[n]), f.map((x, n) => x - under[n])];
        const share = Math.min(1, Math.max(0, dot(v, line) / dot(line, line)));
        const rest = (before[r * 4 + 3] / 255) * (1 - share);
        expect(own[3]).toBe(Math.round((share + rest) * 255));
        for (let n = 0; n < 3; n++)
          expect(Math.abs(own[n] - (f[n] * share + before[r * 4 + n] * rest) / (share + rest))).toBeLessThanOrEqual(
            0.51,
          );
      }
    }
  });
});
