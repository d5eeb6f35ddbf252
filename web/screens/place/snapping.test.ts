import { describe, expect, it } from 'vitest';
import { distancesOf, placeByName, snapBox } from './snapping';

const ground = { width: 1000, height: 600 };
const box = (x: number, y: number) => ({ x, y, width: 200, height: 100 });
const near = { insetPx: 24, others: [], reach: 8 };

describe('a mark under the hand', () => {
  it.each([
    [box(3, 250), { x: 0, y: 250 }, ['down 0', 'across 300']],
    [box(403, 252), { x: 400, y: 250 }, ['down 500', 'across 300']],
    [box(771, 474), { x: 776, y: 476 }, ['down 976', 'across 576']],
    [box(55, 33), { x: 50, y: 30 }, ['down 50', 'across 30']],
    [box(137, 409), { x: 137, y: 409 }, []],
  ])('%j comes to lie at an edge, the middle, the distance of the rule or the safe area', (own, at, lines) => {
    const { x, y, guides } = snapBox(own, ground, near);
    expect({ x, y }).toEqual(at);
    expect(guides.map((g) => `${g.way} ${g.at}`)).toEqual(lines);
  });
  it('lines up with another', () => {
    const others = [{ x: 310, y: 150, width: 90, height: 40 }];
    expect(snapBox(box(306, 400), ground, { ...near, others })).toMatchObject({ x: 310, guides: [{ at: 310 }] });
    expect(snapBox(box(398, 193), ground, { ...near, others, reach: 4 })).toMatchObject({ x: 400, y: 190 });
  });
  it('is told by its distances from all four edges', () =>
    expect(distancesOf(box(30, 40), ground)).toEqual({ left: 30, right: 770, top: 40, bottom: 460 }));
});

describe('where a hand has put it, as a rule for all', () => {
  it.each([
    [box(776, 476), 'lower-right', 4],
    [box(30, 20), 'upper-left', 3.3],
    [box(400, 250), 'centre', 0],
    [box(400, 18), 'upper', 3],
    [box(12, 250), 'left', 2],
    [box(-20, 480), 'lower-left', 0],
  ])('%j is %s, %d %% from the edges', (own, at, insetPct) =>
    expect(placeByName(own, ground)).toEqual({ at, insetPct }),
  );
});
