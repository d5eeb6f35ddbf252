import { describe, expect, it } from 'vitest';
import { MARK, OUTSIDE } from './interface';
import { seededRandom } from '../seededRandom';
import { findSegments } from '../matte/rowSegments';
import { stackRoom } from '../matte/spreadGround';
import { call } from './heap';

// The matte's own kernels beside the plainest code for the same, on pictures of chance.
const random = seededRandom(77);
const whole = (below: number) => Math.floor(random() * below);
const sizes: [number, number][] = [
  [2, 3],
  [9, 7],
  [40, 33],
  [70, 25],
  [131, 40],
];

interface Scene {
  width: number;
  height: number;
  data: Uint8Array;
  distance: Uint8Array;
  labels: Int32Array;
  runs: Int32Array;
}

/** A white sheet with blocks, ramps and crumbs on it; labels say what is joined to the border at a tolerance of 10. */
function scene(width: number, height: number): Scene {
  const data = new Uint8Array(width * height * 4).fill(255);
  const paint = (x: number, y: number, v: number) => {
    if (x >= 0 && y >= 0 && x < width && y < height) data.set([v, v, v], (y * width + x) * 4);
  };
  for (let n = 0; n < 4; n++) {
    const [x0, y0, w, h, v] = [whole(width), whole(height), 2 + whole(30), 2 + whole(20), whole(250)];
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) paint(x0 + x, y0 + y, v);
  }
  for (let n = 0; n < 3; n++) {
    const [x0, y0, slope] = [whole(width), whole(height), 3 + whole(16)];
    for (let y = -14; y < 14; y++)
      for (let x = -14; x < 14; x++) paint(x0 + x, y0 + y, Math.min(255, 90 + Math.round(Math.hypot(x, y) * slope)));
  }
  for (let n = 0; n < 20; n++) paint(whole(width), whole(height), 200 + whole(56));
  const distance = Uint8Array.from({ length: width * height }, (_, i) => 255 - data[i * 4]);
  const labels = new Int32Array(width * height);
  const queue: number[] = [];
  const enter = (i: number) => {
    if (labels[i] === OUTSIDE || distance[i] > 10) return;
    labels[i] = OUTSIDE;
    queue.push(i);
  };
  for (const i of labels.keys())
    if (i % width === 0 || i % width === width - 1 || i < width || i >= width * (height - 1)) enter(i);
  for (let i = queue.pop(); i !== undefined; i = queue.pop()) for (const n of four(i, width, height)) enter(n);
  return { width, height, data, distance, labels, runs: findSegments(distance, width, height, 72).runs };
}

const four = (i: number, width: number, height: number) =>
  [
    i % width > 0 ? i - 1 : -1,
    i % width < width - 1 ? i + 1 : -1,
    i >= width ? i - width : -1,
    i < width * (height - 1) ? i + width : -1,
  ].filter((n) => n >= 0);

function eight(i: number, width: number, height: number): number[] {
  const found: number[] = [];
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
      if ((dx || dy) && x >= 0 && y >= 0 && x < width && y < height) found.push(y * width + x);
    }
  return found;
}

const stepAt = ({ data, width, height }: Scene, i: number) => {
  const [x, y] = [i % width, Math.floor(i / width)];
  const v = (px: number, py: number) =>
    data[(Math.min(height - 1, Math.max(0, py)) * width + Math.min(width - 1, Math.max(0, px))) * 4];
  return Math.max(Math.abs(v(x + 1, y) - v(x - 1, y)), Math.abs(v(x, y + 1) - v(x, y - 1))) / 2;
};

describe('the search for shadows and glows', () => {
  it.each(sizes)(
    'begins at the same pixels and grows over the same ones as looking at each, in %i × %i',
    (width, height) => {
      for (let round = 0; round < 12; round++) {
        const s = scene(width, height);
        const isOpen = Uint8Array.of(0, 1, 0, 0);
        const LIMIT = 15;
        const found: [number, number[]][] = [];
        call(
          [s.data, s.distance, s.labels, isOpen, s.runs],
          [],
          width * height * 9 + 200,
          ({ k, at, scratch, intsAt }) => {
            const [region, list, stack] = [
              scratch(width * height),
              scratch(width * height * 4, false),
              scratch(width * height * 4, false),
            ];
            k.startSoft({
              ofPicture: at(s.data),
              ofDistance: at(s.distance),
              ofLabels: at(s.labels),
              openByLabel: at(isOpen),
              ofRegion: region,
              w: width,
              h: height,
              steepest: LIMIT,
            });
            for (
              let n = k.nextSoftSeed(at(s.runs), s.runs.length);
              n >= 0;
              n = k.nextSoftSeed(at(s.runs), s.runs.length)
            ) {
              found.push([n, [...intsAt(list, k.growSoft(n, 5, list, stack))].sort((a, b) => a - b)]);
            }
          },
        );
        const region = new Set<number>();
        const expected: [number, number[]][] = [];
        for (const n of s.labels.keys()) {
          if (
            s.labels[n] !== MARK ||
            region.has(n) ||
            s.distance[n] > 185 ||
            !four(n, width, height).some((m) => isOpen[s.labels[m]]) ||
            stepAt(s, n) > LIMIT
          )
            continue;
          // Runs that are all ground or all far from it hold no beginning.
          if (!isInMixed(s, n)) continue;
          const members: number[] = [];
          const stack = [n];
          region.add(n);
          for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
            const step = stepAt(s, i);
            if (step > LIMIT || s.distance[i] > 185 || (step < 1.5 && s.distance[i] > 110)) continue;
            members.push(i);
            for (const m of four(i, width, height)) {
              if (region.has(m) || s.labels[m] !== MARK || s.distance[m] <= 5) continue;
              region.add(m);
              stack.push(m);
            }
          }
          expected.push([n, members.sort((a, b) => a - b)]);
        }
        expect(found).toEqual(expected);
      }
    },
  );
});

function isInMixed({ runs }: Scene, i: number): boolean {
  for (let r = 0; r < runs.length; r += 3) if (i >= runs[r + 1] && i < runs[r + 2]) return runs[r] === 1;
  return false;
}

describe('pale patches', () => {
  it.each(sizes)('are sought where the mark is pale and level, in %i × %i', (width, height) => {
    for (let round = 0; round < 10; round++) {
      const s = scene(width, height);
      const [above, palest, flat] = [10, 64, 5 + whole(4)];
      const room = stackRoom(width, height);
      const [steps, list] = call(
        [s.data, s.distance, s.labels, s.runs],
        [],
        width * height * 5 + room + 100,
        ({ k, at, scratch, intsAt }) => {
          const [step, pixels, stack] = [
            scratch(width * height),
            scratch(width * height * 4, false),
            scratch(room, false),
          ];
          k.fillBytes(step, 255, width * height);
          k.setFill({
            ofPlane: at(s.distance),
            ofLabels: at(s.labels),
            ofState: 0,
            w: width,
            h: height,
            most: above,
            room: stack,
          });
          const count = k.findFlat({
            picture: at(s.data),
            distance: at(s.distance),
            above,
            palest,
            flat,
            runs: at(s.runs),
            runCount: s.runs.length,
            step,
            list: pixels,
          });
          return [[...new Uint8Array(intsAt(step, 1).buffer, step, width * height)], [...intsAt(pixels, count)]];
        },
      );
      const differ = (a: number, b: number) =>
        Math.max(...[0, 1, 2].map((c) => Math.abs(s.data[a * 4 + c] - s.data[b * 4 + c])));
      const expected = [...s.distance.keys()].map((i) => {
        const [x, y] = [i % width, Math.floor(i / width)];
        const isAsked =
          x > 0 &&
          y > 0 &&
          x < width - 1 &&
          y < height - 1 &&
          s.distance[i] > above &&
          s.distance[i] <= palest &&
          s.labels[i] === MARK &&
          isInMixed(s, i);
        return isAsked ? Math.max(...[i - 1, i + 1, i - width, i + width].map((n) => differ(i, n))) : 255;
      });
      expect(steps).toEqual(expected);
      expect(list).toEqual(expected.flatMap((v, i) => (v <= flat ? [i] : [])));
    }
  });
});

describe('crumbs', () => {
  it.each(sizes)('are given back to the ground as by going from piece to piece, in %i × %i', (width, height) => {
    for (let round = 0; round < 12; round++) {
      const s = scene(width, height);
      const [tolerance, strong, most] = [10, 14 + random() * 20, 8 + whole(30)];
      const [distance, labels] = [s.distance.slice(), s.labels.slice()];
      call([s.runs], [distance, labels], width * height + most * 4 + 200, ({ k, at, scratch }) => {
        k.removeDirt({
          distance: at(distance),
          labels: at(labels),
          runs: at(s.runs),
          runCount: s.runs.length,
          width,
          total: width * height,
          tolerance,
          strong,
          most,
          state: scratch(width * height),
          piece: scratch(most * 4 + 64, false),
        });
      });
      for (const i of labels.keys()) {
        const isWeak = s.labels[i] === MARK && s.distance[i] > tolerance && s.distance[i] < strong;
        if (!isWeak || !isInMixed(s, i))
          expect([labels[i], distance[i]], `pixel ${i} is none of its business`).toEqual([s.labels[i], s.distance[i]]);
        else {
          const piece = pieceOf(s, i, tolerance);
          const isCrumb = piece.length <= most && piece.every((n) => s.distance[n] < strong);
          if (!isCrumb)
            expect([labels[i], distance[i]], `pixel ${i} belongs to something`).toEqual([MARK, s.distance[i]]);
          else expect(labels[i] === OUTSIDE || distance[i] === 0, `pixel ${i} is a crumb`).toBe(true);
        }
      }
    }
  });
});

// All of the mark that a pixel hangs together with, corner to corner, enclosed ground left out.
function pieceOf(s: Scene, start: number, tolerance: number): number[] {
  const piece = new Set([start]);
  for (const i of piece)
    for (const n of eight(i, s.width, s.height)) if (s.labels[n] === MARK && s.distance[n] > tolerance) piece.add(n);
  return [...piece];
}

describe('ripples', () => {
  const CELL = 4;
  it.each(sizes)('are forgiven within two cells of anything strong, and nowhere else, in %i × %i', (width, height) => {
    const distance = new Uint8Array(width * height);
    for (let n = 0; n < 3; n++) {
      const [x0, y0] = [whole(width), whole(height)];
      for (let y = y0; y < Math.min(height, y0 + 5); y++)
        distance.fill(200, y * width + x0, y * width + Math.min(width, x0 + 9));
    }
    for (const i of distance.keys()) if (distance[i] === 0 && random() < 0.5) distance[i] = whole(40);
    const { runs, rowStart } = findSegments(distance, width, height, 72);
    const cells = Math.ceil(width / CELL) * Math.ceil(height / CELL);
    const [near, out] = [new Uint8Array(cells), distance.slice()];
    call([distance, runs, rowStart], [near, out], cells, ({ k, at, scratch }) => {
      k.cellsNearStrong({
        distance: at(distance),
        runs: at(runs),
        rowStart: at(rowStart),
        width,
        height,
        strong: scratch(cells),
        cells: at(near),
      });
      k.forgive({
        distance: at(distance),
        runs: at(runs),
        runCount: runs.length,
        cells: at(near),
        width,
        forgiven: 12,
        out: at(out),
      });
    });
    const columns = Math.ceil(width / CELL);
    const cellOf = (i: number) => [Math.floor((i % width) / CELL), Math.floor(Math.floor(i / width) / CELL)];
    const strong = [...distance.keys()].filter((i) => distance[i] >= 72).map(cellOf);
    for (const i of distance.keys()) {
      const [cx, cy] = cellOf(i);
      const isNear = strong.some(([x, y]) => Math.abs(x - cx) <= 2 && Math.abs(y - cy) <= 2);
      expect(near[cy * columns + cx]).toBe(isNear ? 1 : 0);
      const isForgiven = isNear && distance[i] < 72;
      expect(out[i]).toBe(isForgiven ? Math.max(0, distance[i] - 12) : distance[i]);
    }
  });
});

describe('the shape of an area', () => {
  it('is the sum over its pixels, with every pixel of its rim in row order', () => {
    for (let round = 0; round < 30; round++) {
      const [width, height] = [14 + whole(50), 10 + whole(30)];
      const labels = new Int32Array(width * height);
      const boxes: [number, number][] = [
        [9, 3],
        [9, 2],
        [1, 2],
        [0, 2],
      ];
      for (const [label, amount] of boxes)
        for (let n = 0; n < amount; n++) {
          const [x0, y0, w, h] = [whole(width), whole(height), 2 + whole(width / 2), 2 + whole(height / 2)];
          for (let y = y0; y < Math.min(height, y0 + h); y++)
            labels.fill(label, y * width + x0, y * width + Math.min(width, x0 + w));
        }
      const [data, distance] = [width * height * 4, width * height].map((length) =>
        Uint8Array.from({ length }, () => whole(256)),
      );
      const step = 1 + whole(3);
      const [numbers, rim] = call(
        [data, distance, labels],
        [],
        width * height * 4 + 100,
        ({ k, at, scratch, realsAt, intsAt }) => {
          k.setGroundColour(255, 255, 255);
          const [out, list] = [scratch(88), scratch(width * height * 4)];
          k.measureShape({
            label: 9,
            left: 0,
            top: 0,
            right: width - 1,
            bottom: height - 1,
            step,
            picture: at(data),
            distance: at(distance),
            labels: at(labels),
            width,
            height,
            byPlace: false,
            out,
            rim: list,
          });
          const found = [...realsAt(out, 11)];
          return [found, [...intsAt(list, found[10])]];
        },
      );
      const own = [...labels.keys()].filter((i) => labels[i] === 9 && Math.floor(i / width) % step === 0);
      const labelAt = (i: number, dx: number, dy: number) => {
        const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
        return x >= 0 && y >= 0 && x < width && y < height ? labels[y * width + x] : null;
      };
      const isRim = (i: number) =>
        [
          [1, 0],
          [-1, 0],
          [0, 1],
          [0, -1],
        ].some(([dx, dy]) => labelAt(i, dx, dy) !== 9);
      expect(rim).toEqual(own.filter(isRim));
      const sum = (of: (i: number) => number) => own.reduce((s, i) => s + of(i), 0);
      expect(numbers.slice(0, 2)).toEqual([sum((i) => distance[i]), own.length]);
      expect(numbers[2]).toBe(
        own.filter(
          (i) =>
            isRim(i) &&
            [1, 2, 3].some((n) =>
              [
                [n, 0],
                [-n, 0],
                [0, n],
                [0, -n],
              ].some(([dx, dy]) => labelAt(i, dx, dy) === 1),
            ),
        ).length,
      );
      expect(numbers.slice(7, 10)).toEqual([0, 1, 2].map((c) => sum((i) => data[i * 4 + c])));
    }
  });
});

describe('the point that names an area', () => {
  it('lies in the area, as deep as any on the rows looked at', () => {
    for (let round = 0; round < 30; round++) {
      const [width, height] = [12 + whole(50), 10 + whole(40)];
      const labels = new Int32Array(width * height);
      for (let n = 0; n < 3; n++) {
        const [x0, y0, w, h] = [whole(width - 4), whole(height - 4), 3 + whole(width / 2), 3 + whole(height / 2)];
        for (let y = y0; y < Math.min(height, y0 + h); y++)
          labels.fill(9, y * width + x0, y * width + Math.min(width, x0 + w));
      }
      const at = call([labels], [], 0, (c) =>
        c.k.deepPoint({
          start: labels.indexOf(9),
          label: 9,
          left: 0,
          top: 0,
          right: width - 1,
          bottom: height - 1,
          step: 1,
          labels: c.at(labels),
          width,
        }),
      );
      expect(labels[at]).toBe(9);
      const reach = (i: number) => {
        const along = (step: number, stays: (n: number) => boolean) => {
          let n = 0;
          while (stays(i + step * (n + 1)) && labels[i + step * (n + 1)] === 9) n++;
          return n;
        };
        const row = Math.floor(i / width);
        const inRow = (n: number) => n >= row * width && n < (row + 1) * width;
        const inside = (n: number) => n >= 0 && n < labels.length;
        return [1 + along(-1, inRow) + along(1, inRow), 1 + 2 * Math.min(along(-width, inside), along(width, inside))];
      };
      // No middle of any run in the area does better in both directions at once.
      const own = Math.min(...reach(at));
      for (const i of labels.keys()) {
        if (labels[i] !== 9 || (i % width > 0 && labels[i - 1] === 9)) continue;
        const [run] = reach(i);
        expect(Math.min(...reach(i + run - 1 - (run >> 1)))).toBeLessThanOrEqual(own);
      }
    }
  });
});

describe('colours bled past the edge', () => {
  it('are exact beside the mark, all but a few, and always the mark’s own', () => {
    for (let round = 0; round < 4; round++) {
      const [width, height] = [150, 110];
      const picture = new Uint8Array(width * height * 4);
      const seen: number[] = [];
      for (let n = 0; n < 5; n++) {
        const [x0, y0, size] = [whole(width - 20), whole(height - 20), 3 + whole(14)];
        for (let y = y0; y < y0 + size; y++)
          for (let x = x0; x < x0 + size; x++) {
            picture.set([x, y, 1 + n, 255], (y * width + x) * 4);
            seen.push(y * width + x);
          }
      }
      const cells = Math.ceil(width / 8) * Math.ceil(height / 8);
      const [room, runs] = [width * height * 4 + cells * 7, (Math.floor(width / 2) + 1) * height * 12];
      call([], [picture], room + runs + 64, ({ k, at, scratch }) =>
        k.bleed(at(picture), width, height, scratch(room), scratch(runs, false)),
      );
      let near = 0;
      let off = 0;
      for (let i = 0; i < width * height; i++) {
        const [px, py] = [picture[i * 4], picture[i * 4 + 1]];
        expect(seen.includes(py * width + px), 'it is the colour of a visible pixel').toBe(true);
        if (picture[i * 4 + 3]) continue;
        const [x, y] = [i % width, Math.floor(i / width)];
        const nearest = Math.min(...seen.map((s) => Math.hypot((s % width) - x, Math.floor(s / width) - y)));
        const own = Math.hypot(px - x, py - y);
        expect(own).toBeLessThan(nearest + 12);
        if (nearest > 8) continue;
        near++;
        if (own > nearest + 1e-9) off++;
      }
      expect(off).toBeLessThan(near * 0.02);
    }
  }, 60_000);
});
