import type { NetId, StageId } from '../board/index.ts';
import type { HealthyBoard, Role } from '../expectations/index.ts';
import type { Expectation, Mode, Phase } from '../readings/index.ts';
import type { JudgedReading, NetStatus } from './judged.ts';
import type { probePlace } from './probe-place.ts';

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

export interface NextProbe {
  net: NetId;
  stage: StageId | null;
  mode: Mode;
  phase: Phase;
  place: ReturnType<typeof probePlace>;
  expectation: Expectation;
  why: string;
  /** A reading that stands is in doubt by itself: nothing is to follow from it before it is read again. */
  isAgain?: true;
  /** To be read before a source is connected, whatever else would tell more. */
  beforePower?: true;
  /** Standing readings this one is to decide between. */
  decides: string[];
}

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
