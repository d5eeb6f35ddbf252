import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, onGround, pixel, ring } from '../../tests/support/pictures';
import { artworkOfDrawing } from '../artwork/artwork';
import { fromMatrix } from '../geometry/projective';
import { type Raster, createRaster } from '../raster/raster';
import { initialRecipe } from '../recipe/recipe';
import { runStages } from '../recipe/runRecipe';
import { createStageCache } from '../recipe/stageCache';
import { type TidyValues } from '../stages/tidy';
import type { TidyFacts } from '../stages/tidyFacts';
import { coverLoops, coverStroke } from './coverage';
import { isEdit } from './edits';
import { distanceFromMain, findPieces, proposeLimit } from './pieces';

const whole = ({ width, height }: Raster) => ({ x: 0, y: 0, width, height });
const same = fromMatrix([1, 0, 0, 1, 0, 0]);
const square = (x: number, y: number, side: number) => [x, y, x + side, y, x + side, y + side, x, y + side];

/** Pieces by going from pixel to pixel: slow, and plain. */
function piecesByFlood({ width, height, data }: Raster): number[] {
  const seen = new Uint8Array(width * height);
  const areas: number[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] || data[start * 4 + 3] === 0) continue;
    let area = 0;
    const open = [start];
    seen[start] = 1;
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      area += data[at * 4 + 3];
      const [x, y] = [at % width, Math.floor(at / width)];
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const n = ny * width + nx;
          if (seen[n] || data[n * 4 + 3] === 0) continue;
          seen[n] = 1;
          open.push(n);
        }
    }
    areas.push(area / 255);
  }
  return areas;
}

describe('findPieces', () => {
  it('finds the pieces that going from pixel to pixel finds, in their order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 12, maxLength: 180 }),
        fc.integer({ min: 1, max: 17 }),
        (cells, width) => {
          const height = Math.max(1, Math.floor(cells.length / width));
          const raster = createRaster(width, height);
          for (let k = 0; k < width * height; k++) raster.data[k * 4 + 3] = [0, 0, 1, 255][cells[k] ?? 0];
          const { pieces, labels } = findPieces(raster, whole(raster));
          expect(pieces.map((p) => p.area)).toEqual(piecesByFlood(raster));
          for (const p of pieces) {
            expect(labels[p.y * width + p.x]).toBe(p.label);
            expect(raster.data[(p.y * width + p.x) * 4 + 3]).toBe(p.peak);
          }
        },
      ),
    );
  });
  it('tells how far each is from the main mark', () => {
    const raster = drawMark(200, 100, either(disc(40, 50, 30), disc(160, 50, 4)), [0, 0, 0]);
    const { pieces } = findPieces(raster, whole(raster));
    const [far] = pieces.map(distanceFromMain(pieces)).filter((d) => d > 0);
    expect(far).toBeGreaterThan(84);
    expect(far).toBeLessThan(87);
  });
});

describe('proposeLimit', () => {
  it('parts specks from the mark where sizes leave a gap', () => {
    const { limit, from, to } = proposeLimit([1, 2, 3, 2.5, 400, 90_000]);
    expect([from, to]).toEqual([3, 400]);
    expect(limit).toBeGreaterThan(3);
    expect(limit).toBeLessThan(20);
  });
  it('proposes nothing for a mark of like pieces, for one piece, and for none', () => {
    expect(proposeLimit([300, 320, 290, 350]).limit).toBe(0);
    expect(proposeLimit([50_000]).limit).toBe(0);
    expect(proposeLimit([]).limit).toBe(0);
  });
});

describe('coverage', () => {
  it('of loops is the exact area, and a place in two of them counts as in', () => {
    const covered = coverLoops(
      [
        square(2.5, 2, 4),
        square(4, 3, 4)
          .reverse()
          .flatMap((_, k, all) => (k % 2 ? [] : [all[k + 1], all[k]])),
      ],
      same,
      {
        width: 20,
        height: 20,
      },
    );
    const sum = covered?.share.reduce((a, b) => a + b, 0) ?? 0;
    expect(Math.abs(sum / 255 - (16 + 16 - 2.5 * 3))).toBeLessThan(0.05);
  });
  it('of a hard brush is its own area, of a soft one less, and grows with pressure', () => {
    const stroke = (hardness: number, pressure: number) =>
      coverStroke({ kind: 'rub', size: 20, hardness, points: [30, 30, pressure, 60, 30, pressure] }, same, {
        width: 100,
        height: 60,
      })?.share.reduce((a, b) => a + b, 0) ?? 0;
    expect(Math.abs(stroke(1, 1) / 255 - (Math.PI * 100 + 30 * 20))).toBeLessThan(6);
    expect(stroke(0.2, 1)).toBeLessThan(stroke(1, 1) * 0.8);
    expect(stroke(1, 0.5)).toBeLessThan(stroke(1, 1) * 0.5);
  });
  it('is nothing beside the picture', () => {
    expect(coverLoops([square(50, 50, 4)], same, { width: 20, height: 20 })).toBeNull();
    expect(
      coverStroke({ kind: 'rub', size: 3, hardness: 1, points: [-9, -9, 1] }, same, { width: 9, height: 9 }),
    ).toBeNull();
  });
});

describe('isEdit', () => {
  it.each([
    [{ kind: 'rub', size: 10, hardness: 1, points: [1, 2, 1] }, true],
    [{ kind: 'rub', size: 10, hardness: 1, points: [1, 2] }, false],
    [{ kind: 'rub', size: 1e9, hardness: 1, points: [1, 2, 1] }, false],
    [{ kind: 'cover', points: [1, 2, 3, 4, 5, 9], colour: null }, true],
    [{ kind: 'cover', points: [1, 2, 3, 4, 5, 9], colour: 'red' }, false],
    [{ kind: 'cover', points: [1, 2, 3, 4], colour: null }, false],
    [{ kind: 'solid', points: [1, 2, 3, 4, 1e308, 9] }, false],
    [{ kind: 'solid', points: [1, 2, 3, 4, 5, 9], extra: 1 }, false],
    [{ kind: 'recolour', points: [1, 2], colour: '#102030' }, true],
    [{ kind: 'melt', points: [1, 2] }, false],
    [null, false],
  ])('%j: %s', (value, expected) => expect(isEdit(value)).toBe(expected));
});

describe('the tidy stage', () => {
  const GROUND = [250, 248, 240] as const;
  // A house whose door has the ground's colour and is joined to the outside below; two specks beside it.
  const wall = (x: number, y: number) =>
    x >= 40 && x < 120 && y >= 30 && y < 110 && !(x >= 70 && x < 90 && y >= 70) ? 1 : 0;
  const house = drawMark(180, 140, either(wall, disc(150.5, 20.5, 2.5), disc(14.5, 120.5, 1.5)), [150, 40, 30]);
  const picture = onGround(house, GROUND);
  const run = (tidy: Partial<TidyValues>) => {
    const { stages } = initialRecipe();
    return runStages(picture, { ...stages, tidy: { ...stages.tidy, ...tidy } }, { pictureKey: 'house' });
  };
  const factsOf = (tidy: Partial<TidyValues> = {}) => run(tidy).perStage.tidy.facts as TidyFacts;

  it('lists all pieces, proposes what parts the specks from the mark, and names those that stretch the extents', () => {
    const facts = factsOf();
    expect(facts.pieces).toHaveLength(3);
    expect(facts.pieces[0].areaPx).toBeCloseTo(80 * 80 - 20 * 40, -1);
    expect(facts.proposal.limit).toBeGreaterThan(facts.pieces[1].areaPx);
    expect(facts.stretchers).toHaveLength(2);
    expect(run({}).findings.map((f) => f.id)).toContain('specks-apart');
  });
  it('drops by size, by place, and keeps what is to be kept; extents then hug the mark', () => {
    const { proposal } = factsOf();
    const tidied = factsOf({ specksBelow: proposal.limit });
    expect([tidied.droppedCount, tidied.extents.after]).toEqual([2, { x: 40, y: 30, width: 80, height: 80 }]);
    expect(run({ specksBelow: proposal.limit }).findings.map((f) => f.id)).not.toContain('specks-apart');
    expect(factsOf({ drop: [{ x: 152, y: 22 }] }).droppedCount).toBe(1);
    expect(factsOf({ specksBelow: proposal.limit, keep: [{ x: 14, y: 121 }] }).droppedCount).toBe(1);
  });
  it('takes away what lies outside of an outline, pixel by pixel', () => {
    const { master } = run({ outside: [square(30, 25, 90.5)] });
    expect(pixel(master.raster, 150, 20)[3]).toBe(0);
    expect(pixel(master.raster, 60, 60)[3]).toBe(255);
    const half = run({ outside: [[0, 0, 60.5, 0, 60.5, 140, 0, 140]] }).master.raster;
    expect([pixel(half, 59, 60)[3], pixel(half, 60, 60)[3], pixel(half, 61, 60)[3]]).toEqual([255, 128, 0]);
  });
  it('a door joined to the outside comes back whole by one outline, with the edges of the picture', () => {
    expect(pixel(run({}).master.raster, 80, 90)[3]).toBe(0);
    const { master } = run({ edits: [{ kind: 'solid', points: [65, 65, 95, 65, 95, 110, 65, 110] }] });
    for (let y = 66; y < 110; y++)
      for (let x = 66; x < 95; x++) expect(pixel(master.raster, x, y)).toEqual(pixel(picture, x, y));
    expect(pixel(master.raster, 80, 110)[3]).toBe(0);
  });
  it('and by one drawn roughly: the door ends where its walls end, to the fraction of a pixel', () => {
    const low = (x: number, y: number) => (y < 110 ? wall(x, y) : y < 111 && wall(x, 109) ? 0.4 : 0);
    const truth = drawMark(180, 140, low, [150, 40, 30]);
    const door = (x: number, y: number) => x >= 70 && x < 90 && y >= 70;
    const { stages } = initialRecipe();
    const edits = [{ kind: 'solid' as const, points: [60, 62, 101, 63, 99, 118, 61.5, 117] }];
    const source = { ...stages, tidy: { ...stages.tidy, edits } };
    const { raster } = runStages(onGround(truth, GROUND), source, { pictureKey: 'rough' }).master;
    for (let y = 60; y < 125; y++) {
      for (let x = 55; x < 105; x++) {
        const [, , , alpha] = pixel(raster, x, y);
        const meant = y < 110 ? 255 : y < 111 ? 102 : 0;
        const seen = door(x, y) || y < 110 ? meant : pixel(truth, x, y)[3];
        expect(Math.abs(alpha - seen), `${x}, ${y}`).toBeLessThanOrEqual(3);
      }
    }
    expect(pixel(raster, 80, 90)).toEqual([...GROUND, 255]);
  });
  it('an outline drawn in the open is meant as it was drawn', () => {
    const { raster } = run({ edits: [{ kind: 'solid', points: square(125, 60, 20) }] }).master;
    expect([pixel(raster, 135, 70), pixel(raster, 148, 70)[3]]).toEqual([[...GROUND, 255], 0]);
  });
  it('rubbing out and bringing back by brush gives the artwork that was there', () => {
    const rub = { kind: 'rub', size: 24, hardness: 1, points: [50, 50, 1, 60, 50, 1] } as const;
    expect(pixel(run({ edits: [rub] }).master.raster, 55, 50)[3]).toBe(0);
    const both = run({ edits: [rub, { ...rub, kind: 'back', size: 30 }] }).master.raster;
    expect(both.data).toEqual(run({}).master.raster.data);
  });
  it('a stroke makes solid what the picture shows as an outline does', () => {
    const stroke = { kind: 'solid', size: 60, hardness: 1, points: [80, 80, 1, 80, 90, 1] } as const;
    const { raster } = run({ edits: [stroke] }).master;
    expect(pixel(raster, 80, 90)).toEqual([...GROUND, 255]);
    expect(pixel(raster, 69, 80)).toEqual(pixel(picture, 69, 80));
    expect(pixel(raster, 80, 125)[3]).toBe(0);
  });
  it(
    'a line drawn over an opening brings back all that it closes off, and of itself what ' + 'lies between the walls',
    () => {
      const line = { kind: 'solid', size: 8, hardness: 1, points: [62, 106, 1, 98, 107, 1] } as const;
      const { raster } = run({ edits: [line] }).master;
      for (let y = 66; y < 110; y++)
        for (let x = 66; x < 95; x++) expect(pixel(raster, x, y), `${x}, ${y}`).toEqual(pixel(picture, x, y));
      for (let x = 60; x < 100; x++) expect(pixel(raster, x, 112)[3]).toBe(0);
    },
  );
  it('a line that closes nothing off leaves what was open or enclosed before', () => {
    const badge = onGround(drawMark(140, 140, ring(70, 70, 60, 20), [20, 90, 60]), GROUND);
    const { stages } = initialRecipe();
    const line = { kind: 'solid', size: 6, hardness: 1, points: [60, 70, 1, 80, 70, 1] } as const;
    const { raster } = runStages(
      badge,
      { ...stages, tidy: { ...stages.tidy, edits: [line] } },
      { pictureKey: 'ring' },
    ).master;
    expect([pixel(raster, 70, 70)[3], pixel(raster, 70, 60)[3], pixel(raster, 2, 2)[3]]).toEqual([255, 0, 0]);
  });
  it('opens what has the ground’s colour, and covers an outline with a colour or with nothing', () => {
    const badge = onGround(drawMark(140, 140, ring(70, 70, 60, 20), [20, 90, 60]), GROUND);
    const { stages } = initialRecipe();
    const solid = { ...stages.cutOut, areas: [{ x: 70, y: 70, decision: 'solid' as const }] };
    const after = (edits: TidyValues['edits']) =>
      runStages(badge, { ...stages, cutOut: solid, tidy: { ...stages.tidy, edits } }, { pictureKey: 'badge' }).master
        .raster;
    expect(pixel(after([]), 70, 70)[3]).toBe(255);
    expect(pixel(after([{ kind: 'open', points: square(45, 45, 50) }]), 70, 70)[3]).toBe(0);
    expect(pixel(after([{ kind: 'cover', points: square(60, 20, 20), colour: '#ff8000' }]), 70, 30)).toEqual([
      255, 128, 0, 255,
    ]);
    expect(pixel(after([{ kind: 'cover', points: square(60, 20, 20), colour: null }]), 70, 30)[3]).toBe(0);
    const painted = after([{ kind: 'recolour', points: [70, 20], colour: '#0000ff' }]);
    expect(pixel(painted, 70, 25)).toEqual([0, 0, 255, 255]);
  });
  it('a stroke more or fewer gives what all of them give at once', () => {
    const all = Array.from({ length: 6 }, (_, k) => ({
      kind: k % 2 ? ('rub' as const) : ('back' as const),
      size: 12 + k,
      hardness: 0.6,
      points: [50 + 8 * k, 50 + 6 * k, 1, 70 + 5 * k, 60, 0.8],
    }));
    const { stages } = initialRecipe();
    const cutOnce = createStageCache();
    const of = (edits: TidyValues['edits'], cache = cutOnce) =>
      runStages(picture, { ...stages, tidy: { ...stages.tidy, edits } }, { pictureKey: 'h', cache }).master.raster.data;
    for (const n of [1, 2, 4, 6, 3, 5]) expect(of(all.slice(0, n))).toEqual(of(all.slice(0, n), createStageCache()));
  });
  it('gives the same place on a reduced picture', () => {
    const small = onGround(
      drawMark(90, 70, (x, y) => wall(x * 2, y * 2), [150, 40, 30]),
      GROUND,
    );
    const { stages } = initialRecipe();
    const edits = [{ kind: 'rub', size: 20, hardness: 1, points: [50, 50, 1] } as const];
    const { master } = runStages(
      small,
      { ...stages, tidy: { ...stages.tidy, edits } },
      { pictureKey: 's', reduction: 2 },
    );
    expect([pixel(master.raster, 25, 25)[3], pixel(master.raster, 35, 25)[3]]).toEqual([0, 255]);
  });
  it('bears a picture of noise, which has a hundred thousand pieces', () => {
    const noise = createRaster(1400, 800);
    for (let y = 0; y < 800; y += 2)
      for (let x = 0; x < 1400; x += 2) noise.data.set([9, 9, 9, x === 0 && y === 0 ? 255 : 200], (y * 1400 + x) * 4);
    const { stages } = initialRecipe();
    const keep = { ...stages, cutOut: { ...stages.cutOut, way: 'keep' as const } };
    const facts = runStages(noise, keep, { pictureKey: 'noise' }).perStage.tidy.facts as TidyFacts;
    expect([facts.pieceCount, facts.pieces.length]).toEqual([280_000, 400]);
    expect(facts.areas.length).toBeLessThan(11_000);
  });
  it('lists each piece with its colour', () => {
    const two = drawMark(120, 60, either(disc(30, 30, 20), disc(90, 30, 12)), [150, 40, 30]);
    for (let i = 0; i < two.data.length; i += 4) if ((i / 4) % 120 > 60) two.data.set([20, 60, 90], i);
    const { stages } = initialRecipe();
    const keep = { ...stages, cutOut: { ...stages.cutOut, way: 'keep' as const } };
    const facts = runStages(two, keep, { pictureKey: 'two' }).perStage.tidy.facts as TidyFacts;
    expect(facts.pieces.map((p) => p.colour)).toEqual(['#96281e', '#143c5a']);
  });
  it('finds a box behind a drawing, and leaves it out at a press; the paths stay paths', () => {
    const box = (x: number, y: number, w: number, h: number, hex: string) => ({
      id: '',
      path: { verbs: 'MLLLZ', coords: [x, y, x + w, y, x + w, y + h, x, y + h] },
      rule: 'nonzero' as const,
      paint: { kind: 'colour' as const, hex },
      opacity: 1,
    });
    const shapes = [box(0, 0, 100, 80, '#ffffff'), box(20, 20, 40, 30, '#1f5a45'), box(50, 40, 30, 20, '#b5322b')];
    const source = artworkOfDrawing({ widthPx: 100, heightPx: 80, shapes });
    const { stages } = initialRecipe();
    const keep = { ...stages, cutOut: { ...stages.cutOut, way: 'keep' as const } };
    const { findings } = runStages(source, keep, { pictureKey: 'boxed' });
    const found = findings.find((f) => f.id === 'backing-shape');
    const fixed = { ...keep, tidy: { ...keep.tidy, ...found?.fixes?.[0].change } };
    const after = runStages(source, fixed, { pictureKey: 'boxed' });
    expect(after.master.drawing?.shapes.map((s) => s.paint.kind === 'colour' && s.paint.hex)).toEqual([
      '#1f5a45',
      '#b5322b',
    ]);
    expect(after.findings.some((f) => f.id === 'backing-shape')).toBe(false);
    // A shape of a drawing takes another colour and stays a path.
    const painted = {
      ...fixed,
      tidy: { ...fixed.tidy, edits: [{ kind: 'recolour' as const, points: [25, 25], colour: '#0000ff' }] },
    };
    const { master } = runStages(source, painted, { pictureKey: 'boxed' });
    expect(master.drawing?.shapes[0].paint).toEqual({ kind: 'colour', hex: '#0000ff' });
  });
  it('without settings hands the artwork on as it came', () => {
    const { perStage, master } = run({});
    expect(master.raster).toBe(perStage.cutOut.artwork.raster);
  });
});
