import { defineConfig } from 'vitest/config';

const common = { environment: 'node' as const };
// Computation first; then what has servers and browsers of its own and waits for them. Two files at a time, each with
// a database of its own.
const twoAtATime = (groupOrder: number) => ({ maxWorkers: 2, sequence: { groupOrder } });
const together = twoAtATime(0);
// What a page stores arrives when it arrives: other files of tests have the same two cores.
const withServers = { ...twoAtATime(1), expect: { poll: { timeout: 20_000 } } };

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          ...common,
          ...together,
          name: 'unit',
          // Pure functions leave nothing behind: what they share is read once, not for every file.
          isolate: false,
          include: [
            'core/**/*.test.ts',
            'contract/**/*.test.ts',
            'worker/**/*.test.ts',
            'codecs/**/*.test.ts',
            'server/**/*.test.ts',
            'demo/**/*.test.ts',
            'bench/**/*.test.ts',
            'tests/*.test.ts',
            'tests/support/*.test.ts',
          ],
          testTimeout: 20_000,
        },
      },
      {
        test: {
          ...together,
          name: 'web',
          environment: 'happy-dom',
          include: ['web/**/*.test.ts', 'web/**/*.test.tsx'],
          setupFiles: ['tests/support/dom.ts'],
          testTimeout: 20_000,
        },
      },
      { test: { ...common, ...together, name: 'cli', include: ['tests/cli/**/*.test.ts'], testTimeout: 60_000 } },
      {
        test: {
          ...common,
          ...withServers,
          name: 'api',
          include: ['tests/api/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          ...common,
          ...withServers,
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
