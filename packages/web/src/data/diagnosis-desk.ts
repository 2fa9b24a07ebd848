import { serially } from '@jiko/core/base';
import type { Board } from '@jiko/core/board';
import type { BenchNow, BenchOf, Diagnosis, Evidence } from '@jiko/core/diagnosis';
import type { DrawStop } from '@jiko/core/prepare';
import type { BenchSetup } from '@jiko/core/play';
import type { Dictionary } from '@jiko/core/dictionary';

/** The one who weighs, in a worker of its own; it holds one dictionary at a time. */
export interface Weigher {
  prepare(board: Board, bench: BenchSetup, dictionary: Dictionary): Promise<void>;
  alsoKnow(bench: BenchOf, dictionary: Dictionary): Promise<void>;
  diagnose(evidence: Evidence, now: BenchNow): Promise<Diagnosis>;
  draws(): Promise<DrawStop[]>;
}

/** A sheet on a bench with its plays: what a question is asked of. */
export interface Asked {
  board: Board;
  bench: BenchSetup;
  dictionary: Dictionary;
}

/** Plays of a bench some readings were taken on, which is not the one that stands there now. */
export interface OtherBench {
  /** Hash of the sheet. */
  sheet: string;
  bench: BenchOf;
  dictionary: Dictionary;
}

export interface DiagnosisDesk {
  /** Makes the weigher ready to be asked: it takes a moment, while plays are being made. */
  wake(): void;
  diagnose(
    asked: Asked,
    others: readonly OtherBench[],
    evidence: Evidence,
    now: BenchNow,
  ): Promise<Diagnosis>;
  draws(asked: Asked): Promise<DrawStop[]>;
}

/**
 * One question at a time: what is prepared for one bench must not be asked by another in between, whose
 * answer would then be kept under the wrong name.
 */
export function makeDesk(weigher: () => Weigher): DiagnosisDesk {
  const inTurn = serially();

  /** What the weigher holds, and which other dictionaries it was told of since. */
  let held: { key: string; taught: Set<string> } | null = null;
  /** The readings it was last asked about: sets of faults it grew for one stay with it. */
  let known: readonly string[] = [];
  const prepare = async ({ board, bench, dictionary }: Asked): Promise<Set<string>> => {
    // Two versions of a sheet that differ in words alone share their plays, not their words.
    const key = `${board.hash} ${dictionary.key}`;
    if (held?.key !== key) {
      held = null;
      await weigher().prepare(board, bench, dictionary);
      held = { key, taught: new Set() };
    }
    return held.taught;
  };

  return {
    wake: () => void weigher(),
    diagnose: (asked, others, evidence, now) =>
      inTurn(async () => {
        const ids = evidence.readings.map((one) => one.id);
        // What was struck out leaves no trace: what was grown for it goes too.
        if (known.some((id) => !ids.includes(id))) held = null;
        known = ids;
        const taught = await prepare(asked);
        for (const { bench, dictionary } of others) {
          if (taught.has(dictionary.key)) continue;
          await weigher().alsoKnow(bench, dictionary);
          taught.add(dictionary.key);
        }
        return weigher().diagnose(evidence, now);
      }),
    draws: (asked) =>
      inTurn(async () => {
        await prepare(asked);
        return weigher().draws();
      }),
  };
}
