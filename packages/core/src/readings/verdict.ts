/** What a reading means, each kind with its line of why. */
export type VerdictKind =
  | 'good'
  | 'low'
  | 'high'
  | 'missing'
  | 'present'
  | 'swinging'
  | 'shorted'
  | 'open'
  | 'odd'
  /** More current with the battery than its charger is set to. */
  | 'overcurrent'
  /** Within tolerance, but something that is wrong would read the same: never called good. */
  | 'undecided'
  /** Recorded, but there is nothing to hold it against. */
  | 'unjudged';

export interface Verdict {
  kind: VerdictKind;
  why: string;
}

/** Whether the reading says that the net is there and as it should be. */
export const isGood = (verdict: Verdict): boolean => verdict.kind === 'good';

/** Whether the reading says that something is wrong at this point. */
export function isBad(verdict: Verdict): boolean {
  switch (verdict.kind) {
    case 'low':
    case 'high':
    case 'missing':
    case 'present':
    case 'swinging':
    case 'shorted':
    case 'open':
    case 'odd':
    case 'overcurrent':
      return true;
    case 'good':
    case 'undecided':
    case 'unjudged':
      return false;
  }
}
