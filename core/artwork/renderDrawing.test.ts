import { describe, expect, it } from 'vitest';
import { exactCoverage } from '../../tests/support/exactCoverage';
import { seededRandom } from '../seededRandom';
import { type Path, PathBuilder } from '../vector/path';
import type { Drawing, Paint } from './drawing';
import { renderDrawing } from './renderDrawing';

type Ring = readonly (readonly [number, number])[];
const pathOf = (...rings: Ring[]): Path => {
  const to = new PathBuilder();
  for (const ring of rings) ring.forEach(([x, y], k) => (k === 0 ? to.moveTo(x, y) : to.lineTo(x, y)));
  return to.done();
};
const ink: Paint = { kind: 'colour', hex: '#1f5a45' };
const drawingOf = (path: Path, paint: Paint = ink, rule: 'nonzero' | 'evenodd' = 'nonzero'): Drawing => ({
  widthPx: 40,
  heightPx: 30,
  shapes: [{ id: 'a', path, rule, paint, opacity: 1 }],
});
const canvas = { width: 40, height: 30, matrix: [1, 0, 0, 1, 0, 0] as const };
const worst = (data: Uint8Array, truth: Float64Array) =>
  truth.reduce((most, share, i) => Math.max(most, Math.abs(data[i * 4 + 3] - share * 255)), 0);

describe('renderDrawing', () => {
  it('gives a straight edge at any angle the area that lies on its inner side', () => {
    for (let deg = 0; deg < 180; deg += 3.7) {
      const [dx, dy] = [Math.cos((deg * Math.PI) / 180) * 90, Math.sin((deg * Math.PI) / 180) * 90];
      const ring: Ring = [
        [20.3 - dx, 14.6 - dy],
        [20.3 + dx, 14.6 + dy],
        [20.3 + dx - dy, 14.6 + dy + dx],
        [20.3 - dx - dy, 14.6 - dy + dx],
      ];
      const { data } = renderDrawing(drawingOf(pathOf(ring)), canvas);
      expect(worst(data, exactCoverage([ring], 40, 30)), `${deg}°`).toBeLessThan(1.1);
    }
  });
  it.each(['nonzero', 'evenodd'] as const)(
    'fills outlines that cross themselves and each other by the %s rule',
    (rule) => {
      const random = seededRandom(rule === 'nonzero' ? 11 : 12);
      for (let n = 0; n < 12; n++) {
        const ring = (): Ring =>
          Array.from({ length: 3 + Math.floor(random() * 9) }, () => [random() * 52 - 6, random() * 42 - 6] as const);
        const rings = [ring(), ring(), ring()];
        const { data } = renderDrawing(drawingOf(pathOf(...rings), ink, rule), canvas);
        expect(worst(data, exactCoverage(rings, 40, 30, rule)), String(n)).toBeLessThan(1.6);
      }
    },
  );
  it('gives a disc its area and its rim the shares of a circle', () => {
    const r = 11.3;
    const k = r * 0.5522847498;
    const [cx, cy] = [19.2, 15.4];
    const disc = new PathBuilder()
      .moveTo(cx + r, cy)
      .curveTo(cx + r, cy + k, cx + k, cy + r, cx, cy + r)
      .curveTo(cx - k, cy + r, cx - r, cy + k, cx - r, cy)
      .curveTo(cx - r, cy - k, cx - k, cy - r, cx, cy - r)
      .curveTo(cx + k, cy - r, cx + r, cy - k, cx + r, cy)
      .done();
    const { data } = renderDrawing(drawingOf(disc), canvas);
    let area = 0;
    for (let i = 3; i < data.length; i += 4) area += data[i] / 255;
    // Four cubics are a circle to within 2.7e-4 of its radius.
    expect(area / (Math.PI * r * r)).toBeCloseTo(1, 3);
    const ring: Ring = Array.from(
      { length: 4000 },
      (_, n) => [cx + r * Math.cos((n * Math.PI) / 2000), cy + r * Math.sin((n * Math.PI) / 2000)] as const,
    );
    expect(worst(data, exactCoverage([ring], 40, 30))).toBeLessThan(2);
  });
  it('counts an overlap once, and leaves out what lies beside the picture', () => {
    const box = (x: number, y: number, w: number, h: number): Ring => [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ];
    const rings = [box(-20, 4.5, 30.25, 10), box(8.5, 8.25, 60, 9.5), box(3, -50, 4, 200)];
    const { data } = renderDrawing(drawingOf(pathOf(...rings)), canvas);
    expect(worst(data, exactCoverage(rings, 40, 30, 'nonzero', 64))).toBeLessThan(0.6);
  });
  it('keeps the exact colour in every visible pixel of one shape, however faint', () => {
    const { data } = renderDrawing(
      drawingOf(
        pathOf([
          [3.2, 4.1],
          [30.7, 9.9],
          [11.3, 25.6],
        ]),
      ),
      canvas,
    );
    for (let i = 0; i < data.length; i += 4)
      if (data[i + 3] > 0) expect([...data.subarray(i, i + 3)]).toEqual([31, 90, 69]);
  });
  it('lays later shapes over earlier ones by their opacity', () => {
    const full: Ring = [
      [0, 0],
      [40, 0],
      [40, 30],
      [0, 30],
    ];
    const drawing: Drawing = {
      ...drawingOf(pathOf(full), { kind: 'colour', hex: '#ff0000' }),
    };
    const over = { ...drawing.shapes[0], id: 'b', paint: { kind: 'colour', hex: '#0000ff' } as const, opacity: 0.5 };
    const { data } = renderDrawing({ ...drawing, shapes: [drawing.shapes[0], over] }, canvas);
    expect([...data.subarray(0, 4)]).toEqual([128, 0, 128, 255]);
  });
  it('paints gradients along a line and round a middle', () => {
    const full: Ring = [
      [0, 0],
      [40, 0],
      [40, 30],
      [0, 30],
    ];
    const stops = [
      { at: 0, hex: '#000000' },
      { at: 1, hex: '#c8c8c8' },
    ];
    const across = renderDrawing(
      drawingOf(pathOf(full), { kind: 'linear', geometry: { x1: 0, y1: 0, x2: 40, y2: 0 }, stops }),
      canvas,
    );
    expect(across.data[20 * 4]).toBe(Math.round((20.5 / 40) * 200));
    const round = renderDrawing(
      drawingOf(pathOf(full), { kind: 'radial', geometry: { cx: 0.5, cy: 0.5, r: 20 }, stops }),
      canvas,
    );
    expect([round.data[0], round.data[10 * 4], round.data[39 * 4]]).toEqual([0, 100, 200]);
  });
});
