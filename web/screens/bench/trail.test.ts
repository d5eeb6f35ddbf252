import { describe, expect, it } from 'vitest';
import { stageIds } from '../../../core/stages';
import { fitInCircle } from './Trail';
import { trail } from './stages';

describe('the trail', () => {
  it('has every stage of the registry, in its order, between the original and the files', () => {
    const ids = trail.map((s) => s.id);
    expect(ids.filter((id) => (stageIds as readonly string[]).includes(id))).toEqual([...stageIds]);
    expect([ids[0], ids.at(-1)]).toEqual(['original', 'files']);
  });
  it('every stage has a panel beside the picture, or all the space', () => {
    for (const stage of trail) expect(Boolean(stage.Panel) !== Boolean(stage.Room), stage.id).toBe(true);
  });
});

describe('a bead', () => {
  it.each([
    [300, 300],
    [900, 120],
    [40, 700],
  ])('shows a picture of %d × %d whole: its corners lie inside the circle', (width, height) => {
    const at = fitInCircle({ width, height }, 54);
    for (const [x, y] of [
      [at.x, at.y],
      [at.x + at.width, at.y + at.height],
    ])
      expect(Math.hypot(x - 27, y - 27)).toBeLessThanOrEqual(27);
    expect(at.width / at.height).toBeCloseTo(width / height, 6);
  });
});
