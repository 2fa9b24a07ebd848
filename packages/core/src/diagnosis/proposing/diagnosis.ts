import type { NetId, StageId } from '../../board/index.ts';
import type { Suspect } from '../grouping/suspects.ts';
import type { Unused } from '../weighing/observations.ts';
import type { SheetDoubt } from '../weighing/sheet-mistake.ts';
import type { BenchAction } from './actions.ts';
import type { Proposal } from './next-probe.ts';

/** What everything observed says of the board. */
export interface Diagnosis {
  /** The answer at its coarsest: the first stage that does not come; null where every stage comes. Likeliest first. */
  regions: { stage: StageId | null; probability: number }[];
  suspects: Suspect[];
  /** Probability that it is nothing of the list: another fault, several, or a mistake in the sheet. */
  none: number;
  /** Probability that nothing is wrong. */
  healthy: number;
  /** Probability of what was not played yet: it is named once it was, and only weighs until then. */
  unplayed: number;
  next: Proposal[];
  /** Unplugging, feeding, lifting: what tells apart where readings alone do not. */
  actions: BenchAction[];
  /** Titles of the classes that outcomes of `next` speak of, by their number. */
  classTitles: string[];
  /** Where a fault of no list would sit, with its share of `none`; likeliest first. */
  elsewhere: { net: NetId; share: number }[];
  /** Rails of which the sheet may state the wrong volts, likeliest first: no fault of the board. */
  sheet: SheetDoubt[];
  /** By fault of the dictionary: the probability of its row, for whoever chooses what to play next. */
  byFault: Float32Array;
  /** Readings the dictionaries at hand cannot speak of, and why. */
  unused: Unused[];
}
