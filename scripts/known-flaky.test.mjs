import { describe, expect, it } from 'vitest';
import { readKnownFlaky, troubleWithFlaky } from './known-flaky.mjs';

const known = (
  test = 'a.spec.ts › b',
  since = '2026-12-01',
  cause = 'the select closes too early',
) => ({
  test,
  since,
  cause,
});

describe('browser tests that pass the second time only', () => {
  it('fail the build, unless they are known', () => {
    expect(troubleWithFlaky([], ['a.spec.ts › b'])).toEqual([
      expect.stringContaining('a.spec.ts › b'),
    ]);
    expect(troubleWithFlaky([known()], ['a.spec.ts › b'])).toEqual([]);
    expect(troubleWithFlaky([known()], [])).toEqual([]);
  });
  it('are five at most, each with a date and a cause', () => {
    const six = Array.from({ length: 6 }, (_, at) => known(`test ${at}`));
    expect(troubleWithFlaky(six, [])).toEqual([expect.stringContaining('5 at most')]);
    expect(troubleWithFlaky(six.slice(1), [])).toEqual([]);
    for (const bad of [known('a', 'lately'), known('a', '2026-12-01', 'no'), known('')])
      expect(troubleWithFlaky([bad], [])).toHaveLength(1);
  });
  it('the list that is committed is well', () => {
    expect(troubleWithFlaky(readKnownFlaky(), [])).toEqual([]);
  });
});
