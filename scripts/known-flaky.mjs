// Browser tests that are known to pass only the second time now and then: e2e/known-flaky.json.
import { readFileSync } from 'node:fs';

/** More than this is no list of exceptions any more. */
const most = 5;

/** @typedef {{ test: string, since: string, cause: string }} Known */

/** @returns {Known[]} */
export const readKnownFlaky = () =>
  JSON.parse(readFileSync(new URL('../e2e/known-flaky.json', import.meta.url), 'utf8'));

/**
 * Why the build fails for it, in words: tests that passed the second time only and are not known, and a
 * list that is too long or says too little.
 * @param {readonly Known[]} known
 * @param {readonly string[]} flaky titles
 */
export function troubleWithFlaky(known, flaky) {
  const troubles = flaky
    .filter((title) => !known.some(({ test }) => test === title))
    .map((title) => `passed the second time only, and is not in e2e/known-flaky.json: ${title}`);
  if (known.length > most)
    troubles.push(`e2e/known-flaky.json holds ${known.length} tests: ${most} at most`);
  for (const { test, since, cause } of known)
    if (!test || !/^\d{4}-\d{2}-\d{2}$/.test(since) || cause.trim().length < 10)
      troubles.push(`e2e/known-flaky.json: ${test || 'an entry'} needs a date (since) and a cause`);
  return troubles;
}
