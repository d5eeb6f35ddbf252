import { describe, expect, it } from 'vitest';
import { plainCapture, simulateCapture } from '../capture/simulateCapture';
import { createRaster } from '../raster/raster';
import { measureInk, paperAt, paperColour } from './inkColour';
import { findInkMarks } from './inkMarks';
import { findInkPieces, strokeWidth } from './inkPieces';
import { findMatteMarks } from './matteMarks';
import { studyLevel } from './cutLevel';
import { measurePaper, robust, shrink, threshold } from './paperLight';
import { findRuledLines } from './ruledLines';
import { archLine, blueInk, drawStrokes } from './testSheet';

const blank = (options: Partial<typeof plainCapture>, width = 500, height = 360) =>
  simulateCapture(createRaster(width, height), { ...plainCapture, ...options }).picture;
const written = drawStrokes(500, 360, [archLine(60, 180, 9, 42, 80)], blueInk, 6);

describe('shrink', () => {
  it('gives the mean of each block, and of what is left at the right and bottom', () => {
    const r = createRaster(5, 3);
    for (let i = 0; i < 15; i++) r.data.set([i * 10, 255 - i, i, 255], i * 4);
    const { width, height, planes } = shrink(r, 2);
    expect([width, height]).toEqual([3, 2]);
    expect(planes[0][0]).toBeCloseTo((0 + 10 + 50 + 60) / 4, 4);
    expect(planes[0][2]).toBeCloseTo((40 + 90) / 2, 4);
    expect(planes[1][5]).toBe(255 - 14);
    expect(planes[2][3]).toBeCloseTo((10 + 11) / 2, 4);
  });
  it('does not overflow at the largest factor', () => {
    const white = { width: 16, height: 16, data: new Uint8Array(1024).fill(255) };
    expect([...shrink(white, 16).planes.map((p) => p[0])]).toEqual([255, 255, 255]);
    expect(() => shrink(white, 17)).toThrow('at most 16');
  });
});

describe('robust', () => {
  it('is not moved by a tenth of wild values', () => {
    const values = Float32Array.from({ length: 1000 }, (_, k) => (k % 10 === 0 ? 500 : Math.sin(k) * 2));
    const { middle, deviation } = robust(values);
    expect(Math.abs(middle)).toBeLessThan(0.5);
    expect(deviation).toBeLessThan(3.5);
  });
  it('of nothing is nothing', () => expect(robust(new Float32Array())).toEqual({ middle: 0, deviation: 0 }));
});

describe('measurePaper', () => {
  const paperTruth = blank({ falloff: 0.4, shadow: 0.3, shadowEdgePx: 16, lightColour: [1, 0.95, 0.85] });
  const { picture } = simulateCapture(written, {
    ...plainCapture,
    falloff: 0.4,
    shadow: 0.3,
    shadowEdgePx: 16,
    lightColour: [1, 0.95, 0.85],
  });
  const paper = measurePaper(picture);
  it('knows the paper under the ink, in any light, to a few code values', () => {
    const out = new Float32Array(3);
    let worst = 0;
    for (let y = 20; y < 340; y += 9)
      for (let x = 20; x < 480; x += 9) {
        paperAt(paper, x, y, out);
        for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(out[c] - paperTruth.data[(y * 500 + x) * 4 + c]));
      }
    expect(worst).toBeLessThan(16);
  });
  it('marks where ink is and little else', () => {
    let [hit, missed, extra] = [0, 0, 0];
    for (let i = 0; i < paper.inked.length; i++) {
      const a = written.data[i * 4 + 3];
      if (a > 200 && paper.inked[i]) hit++;
      else if (a > 200) missed++;
      else if (a === 0 && paper.inked[i]) extra++;
    }
    expect(missed).toBeLessThan(hit * 0.01);
    expect(extra).toBeLessThan(paper.inked.length * 0.2);
  });
  it('tells the noise of bare paper', () => {
    expect(measurePaper(blank({})).noise).toBeLessThan(0.004);
    expect(measurePaper(blank({ noise: 8 })).noise).toBeGreaterThan(0.01);
  });
});

describe('measureInk', () => {
  it('finds the pen’s colour as a share of the paper’s light', () => {
    const picture = simulateCapture(written, plainCapture).picture;
    const ink = measureInk(picture, measurePaper(picture));
    ink?.through.forEach((t, c) => expect(Math.abs(t - blueInk[c] / plainCapture.paper[c])).toBeLessThan(0.06));
    // The weights turn full ink into 1.
    const full = ink?.weights.reduce((s, w, c) => s + w * (1 - (ink?.through[c] ?? 0)), 0);
    expect(full).toBeCloseTo(1, 5);
  });
  it('finds none on bare paper', () => {
    const picture = blank({ noise: 2 });
    expect(measureInk(picture, measurePaper(picture))).toBeNull();
  });
  it('takes white paper in a dim light for white, and coloured paper for its colour', () => {
    const dim = paperColour(measurePaper(blank({ paper: [150, 150, 148] })));
    expect(Math.min(...dim)).toBeGreaterThan(235);
    const brown = paperColour(measurePaper(blank({ paper: [205, 178, 138] })));
    [205, 178, 138].forEach((v, c) => expect(Math.abs(brown[c] - v)).toBeLessThan(4));
  });
});

describe('findRuledLines', () => {
  const find = (o: Partial<typeof plainCapture>) =>
    findRuledLines(measurePaper(simulateCapture(written, { ...plainCapture, blurPx: 0.5, ...o }).picture));
  it('finds ruled lines with their turn and number', () => {
    const [family, ...others] = find({ lines: 'ruled', lineSpacingPx: 30, lineAngleDeg: 2 });
    expect(others).toEqual([]);
    expect(Math.abs(family.angleDeg - 2)).toBeLessThan(0.3);
    expect(family.offsets.length).toBeGreaterThanOrEqual(9);
    const gaps = family.offsets.slice(1).map((o, k) => o - family.offsets[k]);
    for (const g of gaps) expect(Math.abs(g / 30 - Math.round(g / 30))).toBeLessThan(0.12);
  });
  it('finds both families of squared paper, a quarter turn apart', () => {
    const families = find({ lines: 'squared', lineSpacingPx: 26, lineAngleDeg: -1 });
    expect(families).toHaveLength(2);
    expect(Math.abs(families[1].angleDeg - families[0].angleDeg - 90)).toBeLessThan(0.5);
  });
  it('takes neither writing nor texture nor a shadow for lines', () => {
    expect(find({})).toEqual([]);
    expect(find({ texture: 8, noise: 4 })).toEqual([]);
    expect(find({ shadow: 0.4, shadowEdgePx: 6 })).toEqual([]);
  });
});

describe('findInkPieces', () => {
  const plane = (rows: string[]) => Float32Array.from(rows.join(''), (c) => Number(c) / 10);
  it('keeps what is weak where it hangs on something strong, and drops it where it stands alone', () => {
    const rows = ['300000000', '030000033', '009000000', '000300000'];
    const { pieces, labels } = findInkPieces(plane(rows), 9, 4, 0.25, 0.6);
    expect(pieces).toHaveLength(1);
    expect(pieces[0]).toMatchObject({
      areaPx: 4,
      peak: expect.closeTo(0.9, 5),
      top: { x: 2, y: 2 },
      box: { x: 0, y: 0, width: 4, height: 4 },
    });
    expect(labels[7 + 9]).toBe(0);
  });
  it('measures the mean width of strokes', () => {
    const values = new Float32Array(100 * 40);
    for (let y = 15; y < 23; y++) values.fill(1, y * 100 + 5, y * 100 + 95);
    const { labels, pieces } = findInkPieces(values, 100, 40, 0.5, 0.5);
    expect(strokeWidth(labels, pieces, 100, 40)).toBeGreaterThan(6);
    expect(strokeWidth(labels, pieces, 100, 40)).toBeLessThan(9);
  });
});

describe('studyLevel', () => {
  // A broad stroke at full ink, a light one at 0.3, and ten specks at 0.1.
  const values = new Float32Array(200 * 120);
  for (let y = 20; y < 28; y++) values.fill(1, y * 200 + 10, y * 200 + 190);
  for (let y = 60; y < 66; y++) values.fill(0.3, y * 200 + 10, y * 200 + 190);
  for (let k = 0; k < 10; k++) values[100 * 200 + 10 + k * 15] = 0.1;
  const study = studyLevel(values, 200, 120, 6);
  const at = (level: number) => study.levels.findIndex((t) => t >= level);
  it('counts stray pieces at low levels and none above them', () => {
    expect(study.strayPieces[at(0.05)]).toBe(10);
    expect(study.strayPieces[at(0.15)]).toBe(0);
  });
  it('tells the share of ink that a high level loses', () => {
    expect(study.inkLost[at(0.2)]).toBe(0);
    expect(study.inkLost[at(0.5)]).toBeGreaterThan(0.3);
  });
  it('has a steady range between specks and the light stroke, and starts in it', () => {
    expect(study.steadyFrom).toBeGreaterThan(0.09);
    expect(study.steadyTo).toBeLessThan(0.32);
    expect(study.start).toBeGreaterThanOrEqual(study.steadyFrom);
    expect(study.start).toBeLessThanOrEqual(study.steadyTo);
  });
});

describe('findInkMarks', () => {
  const marksOf = (strokes: Parameters<typeof drawStrokes>[2], pen = 6) => {
    const r = drawStrokes(700, 500, strokes, blueInk, pen);
    const { labels, pieces } = findInkPieces(
      Float32Array.from({ length: 700 * 500 }, (_, i) => r.data[i * 4 + 3] / 255),
      700,
      500,
      0.3,
      0.5,
    );
    return findInkMarks(labels, pieces, 700, 500);
  };
  it('counts a dot, a bar and an underline to the writing they belong to', () => {
    const marks = marksOf([
      archLine(80, 200, 8, 45, 70),
      [
        [300, 105],
        [301, 105],
      ],
      [
        [160, 120],
        [240, 116],
      ],
      [
        [120, 240],
        [430, 236],
      ],
    ]);
    expect(marks).toHaveLength(1);
    expect(marks[0].labels).toHaveLength(4);
  });
  it('keeps neighbours apart and numbers them as they are read', () => {
    const marks = marksOf([archLine(380, 120, 5, 45, 60), archLine(40, 130, 5, 45, 60), archLine(60, 380, 5, 45, 60)]);
    expect(marks.map((m) => m.number)).toEqual([1, 2, 3]);
    expect(marks[0].box.x).toBeLessThan(marks[1].box.x);
    expect(marks[2].box.y).toBeGreaterThan(200);
  });
  it('gives a box along the writing that is lower than the upright one', () => {
    const [mark] = marksOf([archLine(80, 300, 9, 50, 60, -12)]);
    expect(Math.abs(mark.angleDeg + 12)).toBeLessThan(1.6);
    expect(mark.region.height).toBeLessThan(mark.box.height * 0.75);
    expect(mark.region.width).toBeGreaterThan(mark.box.width * 0.97);
    const middle = (b: typeof mark.box) => [b.x + b.width / 2, b.y + b.height / 2];
    middle(mark.region).forEach((v, k) => expect(Math.abs(v - middle(mark.box)[k])).toBeLessThan(30));
  });
  it('finds nothing in nothing', () => expect(findInkMarks(new Int32Array(100), [], 10, 10)).toEqual([]));
});

describe('findMatteMarks', () => {
  it('finds marks that stand apart on one sheet, and takes the parts of one mark for one', () => {
    const two = drawStrokes(700, 300, [archLine(40, 160, 5, 45, 90), archLine(430, 160, 5, 45, 90)], blueInk, 12);
    expect(findMatteMarks(two)).toHaveLength(2);
    const one = drawStrokes(
      700,
      300,
      [
        archLine(40, 160, 12, 45, 90),
        [
          [60, 230],
          [500, 230],
        ],
        [
          [640, 40],
          [641, 40],
        ],
      ],
      blueInk,
      12,
    );
    expect(findMatteMarks(one)).toEqual([]);
  });
});

it('threshold is strict', () => expect([...threshold(Float32Array.of(0.2, 0.5, 0.51), 0.5)]).toEqual([0, 0, 1]));
