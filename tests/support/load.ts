import { monitorEventLoopDelay } from 'node:perf_hooks';

/** Runs work while the event loop of this process is watched. @returns the longest time that it was held, ms */
export async function longestHold(work: () => Promise<unknown>): Promise<number> {
  const watch = monitorEventLoopDelay({ resolution: 5 });
  watch.enable();
  await work();
  watch.disable();
  return watch.max / 1e6;
}

/** Numbers in order: the one below which a share of them lies. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
}
