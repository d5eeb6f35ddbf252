import { defineConfig } from 'vitest/config';

const common = { environment: 'node' as const };

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          ...common,
          name: 'unit',
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
          name: 'web',
          environment: 'happy-dom',
          include: ['web/**/*.test.ts', 'web/**/*.test.tsx'],
          setupFiles: ['tests/support/dom.ts'],
          testTimeout: 20_000,
        },
      },
      { test: { ...common, name: 'cli', include: ['tests/cli/**/*.test.ts'], testTimeout: 60_000 } },
      {
        test: { ...common, name: 'api', include: ['tests/api/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
      },
      {
        test: {
          ...common,
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
