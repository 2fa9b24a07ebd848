import { defineConfig } from 'vitest/config';

/** One plain project for mutation testing: the tests beside the code, without the long loops. */
export default defineConfig({
  test: {
    include: [
      'packages/core/src/{prepare,readings,units,record,board,report,trace}/**/*.test.ts',
      'packages/core/src/diagnosis/**/*.test.ts',
      'packages/core/src/powerup/*.test.ts',
    ],
    exclude: ['**/benches.test.ts', '**/before-power.test.ts'],
    isolate: false,
    testTimeout: 60000,
  },
});
