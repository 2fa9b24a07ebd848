// Mutation testing: see scripts/mutants.mjs, which says what is mutated. Not part of CI.
export default {
  testRunner: 'vitest',
  plugins: ['@stryker-mutator/vitest-runner'],
  vitest: { configFile: 'vitest.mutants.config.ts' },
  mutate: process.env.MUTATE?.split(' ').filter(Boolean) ?? [],
  concurrency: 2,
  reporters: ['clear-text', 'progress', 'json'],
  jsonReporter: { fileName: '.data/mutants.json' },
  tempDirName: '.data/stryker',
  ignorePatterns: ['.data', 'test-results', 'docs', 'packages/web/dist'],
  clearTextReporter: { allowColor: false, reportTests: false },
  // Long plays are not wanted here: what a mutant breaks is seen in the tests beside it.
  timeoutMS: 90000,
};
