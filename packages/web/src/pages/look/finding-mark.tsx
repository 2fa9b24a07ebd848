import type { Found } from '@jiko/core/record';

export type FindingKind = Found['body']['kind'];

/** A finding is a shape and a word: the shape alone stands on the picture. */
export const findingText: Record<FindingKind, string> = {
  corrosion: 'corrosion',
  burnt: 'burnt',
  cracked: 'cracked',
  missing: 'missing',
  bridged: 'bridged',
  reworked: 'reworked',
  'wrong-part': 'wrong part',
  'lifted-pad': 'lifted pad',
  hot: 'hot',
  swollen: 'swollen',
};
const shapes: Record<FindingKind, string> = {
  corrosion: 'M-5 3q2-8 5-3t5-3M-5 7q2-8 5-3t5-3',
  burnt: 'M0-7q6 6 3 11q-3 4-6 0q-3-5 3-11z',
  cracked: 'M-3-7 2-2-2 1 3 7',
  missing: 'M-5-5h10v10h-10zM-5 5 5-5',
  bridged: 'M-6-4v8M6-4v8M-6 0h12',
  reworked: 'M-6 5 2-3M1-6 6-1 3 2-2-3z',
  'wrong-part': 'M-6 0h12M-3-4-6 0l3 4M3-4 6 0 3 4',
  'lifted-pad': 'M-6 5h12M-4 1 4-5',
  hot: 'M-4 6V-3M0 6V-6M4 6V-1',
  swollen: 'M-6 5h12M-6 5q0-11 6-11t6 11',
};

export function FindingShape({ kind }: { kind: FindingKind }) {
  return (
    <svg viewBox="-9 -9 18 18" width="20" height="20" aria-hidden="true" className="finding-shape">
      <path d={shapes[kind]} />
    </svg>
  );
}

export function FindingMark({ finding, x, y }: { finding: Found; x: number; y: number }) {
  const { kind, part, text } = finding.body;
  return (
    <g
      className={`finding-mark${finding.harmless === null ? '' : ' is-harmless'}`}
      transform={`translate(${x} ${y - 26})`}
    >
      <path className="pin" d="M0 24-7 10h14z" />
      <circle r={14} />
      <path className="sign" d={shapes[kind]} />
      <title>
        {part ?? 'here'}: {findingText[kind]} {text}
      </title>
    </g>
  );
}
