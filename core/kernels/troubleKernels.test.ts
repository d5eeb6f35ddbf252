import { describe, expect, it } from 'vitest';
import { seededRandom } from '../seededRandom';
import { measureTrouble } from '../matte/measureTrouble';
import { allMixed } from '../matte/rowSegments';

// The check of a finished cut-out beside the plainest code for the same, on pictures of chance.
const random = seededRandom(90210);
const whole = (below: number) => Math.floor(random() * below);
const sizes: [number, number][] = [
  [4, 5],
  [9, 30],
  [47, 44],
  [130, 61],
];
const GROUND = [240, 250, 230];
const ground = { colour: [240, 250, 230], noise: 0, drift: 0, share: 1, surface: null } as const;

interface Scene {
  width: number;
  height: number;
  data: Uint8Array;
  distance: Uint8Array;
}

/** Blobs with soft rims, some of whose pixels hold ground; dots of a few pixels; distances by chance. */
function scene(width: number, height: number): Scene {
  const data = new Uint8Array(width * height * 4);
  const put = (x: number, y: number, alpha: number, part: number, colour: readonly number[]) => {
    if (x >= 0 && y >= 0 && x < width && y < height)
      data.set([...colour.map((v, c) => Math.round(v * (1 - part) + GROUND[c] * part)), alpha], (y * width + x) * 4);
  };
  const colours = [
    [20, 30, 90],
    [200, 40, 40],
    [GROUND[0] - 40, GROUND[1], GROUND[2] - 20],
  ];
  for (let n = 0; n < 3; n++) {
    const [x0, y0, r, colour] = [whole(width), whole(height), 3 + whole(14), colours[whole(3)]];
    for (let y = -r; y <= r; y++)
      for (let x = -r; x <= r; x++) {
        const inside = r - Math.hypot(x, y);
        if (inside > 0) put(x0 + x, y0 + y, inside < 2 ? 10 + whole(240) : 255, inside < 2 ? random() : 0, colour);
      }
  }
  for (let n = 0; n < 6; n++) {
    const [x0, y0, w, h] = [whole(width), whole(height), 1 + whole(5), 1 + whole(4)];
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) put(x0 + x, y0 + y, [47, 48, 255][whole(3)], 0, colours[0]);
  }
  return {
    width,
    height,
    data,
    distance: Uint8Array.from({ length: width * height }, () => (whole(12) === 0 ? whole(256) : 0)),
  };
}

const block = (width: number, height: number, i: number, reach: number) => {
  const found: number[] = [];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
      if (x >= 0 && y >= 0 && x < width && y < height) found.push(y * width + x);
    }
  return found;
};

interface Places {
  x: number;
  y: number;
  amount: number;
}

function plainly(s: Scene, surely: number) {
  const { width, height, data, distance } = s;
  const alpha = (i: number) => data[i * 4 + 3];
  const off = (i: number) => [0, 1, 2].map((c) => data[i * 4 + c] - GROUND[c]);
  const size = (v: readonly number[]) => v.reduce((sum, d) => sum + Math.abs(d), 0);
  const held = (i: number) => {
    const solid = block(width, height, i, 2).filter((n) => alpha(n) === 255);
    const best = solid.reduce((b, n) => (b < 0 || size(off(n)) > size(off(b)) ? n : b), -1);
    if (best < 0 || size(off(best)) < 90 || size(off(i)) >= size(off(best))) return 0;
    const [f, c] = [off(best), off(i)];
    const t = c.reduce((sum, v, k) => sum + v * f[k], 0) / f.reduce((sum, v) => sum + v * v, 0);
    return size(c.map((v, k) => v - t * f[k])) > 36 || t > 1 ? 0 : 1 - Math.max(0, t);
  };
  const fringe = new Map<number, Places>();
  const eaten = new Map<number, Places>();
  const collect = (cells: Map<number, Places>, i: number, amount: number) => {
    const key = Math.floor(Math.floor(i / width) / 40) * 1000 + Math.floor((i % width) / 40);
    const known = cells.get(key) ?? { x: i % width, y: Math.floor(i / width), amount: 0 };
    cells.set(key, { ...known, amount: known.amount + amount });
  };
  let [edges, tinted, strength, areaPx] = [0, 0, 0, 0];
  for (const i of distance.keys()) {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (x < 2 || y < 2 || x >= width - 2 || y >= height - 2) continue;
    if (alpha(i) < 16) {
      if (distance[i] <= surely || block(width, height, i, 2).some((n) => alpha(n) >= 16)) continue;
      areaPx++;
      collect(eaten, i, 1);
    } else if (alpha(i) >= 90 && [i - 1, i + 1, i - width, i + width].some((n) => alpha(n) < 16)) {
      edges++;
      const part = held(i);
      if (part < 0.34) continue;
      tinted++;
      strength += part;
      collect(fringe, i, part * (alpha(i) / 255));
    }
  }
  const worst = (cells: Map<number, Places>) => [...cells.values()].sort((a, b) => b.amount - a.amount);
  return {
    fringe: { share: edges ? tinted / edges : 0, strength: tinted ? strength / tinted : 0, places: worst(fringe) },
    eaten: { areaPx, places: worst(eaten) },
    specks: specksOf(s),
  };
}

function specksOf({ width, height, data }: Scene): Places[] {
  const visible = (i: number) => data[i * 4 + 3] >= 48;
  const sampled = Array.from({ length: Math.ceil((width * height) / 11) }, (_, k) => k * 11).filter(visible).length;
  const most = Math.min(120, Math.max(14, sampled * 11 * 0.0003));
  const seen = new Set<number>();
  const found: Places[] = [];
  for (let i = 0; i < width * height; i++) {
    if (!visible(i) || seen.has(i)) continue;
    const piece = new Set([i]);
    for (const p of piece) for (const n of block(width, height, p, 1)) if (visible(n)) piece.add(n);
    for (const p of piece) seen.add(p);
    // It is entered at a pixel with nothing to its left and above, the first in row order.
    const isAlone = block(width, height, i, 9).every((n) => !visible(n) || piece.has(n));
    if (piece.size <= most + 1 && isAlone) found.push({ x: i % width, y: Math.floor(i / width), amount: piece.size });
  }
  return found.sort((a, b) => b.amount - a.amount);
}

describe.each(sizes)('the trouble of a cut-out, %i × %i', (width, height) => {
  it('is what looking at each pixel finds', () => {
    for (let round = 0; round < 30; round++) {
      const s = scene(width, height);
      const tolerance = whole(250);
      const found = measureTrouble(
        ground,
        s.distance,
        allMixed(width, height),
        { width, height, data: s.data },
        tolerance,
      );
      const expected = plainly(s, tolerance + 26);
      expect(found.specks).toEqual(expected.specks);
      expect(found.eaten).toEqual(expected.eaten);
      expect(found.fringe.places).toEqual(
        expected.fringe.places.map((p) => ({ ...p, amount: expect.closeTo(p.amount, 9) })),
      );
      expect([found.fringe.share, found.fringe.strength]).toEqual([
        expect.closeTo(expected.fringe.share, 9),
        expect.closeTo(expected.fringe.strength, 9),
      ]);
    }
  });
});
