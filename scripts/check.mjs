// npm run check: types, lint, imports, unused code and format, with what each took.
import { checks, runCheck } from './checks.mjs';

const begun = Date.now();
let failed = 0;
const left = [...checks];
const lane = async () => {
  for (let next = left.shift(); next; next = left.shift()) {
    const { isWell, said, seconds } = await runCheck(next);
    if (!isWell) failed++;
    console.log(`${isWell ? 'passed' : 'FAILED'} ${seconds.toFixed(1).padStart(6)} s  ${next[0]}`);
    if (!isWell) console.log(said.trimEnd());
  }
};
await Promise.all([lane(), lane()]);
const all = ((Date.now() - begun) / 1000).toFixed(0);
console.log(`${failed === 0 ? 'all passed' : `${failed} failed`} in ${all} s`);
process.exit(failed === 0 ? 0 : 1);
