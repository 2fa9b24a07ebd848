// npm run check: types, lint, imports, unused code and format, with what each took.
import { runChecks } from './checks.mjs';

const begun = Date.now();
let failed = 0;
await runChecks(2, (name, isWell, said, seconds) => {
  if (!isWell) failed++;
  console.log(`${isWell ? 'passed' : 'FAILED'} ${seconds.toFixed(1).padStart(6)} s  ${name}`);
  if (!isWell) console.log(said.trimEnd());
});
console.log(
  `${failed === 0 ? 'all passed' : `${failed} failed`} in ${((Date.now() - begun) / 1000).toFixed(0)} s`,
);
process.exit(failed === 0 ? 0 : 1);
