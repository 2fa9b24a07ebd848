import { defineConfig } from 'vitest/config';

/** One plain project for mutation testing: the tests beside what decides, without the long loops. */
export default defineConfig({
  test: {
    include: [
      'packages/core/src/{prepare,readings,units,record,board,report}/**/*.test.ts',
      'packages/core/src/trace/*.test.ts',
      'packages/core/src/diagnosis/{honesty,proposing/next-step}.test.ts',
    ],
    isolate: false,
    testTimeout: 60000,
  },
});
