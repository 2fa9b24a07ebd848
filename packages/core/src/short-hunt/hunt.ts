import {
  isSeriesPart,
  type Board,
  type NetId,
  findChip,
  findPart,
  joinedTo,
} from '../board/index.ts';
import type { PlaySetup } from '../play/index.ts';
import {
  deriveJob,
  goneParts,
  liftedParts,
  standingOf,
  type Habit,
  type Job,
} from '../record/index.ts';
import { shortCandidates, type Candidate } from './candidates.ts';
import { copperOf, type Copper, type Pad } from './copper.ts';
import { mostPartWatts } from '../safety/index.ts';
import { ohmsOnRail, shortOhms, wentWith } from '../trace/index.ts';
import { planInjection, type Injection } from './injection.ts';
import { feedPlace, proposeHunt, type HuntAction } from './propose.ts';
import {
  dropsCount,
  fedOhms,
  weighHunt,
  type FedRail,
  type HuntLog,
  type WeighedCandidate,
} from './weigh.ts';

/** Where the hunt for a short on a rail stands. */
export interface Hunt {
  net: NetId;
  /** All that milliohms join. */
  nets: NetId[];
  /** What the rail reads with nothing off; null where it was not read. */
  ohms: number | null;
  candidates: WeighedCandidate[];
  /** Its pads, as far as the sheet gives places. */
  pads: readonly Pad[];
  /** Where a bench supply is best put to it; null where nobody knows. */
  feedAt: string | null;
  /** What is off the board. */
  lifted: readonly string[];
  log: HuntLog;
  injection: Injection;
  /** Best first. */
  actions: HuntAction[];
  /** The short left with a part, and nothing else was changed between. */
  proven: { part: string; text: string } | null;
  /** Places of the last millivolts where no current along the rail could have given them, and nobody read them again. */
  unfit: string[];
  /** Parts of the rail that are off, with which nobody read its ohms yet: nothing follows before that. */
  unread: string[];
}

/** Mostly the gentlest injection that shows something; more where that showed nothing. */
const moreTimes = 1.6;

/** The hunt on the rail of `net` from what a job holds. */
export function huntShort(
  board: Board,
  setup: PlaySetup,
  job: Job,
  net: NetId,
  habits: readonly Habit[] = [],
  asked?: { volts: number; limitAmps: number },
): Hunt {
  const log = huntLog(board, job, net);
  const known = {
    findings: job.findings
      .filter((one) => one.struck === null && one.harmless === null)
      .map(({ body: { kind, part }, net }) => ({ kind, part, net })),
    tried: [],
    habits,
  };
  const first = shortOhms(log.ohms);
  const gone = goneParts(job).filter((ref) => !liftedParts(job).includes(ref));
  const candidates = shortCandidates(board, net, first ?? 1, known, gone);
  const looks = new Map(
    known.findings.flatMap(({ kind, part }) => (part === null ? [] : [[part, kind] as const])),
  );
  return huntOn(board, setup, net, candidates, log, liftedParts(job), asked, looks);
}

/** The same from a log of its own: for the bench that measures it. */
export function huntOn(
  board: Board,
  setup: PlaySetup,
  net: NetId,
  all: readonly Candidate[],
  log: HuntLog,
  lifted: readonly string[],
  asked?: { volts: number; limitAmps: number },
  looks: ReadonlyMap<string, string> = new Map(),
): Hunt {
  const copper = copperOf(board, net, lifted);
  const candidates = weighHunt(board, all, copper, log);
  const ohms = shortOhms(log.ohms);
  const unread = unreadSince(log, lifted, [...joinedTo(board, [net])], board);
  const estimate = log.fed.at(-1);
  const short = estimate ? fedOhms(estimate, ohms ?? 1) : (ohms ?? 1);
  const injection = asked
    ? planInjection(board, setup, net, short, asked)
    : stronger(board, setup, net, short, log);
  return {
    net,
    nets: [...joinedTo(board, [net])],
    ohms,
    candidates,
    pads: copper.pads,
    feedAt: feedPlace({ board, copper, lifted }),
    lifted,
    log,
    injection,
    unread,
    unfit: unfitDrops(all, copper, log),
    // Where a part was taken off, its reading comes first.
    actions:
      unread.length > 0
        ? []
        : proposeHunt({
            board,
            candidates,
            copper,
            net,
            lifted,
            injection,
            fed: log.fed,
            looks,
          }),
    proven: wentWith(
      board,
      log.ohms,
      ohms,
      all.map((one) => one.name),
    ),
  };
}

function unfitDrops(candidates: readonly Candidate[], copper: Copper, log: HuntLog): string[] {
  const last = log.fed.findLast((one) => one.drops.length > 0);
  return !last || dropsCount(candidates, copper, last, log.fed)
    ? []
    : last.drops.map((drop) => drop.part);
}

/** Where looking at the gentlest showed nothing, as much more as may be. */
function stronger(
  board: Board,
  setup: PlaySetup,
  net: NetId,
  short: number,
  log: HuntLog,
): Injection {
  const plan = planInjection(board, setup, net, short);
  const blind = log.fed.filter((one) => one.warm.some(({ part }) => part === null));
  const most = Math.max(0, ...blind.map((one) => one.amps));
  if (most === 0 || plan.shownAmps > most * moreTimes) return plan;
  // As much more as does not burn the part.
  const burns = Math.sqrt(mostPartWatts / Math.max(short, 0.01)) * 0.95;
  const limitAmps = Math.min(plan.mostAmps, burns, Math.max(most * 2, plan.limitAmps));
  const volts = Math.min(plan.mostVolts, Math.max(plan.volts, limitAmps * short * 1.2));
  const more = planInjection(board, setup, net, short, {
    volts: tenths(volts),
    limitAmps: tenths(limitAmps),
  });
  return more.harms.length > 0 ? plan : more;
}

/** As a supply is set; never up. */
const tenths = (value: number): number => Math.floor(value * 10 + 1e-9) / 10;

/** What is off the rail without ohms read since; empty where they were, or nothing is off. */
function unreadSince(
  log: HuntLog,
  lifted: readonly string[],
  rail: readonly NetId[],
  board: Board,
): string[] {
  const onRail = (ref: string): boolean => pinsOfPart(board, ref).some((net) => rail.includes(net));
  const off = lifted.filter(onRail).toSorted();
  if (off.length === 0 || log.ohms.length === 0) return [];
  const isRead = log.ohms.some(
    (read) => read.lifted.filter(onRail).toSorted().join() === off.join(),
  );
  if (isRead) return [];
  const last = log.ohms.at(-1)!.lifted;
  return off.filter((ref) => !last.includes(ref));
}

const pinsOfPart = (board: Board, ref: string): NetId[] => [
  ...(findPart(board, ref)?.pins.map((pin) => pin.net) ?? []),
  ...(findChip(board, ref)?.pins.values() ?? []),
];

/** What a job holds about a rail: cold ohms with what was off, feeds, warmth and drops. */
export function huntLog(board: Board, job: Job, net: NetId): HuntLog {
  const rail = joinedTo(board, [net]);
  const ohms = ohmsOnRail(board, standingOf(job), net);
  const stands = <T extends { struck: string | null; beforeRepair: boolean }>(one: T): boolean =>
    one.struck === null && !one.beforeRepair;
  const fed = job.fed
    .filter((one) => stands(one) && rail.has(one.body.net as NetId) && !one.body.live)
    .flatMap(({ id, body }): FedRail[] => {
      const drops = job.drops
        .filter((drop) => stands(drop) && drop.body.fed === id)
        .map(({ body: { part, volts } }) => ({ part, volts }));
      const warm = job.warm
        .filter((seen) => stands(seen) && seen.body.fed === id)
        .map(({ body: { part, rise } }) => ({ part, rise }));
      return readAgain(drops).map((set, time) => ({
        id,
        net: body.net as NetId,
        at: body.at?.part ?? null,
        amps: body.drawnAmps ?? body.limitAmps,
        volts: body.drawnVolts,
        // What got warm was seen once, however often the millivolts were read.
        warm: time === 0 ? warm : [],
        drops: set,
      }));
    });
  return { ohms, fed };
}

/** Millivolts of one feed in the sets in which they were read: a place that comes again begins another. */
function readAgain(drops: FedRail['drops']): FedRail['drops'][] {
  const sets: FedRail['drops'][] = [[]];
  for (const drop of drops) {
    if (sets.at(-1)!.some(({ part }) => part === drop.part)) sets.push([]);
    sets.at(-1)!.push(drop);
  }
  return sets;
}

/** Ohms of the rail as it is now: the last read cold with the same parts off; null where nobody did. */
export function ohmsNow(board: Board, job: Job, net: NetId): number | null {
  const off = liftedParts(job).toSorted().join();
  return (
    huntLog(board, job, net).ohms.findLast((one) => one.lifted.toSorted().join() === off)?.ohms ??
    null
  );
}

/** What of a job the hunt looks at: the rest would only make the question of it new. */
export const jobOfHunt = (job: Job): Job => ({
  ...deriveJob([]),
  readings: job.readings.filter((one) => one.reading.mode === 'ohms'),
  findings: job.findings,
  repairs: job.repairs,
  fed: job.fed,
  warm: job.warm,
  drops: job.drops,
});

/** Where a part that is out split a rail, the nets at its ends: they are read as well. */
export function splitNets(board: Board, lifted: readonly string[], net: NetId): NetId[] {
  const rail = joinedTo(board, [net]);
  return board.parts
    .filter((part) => lifted.includes(part.ref) && isSeriesPart(part))
    .flatMap((part) => part.pins.map((pin) => pin.net))
    .filter((one, index, all) => rail.has(one) && one !== net && all.indexOf(one) === index);
}
