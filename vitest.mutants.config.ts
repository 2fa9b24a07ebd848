import { defineConfig } from 'vitest/config';

const folders = process.env['MUTANT_TESTS']?.split(',') ?? ['prepare', 'readings', 'trace'];

// Where a change changes no play, the plays are made once for all changes.
const setupFiles = process.env['JIKO_PLAYS']
  ? [new URL('./scripts/shared-plays.mjs', import.meta.url).pathname]
  : [];

/** A path beside this file: in a mutation run it is the copy whose lines are changed. */
const here = (path: string): string => new URL(path, import.meta.url).pathname;

/** One plain project for mutation testing: the tests beside the code, without the long loops. */
export default defineConfig({
  // Packages are linked to the code nobody changes: what tests take by a package's name comes from here.
  resolve: {
    alias: [
      { find: /^@jiko\/testing$/, replacement: here('./packages/testing/src/index.ts') },
      { find: /^@jiko\/core\/([\w-]+)$/, replacement: here('./packages/core/src/$1/index.ts') },
    ],
  },
  test: {
    setupFiles,
    include: folders.map((folder) => `packages/core/src/${folder}/**/*.test.ts`),
    exclude: ['**/*.long.test.ts', '**/before-power.test.ts'],
    isolate: false,
    testTimeout: 60000,
  },
});
