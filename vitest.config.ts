import { defineConfig } from 'vitest/config';

// Times are for what never ends: beside the browser tests, and behind them, a minute's work takes four.
export default defineConfig({
  test: {
    // Both cores of a small machine: the usual number is one less.
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'core',
          root: './packages/core',
          include: ['src/**/*.test.ts'],
          // The core keeps no state of its own: files share what they load and the dictionaries they read.
          isolate: false,
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'cli',
          root: './packages/cli',
          include: ['src/**/*.test.ts'],
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'pdf',
          isolate: false,
          root: './packages/pdf',
          include: ['src/**/*.test.ts'],
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'scripts',
          root: './scripts',
          include: ['*.test.mjs'],
          testTimeout: 120000,
          hookTimeout: 60000,
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'web',
          isolate: false,
          root: './packages/web',
          include: ['src/**/*.test.ts'],
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'server',
          root: './packages/server',
          include: ['src/**/*.test.ts'],
          testTimeout: 120000,
          hookTimeout: 120000,
          fileParallelism: false,
        },
      },
    ],
  },
});
