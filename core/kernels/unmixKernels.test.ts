import { describe, expect, it } from 'vitest';
import { seededRandom } from '../seededRandom';
import { packColours } from '../matte/dominantColours';
import { call } from './heap';

// Kernels that work out edges, beside the plainest code for the same, on pictures of chance.
const random = seededRandom(4711);
const whole = (below: number) => Math.floor(random() * below);
const sizes: [number, number][] = [
  [4, 5],
  [19, 12],
  [33, 40],
  [64, 21],
];
const GROUND = [250, 240, 245];

interface Scene {
  width: number;
  height: number;
  data: Uint8Array;
  distance: Uint8Array;
  depth: Int8Array;
  nearest: Int32Array;
  rings: Int32Array[];
  outer: Int32Array[];
}

/**
 * Depths in bands from left to right, bent from row to row: rings in row order; anything may be the colour, the place
 * of a solid pixel is at hand for most.
 */
function scene(width: number, height: number): Scene {
  const data = Uint8Array.from({ length: width * height * 4 }, (_, k) =>
    k % 4 === 3 ? 255 : whole(8) === 0 ? whole(256) : [20, 60, 200][k % 4] + whole(14),
  );
  const depth = Int8Array.from({ length: width * height }, (_, i) => {
    const d = (i % width) - 8 - Math.round(3 * Math.sin(Math.floor(i / width) / 6));
    return d > 5 || d < -3 ? 0 : d < 1 ? d - 1 : d;
  });
  for (const i of depth.keys())
    if (depth[i] < 0)
      for (let c = 0; c < 3; c++) data[i * 4 + c] = Math.max(0, GROUND[c] - whole([3, 30, 120][whole(3)]));
  const distance = Uint8Array.from({ length: width * height }, (_, i) =>
    Math.max(...[0, 1, 2].map((c) => Math.abs(data[i * 4 + c] - GROUND[c]))),
  );
  // A solid pixel has all its neighbours within the picture.
  const solid = [...depth.keys()].filter(
    (i) => i % width > 0 && i % width < width - 1 && i >= width && i < width * (height - 1) && depth[i] >= 0,
  );
  const nearest = Int32Array.from({ length: width * height }, () => {
    const s = solid[whole(solid.length)];
    return solid.length === 0 || whole(4) === 0 ? 0 : ((Math.floor(s / width) << 16) | (s % width)) + 1;
  });
  const ringOf = (d: number) => Int32Array.from([...depth.keys()].filter((i) => depth[i] === d));
  return {
    width,
    height,
    data,
    distance,
    depth,
    nearest,
    rings: [1, 2, 3, 4, 5].map(ringOf),
    outer: [-1, -2, -3, -4].map(ringOf),
  };
}

interface Options {
  floor: number;
  ripple: number;
  flat: number;
  soiled: number;
  flats: Float64Array[];
  palette: Float64Array[];
}

function byKernel(s: Scene, o: Options): Uint8Array {
  const out = s.data.slice();
  const [flats, palette, depth] = [packColours(o.flats), packColours(o.palette), s.depth.slice()];
  call([s.data, s.distance, depth, s.nearest, flats, palette, ...s.rings, ...s.outer], [out], 0, ({ k, at }) => {
    k.setGroundColour(GROUND[0], GROUND[1], GROUND[2]);
    k.setUnmix({
      ofPicture: at(s.data),
      toOut: at(out),
      ofDistance: at(s.distance),
      ofDepth: at(depth),
      ofNearest: at(s.nearest),
      w: s.width,
      h: s.height,
      floor: o.floor,
      rippleBy: o.ripple,
      flatBy: o.flat,
      soiledBy: o.soiled,
    });
    k.setColours(at(palette), o.palette.length, at(flats), o.flats.length);
    k.setBehind(0);
    for (const ring of s.outer) k.unmixOuter(at(ring), ring.length);
    for (const [n, ring] of s.rings.entries()) k.unmixInner(at(ring), ring.length, n + 1);
  });
  return out;
}

function plainly(s: Scene, o: Options): Uint8Array {
  const { width, height, data, distance, depth } = s;
  const out = data.slice();
  const around = (i: number, reach: number) => {
    const found: number[] = [];
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
        if (x >= 0 && y >= 0 && x < width && y < height) found.push(y * width + x);
      }
    return found;
  };
  const colour = (i: number) => [0, 1, 2].map((c) => data[i * 4 + c]);
  const clean = (v: readonly number[], reach: number) => {
    let best: Float64Array | null = null;
    let least = reach * 2.4;
    for (const f of o.flats) {
      const d = [0, 1, 2].map((c) => v[c] - f[c]);
      const most = Math.max(...d.map(Math.abs));
      if (Math.abs(0.299 * d[0] + 0.587 * d[1] + 0.114 * d[2]) > reach || most >= least) continue;
      [best, least] = [f, most];
    }
    return best;
  };
  const strongest = (i: number) => around(i, 3).reduce((best, n) => (distance[n] > distance[best] ? n : best), i);
  const write = (i: number, v: readonly number[]) =>
    v.forEach((c, n) => {
      out[i * 4 + n] = Math.min(255, Math.max(0, Math.floor(c + 0.5)));
    });
  const foreground = (i: number): number[] => {
    const place = s.nearest[i] - 1;
    if (place >= 0) {
      const p = (place >>> 16) * width + (place & 0xffff);
      const alike = around(p, 1).filter((n) => colour(n).every((v, c) => Math.abs(v - data[p * 4 + c]) <= o.flat));
      return [0, 1, 2].map((c) => alike.reduce((sum, n) => sum + data[n * 4 + c], 0) / alike.length);
    }
    const t = strongest(i);
    return distance[t] > distance[i] ? colour(t) : colour(i);
  };
  const solve = (i: number) => {
    const C = colour(i).map((v, c) => v - GROUND[c]);
    let F = foreground(i);
    const V = F.map((v, c) => v - GROUND[c]);
    const length = V.reduce((sum, v) => sum + v * v, 0);
    const hasSolid = s.nearest[i] > 0;
    let alpha = length < 1 ? 1 : V.reduce((sum, v, c) => sum + v * C[c], 0) / length;
    const strongNear = (least: number, reach: number) => around(i, reach).some((n) => distance[n] >= least);
    if (alpha * Math.sqrt(length) < o.floor) alpha = 0;
    else if (hasSolid && o.ripple > 2) {
      const contrast = Math.max(...V.map(Math.abs));
      const swing = Math.min(0.22, (1.3 * o.ripple) / contrast);
      if (alpha < swing) alpha = strongNear(0.5 * contrast, 1) ? alpha : 0;
      else if (alpha < 0.3 && !strongNear(0.2 * contrast, 2)) alpha = 0;
      else if (alpha > 1 - swing && depth[i] >= 2) alpha = 1;
    }
    alpha = Math.min(1, alpha);
    const a8 = Math.floor(alpha * 255 + 0.5);
    out[i * 4 + 3] = a8;
    if (a8 === 0) return;
    const flat = o.soiled > 0 && hasSolid ? clean(F, o.soiled) : null;
    if (flat) F = [...flat];
    const U = C.map((v, c) => GROUND[c] + v / alpha);
    let trust = a8 >= 250 ? 1 : Math.min(1, Math.max(0, (alpha - 0.35) / 0.5));
    if (flat) {
      const d = U.map((v, c) => v - flat[c]);
      const reach = (1.4 * o.soiled) / Math.max(0.3, alpha);
      if (Math.abs(0.299 * d[0] + 0.587 * d[1] + 0.114 * d[2]) <= reach && Math.max(...d.map(Math.abs)) < reach * 2.4)
        trust = 0;
    }
    write(
      i,
      F.map((v, c) => v + trust * (U[c] - v)),
    );
  };
  for (const ring of s.outer) ring.forEach(solve);
  for (const [n, ring] of s.rings.entries()) {
    for (const i of ring) {
      if (n === 0 || around(i, 1).some((m) => depth[m] === n && out[m * 4 + 3] < 240)) solve(i);
      else out[i * 4 + 3] = 255;
      const flat =
        out[i * 4 + 3] === 255
          ? clean(
              [0, 1, 2].map((c) => out[i * 4 + c]),
              o.soiled,
            )
          : null;
      if (flat) write(i, [...flat]);
    }
  }
  return out;
}

describe('unmixing', () => {
  const flats = [
    [20, 60, 200],
    [30, 66, 205],
    [200, 30, 30],
  ].map((v) => Float64Array.from(v));
  it.each(sizes)('gives what the formulas give, on a clean picture of %i × %i', (width, height) => {
    for (let round = 0; round < 8; round++) {
      const s = scene(width, height);
      const options = { floor: 1.5, ripple: 0, flat: 6, soiled: 0, flats: [], palette: [] };
      expect(byKernel(s, options)).toEqual(plainly(s, options));
    }
  });
  it.each(sizes)('and on one that compression has rippled and soiled, %i × %i', (width, height) => {
    for (let round = 0; round < 8; round++) {
      const s = scene(width, height);
      const options = {
        floor: 2 + random() * 8,
        ripple: 3 + random() * 12,
        flat: 8,
        soiled: 6 + random() * 12,
        flats,
        palette: [],
      };
      expect(byKernel(s, options)).toEqual(plainly(s, options));
    }
  });
  it.each([
    [40, 10],
    [18, 10],
    [40, 38],
  ])(
    'takes a weak pixel for a ripple unless something strong lies up to two pixels away, ' +
      'in a picture %i wide, at column %i',
    (width, column) => {
      const height = 12;
      for (let dy = -3; dy <= 3; dy++)
        for (let dx = -3; dx <= 3; dx++) {
          if ((dx === 0 && dy === 0) || column + dx >= width) continue;
          const data = new Uint8Array(width * height * 4);
          const paint = (x: number, y: number, share: number) =>
            data.set([...GROUND.map((v) => Math.round(v * (1 - share))), 255], (y * width + x) * 4);
          for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) paint(x, y, x < 3 ? 1 : 0);
          paint(column, 6, 0.1);
          paint(column + dx, 6 + dy, 0.5);
          const distance = Uint8Array.from({ length: width * height }, (_, i) =>
            Math.max(...[0, 1, 2].map((c) => GROUND[c] - data[i * 4 + c])),
          );
          const at = 6 * width + column;
          const nearest = new Int32Array(width * height);
          nearest[at] = ((5 << 16) | 1) + 1;
          const s = {
            width,
            height,
            data,
            distance,
            depth: new Int8Array(width * height),
            nearest,
            rings: [],
            outer: [Int32Array.of(at)],
          };
          const out = byKernel(s, { floor: 1.5, ripple: 3, flat: 6, soiled: 0, flats: [], palette: [] });
          expect(out[at * 4 + 3] > 0, `${dx}, ${dy}`).toBe(Math.max(Math.abs(dx), Math.abs(dy)) <= 2);
        }
    },
  );
  it(
    'begins anew with every picture: what one picture’s flat colours made of a colour ' + 'says nothing of the next',
    () => {
      const s = scene(33, 40);
      const with1 = (flat: Float64Array) => ({
        floor: 1.5,
        ripple: 6,
        flat: 8,
        soiled: 12,
        flats: [flat],
        palette: [],
      });
      for (const flat of [flats[0], Float64Array.of(24, 70, 190), flats[0]])
        expect(byKernel(s, with1(flat))).toEqual(plainly(s, with1(flat)));
    },
  );
});

describe('the strongest pixel near a thin stroke', () => {
  it.each([
    [4, 3],
    [9, 8],
    [40, 30],
  ])('is the first that lies farthest from the ground, or the pixel itself, in %i × %i', (width, height) => {
    for (const levels of [2, 6, 256]) {
      const distance = Uint8Array.from({ length: width * height }, () => whole(levels));
      const ring = Int32Array.from(distance.keys());
      const nearest = new Int32Array(distance.length);
      const found = call([ring, nearest, distance], [], ring.length * 4, ({ k, at, scratch, intsAt }) => {
        const out = scratch(ring.length * 4);
        return [
          ...intsAt(
            out,
            k.strongestOfThin({
              ring: at(ring),
              length: ring.length,
              nearest: at(nearest),
              distance: at(distance),
              w: width,
              h: height,
              out,
            }),
          ),
        ];
      });
      for (const i of ring) {
        let best = i;
        for (
          let y = Math.max(0, Math.floor(i / width) - 3);
          y <= Math.min(height - 1, Math.floor(i / width) + 3);
          y++
        ) {
          for (let x = Math.max(0, (i % width) - 3); x <= Math.min(width - 1, (i % width) + 3); x++)
            if (distance[y * width + x] > distance[best]) best = y * width + x;
        }
        expect(found[i]).toBe(best);
      }
    }
  });
});

describe('steps away from an edge', () => {
  it.each(sizes)('take every unknown neighbour of the wanted kind once, in %i × %i', (width, height) => {
    for (let round = 0; round < 12; round++) {
      const labels = Int32Array.from({ length: width * height }, () => whole(3));
      const isOpen = Uint8Array.of(0, 1, 0);
      const depth = Int8Array.from({ length: width * height }, () => (whole(3) === 0 ? 1 : 0));
      const ring = Int32Array.from([...depth.keys()].filter((i) => depth[i] !== 0));
      const before = depth.slice();
      const [runs, rowStart, room] = [
        new Int32Array(3 * height),
        new Int32Array(height + 1),
        new Int32Array(width * height),
      ];
      const added = call(
        [labels, isOpen, ring, runs, rowStart, room],
        [depth],
        width * height * 4,
        ({ k, at, scratch, intsAt }) => {
          // Without any runs it finds nothing, and remembers the planes.
          k.findEdge({
            ofLabels: at(labels),
            openByLabel: at(isOpen),
            runs: at(runs),
            rowStart: at(rowStart),
            w: width,
            h: height,
            ofDepth: at(depth),
            room: at(room),
          });
          const next = scratch(width * height * 4);
          return [...intsAt(next, k.growRing(at(ring), ring.length, next, 2, 0))];
        },
      );
      const near = (i: number) =>
        [...before.keys()].some(
          (n) =>
            before[n] !== 0 &&
            Math.abs((n % width) - (i % width)) <= 1 &&
            Math.abs(Math.floor(n / width) - Math.floor(i / width)) <= 1,
        );
      const expected = [...before.keys()].filter((i) => before[i] === 0 && isOpen[labels[i]] === 0 && near(i));
      expect([...added].sort((a, b) => a - b)).toEqual(expected);
      for (const i of depth.keys()) expect(depth[i]).toBe(expected.includes(i) ? 2 : before[i]);
    }
  });
});

describe('samples of the mark', () => {
  it.each([1, 3, 4, 7, 250])('are counted and summed near a colour, of %i', (length) => {
    for (let round = 0; round < 10; round++) {
      const samples = Int32Array.from(
        { length },
        () => (whole(256) << 24) | (whole(40) << 16) | (whole(40) << 8) | whole(40),
      );
      const [r, g, b, reach] = [random() * 50, random() * 50, random() * 50, random() * 30];
      const near = [...samples].filter(
        (v) =>
          Math.abs((v & 255) - r) <= reach &&
          Math.abs(((v >> 8) & 255) - g) <= reach &&
          Math.abs(((v >> 16) & 255) - b) <= reach,
      );
      call([samples], [], 32, ({ k, at, scratch, realsAt }) => {
        const sums = scratch(32);
        expect(k.sumWithin({ samples: at(samples), length, r, g, b, reach, sums })).toBe(near.length);
        expect([...realsAt(sums, 3)]).toEqual(
          [0, 8, 16].map((bits) => near.reduce((sum, v) => sum + ((v >> bits) & 255), 0)),
        );
      });
    }
  });
});
