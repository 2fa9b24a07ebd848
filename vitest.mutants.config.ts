import { defineConfig } from 'vitest/config';

const folders = process.env['MUTANT_TESTS']?.split(',') ?? ['prepare', 'readings', 'trace'];

// Where a change changes no play, the plays are made once for all changes.
const setupFiles = process.env['JIKO_PLAYS']
  ? [new URL('./scripts/shared-plays.mjs', import.meta.url).pathname]
  : [];

/** One plain project for mutation testing: the tests beside the code, without the long loops. */
export default defineConfig({
  test: {
    setupFiles,
    include: folders.map((folder) => `packages/core/src/${folder}/**/*.test.ts`),
    exclude: ['**/*.long.test.ts', '**/before-power.test.ts'],
    isolate: false,
    testTimeout: 60000,
  },
});
