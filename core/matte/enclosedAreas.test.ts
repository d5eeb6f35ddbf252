import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround, pixel, ring } from '../../tests/support/pictures';
import { renderSvg } from '../../demo/render';
import { textPath } from '../../demo/text';
import { type FlatFacts, cutOutFlat, plainFlat } from './cutOutFlat';
import { judgeArea } from './judgeArea';

const white = [255, 255, 255] as const;
const areasOf = (picture: Parameters<typeof cutOutFlat>[0]): FlatFacts['areas'] =>
  cutOutFlat(picture, plainFlat).facts.areas;

describe('enclosed areas', () => {
  it('the counters of lettering are open', () => {
    const word = renderSvg(`<path d="${textPath('Bobadoe', 'sans', 90, 10, 110)}" fill="#1f5a45"/>`, 420, 150);
    const areas = areasOf(onGround(word, white));
    expect(areas.length).toBeGreaterThanOrEqual(7);
    expect(areas.filter((a) => a.decision !== 'open')).toEqual([]);
  });
  it('lettering knocked out of a plate belongs to the plate', () => {
    const plate = renderSvg(
      '<rect x="20" y="20" width="460" height="160" fill="#274690"/><path ' +
        `d="${textPath('Sluice', 'grotesque', 90, 90, 130)}" fill="#ffffff"/>`,
      500,
      200,
    );
    const areas = areasOf(onGround(plate, white));
    expect(areas.length).toBeGreaterThanOrEqual(5);
    expect(areas.filter((a) => a.decision !== 'solid')).toEqual([]);
  });
  it('a star near the edge of a plate and a line round it belong to the plate', () => {
    const shield = renderSvg(
      '<circle cx="200" cy="200" r="180" fill="#274690"/><circle cx="200" cy="200" r="150" ' +
        'fill="none" stroke="#ffffff" stroke-width="8"/><path d="M200 70L215 110L255 112L222 ' +
        '136L234 176L200 152L166 176L178 136L145 112L185 110Z" fill="#ffffff"/>',
      400,
      400,
    );
    const areas = areasOf(onGround(shield, white));
    expect(areas).toHaveLength(2);
    expect(areas.map((a) => a.decision)).toEqual(['solid', 'solid']);
  });
  it('the gaps of a lattice open together, also those that no outside is near', () => {
    const lines = [30, 90, 150, 210, 270].map((p) => `M30 ${p}H270M${p} 30V270`).join('');
    const areas = areasOf(
      onGround(
        renderSvg(`<path d="${lines}" stroke="#1f5a45" stroke-width="18" stroke-linecap="square"/>`, 300, 300),
        white,
      ),
    );
    expect(areas).toHaveLength(16);
    expect(areas.filter((a) => a.decision !== 'open' || a.certainty < 0.75)).toEqual([]);
  });
  it('a ring inside a ring opens from the outside in', () => {
    const both = drawMark(
      300,
      300,
      (x, y) => Math.max(ring(150, 150, 140, 126)(x, y), ring(150, 150, 90, 60)(x, y)),
      [20, 40, 60],
    );
    const { picture, facts } = cutOutFlat(onGround(both, white), plainFlat);
    expect(facts.areas.map((a) => a.decision)).toEqual(['open', 'open']);
    expect(pixel(picture, 150, 150)[3]).toBe(0);
    expect(pixel(picture, 150, 45)[3]).toBe(0);
  });
  it('each has a point inside itself, numbers from 1, unsure ones first, and alike ones share a group', () => {
    const holes = drawMark(
      400,
      200,
      (x, y) =>
        x > 20 && x < 380 && y > 20 && y < 180
          ? 1 - Math.max(disc(100, 100, 30)(x, y), disc(200, 100, 30)(x, y), disc(310, 100, 8)(x, y))
          : 0,
      [90, 20, 40],
    );
    const areas = areasOf(onGround(holes, white));
    expect(areas.map((a) => a.number)).toEqual([1, 2, 3]);
    const large = areas.filter((a) => a.areaPx > 2000);
    expect(large).toHaveLength(2);
    expect(large[0].group).toBe(large[1].group);
    for (const a of areas)
      expect(
        [
          [100, 100, 30],
          [200, 100, 30],
          [310, 100, 8],
        ].some(([x, y, r]) => Math.hypot(a.x - x, a.y - y) < r),
      ).toBe(true);
    const unsure = areas.map((a) => a.certainty < 0.75);
    expect(unsure).toEqual([...unsure].sort((a, b) => Number(b) - Number(a)));
  });
});

describe('judgeArea', () => {
  const shape = {
    areaPx: 400,
    halfWidth: 10,
    wall: 10,
    body: 8,
    wallIsOuter: 1,
    isPale: false,
    offset: 0,
    touchesOutside: 0,
  };
  it('is sure of wide counters and of narrow details, and unsure between', () => {
    expect(judgeArea({ ...shape, halfWidth: 40 })).toMatchObject({ decision: 'open', certainty: expect.closeTo(1, 1) });
    expect(judgeArea({ ...shape, halfWidth: 2, wall: 60, wallIsOuter: 0 })).toMatchObject({ decision: 'solid' });
    expect(judgeArea({ ...shape, halfWidth: 3, wallIsOuter: 0.3 }).certainty).toBeLessThan(0.6);
  });
  it('a colour of its own is solid whatever the shape', () =>
    expect(judgeArea({ ...shape, halfWidth: 90, isPale: true, offset: 30 })).toMatchObject({
      decision: 'solid',
      certainty: 1,
    }));
});
