import js from '@eslint/js';
import tseslint from 'typescript-eslint';

const forbid = (...patterns) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: patterns.map((group) => ({
        group: [group],
        message: 'Imports point one way: see docs/architecture.md.',
      })),
    },
  ],
});

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'core/kernels/assembly', '.cache', '.data', 'demo/out', 'bench/out'] },
  js.configs.recommended,
  tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: Object.fromEntries(
        [
          'process',
          'console',
          'fetch',
          'setTimeout',
          'clearTimeout',
          'setInterval',
          'URL',
          'Buffer',
          'performance',
          'document',
          'localStorage',
          'AbortSignal',
        ].map((n) => [n, 'readonly']),
      ),
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: forbid('**/contract/**', '**/server/**', '**/web/**', '**/cli/**', '**/worker/**', '**/demo/**', 'node:*'),
  },
  { files: ['contract/**/*.ts'], rules: forbid('**/server/**', '**/web/**', '**/cli/**', '**/worker/**', 'node:*') },
  {
    files: ['worker/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: forbid('**/server/**', '**/web/**', '**/cli/**', '**/contract/**', 'node:*'),
  },
  {
    files: ['web/**/*.ts', 'web/**/*.tsx'],
    ignores: ['**/*.test.ts', 'web/vite.config.ts'],
    rules: forbid('**/server/**', '**/cli/**', '**/demo/**', 'node:*'),
  },
  { files: ['server/**/*.ts'], rules: forbid('**/web/**', '**/cli/**') },
);
