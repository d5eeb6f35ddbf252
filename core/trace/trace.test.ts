import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, ring } from '../../tests/support/pictures';
import { renderDrawing } from '../artwork/renderDrawing';
import { type Plane, type Raster, matteOf } from '../raster/raster';
import { type Path, boundsOfPath, ringsOf } from '../vector/path';
import { measureDeviation } from './deviation';
import { grainOf } from './grainOf';
import { createPointTree } from './pointTree';
import { measureStrokes } from './strokeWidths';
import { plainTrace, traceCoverage } from './traceCoverage';
import { traceMaster } from './traceMaster';
import { traceNumbers } from './traceFacts';

const poly = (...points: number[]): Path => ({ verbs: `M${'L'.repeat(points.length / 2 - 1)}Z`, coords: points });
function draw(path: Path, width = 120, height = 100): Plane {
  const shape = { id: '', path, rule: 'nonzero', paint: { kind: 'colour', hex: '#000000' }, opacity: 1 } as const;
  return matteOf(
    renderDrawing({ widthPx: width, heightPx: height, shapes: [shape] }, { width, height, matrix: [1, 0, 0, 1, 0, 0] }),
  );
}
const trace = (path: Path) => traceCoverage(draw(path), plainTrace);
/** Twice the area, by chords; curves count as their ends. */
const area2 = (path: Path) => {
  const ends: [number, number][] = [];
  for (let v = 0, k = 0; v < path.verbs.length; v++) {
    const n = path.verbs[v] === 'C' ? 6 : path.verbs[v] === 'Z' ? 0 : 2;
    k += n;
    if (n > 0) ends.push([path.coords[k - 2], path.coords[k - 1]]);
  }
  return ends.reduce((sum, [x, y], k) => {
    const [u, v] = ends[(k + 1) % ends.length];
    return sum + x * v - u * y;
  }, 0);
};

describe('an outline', () => {
  it.each([
    ['a box on half pixels', 0.05, poly(20.5, 15.5, 90.5, 15.5, 90.5, 80.5, 20.5, 80.5)],
    ['a leaning triangle', 0.15, poly(15.2, 20.7, 104.6, 38.1, 48.3, 91.4)],
    ['a sharp wedge', 0.4, poly(10.3, 50.2, 110.4, 28.6, 108.1, 86.9)],
  ])('of %s has its corners, and nothing but lines', (_, near, path) => {
    const traced = trace(path);
    expect(traced.path.verbs).toMatch(/^ML+Z$/);
    expect(traced.nodes).toBeLessThanOrEqual(path.coords.length / 2 + 1);
    const corners = (p: Path) =>
      Array.from({ length: p.coords.length / 2 }, (__, k) => p.coords.slice(2 * k, 2 * k + 2));
    for (const [x, y] of corners(path)) {
      const nearest = Math.min(...corners(traced.path).map(([u, v]) => Math.hypot(u - x, v - y)));
      expect(nearest).toBeLessThan(near);
    }
  });
  it('of a disc is a few curves near to what was measured', () => {
    const plane = matteOf(drawMark(120, 100, disc(60.3, 50.2, 36.7), [0, 0, 0]));
    const { path, nodes, rings } = traceCoverage(plane, plainTrace);
    expect(path.verbs).toMatch(/^MC+Z$/);
    expect(nodes).toBeLessThanOrEqual(6);
    for (let k = 0; k < rings[0].xs.length; k++) {
      expect(Math.abs(Math.hypot(rings[0].xs[k] - 60.3, rings[0].ys[k] - 50.2) - 36.7)).toBeLessThan(0.08);
    }
    expect(measureDeviation(path, rings).largestPx).toBeLessThan(0.2);
  });
  it('runs clockwise on the screen outside and the other way round a hole', () => {
    const { path } = traceCoverage(matteOf(drawMark(120, 100, ring(60, 50, 40, 20), [0, 0, 0])), plainTrace);
    const [outer, hole] = ringsOf(path).map(area2);
    expect([outer > 0, hole < 0]).toEqual([true, true]);
  });
  it('of a stroke thinner than a pixel is as wide as the stroke', () => {
    const { path } = trace(poly(10.2, 30.4, 110.2, 34.1, 110.2, 34.9, 10.2, 31.2));
    const box = boundsOfPath(path);
    expect(box?.width).toBeGreaterThan(97);
    expect(Math.abs(area2(path) / 2 / 100 - 0.8)).toBeLessThan(0.08);
  });
  it('leaves out what is smaller than asked for', () => {
    const plane = matteOf(drawMark(120, 100, either(disc(50, 50, 30), disc(100, 12, 2)), [0, 0, 0]));
    const count = (smallestPx: number) => traceCoverage(plane, { ...plainTrace, smallestPx }).rings.length;
    expect([count(0), count(40)]).toEqual([2, 1]);
  });
  it('comes out the same when the picture is mirrored', () => {
    const shape = [12.3, 20.2, 70.4, 12.7, 100.2, 60.8, 40.6, 88.3];
    const mirrored = shape.map((v, k) => (k % 2 === 0 ? 120 - v : v));
    const corners = (p: Path) => ringsOf(p)[0].coords.filter((__, k) => k % 2 === 0);
    const xs = corners(trace(poly(...shape)).path).sort((a, b) => a - b);
    const back = corners(trace(poly(...mirrored)).path).map((x) => 120 - x);
    back.sort((a, b) => a - b).forEach((x, k) => expect(x).toBeCloseTo(xs[k], 1));
  });
});

describe('edges drawn by a few samples of every pixel', () => {
  /** Coverage by four times four samples, as many programs draw. */
  const sampled = (isIn: (x: number, y: number) => boolean, width: number, height: number): Plane => ({
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, p) => {
      let count = 0;
      for (let s = 0; s < 16; s++) {
        const [x, y] = [(p % width) + (s % 4) / 4 + 0.125, Math.floor(p / width) + (s >> 2) / 4 + 0.125];
        count += isIn(x, y) ? 1 : 0;
      }
      return Math.round((count / 16) * 255);
    }),
  });
  const wedge = (x: number, y: number) =>
    y > 20.3 + x * 0.12 && y < 180.6 - x * 0.21 && x > 10.4 + y * 0.15 && x < 290.2 - y * 0.3;
  it('are known, and do not break a long line up', () => {
    const plane = sampled(wedge, 300, 200);
    expect(grainOf(plane)).toBe(0.25);
    const { path, nodes } = traceCoverage(plane, plainTrace);
    expect([nodes, path.verbs]).toEqual([4, 'MLLLZ']);
  });
  it('are not taken for such where coverage is finer', () => {
    expect(grainOf(matteOf(drawMark(300, 200, disc(150, 100, 80), [0, 0, 0])))).toBe(0);
    expect(grainOf(draw(poly(20.3, 15.1, 90.6, 22.7, 84.2, 80.9)))).toBe(0);
  });
});

describe('flat colours', () => {
  /** A green plate with a red disc on it, and a blue bar that leaves the plate. */
  function plate(noise = 0): Raster {
    const paint = (path: Path, hex: string) =>
      ({ id: '', path, rule: 'nonzero', paint: { kind: 'colour', hex }, opacity: 1 }) as const;
    const circle = traceCoverage(matteOf(drawMark(120, 100, disc(50, 48, 20), [0, 0, 0])), plainTrace).path;
    const picture = renderDrawing(
      {
        widthPx: 120,
        heightPx: 100,
        shapes: [
          paint(poly(10.4, 12.3, 90.2, 12.3, 90.2, 85.6, 10.4, 85.6), '#1f5a45'),
          paint(circle, '#b5322b'),
          paint(poly(60.1, 60.2, 112.7, 66.1, 111.2, 76.4, 58.6, 70.5), '#2050a0'),
        ],
      },
      { width: 120, height: 100, matrix: [1, 0, 0, 1, 0, 0] },
    );
    let state = 7;
    for (let i = 0; i < picture.data.length; i++) {
      if (i % 4 === 3 || noise === 0) continue;
      state = (state * 1103515245 + 12345) & 0x7fffffff;
      picture.data[i] = Math.max(
        0,
        Math.min(255, picture.data[i] + Math.round(((state >> 8) % 1000) / 500 - 1) * noise),
      );
    }
    return picture;
  }
  const all = { ...plainTrace, colours: null };
  it('are found from flat insides, none made up of edges, the largest lowest', () => {
    expect(traceMaster(plate(), all).layers.map((l) => l.hex)).toEqual(['#1f5a45', '#b5322b', '#2050a0']);
  });
  it('are the same few in a noisy picture', () => {
    const hexes = traceMaster(plate(2), all).layers.map((l) => l.hex.slice(1, 6));
    expect(hexes).toHaveLength(3);
  });
  it('drawn again give the picture, without seams between them or rims beyond the outline', () => {
    const picture = plate();
    const { drawing } = traceMaster(picture, all);
    const back = renderDrawing(drawing, { width: 120, height: 100, matrix: [1, 0, 0, 1, 0, 0] });
    let [wrong, beyond] = [0, 0];
    for (let i = 0; i < picture.data.length; i += 4) {
      const off = Math.max(...[0, 1, 2, 3].map((c) => Math.abs(picture.data[i + c] - back.data[i + c])));
      if (picture.data[i + 3] > 200 && off > 40) wrong++;
      if (picture.data[i + 3] === 0 && back.data[i + 3] > 30) beyond++;
    }
    // The tip of a corner may reach a pixel that was taken for clear.
    expect([wrong <= 6, beyond <= 1]).toEqual([true, true]);
  });
  it('a smooth gradient is one gradient, and a flat part of one of its colours stays flat', () => {
    const gradient = {
      kind: 'linear' as const,
      geometry: { x1: 0, y1: 10, x2: 0, y2: 90 },
      stops: [
        { at: 0, hex: '#f5c144' },
        { at: 1, hex: '#da4b2c' },
      ],
    };
    const shapes = [
      { id: '', path: poly(10, 10, 80, 10, 80, 90, 10, 90), rule: 'nonzero' as const, paint: gradient, opacity: 1 },
      {
        id: '',
        path: poly(90, 20, 115, 20, 115, 80, 90, 80),
        rule: 'nonzero' as const,
        paint: { kind: 'colour' as const, hex: '#e88638' },
        opacity: 1,
      },
    ];
    const view = { width: 120, height: 100, matrix: [1, 0, 0, 1, 0, 0] as const };
    const picture = renderDrawing({ widthPx: 120, heightPx: 100, shapes }, view);
    const { layers, drawing } = traceMaster(picture, all);
    const found = layers.map((l) => l.paint).find((p) => p.kind === 'linear');
    if (found?.kind !== 'linear') throw new Error(JSON.stringify(layers.map((l) => [l.paint, l.areaPx])));
    expect(Math.abs(found.geometry.x1 - found.geometry.x2)).toBeLessThan(1);
    expect(layers.filter((l) => l.paint.kind === 'colour')).toHaveLength(1);
    const back = renderDrawing(drawing, view);
    let worst = 0;
    for (let y = 16; y < 84; y++)
      for (const x of [30, 60, 100])
        for (let c = 0; c < 3; c++)
          worst = Math.max(worst, Math.abs(back.data[(y * 120 + x) * 4 + c] - picture.data[(y * 120 + x) * 4 + c]));
    expect(worst).toBeLessThan(9);
  });
  it('what lies on a gradient keeps its own edge', () => {
    const stops = [
      { at: 0, hex: '#f5c144' },
      { at: 1, hex: '#da4b2c' },
    ];
    const geometry = { x1: 0, y1: 5, x2: 0, y2: 95 };
    const bar = poly(40, 20, 50, 20, 50, 80, 40, 80);
    const shapes = [
      {
        id: '',
        path: poly(5, 5, 115, 5, 115, 95, 5, 95),
        rule: 'nonzero' as const,
        paint: { kind: 'linear' as const, geometry, stops },
        opacity: 1,
      },
      { id: '', path: bar, rule: 'nonzero' as const, paint: { kind: 'colour' as const, hex: '#1c2a4b' }, opacity: 1 },
    ];
    const view = { width: 120, height: 100, matrix: [1, 0, 0, 1, 0, 0] as const };
    const picture = renderDrawing({ widthPx: 120, heightPx: 100, shapes }, view);
    const { layers } = traceMaster(picture, all);
    const dark = layers.find((l) => l.hex === '#1c2a4b');
    const box = dark && boundsOfPath(dark.traced.path);
    expect([box?.x, box?.width].map((v) => Math.round(v ?? 0))).toEqual([40, 10]);
    expect(layers[0].paint.kind).toBe('linear');
  });
  it('are no more than asked for', () => {
    expect(traceMaster(plate(), { ...plainTrace, colours: 2 }).layers).toHaveLength(2);
    expect(traceMaster(plate(), { ...plainTrace, colours: 1 }).layers).toHaveLength(1);
  });
  it('are told with their numbers', () => {
    const picture = plate();
    const numbers = traceNumbers(picture, traceMaster(picture, all));
    expect(numbers.pieces).toBe(3);
    expect(numbers.meanDeviationPx).toBeLessThan(0.06);
    expect(numbers.nodes).toBeLessThan(46);
  });
});

describe('stroke widths', () => {
  it('are those of bars of known width', () => {
    const bars = [2.4, 6.3, 11].map((w, k) =>
      poly(10.3, 12.2 + k * 28, 110.1, 12.2 + k * 28, 110.1, 12.2 + k * 28 + w, 10.3, 12.2 + k * 28 + w),
    );
    const path = { verbs: bars.map((b) => b.verbs).join(''), coords: bars.flatMap((b) => b.coords) };
    const found = measureStrokes(path);
    expect(found?.thinnestPx).toBeCloseTo(2.4, 1);
    expect(found?.medianPx).toBeCloseTo(6.3, 1);
    expect(found?.place.y).toBeCloseTo(13.4, 0);
  });
  it('of a traced thin ring are within three hundredths', () => {
    const { path } = traceCoverage(matteOf(drawMark(200, 180, ring(100, 90, 70, 66.5), [0, 0, 0])), plainTrace);
    expect(Math.abs((measureStrokes(path)?.thinnestPx ?? 0) / 3.5 - 1)).toBeLessThan(0.03);
  });
  it.each([
    ['a square', poly(10, 10, 110, 10, 110, 110, 10, 110), 100],
    ['a triangle', poly(60, 10, 110, 96.6, 10, 96.6), 57.7],
    ['a bar', poly(10, 10, 50, 10, 50, 210, 10, 210), 40],
  ])('of %s are those of its middle, whatever its corners', (_, path, width) => {
    const found = measureStrokes(path);
    expect(Math.abs((found?.thinnestPx ?? 0) / width - 1)).toBeLessThan(0.03);
    expect(Math.abs((found?.medianPx ?? 0) / width - 1)).toBeLessThan(0.03);
  });
  it('are unknown where nothing is', () => expect(measureStrokes({ verbs: '', coords: [] })).toBeNull());
});

it('the nearest point is the one that looking at all of them finds', () => {
  let state = 3;
  const next = () => (state = (state * 48271) % 2147483647) / 2147483647;
  const [xs, ys] = [0, 1].map(() => Float64Array.from({ length: 300 }, () => next() * 100));
  const tree = createPointTree(xs, ys);
  for (let k = 0; k < 100; k++) {
    const [x, y] = [next() * 120 - 10, next() * 120 - 10];
    const least = Math.min(...Array.from(xs, (v, i) => Math.hypot(v - x, ys[i] - y)));
    const near = tree.nearest(x, y);
    expect(near?.distance).toBeCloseTo(least, 9);
    expect([xs[near?.index ?? 0], ys[near?.index ?? 0]]).toEqual([near?.x, near?.y]);
    // Only what is nearer than asked for.
    expect([tree.nearest(x, y, least * 1.001)?.index, tree.nearest(x, y, least * 0.999)]).toEqual([near?.index, null]);
  }
});
