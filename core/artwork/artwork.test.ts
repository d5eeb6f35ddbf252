import { describe, expect, it } from 'vitest';
import { initialValues } from '../params';
import { fromMatrix, project } from '../geometry/projective';
import { defineRegistry } from '../registry';
import { crop } from '../stages/crop';
import { cutOut } from '../stages/cutOut';
import { initialRecipe } from '../recipe/recipe';
import { makeVariant, runStages } from '../recipe/runRecipe';
import { type Path, PathBuilder, boundsOfPath, printPath } from '../vector/path';
import { clipPath, insideOf } from '../vector/clipPath';
import { projectPath } from '../vector/projectPath';
import { type Artwork, artworkOfDrawing } from './artwork';
import { type Drawing, boundsOfDrawing } from './drawing';
import { readDrawing, writeDrawing } from './readDrawing';
import { plainContext } from '../../tests/support/stageContext';

const K = 0.5522847498;
const disc = (cx: number, cy: number, r: number): Path =>
  new PathBuilder()
    .moveTo(cx + r, cy)
    .curveTo(cx + r, cy + K * r, cx + K * r, cy + r, cx, cy + r)
    .curveTo(cx - K * r, cy + r, cx - r, cy + K * r, cx - r, cy)
    .curveTo(cx - r, cy - K * r, cx - K * r, cy - r, cx, cy - r)
    .curveTo(cx + K * r, cy - r, cx + r, cy - K * r, cx + r, cy)
    .done();
const drawing: Drawing = {
  widthPx: 300,
  heightPx: 200,
  shapes: [
    { id: 'a', path: disc(100, 90, 60), rule: 'nonzero', paint: { kind: 'colour', hex: '#1f5a45' }, opacity: 1 },
    { id: 'b', path: disc(220, 120, 40), rule: 'evenodd', paint: { kind: 'colour', hex: '#b42d2d' }, opacity: 0.5 },
  ],
};
const cropped = (params: object, from: Artwork = artworkOfDrawing(drawing)) =>
  crop.run(from, { ...initialValues(crop.params), ...params } as never, plainContext).artwork;
const ink = (a: Artwork) => a.raster.data.reduce((sum, v, i) => (i % 4 === 3 ? sum + v / 255 : sum), 0);
const sameRendering = (a: Artwork) => {
  const again = artworkOfDrawing(a.drawing as Drawing, a.reduction);
  expect(a.raster).toEqual(again.raster);
};

describe('paths', () => {
  it('have the bounds of their curves, not of their control points', () => {
    expect(boundsOfPath(new PathBuilder().moveTo(0, 0).curveTo(0, 40, 100, 40, 100, 0).done())).toEqual({
      x: 0,
      y: 0,
      width: 100,
      height: 30,
    });
    expect(boundsOfDrawing(drawing)).toEqual({ x: 40, y: 30, width: 220, height: 130 });
    expect(boundsOfPath({ verbs: '', coords: [] })).toBeNull();
  });
  it('are printed with as many digits as asked, and no zeros behind', () => {
    expect(printPath(new PathBuilder().moveTo(1.50004, -0.00001).lineTo(2, 3.14159).done(), 4)).toBe(
      'M1.5 0L2 3.1416Z',
    );
  });
  it('keep their area inside a border that they cross', () => {
    const half = clipPath(disc(50, 50, 40), insideOf(50, 100));
    expect(boundsOfPath(half)).toMatchObject({ x: 10, width: 40 });
    const whole = artworkOfDrawing({ ...drawing, shapes: [{ ...drawing.shapes[0], path: disc(50, 50, 40) }] });
    const part = artworkOfDrawing({ ...drawing, shapes: [{ ...drawing.shapes[0], path: half }] });
    expect(ink(part) / ink(whole)).toBeCloseTo(0.5, 3);
    expect(clipPath(disc(50, 50, 40), insideOf(5, 5)).verbs).toBe('');
    expect(clipPath(disc(50, 50, 40), insideOf(90, 90))).toEqual(disc(50, 50, 40));
  });
  it('seen from the side stay curves that lie on the mapped ones', () => {
    const m = [1, 0.2, 4, 0.1, 1, 7, 0.001, 0.0006, 1] as const;
    const mapped = projectPath(disc(50, 50, 40), m);
    const back = projectPath(disc(50, 50, 40), fromMatrix([2, 0, 0, 2, 3, 4]));
    expect(back.verbs).toBe('MCCCCZ');
    for (let k = 0; k < mapped.coords.length - 6; k += 6) {
      const at = project([...m] as never, 0, 0);
      expect(at.x).toBeCloseTo(4, 9);
      expect(Number.isFinite(mapped.coords[k])).toBe(true);
    }
    // Each end of a piece is a point of the circle, mapped.
    const inverse = (x: number, y: number) => {
      let [u, v] = [50, 50];
      for (let n = 0; n < 60; n++) {
        const p = project([...m] as never, u, v);
        [u, v] = [u + (x - p.x), v + (y - p.y)];
      }
      return Math.hypot(u - 50, v - 50);
    };
    const ends = [mapped.coords.slice(0, 2), mapped.coords.slice(6, 8), mapped.coords.slice(60, 62)];
    for (const [x, y] of ends) expect(inverse(x, y)).toBeCloseTo(40, 1);
  });
});

describe('Crop on paths', () => {
  it('cuts them at the region, keeps them paths, and shows their rendering', () => {
    const out = cropped({ rect: { x: 100, y: 20, width: 150.5, height: 120 } });
    expect([out.drawing?.widthPx, out.drawing?.heightPx]).toEqual([150.5, 120]);
    expect([out.raster.width, out.raster.height]).toEqual([151, 120]);
    expect(project(out.toWorking, 0, 0)).toEqual({ x: 100, y: 20 });
    expect(out.drawing?.shapes.every((s) => s.path.verbs.includes('C'))).toBe(true);
    sameRendering(out);
  });
  it('of a reduced rendering cuts the same paths', () => {
    const rect = { x: 31, y: 17, width: 211, height: 130 };
    const small = cropped({ rect }, artworkOfDrawing(drawing, 3));
    expect(small.drawing).toEqual(cropped({ rect }).drawing);
    expect([small.raster.width, small.raster.height]).toEqual([71, 44]);
    sameRendering(small);
  });
  it('turns them without loss of ink, and puts each place where it says', () => {
    const out = cropped({ rect: { x: 20, y: 10, width: 260, height: 180 }, turn: 30 });
    expect(out.drawing).not.toBeNull();
    const middle = project(out.toWorking, 130, 90);
    expect([middle.x, middle.y]).toEqual([expect.closeTo(150, 6), expect.closeTo(100, 6)]);
    expect(ink(out) / ink(artworkOfDrawing(drawing))).toBeCloseTo(1, 2);
    sameRendering(out);
  });
  it('puts a drawing seen from the side flat, as paths', () => {
    const corners = [
      { x: 10, y: 5 },
      { x: 290, y: 20 },
      { x: 280, y: 195 },
      { x: 5, y: 180 },
    ];
    const out = cropped({ corners });
    expect(out.drawing?.shapes).toHaveLength(2);
    const pixels = cropped({ corners }, { ...artworkOfDrawing(drawing), drawing: null });
    expect(ink(out) / ink(pixels)).toBeCloseTo(1, 2);
  });
  it('refuses a region beside the drawing', () => {
    expect(() => cropped({ rect: { x: 900, y: 900, width: 5, height: 5 } })).toThrowError(
      expect.objectContaining({ code: 'crop/empty' }),
    );
  });
});

describe('paths on their way', () => {
  const recipe = initialRecipe();
  const keep = { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, way: 'keep' as const } };
  it('go through stages and fills to the end', () => {
    const reversed = makeVariant(artworkOfDrawing(drawing), { stages: keep }, recipe.variants[2], {
      pictureKey: 'paths',
    });
    expect(reversed.drawing?.shapes.map((s) => s.paint)).toEqual([
      { kind: 'colour', hex: '#ffffff' },
      { kind: 'colour', hex: '#ffffff' },
    ]);
    const visible = [...reversed.raster.data.keys()].filter((i) => i % 4 === 0 && reversed.raster.data[i + 3] > 0);
    const again = artworkOfDrawing(reversed.drawing as Drawing);
    for (const i of visible)
      expect([...reversed.raster.data.subarray(i, i + 4)]).toEqual([...again.raster.data.subarray(i, i + 4)]);
  });
  it('end where a stage works on pixels, and a finding says which', () => {
    const onPaper = {
      ...drawing,
      shapes: [
        {
          ...drawing.shapes[0],
          id: 'sheet',
          path: new PathBuilder().moveTo(0, 0).lineTo(300, 0).lineTo(300, 200).lineTo(0, 200).done(),
          paint: { kind: 'colour' as const, hex: '#ffffff' },
        },
        ...drawing.shapes,
      ],
    };
    const { master, findings } = runStages(artworkOfDrawing(onPaper), recipe.stages, { pictureKey: 'ended' });
    expect(master.drawing).toBeNull();
    expect(findings.find((f) => f.id === 'paths-ended')).toMatchObject({
      stage: 'cutOut',
      detail: expect.stringContaining('Cut out'),
    });
    expect(runStages(artworkOfDrawing(drawing), keep, { pictureKey: 'kept' }).findings.map((f) => f.id)).not.toContain(
      'paths-ended',
    );
  });
  it('what a stage says it keeps is what it keeps', () => {
    const says = (params: object) =>
      (cutOut.keeps as (p: never) => string)({ ...initialValues(cutOut.params), ...params } as never);
    expect([says({ way: 'keep' }), says({ way: 'flat' }), says({ way: 'paper' }), crop.keeps]).toEqual([
      'paths',
      'pixels',
      'pixels',
      'paths',
    ]);
  });
});

describe('a kept drawing', () => {
  it('reads back as it was written', () => expect(readDrawing(writeDrawing(drawing))).toEqual(drawing));
  it('is refused where it is none', () => {
    const spoil = (change: object) => new TextEncoder().encode(JSON.stringify({ ...drawing, ...change }));
    for (const change of [
      { widthPx: -1 },
      { shapes: [{ ...drawing.shapes[0], path: { verbs: 'MC', coords: [1, 2] } }] },
      { shapes: 3 },
    ]) {
      expect(() => readDrawing(spoil(change))).toThrow('The working drawing cannot be read');
    }
    expect(() => readDrawing(Uint8Array.of(1))).toThrow('The working drawing cannot be read');
  });
});

it('a stop breaks a run off before its next step', () => {
  let steps = 0;
  const options = { pictureKey: 'stop', shouldStop: () => steps > 0, onStep: () => void steps++ };
  expect(() => runStages(artworkOfDrawing(drawing), initialRecipe().stages, options)).toThrowError(
    expect.objectContaining({ code: 'work/stopped' }),
  );
  expect(steps).toBe(1);
});

it('an empty registry says so when asked', () => {
  expect(() => defineRegistry('cast').get('fog')).toThrow('There is no cast "fog".');
});
