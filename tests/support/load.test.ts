import { expect, it } from 'vitest';
import { quantile, watchLoop } from './load';

const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
/** By the time that it computes, not by the clock: on a busy machine the two differ. */
const compute = (ms: number) => {
  const begun = process.cpuUsage();
  for (let spent = 0; spent < ms;) {
    const { user, system } = process.cpuUsage(begun);
    spent = (user + system) / 1000;
  }
};

it('finds how long the event loop was held, and does not take waiting for it', async () => {
  const held = await watchLoop(async () => {
    await pause(20);
    compute(120);
    await pause(20);
  });
  expect(held.heldMs).toBeGreaterThan(60);
  expect(held.computedMs).toBeGreaterThanOrEqual(120);
  expect((await watchLoop(() => pause(150))).heldMs).toBeLessThan(60);
});

it('quantiles', () => {
  expect([quantile([3, 1, 2], 0.5), quantile([], 0.5), quantile([1, 2, 3, 4], 0.95)]).toEqual([2, 0, 4]);
});
