import { readFileSync } from 'node:fs';

const LOOK_EVERY_MS = 5;

/** What this process's main thread has computed so far, ms (Linux, schedstats). */
const mainThreadMs = () => Number(readFileSync(`/proc/self/task/${process.pid}/schedstat`, 'utf8').split(' ')[0]) / 1e6;

/**
 * Runs work while the event loop of this process is watched. On a machine that is busy with other things the loop may
 * come late though nothing held it, so what counts is how long it computed without coming by.
 * @returns the longest time that it was held, and what all threads of this process computed, ms
 */
export async function watchLoop(work: () => Promise<unknown>): Promise<{ heldMs: number; computedMs: number }> {
  let longest = 0;
  const begun = process.cpuUsage();
  let last = mainThreadMs();
  const timer = setInterval(() => {
    const now = mainThreadMs();
    longest = Math.max(longest, now - last);
    last = now;
  }, LOOK_EVERY_MS);
  await work();
  clearInterval(timer);
  const { user, system } = process.cpuUsage(begun);
  return { heldMs: longest, computedMs: (user + system) / 1000 };
}

/** Numbers in order: the one below which a share of them lies. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
}
