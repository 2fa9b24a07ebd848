import { comesFrom, expectationText, type Expectation } from '@jiko/core/readings';

/** What a point is to read and where that comes from; in plain words where nobody knows. */
export function Expected({ of }: { of: Expectation }) {
  if (of.kind === 'unknown')
    return <span className="quiet">nothing known to expect: {of.because}</span>;
  return (
    <>
      <span>
        <span className="quiet">expect </span>
        <b>{expectationText(of)}</b>
      </span>
      <span className="quiet">{comesFrom(of)}</span>
    </>
  );
}
