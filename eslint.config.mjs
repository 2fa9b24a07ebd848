// Rules that need no types. Those that do, and those of accessibility, are in .oxlintrc.json.
import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';
import { noStateWhileDrawing } from './scripts/lint/no-state-while-drawing.mjs';

const nodeModules = [
  'assert',
  'buffer',
  'child_process',
  'crypto',
  'events',
  'fs',
  'http',
  'net',
  'os',
  'path',
  'process',
  'stream',
  'url',
  'util',
  'worker_threads',
  'zlib',
];

// The rules of React's compiler take half of the time: `npm test` leaves them to `npm run check` and to the
// long tests (JIKO_LINT=quick).
const hookRules =
  process.env.JIKO_LINT === 'quick'
    ? { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' }
    : hooks.configs.recommended.rules;

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.data/**', 'test-results/**'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  {
    // The core and the contract run in the browser, in workers and on the server alike.
    files: ['packages/core/src/**/*.ts', 'packages/contract/src/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { paths: nodeModules, patterns: ['node:*', 'react', 'react-dom', 'antd'] },
      ],
      'no-restricted-globals': ['error', 'Date', 'window', 'document', 'process', 'performance'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'chance is handed in: see base/seeded' },
      ],
    },
  },
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    plugins: {
      'react-hooks': hooks,
      jiko: { rules: { 'no-state-while-drawing': noStateWhileDrawing } },
    },
    rules: {
      ...hookRules,
      'jiko/no-state-while-drawing': 'error',
      'no-restricted-globals': [
        'error',
        { name: 'localStorage', message: 'it may be full or missing: see data/kept.ts' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          // A sheet is saved with the version it was made from.
          selector:
            "CallExpression[callee.name='request'][arguments.length>2] > MemberExpression[object.name='api'][property.name='boards']",
          message: 'sheets are saved by data/save-sheet.ts',
        },
      ],
    },
  },
  {
    files: ['packages/web/src/data/kept.ts', 'packages/web/src/offline/outbox.ts'],
    rules: { 'no-restricted-globals': 'off' },
  },
  {
    files: ['packages/web/src/data/save-sheet.ts'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    files: ['**/*.mjs', '**/*.cjs', 'e2e/**/*.ts', 'scripts/**/*.ts'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        Buffer: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        setInterval: 'readonly',
        AbortController: 'readonly',
        AbortSignal: 'readonly',
        URLSearchParams: 'readonly',
        clearTimeout: 'readonly',
        module: 'writable',
        require: 'readonly',
      },
    },
    rules: { 'no-console': 'off', '@typescript-eslint/no-require-imports': 'off' },
  },
);
