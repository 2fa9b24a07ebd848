import type { Board, NetId } from '@jiko/core/board';
import type { BenchNow, BenchOf, Diagnosis, Evidence } from '@jiko/core/diagnosis';
import type { BenchSetup } from '@jiko/core/play';
import type { Dictionary } from '@jiko/core/dictionary';
import type { DiagnosisDesk, OtherBench } from './diagnosis-desk.ts';
import type { Left, Making } from './dictionary-search.ts';
import type { Seat, Standing } from './shared-searches.ts';

/** What a job asks: its sheet, how the bench stands, and what was recorded. */
export interface Question {
  sheet: { id: string; hash: string };
  board: Board;
  bench: BenchSetup;
  /** Null where there is nothing to weigh: then the plays are made all the same. */
  evidence: Evidence | null;
  /** Equal for equal evidence: it is written out once, not at every look. */
  evidenceKey: string;
  now: BenchNow;
  /** Nets at which the trouble sits by what was read: faults there are played first. */
  near: readonly NetId[];
}

/** What stands for a job: the plays, and the suspects weighed from them. */
export interface JobDiagnosis {
  making: Making;
  /** What is to be said of the plays besides. */
  note: string | null;
  /** The plays of the bench as it stands, once all are made. */
  dictionary: Dictionary | null;
  /** Plays of another bench that some readings were taken on, while they are being made. */
  also: Making;
  /** The last answer for this version of the sheet on this bench. */
  diagnosis: Diagnosis | null;
  /** What stood by another version of the sheet, or with the bench set up otherwise; null where `diagnosis` is there. */
  before: Diagnosis | null;
  /** What stands here is of before the last entry. */
  isWeighing: boolean;
}

/** What the store works with; everything outside is handed in. */
export interface StoreParts {
  join(
    sheet: Question['sheet'],
    board: Board,
    bench: BenchSetup,
    listen: (standing: Standing) => void,
  ): Seat;
  desk: Pick<DiagnosisDesk, 'diagnose'>;
  /** Runs something after some milliseconds; what it gives back calls it off. */
  after(milliseconds: number, run: () => void): () => void;
}

export interface DiagnosisStore {
  /** What is to be known now; asked again with the same it does nothing. */
  ask(question: Question): void;
  /** Nobody looks at it for now: what stands is kept, the plays are left to whoever else wants them. */
  rest(): void;
  state(): JobDiagnosis;
  /** How what stands relates to a question that may not have been asked yet. */
  of(question: Question | null): JobDiagnosis;
  subscribe(listener: () => void): () => void;
}

/**
 * Longer nobody waits to hear whether there are kept plays, here or on the server. Where none are, that
 * is said within some milliseconds; what is on its way would only be held up by playing.
 */
export const findMilliseconds = 1000;

const none: Making = { state: 'none' };

/** A bench in words that are equal for equal benches, in whichever order things were ticked. */
export const benchKey = ({ source, attached, lifted = [] }: BenchSetup | BenchOf): string =>
  JSON.stringify([source ?? null, [...attached].sort(), [...lifted].sort()]);

/**
 * The benches whose plays readings still wait for, most readings first. Cold readings name no source:
 * their plays are made with the source that is on the bench now, and so speak of readings on it too.
 */
export function benchesWaitedFor(
  unused: readonly { bench: BenchOf | null }[],
  source: string | undefined,
): BenchSetup[] {
  const byKey = new Map<string, { bench: BenchSetup; readings: number }>();
  for (const { bench } of unused) {
    if (!bench) continue;
    const setup = {
      source: bench.source ?? source,
      attached: bench.attached,
      lifted: bench.lifted,
    };
    const key = benchKey(setup);
    const known = byKey.get(key);
    byKey.set(key, { bench: setup, readings: (known?.readings ?? 0) + 1 });
  }
  return [...byKey.values()].sort((a, b) => b.readings - a.readings).map((one) => one.bench);
}

/** Plays of one bench on their way: sought among what is kept, else made. */
interface Plays {
  key: string;
  bench: BenchSetup;
  seat: Seat;
  standing: Standing;
  callOff: () => void;
}

/**
 * The diagnosis of one job, outside of any page: plays of the bench as it stands, then of each other
 * bench that readings were taken on, and the suspects weighed from all of them. One question is asked at
 * a time; while it is open no newer plays are taken, or on a slow machine the answers would never be of
 * what is asked.
 */
export function makeDiagnosisStore({ join, desk, after }: StoreParts): DiagnosisStore {
  const listeners = new Set<() => void>();
  let question: Question | null = null;
  let main: Plays | null = null;
  let other: Plays | null = null;
  /** Plays of other benches that are at hand, by bench. */
  let others = new Map<string, OtherBench>();
  /** Benches that cannot be played: they are not tried over and over. */
  let failed = new Set<string>();
  let isAsking = false;
  /** What could not be weighed: it is not asked again as it is. */
  let unanswered: string | null = null;
  let answer: {
    /** Everything it was asked of. */
    key: string;
    sheet: Question['sheet'];
    bench: string;
    evidenceKey: string;
    faults: Dictionary['faults'];
    diagnosis: Diagnosis;
  } | null = null;

  const sofarOf = ({ making }: Standing): Dictionary | null =>
    making.state === 'ready' ? making.dictionary : making.state === 'working' ? making.sofar : null;
  const left = (): Left | null =>
    answer && answer.sheet.id === question?.sheet.id
      ? { faults: answer.faults, byFault: answer.diagnosis.byFault }
      : null;

  const begin = ({ sheet, board }: Question, bench: BenchSetup, onTold: () => void): Plays => {
    const plays: Plays = {
      key: benchKey(bench),
      bench,
      seat: silentSeat,
      standing: { making: none, note: null },
      callOff: nothing,
    };
    const start = (): void => plays.seat.start({ left: left(), near: question?.near ?? [] });
    let isMissing = false;
    plays.callOff = after(findMilliseconds, start);
    plays.seat = join(sheet, board, bench, (standing) => {
      plays.standing = standing;
      const { making } = standing;
      if (making.state !== 'none') plays.callOff();
      else if (making.isMissing && !isMissing) {
        isMissing = true;
        plays.callOff();
        plays.callOff = after(0, start);
      }
      // While it is being joined nobody knows of it yet.
      if (plays.seat !== silentSeat) onTold();
    });
    return plays;
  };
  const leave = (plays: Plays | null): void => {
    plays?.callOff();
    plays?.seat.leave();
  };

  const isHere = (): boolean =>
    answer !== null &&
    question !== null &&
    answer.sheet.hash === question.sheet.hash &&
    answer.bench === benchKey(question.bench);
  const usable = (): OtherBench[] =>
    [...others.values()].filter((one) => benchKey(one.bench) !== main?.key);
  const keyOf = ({ sheet, evidenceKey, now }: Question, dictionary: Dictionary): string =>
    JSON.stringify([
      sheet.hash,
      dictionary.key,
      evidenceKey,
      now,
      usable().map((one) => one.dictionary.key),
    ]);

  /** Asks what is not answered yet, if there is something to ask it of. */
  const weigh = (): void => {
    const dictionary = main && sofarOf(main.standing);
    if (isAsking || !question?.evidence || !main || !dictionary) return;
    const key = keyOf(question, dictionary);
    if (answer?.key === key || unanswered === key) return;
    const { sheet, board, bench, evidence, evidenceKey, now } = question;
    const of = main;
    isAsking = true;
    // The first suspects are worth more than plays a moment sooner.
    if (!isHere()) of.seat.hold(true);
    void desk
      .diagnose({ board, bench, dictionary }, usable(), evidence, now)
      .then((diagnosis) => {
        if (question?.sheet.id !== sheet.id) return;
        answer = {
          key,
          sheet,
          bench: of.key,
          evidenceKey,
          faults: dictionary.faults,
          diagnosis,
        };
        seekOther();
      })
      .catch(() => {
        unanswered = key;
      })
      .finally(() => {
        isAsking = false;
        if (main === of) of.seat.hold(false);
        weigh();
        tell();
      });
  };

  /** Joins the plays of the next bench that readings wait for. */
  const seekOther = (): void => {
    if (other || !question || !answer || !isHere()) return;
    const next = benchesWaitedFor(answer.diagnosis.unused, question.bench.source).find((bench) => {
      const key = benchKey(bench);
      return key !== main?.key && !failed.has(key) && !others.has(key);
    });
    if (!next) return;
    other = begin(question, next, onOther);
    onOther();
  };
  const onOther = (): void => {
    if (!other || !question) return;
    const { key, bench, standing } = other;
    const { making } = standing;
    const sofar = sofarOf(standing);
    const isWhole = making.state === 'ready';
    // It counts as soon as all that could still be it is played, and once more when it is whole.
    const isEnough = isWhole || (making.state === 'working' && making.enough);
    const known = others.get(key);
    if (sofar && isEnough && (!known || isWhole)) keep(bench, sofar);
    if (making.state === 'failed') failed.add(key);
    if (isWhole || making.state === 'failed') {
      const done = other;
      other = null;
      leave(done);
      seekOther();
    }
    weigh();
    tell();
  };
  const keep = (bench: BenchSetup, dictionary: Dictionary): void => {
    const { source = null, attached, lifted = [] } = bench;
    others = new Map(others).set(benchKey(bench), {
      sheet: question!.sheet.hash,
      bench: { source, attached, lifted },
      dictionary,
    });
  };

  const onMain = (): void => {
    weigh();
    tell();
  };

  let shown = stateOf();
  function stateOf(): JobDiagnosis {
    const standing = main?.standing ?? { making: none, note: null };
    const isOld = answer !== null && !isHere();
    const isOfBoard = answer !== null && answer.sheet.id === question?.sheet.id;
    return {
      making: standing.making,
      note: standing.note,
      dictionary: standing.making.state === 'ready' ? standing.making.dictionary : null,
      also: other && !others.has(other.key) ? other.standing.making : none,
      diagnosis: answer && isHere() ? answer.diagnosis : null,
      before: answer && isOfBoard && isOld ? answer.diagnosis : null,
      isWeighing: answer !== null && isOfBoard && (isOld || isAnswerOld()),
    };
  }
  function isAnswerOld(): boolean {
    return answer?.evidenceKey !== question?.evidenceKey;
  }
  const tell = (): void => {
    shown = stateOf();
    listeners.forEach((listener) => listener());
  };

  return {
    ask(next) {
      const before = question;
      const isOtherSheet = before?.sheet.hash !== next.sheet.hash;
      const isOtherBench = benchKey(next.bench) !== main?.key;
      question = next;
      if (before?.sheet.id !== next.sheet.id) answer = null;
      if (isOtherSheet) {
        others = new Map();
        failed = new Set();
      }
      if (isOtherSheet || isOtherBench) {
        leave(other);
        other = null;
        const old = main;
        // What was played for the bench before speaks of what was read on it.
        const played = old && !isOtherSheet && sofarOf(old.standing);
        if (played && old.standing.making.state === 'ready') keep(old.bench, played);
        main = begin(next, next.bench, onMain);
        leave(old);
      }
      weigh();
      seekOther();
      tell();
    },
    rest() {
      leave(main);
      leave(other);
      main = other = null;
      tell();
    },
    state: () => shown,
    of(asked) {
      if (!asked || !question) return { ...shown, isWeighing: shown.diagnosis !== null };
      const isSame =
        asked.sheet.hash === question.sheet.hash &&
        benchKey(asked.bench) === benchKey(question.bench);
      if (isSame)
        return asked.evidenceKey === question.evidenceKey
          ? shown
          : { ...shown, isWeighing: shown.diagnosis !== null || shown.before !== null };
      // Asked in a moment: what stands is of another sheet or bench.
      const isOfBoard = asked.sheet.id === question.sheet.id;
      return {
        ...shown,
        making: none,
        dictionary: null,
        diagnosis: null,
        before: isOfBoard ? (shown.diagnosis ?? shown.before) : null,
        isWeighing: isOfBoard,
      };
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

const nothing = (): void => undefined;
const silentSeat: Seat = { start: nothing, cancel: nothing, hold: nothing, leave: nothing };
