import { expect, it } from 'vitest';
import { killRun } from '../support/killRun';

// `npm run kills -- 200` does this for longer.
it('server or database killed at random: nothing acknowledged is lost or half there, every job ends', async () => {
  const { kills, acknowledged, faults, deliveries } = await killRun(3, 3);
  expect(faults).toEqual([]);
  expect(kills.server + kills.database).toBe(3);
  expect(acknowledged).toBeGreaterThan(9);
  expect(deliveries.ready).toBeGreaterThanOrEqual(3);
});
