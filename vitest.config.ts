import { defineConfig } from 'vitest/config';

// What takes long is in files *.long.test.ts: npm run test:long (JIKO_LONG=only) runs those, npm test the
// others. JIKO_LONG=both: all of them.
const long = process.env['JIKO_LONG'] ?? '';
const include = [long === 'only' ? 'src/**/*.long.test.ts' : 'src/**/*.test.ts'];
// Plays of the boards are made once for all processes of a run.
const setupFiles = [new URL('./scripts/shared-plays.mjs', import.meta.url).pathname];
const exclude = ['**/node_modules/**', ...(long === '' ? ['**/*.long.test.ts'] : [])];

// Times are for what never ends: beside the browser tests, and behind them, a minute's work takes four.
export default defineConfig({
  test: {
    // Both cores of a small machine: the usual number is one less.
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'core',
          setupFiles,
          root: './packages/core',
          include,
          exclude,
          // The core keeps no state of its own: files share what they load and the dictionaries they read.
          isolate: false,
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'cli',
          setupFiles,
          root: './packages/cli',
          include,
          exclude,
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'bench',
          setupFiles,
          isolate: false,
          root: './packages/bench',
          include,
          exclude,
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'pdf',
          isolate: false,
          root: './packages/pdf',
          include,
          exclude,
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
          include,
          exclude,
          testTimeout: 240000,
        },
      },
      {
        test: {
          name: 'server',
          isolate: false,
          root: './packages/server',
          include,
          exclude,
          testTimeout: 120000,
          hookTimeout: 120000,
          fileParallelism: false,
        },
      },
    ],
  },
});
