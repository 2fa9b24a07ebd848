import { defineConfig } from 'vitest/config';

const folders = process.env['MUTANT_TESTS']?.split(',') ?? ['prepare', 'readings', 'trace'];

/** One plain project for mutation testing: the tests beside the code, without the long loops. */
export default defineConfig({
  test: {
    include: folders.map((folder) => `packages/core/src/${folder}/**/*.test.ts`),
    exclude: ['**/*.long.test.ts', '**/before-power.test.ts'],
    isolate: false,
    testTimeout: 60000,
  },
});
