import { describe, expect, it } from 'vitest';
import { FIRST_AREA, MARK, OUTSIDE } from '../kernels/interface';
import { fillFrom, nearestFlat } from '../../tests/support/kernels';
import { disc, drawMark, pixel } from '../../tests/support/pictures';
import { normalFrom, seededRandom } from '../seededRandom';
import { chokeMatte, softenMatte } from './adjustEdge';
import { dominantColours, matchColour, strongestColours } from './dominantColours';
import { findEdgeBand, openTable } from './edgeBand';
import { allMixed } from './rowSegments';
import { flatColours } from './flatColours';
import { nearestSolid } from './nearestSolid';
import { spreadGround } from './spreadGround';

const [width, height] = [60, 40];
const onWhite = { colour: [255, 255, 255], noise: 0, drift: 0, share: 1, surface: null } as const;

/** Two painted halves, left and right of column 30, with the noise given. */
function twoColours(noise: number): Uint8Array {
  const normal = normalFrom(seededRandom(8));
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    const colour = i % width < 30 ? [30, 90, 70] : [200, 50, 40];
    data.set([...colour.map((v) => Math.min(255, Math.max(0, Math.round(v + normal() * noise)))), 255], i * 4);
  }
  return data;
}
const noEdges = { depth: new Int8Array(width * height), rings: [], outer: [] };

describe('flatColours', () => {
  it('finds the colours that a mark is painted in, through the noise of compression', () => {
    const data = twoColours(3);
    const found = flatColours(data, data, noEdges, width * height, 10);
    expect(found).toHaveLength(2);
    const truth = [
      [30, 90, 70],
      [200, 50, 40],
    ];
    for (const f of found)
      expect(Math.min(...truth.map((t) => Math.max(...t.map((v, c) => Math.abs(v - f[c])))))).toBeLessThan(1.5);
  });
  it('finds none in a gradient', () => {
    const data = new Uint8Array(width * height * 4);
    for (let i = 0; i < width * height; i++) data.set([(i % width) * 4, 255 - (i % width) * 4, 120, 255], i * 4);
    expect(flatColours(data, data, noEdges, width * height, 4)).toEqual([]);
  });
  it('looks only at the mark, and not near its edges', () => {
    const band = { ...noEdges, depth: Int8Array.from({ length: width * height }, (_, i) => (i % width < 30 ? 1 : 0)) };
    const data = twoColours(0);
    expect(flatColours(data, data, band, width * height, 4).map((f) => [...f])).toEqual([[200, 50, 40]]);
    const out = data.slice();
    for (let i = 0; i < width * height; i++) if (i % width >= 30) out[i * 4 + 3] = 0;
    expect(
      flatColours(data, out, noEdges, width * height, 4).map((f) => [...f]),
      'what is cut away is not the mark',
    ).toEqual([[30, 90, 70]]);
  });
});

describe('nearestFlat', () => {
  const palette = [Float64Array.of(30, 90, 70), Float64Array.of(200, 50, 40)];
  it('takes a soiled colour back to the one it came from', () =>
    expect(nearestFlat(palette, 38, 96, 74, 12)).toBe(palette[0]));
  it('leaves what is too far in lightness alone', () => {
    expect(nearestFlat(palette, 70, 130, 110, 12)).toBeNull();
    expect(nearestFlat(palette, 120, 70, 55, 12)).toBeNull();
  });
  it('lets hue stray further than lightness', () =>
    expect(nearestFlat(palette, 30 + 20, 90 - 9, 70 + 8, 12)).toBe(palette[0]));
});

describe('matchColour', () => {
  const white = [255, 255, 255];
  const palette = [Float64Array.of(30, 90, 70), Float64Array.of(200, 50, 40)];
  const mixed = (colour: Float64Array, a: number) =>
    [0, 1, 2].map((c) => (colour[c] - white[c]) * a) as [number, number, number];
  it('knows the colour of which a pixel is a mixture with the ground', () => {
    for (const colour of palette)
      for (const a of [0.15, 0.5, 0.95]) expect(matchColour(palette, white, ...mixed(colour, a))).toBe(colour);
  });
  it('knows none for a colour off every line, or stronger than all', () => {
    expect(matchColour(palette, white, -20, -40, -180)).toBeNull();
    expect(matchColour(palette, white, ...mixed(palette[0], 1.3))).toBeNull();
    expect(matchColour(palette, white, 0, 0, 0)).toBeNull();
  });
});

describe('strongestColours', () => {
  it('reads the colour of thin strokes off their least mixed pixels, one for each direction', () => {
    const data = new Uint8Array(400 * 4).fill(255);
    const at = Int32Array.from({ length: 400 }, (_, i) => i);
    for (const i of at) {
      const colour = i % 2 ? [20, 30, 160] : [190, 20, 30];
      const a = ((i >> 1) % 20) / 19;
      for (let c = 0; c < 3; c++) data[i * 4 + c] = Math.round(255 + (colour[c] - 255) * a);
    }
    const found = strongestColours({ width: 20, height: 20, data }, onWhite, at);
    for (const colour of [
      [20, 30, 160],
      [190, 20, 30],
    ])
      expect(found.some((f) => colour.every((v, c) => Math.abs(f.colour[c] - v) < 14))).toBe(true);
  });
});

describe('strongestColours beside the plainest way', () => {
  const random = seededRandom(31);
  const whole = (below: number) => Math.floor(random() * below);
  it.each([
    [40, 90],
    [300, 5000],
    [700, 14_000],
  ])('from %i pixels, %i of them named', (pixels, named) => {
    for (let round = 0; round < 6; round++) {
      const colours = Array.from({ length: 20 }, () => [whole(256), whole(256), whole(256)]);
      const data = new Uint8Array(pixels * 4).fill(255);
      for (let i = 0; i < pixels; i++) {
        const [a, colour] = [whole(20) / 19, colours[Math.min(whole(20), whole(20))]];
        for (let c = 0; c < 3; c++) data[i * 4 + c] = Math.round(255 + (colour[c] - 255) * a);
      }
      const at = Int32Array.from({ length: named }, () => whole(pixels));
      const found = strongestColours({ width: pixels / 10, height: 10, data }, onWhite, at);
      const bins = new Map<number, { i: number; length: number }[]>();
      const step = Math.max(1, Math.floor(named / 6000));
      for (let k = 0; k < named; k += step) {
        const v = [0, 1, 2].map((c) => data[at[k] * 4 + c] - 255);
        const length = Math.hypot(...v);
        if (length < 12) continue;
        const key = v.reduce((n, d) => n * 32 + Math.round((d / length) * 9) + 9, 0);
        bins.set(key, [...(bins.get(key) ?? []), { i: at[k], length }]);
      }
      const expected = [...bins.values()]
        .filter((b) => b.length >= 8)
        .sort((a, b) => b.length - a.length)
        .slice(0, 12)
        .map((bin) => {
          const top = bin
            .sort((a, b) => b.length - a.length || a.i - b.i)
            .slice(0, Math.max(1, Math.ceil(bin.length / 10)));
          return {
            colour: [0, 1, 2].map((c) =>
              expect.closeTo(top.reduce((sum, t) => sum + data[t.i * 4 + c], 0) / top.length, 9),
            ),
            length: top[0].length,
          };
        })
        .sort((a, b) => b.length - a.length);
      expect(found.map((f) => [...f.colour])).toEqual(expected.map((e) => e.colour));
      for (const { from } of found) expect(from).toEqual([255, 255, 255]);
    }
  });
});

describe('spreadGround', () => {
  const plane = (rows: string[]) => Uint8Array.from(rows.join(''), (c) => (c === '#' ? 200 : 0));
  const rows = ['.......', '.#####.', '.#...#.', '.#...#.', '.#####.', '.......'];
  it('reaches what is joined to the border and stops at the mark', () => {
    const labels = spreadGround(plane(rows), allMixed(7, 6), 7, 6, 10);
    expect(labels[0]).toBe(OUTSIDE);
    expect(labels[8]).toBe(MARK);
    expect(labels[2 * 7 + 3], 'inside stays for later').toBe(MARK);
  });
  it('fills one enclosed area with its label and tells its box and size', () => {
    const distance = plane(rows);
    const labels = spreadGround(distance, allMixed(7, 6), 7, 6, 10);
    expect(fillFrom(2 * 7 + 2, FIRST_AREA, { distance, labels, width: 7, height: 6, tolerance: 10 })).toEqual({
      filled: 6,
      box: [2, 2, 4, 3],
    });
    expect([...labels].filter((l) => l === FIRST_AREA)).toHaveLength(6);
  });
  it('does not slip through a corner', () => {
    const labels = spreadGround(plane(['#.#', '.##', '###']), allMixed(3, 3), 3, 3, 10);
    expect([labels[1], labels[3]]).toEqual([OUTSIDE, OUTSIDE]);
    const closed = spreadGround(plane(['#####', '#.###', '##.##', '#####', '.####']), allMixed(5, 5), 5, 5, 10);
    expect([closed[6], closed[12]]).toEqual([MARK, MARK]);
  });
});

describe('edge band and nearest solid', () => {
  const mark = drawMark(width, height, disc(30, 20, 14), [30, 90, 70]);
  const labels = Int32Array.from({ length: width * height }, (_, i) => (mark.data[i * 4 + 3] > 127 ? MARK : OUTSIDE));
  const band = findEdgeBand(
    { labels, isOpen: openTable(FIRST_AREA, []), segments: allMixed(width, height), width, height },
    4,
    3,
  );
  it('counts depth from the edge, inwards above 0 and outwards below', () => {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const d = band.depth[y * width + x];
        const r = 14 - Math.hypot(x + 0.5 - 30, y + 0.5 - 20);
        if (d > 0) expect(r).toBeGreaterThan(-1);
        if (d < 0) expect(r).toBeLessThan(1);
        if (Math.abs(d) > 1) expect(Math.abs(Math.abs(r) - Math.abs(d))).toBeLessThan(2.2);
      }
  });
  it('lists every pixel of each ring once', () => {
    const all = [...band.rings, ...band.outer].flatMap((r) => [...r]);
    expect(new Set(all).size).toBe(all.length);
    expect(all.length).toBe(band.depth.reduce((n, d) => n + (d === 0 ? 0 : 1), 0));
  });
  it('hands every pixel of the band a solid place inside, close by', () => {
    const picture = {
      ...mark,
      data: mark.data.map((v, i) => (i % 4 === 3 ? 255 : mark.data[i - (i % 4) + 3] > 127 ? v : 255)),
    };
    const distance = Uint8Array.from(labels, (l) => (l === MARK ? 200 : 0));
    const nearest = nearestSolid(picture, band, distance, 6, 10);
    for (const ring of [...band.rings, ...band.outer])
      for (const i of ring) {
        const place = nearest[i] - 1;
        expect(place).toBeGreaterThanOrEqual(0);
        const [x, y] = [place & 0xffff, place >>> 16];
        expect(Math.hypot(x + 0.5 - 30, y + 0.5 - 20)).toBeLessThan(13);
        expect(Math.hypot(x - (i % width), y - Math.floor(i / width))).toBeLessThan(9);
      }
    const [first] = dominantColours(picture.data, width, nearest, band.rings);
    expect([...first]).toEqual([30, 90, 70]);
  });
});

describe('moving and softening an edge', () => {
  const area = (d: Uint8Array) => d.reduce((s, v, i) => (i % 4 === 3 ? s + v / 255 : s), 0);
  const fresh = () => drawMark(80, 80, disc(40, 40, 20), [200, 60, 30]);
  it.each([0.3, 1, 2.4, -0.3, -1.5])('by %d px changes the area by the rim’s length times that', (px) => {
    const r = fresh();
    const before = area(r.data);
    chokeMatte(r, px);
    const change = (before - area(r.data)) / (2 * Math.PI * 20);
    expect(change / px).toBeGreaterThan(0.7);
    expect(change / px).toBeLessThan(1.35);
  });
  it('gives pixels that become visible the mark’s own colour', () => {
    const r = fresh();
    chokeMatte(r, -3);
    for (let i = 0; i < r.data.length; i += 4)
      if (r.data[i + 3] > 0) expect([...r.data.subarray(i, i + 3)]).toEqual([200, 60, 30]);
  });
  it('softening keeps the area and the colour, and nothing at all for 0', () => {
    const r = fresh();
    const before = area(r.data);
    softenMatte(r, 0);
    expect(r.data).toEqual(fresh().data);
    softenMatte(r, 3);
    expect(area(r.data) / before).toBeCloseTo(1, 1);
    expect(pixel(r, 40, 40)).toEqual([200, 60, 30, 255]);
    expect(pixel(r, 61, 40)[3]).toBeGreaterThan(20);
    expect(pixel(r, 61, 40).slice(0, 3)).toEqual([200, 60, 30]);
  });
});
