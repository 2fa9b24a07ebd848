// Mutation testing: `npm run mutants`, or `npm run mutants -- FILE...` for others. Not part of CI.
// What decides about powering, injecting, charging, heating and lifting comes first.
const decides = [
  'packages/core/src/prepare/power-plan.ts',
  'packages/core/src/prepare/shorts.ts',
  'packages/core/src/prepare/make-safe.ts',
  'packages/core/src/readings/judge-across.ts',
  'packages/core/src/readings/caution.ts',
  'packages/core/src/diagnosis/proposing/separate.ts',
];
const asked = process.env.MUTATE?.split(' ').filter(Boolean) ?? [];

export default {
  testRunner: 'vitest',
  plugins: ['@stryker-mutator/vitest-runner'],
  vitest: { configFile: 'vitest.mutants.config.ts' },
  mutate: asked.length > 0 ? asked : decides,
  concurrency: 2,
  reporters: ['clear-text', 'progress', 'json'],
  jsonReporter: { fileName: '.data/mutants.json' },
  tempDirName: '.data/stryker',
  ignorePatterns: ['.data', 'test-results', 'docs', 'packages/web/dist'],
  clearTextReporter: { allowColor: false, reportTests: false },
  // Long plays are not wanted here: what a mutant breaks is seen in the tests beside it.
  timeoutMS: 20000,
};
