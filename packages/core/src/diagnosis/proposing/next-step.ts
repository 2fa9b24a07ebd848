import { type Board, type NetId, findPart, findPartOrChip, joinedTo } from '../../board/index.ts';
import { isBad, isGood, type Mode, type Phase } from '../../readings/index.ts';
import type { Diagnosis } from './diagnosis.ts';
import type { BenchAction } from './actions.ts';
import { groundedNet } from '../../faults/index.ts';
import { nextAfterRails, type CheckAfterRails } from './after-rails.ts';
import { looksFirst } from './looks-first.ts';
import type { Proposal } from './next-probe.ts';
import type { Finding } from '../evidence/finding.ts';
import type { Suspect } from '../grouping/suspects.ts';
import { knownShorts, type Trace } from '../../trace/index.ts';
import { walkNext, type NextProbe } from './walk.ts';

/** How points are proposed: in the order of waking, what splits the suspects best, or damage first. */
export type SchoolOf = 'walk' | 'shortest' | 'looks';

/** What is to be done now, in the middle of the page and first on the command line. */
export type NextStep =
  /** The next output in the order of waking, or what the missing one needs. */
  | { kind: 'in-order'; probe: NextProbe }
  /** The reading that parts the suspects best for its time. */
  | { kind: 'telling'; proposal: Proposal; finding: Finding | null }
  /** A suspect's own test, and why it comes now; the rail whose short is to be found. */
  | { kind: 'test'; suspect: Suspect; because: WhyTest; rail?: NetId }
  /** All nets of the goal read right, and it does not do what it was brought for: what is tried then. */
  | { kind: 'check'; check: CheckAfterRails }
  | { kind: 'reached' }
  | { kind: 'nothing' };

export type WhyTest =
  /** No reading parts the suspects any more. */
  | 'nothing-parts'
  /** The suspect leads, and what could still be read is all but sure. */
  | 'leads'
  /** The short went with a part that was taken off. */
  | 'went'
  /** Two pins of one net read differently. */
  | 'broken'
  /** It was measured from end to end, and is short or open. */
  | 'measured'
  /** What is known to be shorted is looked for before anything is powered. */
  | 'shorted';

/** A reading that tells less is not worth a trip of the probe. */
export const leastTellingBits = 0.1;
const leastTellingOfGuesses = 0.15;
/** A suspect is to be tested once it stands like this; below, it is one of many. */
const leastTested = 0.1;
/**
 * A suspect leads where it is so likely and so many times likelier than the next one. Where the readings
 * say for certain what is missing, less is enough: what is left sits at that stage.
 */
const lead = { least: 0.45, leastAtMissing: 0.15, times: 3 };
/** So far ahead of all others nothing is to be read before it is tested. */
const farAhead = { least: 0.5, times: 8 };
/** A reading whose outcome the plays are so sure of is no step while the leader's own test is not done. */
const sureOutcome = 0.9;

/** One answer for all schools: none of them stops while a reading still tells something. */
export function nextStep(
  board: Board,
  trace: Trace,
  begun: Diagnosis | null,
  school: SchoolOf,
  findings: readonly Finding[],
  /** Not every fault was played yet: what was read by itself shows a short or a dark screen all the same. */
  isBegun = false,
  /** What is next in the order of waking. */
  asked = walkNext(trace),
): NextStep {
  if (trace.goalReached) return { kind: 'reached' };
  // The short went with a part that is off: it is fitted anew before anything else is read.
  if (trace.shortGone) {
    const isIt = isOf(board, trace.shortGone.part);
    const suspect = begun?.suspects.find(({ faults }) => faults.some(isIt));
    return suspect ? { kind: 'test', suspect, because: 'went' } : { kind: 'nothing' };
  }
  const shorted = knownShorts(trace.readings);
  // Nothing is read powered into a known short.
  const mayRead = ({ phase }: { phase: Phase }): boolean =>
    shorted.length === 0 || phase === 'cold';
  // Nothing follows from readings that deny each other, and ohms come before a source.
  const isFirst = asked && (asked.beforePower || asked.isAgain || asked.decides.length > 0);
  if (isFirst && mayRead(asked)) return { kind: 'in-order', probe: asked };
  // Readings of rails that are all there lead in circles: what is past them is tried.
  const check = trace.lacking && shorted.length === 0 ? nextAfterRails(board, trace.lacking) : null;
  if (check) return { kind: 'check', check };
  const short =
    shorted.length > 0
      ? begun?.suspects.find(
          (one) => one.probability >= leastTested && pullsDown(board, one, shorted),
        )
      : undefined;
  if (short) {
    const rail = shorted.find((net) => pullsDown(board, short, [net]))!;
    return { kind: 'test', suspect: short, because: 'shorted', rail };
  }
  const broken = begun?.suspects.find(({ between }) => between && between.net === brokenNet(trace));
  if (broken) return { kind: 'test', suspect: broken, because: 'broken' };
  const measured = begun?.suspects.find(
    ({ probability, faults }) =>
      probability >= leastTested && faults.slice(0, 1).some(isWrongItself(trace)),
  );
  if (measured) return { kind: 'test', suspect: measured, because: 'measured' };
  const diagnosis = isBegun ? null : begun;
  const leader = leaderOf(trace, diagnosis);
  // All that the missing stage needs was read and is there: what else could be it takes a slip in one of
  // those readings, and its own test reads the same points again.
  const isRead = readBad(trace);
  const isWalked = trace.firstMissing?.certain && (!asked || isRead(asked));
  if (leader && (isWalked || isFarAhead(diagnosis)) && shorted.length === 0)
    return { kind: 'test', suspect: leader, because: 'leads' };
  // What was read as it should be is not read once more as the board stands: only a slip would show.
  const isKnown = readGood(trace);
  const isUseless = isBeforePress(trace) ? isAfterPress : (): boolean => false;
  const tells = (one: Proposal): boolean =>
    mayRead(one) && !isKnown(one) && !isUseless(one) && !(leader && (isSure(one) || isRead(one)));
  const next =
    asked && mayRead(asked) && !(leader && (isSureOf(diagnosis, asked) || isRead(asked)))
      ? asked
      : null;
  // In order, the card does not jump: it walks on, or the leader is tested.
  if (school === 'walk' && leader && asked && mayRead(asked) && next === null)
    return { kind: 'test', suspect: leader, because: 'leads' };
  // Where the sheet guesses, the order of waking is surer than a proposal that tells little.
  const isGuessed = board.guessed.length > 0;
  const least = isGuessed && next ? leastTellingOfGuesses : leastTellingBits;
  const worth =
    diagnosis?.next.filter((proposal) => proposal.gainBits >= least && tells(proposal)) ?? [];
  // What is certainly missing is parted at its own net: elsewhere mostly a slip in what was read would show.
  const best =
    worth.find((proposal) => isAtMissing(trace, proposal) && !isRead(proposal)) ?? worth[0];
  const looked = school === 'looks' && diagnosis ? looksFirst(board, findings, diagnosis) : null;
  if (looked && mayRead(looked.proposal)) return { kind: 'telling', ...looked };
  // On a sheet of guesses the way back from what is missing settles more than plays of guesses do.
  if (isGuessed && trace.firstMissing && next) return { kind: 'in-order', probe: next };
  if (school !== 'walk' && best) return { kind: 'telling', proposal: best, finding: null };
  if (next) return { kind: 'in-order', probe: next };
  if (best) return { kind: 'telling', proposal: best, finding: null };
  const suspect = leader ?? diagnosis?.suspects[0];
  if (suspect && suspect.probability >= leastTested)
    return { kind: 'test', suspect, because: leader ? 'leads' : 'nothing-parts' };
  return { kind: 'nothing' };
}

/** Whether a point was read as wrong: there again only a slip would show. */
function readBad({ readings }: Trace): (one: Asked) => boolean {
  const bad = new Set(
    readings
      .filter(
        ({ standing, reading, verdict, isHere }) =>
          standing.kind === 'stands' && isHere && reading.reference === null && isBad(verdict),
      )
      .map(({ reading }) => `${reading.at.net} ${reading.mode}`),
  );
  return ({ net, mode, reference }) => (reference ?? null) === null && bad.has(`${net} ${mode}`);
}

/** Whether a reading is taken at the net that is certainly missing, or across what hangs on it. */
const isAtMissing = (
  { firstMissing }: Trace,
  { net, reference }: Pick<Proposal, 'net' | 'reference'>,
): boolean =>
  firstMissing?.certain === true && (net === firstMissing.net || reference === firstMissing.net);

/** Whether it is certain that something is missing which comes before the button: a press shows nothing then. */
const isBeforePress = ({ firstMissing, stages }: Trace): boolean =>
  firstMissing?.certain === true &&
  stages.some(({ stage, phase }) => stage.id === firstMissing.stage && phase === 'standby');

const isAfterPress = ({ phase }: { phase: Phase }): boolean =>
  phase !== 'cold' && phase !== 'standby';

/** Whether a point was read as it should be, in the phase that is asked for. */
function readGood({ readings }: Trace): (one: Asked & { phase: Phase }) => boolean {
  const good = new Set(
    readings
      .filter(
        ({ standing, reading, verdict, isHere }) =>
          standing.kind === 'stands' && isHere && reading.reference === null && isGood(verdict),
      )
      .map(({ reading }) => `${reading.at.net} ${reading.mode} ${reading.phase}`),
  );
  return ({ net, mode, phase, reference }) =>
    (reference ?? null) === null && good.has(`${net} ${mode} ${phase}`);
}

/** Whether a fault is at a part that reads short or open from end to end, unpowered. */
function isWrongItself({ readings, known }: Trace): (one: Suspect['faults'][number]) => boolean {
  const ends = new Set(
    readings.flatMap(({ standing, reading: { at, reference, phase }, verdict }) =>
      standing.kind === 'stands' &&
      phase === 'cold' &&
      reference !== null &&
      (verdict.kind === 'shorted' || verdict.kind === 'open')
        ? [[at.net, reference.net].sort().join()]
        : [],
    ),
  );
  return ({ fault }) => {
    const part = 'part' in fault && findPart(known.healthy.board, fault.part);
    if (!part) return false;
    const nets = part.pins.filter((pin) => pin.name !== 'G').map((pin) => pin.net);
    return nets.length === 2 && ends.has(nets.sort().join());
  };
}

/** The missing net, where it is there at one pin and not at another. */
function brokenNet({ firstMissing, known }: Trace): NetId | null {
  const status = firstMissing && known.status(firstMissing.net);
  return status?.kind === 'bad' && status.there ? firstMissing!.net : null;
}

/** Whether a fault is in a part, or in one that goes with an attachment. */
const isOf =
  (board: Board, part: string) =>
  ({ fault }: Suspect['faults'][number]): boolean =>
    'part' in fault && (fault.part === part || findPartOrChip(board, fault.part)?.on === part);

type Asked = { net: NetId; mode: Mode; reference?: NetId | null };

function pullsDown(board: Board, { faults }: Suspect, shorted: readonly NetId[]): boolean {
  const [first] = faults;
  const net = first ? groundedNet(board, first.fault) : null;
  return net !== null && joinedTo(board, shorted).has(net);
}

/** The suspect whose own test comes before readings that tell little; null where none leads. */
function leaderOf(trace: Trace, diagnosis: Diagnosis | null): Suspect | null {
  const [first, second] = diagnosis?.suspects ?? [];
  if (!diagnosis || !first || diagnosis.none > first.probability) return null;
  if (diagnosis.healthy > first.probability) return null;
  const isAhead = first.probability >= lead.times * (second?.probability ?? 0);
  const least = trace.firstMissing?.certain ? lead.leastAtMissing : lead.least;
  return isAhead && first.probability >= least ? first : null;
}

function isFarAhead(diagnosis: Diagnosis | null): boolean {
  const [first, second] = diagnosis?.suspects ?? [];
  return (
    first !== undefined &&
    first.probability >= farAhead.least &&
    first.probability >= farAhead.times * (second?.probability ?? 0)
  );
}

const isSure = ({ outcomes }: Proposal): boolean =>
  outcomes.some((one) => one.probability >= sureOutcome);

/** Whether the plays know what a point of the walk reads: they propose it with that, or not at all. */
function isSureOf(diagnosis: Diagnosis | null, { net, mode, phase }: NextProbe): boolean {
  const asked = phase === 'run' || phase === 'pressed' ? 'trying' : phase;
  const proposal = diagnosis?.next.find(
    (one) => one.net === net && one.reference === null && one.mode === mode && one.phase === asked,
  );
  return proposal === undefined || isSure(proposal);
}

/** Above this the plays have an opinion on where it stops. */
const leastSure = 0.5;

/** Why the walk and the suspects name different stages, in one line; null where they agree. */
export function whyTheyDiffer(board: Board, trace: Trace, diagnosis: Diagnosis): string | null {
  const [region] = diagnosis.regions;
  const missing = trace.firstMissing;
  if (!region || region.probability < leastSure || !missing) return null;
  if (region.stage === missing.stage) return null;
  const title = (id: string): string => board.stages.find((one) => one.id === id)?.title ?? id;
  if (region.stage === null)
    return `${missing.net} reads wrong, but the likeliest faults leave every stage up: it is out of tolerance, not gone.`;
  // A need of the missing stage that was not read yet, or a slip in what was.
  return missing.certain
    ? `By what was read ${missing.title} is missing; the likeliest faults stop it at ${title(region.stage)}. One of the readings may be a slip: read ${missing.net} once more.`
    : `${missing.title} is missing so far; the likeliest faults stop it at ${title(region.stage)}, which ${readText(trace, region.stage)}.`;
}

/** What is known of a stage by readings, for a sentence. */
function readText(trace: Trace, stage: string): string {
  switch (trace.stages.find((one) => one.stage.id === stage)?.state) {
    case 'up':
      return 'was read as there';
    case 'down':
      return 'reads wrong as well';
    case 'undecided':
      return 'was read and is not decided';
    default:
      return 'was not read';
  }
}

/**
 * Readings that part the suspects, best first; none with a source on while a rail is known to be shorted, and
 * none that was read as it should be.
 */
export function readingsNow(trace: Trace, diagnosis: Diagnosis): Proposal[] {
  const isKnown = readGood(trace);
  const isShorted = knownShorts(trace.readings).length > 0;
  return diagnosis.next.filter((one) => !isKnown(one) && (!isShorted || one.phase === 'cold'));
}

/** What may be done on the bench; a rail that is known to be shorted is not fed. */
export function actionsNow(board: Board, trace: Trace, diagnosis: Diagnosis): BenchAction[] {
  const shorted = joinedTo(board, knownShorts(trace.readings));
  return diagnosis.actions.filter(
    ({ kind, what }) => kind !== 'feed' || !shorted.has(what as NetId),
  );
}
