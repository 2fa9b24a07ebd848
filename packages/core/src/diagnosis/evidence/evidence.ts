import type { GoalId, PartRef, StageId } from '../../board/index.ts';
import type { PoweredPhase, Reading } from '../../readings/index.ts';
import type { Habit } from '../../record/index.ts';
import type { Finding, Tried } from './finding.ts';

/** The draw at the source, as first signs and during the trace. */
export interface DrawSign {
  phase: PoweredPhase;
  amps: number | null;
  shape: 'steady' | 'pulsing' | 'limited' | 'rising' | null;
  /** Volts a cable meter or the supply showed at the plug; missing where nobody looked. */
  shownVolts?: number | undefined;
  /** What fed the board then; missing where nobody wrote it down: the bench's own source. */
  source?: { id: string; volts: number | null } | undefined;
}

export interface Signs {
  draw: readonly DrawSign[];
  /** Lights seen after the press; null where nobody looked. */
  lights: readonly string[] | null;
  fan: boolean | null;
  /** It gives up and goes off after so many seconds; null where it was not seen. */
  offAfterSeconds: number | null;
  /** It was watched, and goes off by itself or does not; null where nobody looked. */
  goesOff: boolean | null;
  /** It comes on by itself when the source is connected. */
  startsOnConnect: boolean | null;
  /** The button was pressed and something changed, or nothing did. */
  answers: boolean | null;
  /** It goes off and comes on again by itself. */
  restarts: boolean | null;
  /** A picture is seen. */
  picture: boolean | null;
  /** A picture is seen under a torch only: code runs, the light of the panel is missing. */
  faintPicture: boolean | null;
  /** It beeps, blinks or shows a code: code runs. */
  speaks: boolean | null;
  /** The furthest stage that was seen to come. */
  reached: StageId | null;
}
export const noSigns: Signs = {
  draw: [],
  lights: null,
  fan: null,
  offAfterSeconds: null,
  goesOff: null,
  startsOnConnect: null,
  answers: null,
  restarts: null,
  picture: null,
  faintPicture: null,
  speaks: null,
  reached: null,
};

/** All that speaks for and against suspects. */
export interface Evidence {
  readings: readonly { id: string; reading: Reading }[];
  signs: Signs;
  findings: readonly Finding[];
  /** Simple things tried, and whether they changed anything. */
  tried: readonly Tried[];
  /** Where closed jobs on this board ended. */
  habits: readonly Habit[];
  /** Parts that were reflowed or programmed anew without effect: less likely than they were. */
  doubted?: readonly string[];
  /** Parts replaced or refitted good: they are no suspects any more. */
  cleared: readonly PartRef[];
  /** Parts that are not there to be measured, and those that were off when something was read. */
  gone: readonly string[];
  lifted: readonly string[];
  /** What the board was brought in for not doing; null where nobody said. */
  goal: GoalId | null;
  /** Whether what was read and seen shows that it does so all the same: then the complaint is answered. */
  goalReached?: boolean;
}

/** Nothing known at all. */
export const noEvidence: Evidence = {
  readings: [],
  signs: noSigns,
  findings: [],
  tried: [],
  habits: [],
  cleared: [],
  gone: [],
  lifted: [],
  goal: null,
};
