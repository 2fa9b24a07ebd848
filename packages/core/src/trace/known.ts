import type { NetId, StageId } from '../board/index.ts';
import type { HealthyBoard, Role } from '../expectations/index.ts';
import type { Phase } from '../readings/index.ts';
import type { JudgedReading, NetStatus } from './judged.ts';

/** What a search for the missing stage goes by. */
export interface Known {
  healthy: HealthyBoard;
  readings: readonly JudgedReading[];
  status: (net: NetId) => NetStatus;
  /** Parts that are off the board. */
  gone: readonly string[];
  /** Nets a sheet of guesses puts before the button, which may come after it. */
  later: ReadonlySet<NetId>;
}

/** A need of the missing stage and what is known of it. */
export interface TracedNeed {
  net: NetId;
  role: Role;
  via: string;
  status: NetStatus;
  phase: Phase;
}

export interface FirstMissing {
  stage: StageId;
  title: string;
  /** The output that is not there. */
  net: NetId;
  /** True when every need was read and is there; false while some are still unread. */
  certain: boolean;
  why: string;
  needs: TracedNeed[];
  /** Something pulls it to ground: by its cold ohms for sure, or likely where a core may read that little. */
  pulledDown: 'surely' | 'likely' | null;
}

/** Where the search for the missing stage ended: what was not read yet, for whoever says what is read next. */
export type SearchEnd =
  /** Nothing is known to be wrong: the order of waking, then what the goal stands on. */
  | { is: 'nothing-wrong'; goal: readonly NetId[] }
  /** What is missing is proven, or no reading tells more of it. */
  | { is: 'settled' }
  /** Missing at rest, and it may come after the press. */
  | { is: 'after-press'; net: NetId }
  /** Its feed comes and goes: is the output itself pulled down? */
  | { is: 'dragged'; net: NetId }
  /** Needs of the missing net that are not settled; `asked` leads to the need, or is it. */
  | { is: 'needs-open'; net: NetId; open: { need: TracedNeed; asked: NetId }[] }
  /** All it needs is there, by a guess: it may hang on this rail instead. */
  | { is: 'sister'; net: NetId; sister: NetId }
  /** All it needs is there. */
  | { is: 'needs-there'; net: NetId; needs: TracedNeed[] };

export const roleText: Record<Role, string> = {
  feed: 'feed',
  supply: 'chip supply',
  'power-good': 'power-good',
  enable: 'enable',
  trigger: 'button line',
  gate: 'gate',
  watched: 'rail it reports on',
  'pull-up': 'pull-up',
};
