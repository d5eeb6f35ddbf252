import { describe, expect, it } from 'vitest';
import { FIRST_AREA, MARK, OUTSIDE, SOFT } from '../kernels/interface';
import { fillFrom } from '../../tests/support/kernels';
import { disc, drawMark, onGround, pixel } from '../../tests/support/pictures';
import { chokeMatte, nearClear, softenMatte } from './adjustEdge';
import { dominantColours, matchColour } from './dominantColours';
import { findEdgeBand, openTable } from './edgeBand';
import { allMixed } from './rowSegments';
import { groundDistance } from './groundDistance';
import { groundAt, groundOfColour, measureGround } from './measureGround';
import { nearestSolid } from './nearestSolid';
import { nearestSoft } from './nearestSoft';
import { spreadGround } from './spreadGround';

const green = [31, 90, 69] as const;
const truth = drawMark(100, 100, disc(50, 50, 30), green);
const seen = onGround(truth, [255, 255, 255]);
const ground = measureGround(seen);
const distance = groundDistance(seen, ground);
const labels = spreadGround(distance, allMixed(100, 100), 100, 100, 10);
const band = findEdgeBand(
  { labels, isOpen: openTable(FIRST_AREA, []), segments: allMixed(100, 100), width: 100, height: 100 },
  5,
  4,
);

describe('groundDistance', () => {
  it('is the largest difference of any channel', () => {
    expect(distance[0]).toBe(0);
    expect(distance[50 * 100 + 50]).toBe(224);
    const yellow = onGround(drawMark(40, 40, disc(20, 20, 10), [255, 255, 215]), [255, 255, 255]);
    expect(groundDistance(yellow, measureGround(yellow))[20 * 40 + 20]).toBe(40);
  });
  it('follows a drifting ground', () => {
    const drifting = onGround(truth, [240, 240, 240]);
    for (let y = 0; y < 100; y++)
      for (let x = 0; x < 100; x++)
        for (let c = 0; c < 3; c++) drifting.data[(y * 100 + x) * 4 + c] -= Math.round(y * 0.3);
    const plane = groundDistance(drifting, measureGround(drifting));
    for (const i of [0, 99, 50 * 100 + 2, 99 * 100, 99 * 100 + 99]) expect(plane[i]).toBeLessThan(4);
  });
  it('a region of a picture sees the ground where it lies in the whole', () => {
    const g = { ...ground, surface: [0, 1, 2].map(() => Float64Array.of(200, 40, 0, 0, 0, 0)) };
    expect(groundAt({ ...g, frame: { x: 60, y: 0, width: 100, height: 100 } }, 20, 5, 40, 40)).toEqual(
      groundAt(g, 80, 5, 100, 100),
    );
  });
  it('a colour given by a person keeps what was measured when it is the same one', () => {
    expect(groundOfColour([254, 255, 255], ground)).toBe(ground);
    expect(groundOfColour([200, 10, 10], ground)).toMatchObject({ colour: [200, 10, 10], surface: null });
  });
});

describe('spreadGround and fillFrom', () => {
  it('reaches everything outside and nothing inside', () => {
    expect(labels[0]).toBe(OUTSIDE);
    expect(labels[50 * 100 + 50]).toBe(MARK);
    const outside = labels.reduce((n, l) => n + Number(l === OUTSIDE), 0);
    expect(outside).toBe([...distance].filter((d) => d <= 10).length);
  });
  it('counts what it fills and measures its box, also along a winding path', () => {
    const plane = new Uint8Array(9 * 7).fill(255);
    const path = [
      [1, 1],
      [2, 1],
      [3, 1],
      [3, 2],
      [3, 3],
      [2, 3],
      [1, 3],
      [1, 4],
      [1, 5],
      [6, 5],
    ];
    for (const [x, y] of path) plane[y * 9 + x] = 0;
    const own = new Int32Array(63);
    expect(fillFrom(1 * 9 + 1, 20, { distance: plane, labels: own, width: 9, height: 7, tolerance: 5 })).toEqual({
      filled: 9,
      box: [1, 1, 3, 5],
    });
    expect(own[5 * 9 + 6]).toBe(MARK);
  });
});

describe('findEdgeBand', () => {
  it('counts depth inwards and outwards from the edge, each ring of its own depth', () => {
    expect(band.rings).toHaveLength(5);
    expect(band.outer).toHaveLength(4);
    for (const [k, ring] of band.rings.entries()) for (const i of ring) expect(band.depth[i]).toBe(k + 1);
    for (const [k, ring] of band.outer.entries()) for (const i of ring) expect(band.depth[i]).toBe(-k - 1);
    expect(band.depth[50 * 100 + 50]).toBe(0);
    expect(band.depth[0]).toBe(0);
    // A ring of pixels round a disc of radius 30 holds about its circumference, once over.
    expect(band.rings[0].length).toBeGreaterThan(150);
    expect(band.rings[0].length).toBeLessThan(320);
  });
  it('treats open areas and soft parts as outside, solid areas as inside', () => {
    const table = openTable(FIRST_AREA + 2, [FIRST_AREA]);
    expect([table[MARK], table[OUTSIDE], table[SOFT], table[FIRST_AREA], table[FIRST_AREA + 1]]).toEqual([
      0, 1, 1, 1, 0,
    ]);
  });
});

describe('nearestSolid', () => {
  const nearest = nearestSolid(seen, band, distance, 6, 10);
  it('gives every pixel of the band a place of pure colour near by', () => {
    for (const ring of [...band.rings, ...band.outer]) {
      for (const i of ring) {
        const place = nearest[i] - 1;
        expect(place).toBeGreaterThanOrEqual(0);
        const [x, y] = [place & 0xffff, place >>> 16];
        expect(pixel(seen, x, y)).toEqual([...green, 255]);
        expect(Math.hypot(x - (i % 100), y - Math.floor(i / 100))).toBeLessThan(10);
      }
    }
  });
  it('names the mark’s colours, and finds the one a mixed colour comes from', () => {
    const palette = dominantColours(seen.data, 100, nearest, band.rings);
    expect([...palette[0]].map(Math.round)).toEqual([...green]);
    const half = green.map((v) => (v - 255) / 2);
    expect([...(matchColour(palette, [255, 255, 255], half[0], half[1], half[2]) ?? [])].map(Math.round)).toEqual([
      ...green,
    ]);
    expect(matchColour(palette, [255, 255, 255], -10, -120, -120), 'red lies on another line').toBeNull();
    expect(matchColour(palette, [255, 255, 255], 0, 0, 0)).toBeNull();
  });
});

it('nearestSoft finds the shadow beside an edge, and nothing where plain ground lies', () => {
  const own = labels.slice();
  for (let i = 0; i < own.length; i++) if (own[i] === OUTSIDE && i % 100 > 50) own[i] = SOFT;
  const found = nearestSoft(band, own, 100, 100);
  const right = band.rings[0].filter((i) => i % 100 > 60);
  const left = band.rings[0].filter((i) => i % 100 < 35);
  for (const i of right) expect(own[found[i] - 1]).toBe(SOFT);
  for (const i of left) expect(found[i]).toBe(0);
});

describe('chokeMatte and softenMatte', () => {
  const area = (r: { data: Uint8Array }) => r.data.reduce((s, v, i) => (i % 4 === 3 ? s + v / 255 : s), 0);
  const fresh = () => ({ ...truth, data: truth.data.slice() });
  it('moves the edge by whole and by broken pixels, in and out', () => {
    const radius = (r: { data: Uint8Array }) => Math.sqrt(area(r) / Math.PI);
    for (const px of [0.2, 0.5, 1, 2]) {
      const [inwards, outwards] = [fresh(), fresh()];
      chokeMatte(inwards, px);
      chokeMatte(outwards, -px);
      expect(radius(inwards)).toBeGreaterThan(30 - px * 1.35 - 0.05);
      expect(radius(inwards)).toBeLessThan(30 - px * 0.8 + 0.05);
      expect(radius(outwards)).toBeGreaterThan(30 + px * 0.8 - 0.05);
      expect(radius(outwards)).toBeLessThan(30 + px * 1.35 + 0.05);
    }
  });
  it('opens nothing inside a figure where its parts meet, and goes on along what fades', () => {
    const figure = fresh();
    const set = (x: number, y: number, alpha: number) => (figure.data[(y * 100 + x) * 4 + 3] = alpha);
    // A seam of pixels that are not quite solid, one of them clear, and a glow beyond the figure's own edge.
    for (let y = 40; y < 60; y++) set(50, y, 190);
    set(50, 50, 0);
    const seam = figure.data.slice();
    chokeMatte(figure, 2, nearClear(figure, 2, []));
    for (let y = 30; y < 70; y++)
      for (let x = 40; x < 60; x++) expect(figure.data[(y * 100 + x) * 4 + 3]).toBe(seam[(y * 100 + x) * 4 + 3]);
    expect(area(figure)).toBeLessThan(area(truth) - 250);
    const glow = [50 * 100 + 50];
    expect(nearClear(figure, 2, [glow])[glow[0]]).toBe(1);
    expect(nearClear(figure, 2, [])[glow[0]]).toBe(0);
  });
  it('gives pixels that a spread makes visible the mark’s colour', () => {
    const spread = fresh();
    chokeMatte(spread, -2);
    for (let i = 0; i < spread.data.length; i += 4)
      if (spread.data[i + 3] > 0) expect([...spread.data.subarray(i, i + 3)]).toEqual([...green]);
  });
  it('a softness of nothing changes nothing; a softness keeps the colour and the area', () => {
    const same = fresh();
    softenMatte(same, 0);
    expect(same.data).toEqual(truth.data);
    const soft = fresh();
    softenMatte(soft, 2.5);
    expect(area(soft) / area(truth)).toBeCloseTo(1, 2);
    for (let i = 0; i < soft.data.length; i += 4)
      if (soft.data[i + 3] > 0) expect([...soft.data.subarray(i, i + 3)]).toEqual([...green]);
  });
});
