import type { VerdictKind } from '@jiko/core/readings';
import type { StageState } from '@jiko/core/trace';

/** A verdict is a shape, a word and a colour: any one of the three is enough to tell it. */
type Tone = 'good' | 'bad' | 'warn' | 'odd' | 'quiet';

const verdicts: Record<VerdictKind, { word: string; tone: Tone; shape: string }> = {
  good: { word: 'good', tone: 'good', shape: 'M3 10.5 7.5 15 17 4.5' },
  low: { word: 'low', tone: 'bad', shape: 'M10 3v12M4.5 10 10 15.5 15.5 10M3 18h14' },
  high: { word: 'high', tone: 'bad', shape: 'M10 17V5M4.5 10 10 4.5 15.5 10M3 2h14' },
  missing: { word: 'missing', tone: 'bad', shape: 'M4 4h12v12H4zM4 16 16 4' },
  present: { word: 'there too early', tone: 'bad', shape: 'M4 4h12v12H4zM10 7v6M7 10h6' },
  swinging: {
    word: 'swinging',
    tone: 'warn',
    shape: 'M2 12c2-8 4-8 5.3 0s3.3 8 5.3 0 3.300-8 5.400-3',
  },
  shorted: { word: 'shorted', tone: 'bad', shape: 'M10 2v10M4 12h12M6.500 15h7M8.500 18h3' },
  open: { word: 'open', tone: 'bad', shape: 'M1.500 10h5M13.500 10h5M6.500 10 12 5' },
  odd: { word: 'odd', tone: 'odd', shape: 'M10 2 18 10 10 18 2 10zM10 6v5M10 13.500v.5' },
  overcurrent: {
    word: 'unplug now',
    tone: 'bad',
    shape: 'M10 2 19 18H1zM10 8v5M10 15.500v.5',
  },
  undecided: {
    word: 'undecided',
    tone: 'warn',
    shape: 'M10 3a7 7 0 1 0 0 14zM10 3a7 7 0 0 1 0 14',
  },
  unjudged: { word: 'noted', tone: 'quiet', shape: 'M6 10h8' },
};

const states: Record<StageState, { word: string; tone: Tone; shape: string }> = {
  up: { word: 'up', tone: 'good', shape: verdicts.good.shape },
  down: { word: 'missing or wrong', tone: 'bad', shape: verdicts.missing.shape },
  undecided: { word: 'read, not decided', tone: 'warn', shape: verdicts.undecided.shape },
  enough: {
    word: 'not read; enough for a later stage',
    tone: 'quiet',
    shape: 'M4 10h7M8 6.500 11.500 10 8 13.500M15 5v10',
  },
  unread: { word: 'not read', tone: 'quiet', shape: 'M10 6.500a3.500 3.500 0 1 0 .01 0' },
};

function Shape({ path }: { path: string }) {
  return (
    <svg viewBox="0 0 20 20" aria-hidden="true">
      <path
        d={path}
        fill="none"
        stroke="currentColor"
        strokeWidth="2.4"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** A verdict in a word. */
export const verdictWord = (kind: VerdictKind): string => verdicts[kind].word;

export function VerdictMark({ kind }: { kind: VerdictKind }) {
  const { word, tone, shape } = verdicts[kind];
  return (
    <span className={`mark tone-${tone}`}>
      <Shape path={shape} />
      {word}
    </span>
  );
}

/** The shape alone, for drawings; a name for it stands beside. */
export function VerdictShape({ kind }: { kind: VerdictKind }) {
  const { tone, shape } = verdicts[kind];
  return (
    <g className={`tone-${tone}`} transform="scale(0.75)">
      <path
        d={shape}
        fill="none"
        stroke="currentColor"
        strokeWidth="2.6"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </g>
  );
}

export function StageMark({ state }: { state: StageState }) {
  const { word, tone, shape } = states[state];
  return (
    <span className={`tone-${tone}`} role="img" aria-label={word} title={word}>
      <Shape path={shape} />
    </span>
  );
}
