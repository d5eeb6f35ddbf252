import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import { arrows, noCircles } from './scripts/lint/arrows.mjs';

const globals = [
  ...['process', 'console', 'fetch', 'setTimeout', 'clearTimeout', 'setInterval', 'URL', 'Buffer', 'performance'],
  ...['document', 'localStorage', 'AbortSignal', 'WebAssembly', 'window'],
];

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'core/kernels/assembly', '.cache', '.data', 'demo/out', 'bench/out'] },
  js.configs.recommended,
  tseslint.configs.recommended,
  {
    plugins: { house: { rules: { arrows, 'no-circles': noCircles } } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      eqeqeq: 'error',
      'no-console': 'off',
      'max-params': ['error', 6],
      'house/arrows': 'error',
      'house/no-circles': 'error',
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: { globals: Object.fromEntries(globals.map((name) => [name, 'readonly'])) },
  },
);
