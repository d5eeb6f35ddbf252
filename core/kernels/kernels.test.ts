import { describe, expect, it } from 'vitest';
import { seededRandom } from '../seededRandom';
import { call } from './heap';

// Each kernel beside the plainest way of computing the same, on pictures of chance.
const random = seededRandom(23);
const whole = (below: number) => Math.floor(random() * below);

/** A picture of blocks, some of the ground's colour exactly, some nearly, with a few stray pixels. */
function blocks(width: number, height: number, ground: readonly number[]): Uint8Array {
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) data.set([...ground, 255], i * 4);
  for (let n = 0; n < 12; n++) {
    const [x0, y0, w, h] = [whole(width), whole(height), 1 + whole(width), 1 + whole(height / 2)];
    const colour =
      random() < 0.4 ? ground.map((v) => Math.min(255, v + whole(4))) : [whole(256), whole(256), whole(256)];
    for (let y = y0; y < Math.min(height, y0 + h); y++)
      for (let x = x0; x < Math.min(width, x0 + w); x++) data.set([...colour, 255], (y * width + x) * 4);
  }
  return data;
}

function labelsOf(width: number, height: number, most: number): Int32Array {
  const labels = new Int32Array(width * height);
  for (let n = 0; n < 14; n++) {
    const [x0, y0, w, h, label] = [
      whole(width),
      whole(height),
      1 + whole(width / 2),
      1 + whole(height / 2),
      whole(most),
    ];
    for (let y = y0; y < Math.min(height, y0 + h); y++)
      labels.fill(label, y * width + x0, y * width + Math.min(width, x0 + w));
  }
  return labels;
}

const sizes: [number, number][] = [
  [1, 1],
  [3, 2],
  [5, 40],
  [17, 9],
  [33, 31],
  [64, 20],
  [101, 47],
];

describe('distances from a ground of one colour', () => {
  it.each(sizes)('are the largest difference of a channel, at every pixel of %i × %i', (width, height) => {
    for (let round = 0; round < 8; round++) {
      const ground = [whole(256), whole(256), whole(256)];
      const data = blocks(width, height, ground);
      const out = new Uint8Array(width * height);
      call([data], [out], 0, ({ k, at }) =>
        k.distanceFromColour(at(data), out.length, ground[0], ground[1], ground[2], at(out)),
      );
      expect([...out]).toEqual(
        [...out.keys()].map((i) => Math.max(...ground.map((v, c) => Math.abs(data[i * 4 + c] - v)))),
      );
    }
  });
});

describe('boxes', () => {
  const boxOf = (width: number, height: number, has: (x: number, y: number) => boolean) => {
    const box = [width, -1, -1, -1];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (has(x, y)) {
          if (box[2] < 0) box[2] = y;
          [box[0], box[1], box[3]] = [Math.min(box[0], x), Math.max(box[1], x), y];
        }
    return box;
  };
  it.each(sizes)('hold all that strays, all above a level and all that is visible, in %i × %i', (width, height) => {
    for (let round = 0; round < 10; round++) {
      const ground = [whole(256), whole(256), whole(256)];
      const data = blocks(width, height, ground);
      for (let n = 0; n < 3; n++) data[whole(width * height) * 4 + 3] = whole(6);
      if (round % 2) for (let i = 0; i < width * height; i++) if (random() < 0.96) data[i * 4 + 3] = 0;
      const plane = Uint8Array.from({ length: width * height }, () => (random() < 0.03 ? whole(20) : 0));
      const above = whole(12);
      const least = 1 + whole(5);
      const found = call([data, plane], [], 0, ({ k, at }) => {
        const boxed = (run: () => void) => {
          k.startBox(width);
          run();
          return [k.boxLeft(), k.boxRight(), k.boxTop(), k.boxBottom()];
        };
        return [
          boxed(() =>
            k.boxStrays({
              picture: at(data),
              width,
              rows: height,
              y0: 0,
              r: ground[0],
              g: ground[1],
              b: ground[2],
              above,
            }),
          ),
          boxed(() => k.boxAbove(at(plane), width, height, 0, above)),
          boxed(() => k.boxVisible(at(data), width, height, 0, least)),
        ];
      });
      const far = (i: number) => Math.max(...ground.map((v, c) => Math.abs(data[i * 4 + c] - v))) > above;
      expect(found).toEqual([
        boxOf(width, height, (x, y) => far(y * width + x)),
        boxOf(width, height, (x, y) => plane[y * width + x] > above),
        boxOf(width, height, (x, y) => data[(y * width + x) * 4 + 3] >= least),
      ]);
    }
  });
});

describe('pieces of the mark', () => {
  it.each(sizes)('have the area and the rim that counting pixel by pixel gives, in %i × %i', (width, height) => {
    for (let round = 0; round < 6; round++) {
      const labels = labelsOf(width, height, 2);
      const start = labels.indexOf(0);
      if (start < 0) continue;
      const piece = new Uint16Array(width * height);
      const room = 6 * width * height + 4 * (width + height) + 64;
      const [area, rim] = call([labels], [piece], room, ({ k, at, scratch }) => [
        k.measureBody({
          start,
          id: 7,
          labels: at(labels),
          width,
          total: labels.length,
          piece: at(piece),
          stack: scratch(room, false),
        }),
        k.bodyRim(),
      ]);
      const seen = new Set([start]);
      for (const i of seen) {
        const x = i % width;
        for (const n of [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i, i - width, i + width])
          if (n >= 0 && n < labels.length && labels[n] === 0) seen.add(n);
      }
      const isMark = (i: number, n: number, stays: boolean) => stays && n >= 0 && n < labels.length && labels[n] === 0;
      const edge = [...seen].filter(
        (i) =>
          !isMark(i, i - 1, i % width > 0) ||
          !isMark(i, i + 1, i % width < width - 1) ||
          !isMark(i, i - width, true) ||
          !isMark(i, i + width, true),
      );
      expect([area, rim]).toEqual([seen.size, edge.length]);
      expect([...piece.keys()].filter((i) => piece[i] === 7).sort((a, b) => a - b)).toEqual(
        [...seen].sort((a, b) => a - b),
      );
    }
  });
});

describe('copyMark', () => {
  it.each(sizes)('copies every pixel whose label is not open, opaque, and no other, in %i × %i', (width, height) => {
    const labels = labelsOf(width, height, 4);
    const isOpen = Uint8Array.of(0, 1, 0, 1);
    const data = Uint8Array.from({ length: width * height * 4 }, () => whole(256));
    const out = new Uint8Array(data.length);
    const columns = Math.ceil(width / 32);
    const [state, runs, rowStart] = [
      new Uint8Array(columns * height).fill(1),
      new Int32Array(columns * height * 3),
      new Int32Array(height + 1),
    ];
    call([data, labels, isOpen, state], [out, runs, rowStart], 0, ({ k, at }) => {
      const count = k.findRuns(at(state), width, height, at(runs), at(rowStart));
      k.copyMark(at(data), at(labels), at(isOpen), at(runs), count, at(out));
    });
    for (const i of labels.keys())
      expect([...out.subarray(i * 4, i * 4 + 4)]).toEqual(
        isOpen[labels[i]] ? [0, 0, 0, 0] : [...data.subarray(i * 4, i * 4 + 3), 255],
      );
  });
});

function castFrom(
  rim: readonly number[],
  own: number,
  labels: Int32Array,
  width: number,
  height: number,
  limit: number,
): number[][] {
  const others = new Uint8Array(Math.ceil(width / 16) * 2 * height);
  const list = Int32Array.from(rim);
  const room = rim.length * 1000;
  return call([labels, list], [others], room, ({ k, at, scratch, intsAt }) => {
    k.bitsOfOthers(at(labels), width, height, at(others));
    const out = scratch(room);
    const met = intsAt(
      out,
      k.castRays({
        rim: at(list),
        length: list.length,
        step: 1,
        own,
        labels: at(labels),
        others: at(others),
        width,
        height,
        limit,
        out,
      }),
    );
    const rays: number[][] = [];
    for (let n = 0; n < met.length; n += 1 + 2 * met[n]) rays.push([...met.subarray(n + 1, n + 1 + 2 * met[n])]);
    return rays;
  });
}

// Away from the middle of what lies within three pixels and is its own; null where that is the pixel itself.
function plainRay(
  start: number,
  own: number,
  labels: Int32Array,
  width: number,
  height: number,
  limit: number,
): number[] | null {
  const [x, y] = [start % width, Math.floor(start / width)];
  const labelAt = (px: number, py: number) =>
    px >= 0 && py >= 0 && px < width && py < height ? labels[py * width + px] : null;
  let [nx, ny] = [0, 0];
  for (let dy = -3; dy <= 3; dy++)
    for (let dx = -3; dx <= 3; dx++) if (labelAt(x + dx, y + dy) !== own) [nx, ny] = [nx + dx, ny + dy];
  if (nx === 0 && ny === 0) return null;
  const met: number[] = [];
  let last = own;
  for (let run = 1; run < limit; run++) {
    const label = labelAt(
      Math.floor(x + (nx / Math.hypot(nx, ny)) * run + 0.5),
      Math.floor(y + (ny / Math.hypot(nx, ny)) * run + 0.5),
    );
    if (label === null) break;
    if (label !== last && label !== 0) met.push(run, label);
    last = label;
    if (label === 1) break;
  }
  return met;
}

describe('rays', () => {
  it('meet the patches on their way out in order, and end outside', () => {
    // A patch (20), the mark, another patch (21), the mark, outside (1), along one row.
    const [width, height] = [60, 9];
    const labels = new Int32Array(width * height);
    for (let y = 0; y < height; y++) {
      labels.fill(20, y * width + 5, y * width + 15);
      labels.fill(21, y * width + 20, y * width + 24);
      labels.fill(1, y * width + 40, y * width + 60);
    }
    expect(castFrom([4 * width + 14], 20, labels, width, height, 200)).toEqual([[6, 21, 26, 1]]);
    expect(castFrom([4 * width + 14], 20, labels, width, height, 10)).toEqual([[6, 21]]);
    expect(castFrom([4 * width + 14], 20, labels, width, height, 3)).toEqual([[]]);
    // The middle of a patch has no way that leads out more than another.
    expect(castFrom([4 * width + 9, 4 * width + 14], 20, labels, width, height, 10)).toEqual([[6, 21]]);
  });
  it.each(sizes)('end at the border, and meet what lies on a straight line, in %i × %i', (width, height) => {
    for (let round = 0; round < 20; round++) {
      const labels = Int32Array.from({ length: width * height }, () => [0, 0, 0, 1, 5, 6][whole(6)]);
      const rim = [...labels.keys()].filter((i) => labels[i] === 5);
      const limit = 2 + random() * 60;
      expect(castFrom(rim, 5, labels, width, height, limit)).toEqual(
        rim.map((i) => plainRay(i, 5, labels, width, height, limit)).filter((ray) => ray !== null),
      );
    }
  });
  it('know each pixel that is not the mark’s by one bit', () => {
    for (const [width, height] of sizes) {
      const labels = labelsOf(width, height, 3);
      const stride = Math.ceil(width / 16) * 2;
      const bits = new Uint8Array(stride * height);
      call([labels], [bits], 0, ({ k, at }) => k.bitsOfOthers(at(labels), width, height, at(bits)));
      for (const i of labels.keys()) {
        const [x, y] = [i % width, Math.floor(i / width)];
        expect((bits[y * stride + (x >> 3)] >> (x & 7)) & 1).toBe(labels[i] === 0 ? 0 : 1);
      }
    }
  });
});

describe('the nearest solid pixel', () => {
  it('is handed on to neighbours, the nearer one wins, and none stays none', () => {
    const [width, height] = [24, 12];
    for (let round = 0; round < 20; round++) {
      const nearest = new Int32Array(width * height);
      for (let n = 0; n < round; n++) {
        const [x, y] = [whole(width), whole(height)];
        nearest[y * width + x] = ((y << 16) | x) + 1;
      }
      const before = nearest.slice();
      const ring = Int32Array.from({ length: width * height }, (_, i) => i).filter(() => random() < 0.6);
      // The same by hand: each pixel looks at its eight neighbours, there and back.
      const byHand = before.slice();
      const far = (place: number, i: number) =>
        (((place - 1) & 0xffff) - (i % width)) ** 2 + (((place - 1) >>> 16) - Math.floor(i / width)) ** 2;
      const look = (i: number) => {
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++) {
            const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
            if (x < 0 || y < 0 || x >= width || y >= height) continue;
            const place = byHand[y * width + x];
            if (place > 0 && (byHand[i] === 0 || far(place, i) < far(byHand[i], i))) byHand[i] = place;
          }
      };
      ring.forEach(look);
      [...ring].reverse().forEach(look);
      call([ring], [nearest], 0, ({ k, at }) => k.handOn(at(ring), ring.length, at(nearest), width, width * height));
      for (const i of nearest.keys())
        expect(nearest[i] === 0 ? null : far(nearest[i], i), `pixel ${i} of round ${round}`).toBe(
          byHand[i] === 0 ? null : far(byHand[i], i),
        );
    }
  });
});

describe('the edge of a mark', () => {
  it.each(sizes)(
    'is every pixel with a neighbour of the other kind, inner ones and outer ones in lists of their own, in %i × %i',
    (width, height) => {
      const labels = labelsOf(width, height, 2);
      const isOpen = Uint8Array.of(0, 1);
      const columns = Math.ceil(width / 32);
      const [state, runs, rowStart, depth, list] = [
        new Uint8Array(columns * height).fill(1),
        new Int32Array(columns * height * 3),
        new Int32Array(height + 1),
        new Int8Array(labels.length),
        new Int32Array(labels.length),
      ];
      const [inner, outer] = call([labels, isOpen, state], [runs, rowStart, depth, list], 0, ({ k, at }) => {
        k.findRuns(at(state), width, height, at(runs), at(rowStart));
        return [
          k.findEdge({
            ofLabels: at(labels),
            openByLabel: at(isOpen),
            runs: at(runs),
            rowStart: at(rowStart),
            w: width,
            h: height,
            ofDepth: at(depth),
            room: at(list),
          }),
          k.outerCount(),
        ];
      });
      const meets = (i: number) =>
        [i % width > 0 ? i - 1 : i, i % width < width - 1 ? i + 1 : i, i - width, i + width].some(
          (n) => n >= 0 && n < labels.length && labels[n] !== labels[i],
        );
      const edge = [...labels.keys()].filter(meets);
      const sorted = (part: Int32Array) => [...part].sort((a, b) => a - b);
      expect(sorted(list.slice(0, inner))).toEqual(edge.filter((i) => labels[i] === 0));
      expect(sorted(list.slice(labels.length - outer))).toEqual(edge.filter((i) => labels[i] === 1));
      for (const i of labels.keys()) expect(depth[i]).toBe(!meets(i) ? 0 : labels[i] === 0 ? 1 : -1);
    },
  );
});

describe('transparency', () => {
  it('is counted pixel by pixel, over as many strips as there are', () => {
    const picture = Uint8Array.from({ length: 4 * 500 }, (_, k) =>
      k % 4 !== 3 ? 7 : k % 28 === 3 ? [0, 0, 1, 254][Math.floor(random() * 4)] : 255,
    );
    const alphas = picture.filter((_, k) => k % 4 === 3);
    for (const [from, to] of [
      [0, 500],
      [3, 19],
      [3, 4],
      [40, 41 + 160],
    ]) {
      const own = alphas.subarray(from, to);
      const found = call([picture], [], 0, ({ k, at }) => {
        k.startTransparent();
        k.countTransparent(at(picture) + from * 4, 1);
        k.countTransparent(at(picture) + (from + 1) * 4, to - from - 1);
        return [k.clearCount(), k.partCount()];
      });
      expect(found).toEqual([own.filter((a) => a === 0).length, own.filter((a) => a > 0 && a < 255).length]);
    }
  });
});

describe('the distance from a ground that drifts', () => {
  it.each(sizes)('is that from a line between grounds sixteen pixels apart, in %i × %i', (width, height) => {
    for (let round = 0; round < 6; round++) {
      const data = Uint8Array.from({ length: width * height * 4 }, () => whole(256));
      const surface = [0, 1, 2].map(() => [
        whole(256),
        whole(60) - 30,
        whole(60) - 30,
        whole(90) - 45,
        whole(40) - 20,
        whole(90) - 45,
      ]);
      const out = new Uint8Array(width * height);
      call([data], [out], 0, ({ k, at }) => {
        surface.forEach((c, channel) =>
          k.setGroundSurface({ channel, k0: c[0], k1: c[1], k2: c[2], k3: c[3], k4: c[4], k5: c[5] }),
        );
        k.setGroundFrame(3, 5, width + 9, height + 8);
        k.distanceFromSurface(at(data), width, height, at(out));
      });
      const groundAt = (x: number, y: number, c: number) => {
        const [u, v, k] = [(x + 3) / (width + 9) - 0.5, (y + 5) / (height + 8) - 0.5, surface[c]];
        return Math.min(255, Math.max(0, k[0] + k[1] * u + k[2] * v + k[3] * u * u + k[4] * u * v + k[5] * v * v));
      };
      for (const i of out.keys()) {
        const [x, y] = [i % width, Math.floor(i / width)];
        const [from, t] = [x - (x % 16), (x % 16) / 16];
        const most = Math.max(
          ...[0, 1, 2].map((c) =>
            Math.abs(data[i * 4 + c] - groundAt(from, y, c) - (groundAt(from + 16, y, c) - groundAt(from, y, c)) * t),
          ),
        );
        expect(out[i]).toBe(Math.floor(most + 0.5));
      }
    }
  });
});
