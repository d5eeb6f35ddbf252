import { defineConfig } from 'vitest/config';

// A limit tells what hangs, not what is slow beside others: a hook may draw clips or start a server.
const common = { environment: 'node' as const, hookTimeout: 300_000 };
const NOWHERE = { disableMainFrameNavigation: true, disableFallbackToSetURL: true };
const BUNDLED = ['antd', '@ant-design/icons', 'recharts', '@tanstack/react-query', 'react-router', 'yup'];
// Computation first; then what has servers and browsers of its own and waits for them. Two files at a time, each with
// a database of its own.
const twoAtATime = (groupOrder: number) => ({ maxWorkers: 2, sequence: { groupOrder } });
const together = twoAtATime(0);
// What a page stores arrives when it arrives: other files of tests have the same two cores.
const withServers = { ...twoAtATime(1), expect: { poll: { timeout: 60_000 } } };

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
          testTimeout: 180_000,
        },
      },
      {
        test: {
          ...together,
          name: 'web',
          isolate: false,
          // A link that is pressed leads nowhere: the window would stay there for the files after it.
          environmentOptions: { happyDOM: { settings: { navigation: NOWHERE } } },
          // Bundled once, which every file would else load module by module.
          deps: { optimizer: { client: { enabled: true, include: BUNDLED } } },
          environment: 'happy-dom',
          hookTimeout: common.hookTimeout,
          include: ['web/**/*.test.ts', 'web/**/*.test.tsx'],
          setupFiles: ['tests/support/dom.ts'],
          testTimeout: 180_000,
        },
      },
      {
        test: {
          ...common,
          ...together,
          isolate: false,
          name: 'cli',
          include: ['tests/cli/**/*.test.ts'],
          testTimeout: 180_000,
        },
      },
      {
        test: {
          ...common,
          ...withServers,
          isolate: false,
          name: 'api',
          include: ['tests/api/**/*.test.ts'],
          testTimeout: 300_000,
        },
      },
      {
        test: {
          ...common,
          ...withServers,
          isolate: false,
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          testTimeout: 600_000,
        },
      },
    ],
  },
});
