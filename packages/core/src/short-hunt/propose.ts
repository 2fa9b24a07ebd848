import { leastStepVolts } from '../readings/index.ts';
import {
  asOnBench,
  isSeriesPart,
  type Board,
  type NetId,
  findPart,
  joinedTo,
} from '../board/index.ts';
import { cautionText } from '../safety/index.ts';
import { sharedOhms, leastMillimetres, type Copper } from './copper.ts';
import { seenChance, spreadMillimetres } from './heat.ts';
import { splitSense, type Injection } from './injection.ts';
import { dropsCount, type FedRail, type WeighedCandidate } from './weigh.ts';

/** Something to do next on a shorted rail. */
export interface HuntAction {
  kind: 'split' | 'inject' | 'drops' | 'lift';
  /** The part to take out or off; the net to feed; the parts to read at, in order along the rail. */
  what: string[];
  text: string;
  /** What each outcome would mean, likeliest first. */
  outcomes: { text: string; probability: number }[];
  /** Seconds of work, with what damage and risk are worth in them. */
  cost: number;
  /** Expected cost until the part is found and off, beginning with this. */
  untilFound: number;
  cautions: string[];
}

// Seconds, and what harm is worth in them: common practice, no source.
const costs = {
  splitSeconds: 300,
  injectSeconds: 150,
  moreAmpsSeconds: 60,
  dropSeconds: 120,
  readSeconds: 15,
  /** Heat on a board: what may come loose or melt. */
  heatRisk: 60,
  injectRisk: 30,
} as const;
/** A part that cannot be taken off to see is found by all others being off. */
const lastSeconds = 2400;
const mostDropPlaces = 6;
const leastWorth = 0.002;

/** What the next actions are proposed from. */
export interface HuntNow {
  board: Board;
  candidates: readonly WeighedCandidate[];
  copper: Copper;
  net: NetId;
  lifted: readonly string[];
  /** As it may be done now: the gentlest that shows something. */
  injection: Injection;
  fed: readonly FedRail[];
  /** What was seen on parts of the rail. */
  looks: ReadonlyMap<string, string>;
}

/** Seconds to find it by taking off what is likeliest for its cost, one after another. */
function searchCost(candidates: readonly { probability: number; cost: number }[]): number {
  const order = [...candidates].sort((a, b) => b.probability / b.cost - a.probability / a.cost);
  let spent = 0;
  let expected = 0;
  let all = 0;
  for (const one of order) {
    spent += one.cost;
    expected += one.probability * spent;
    all += one.probability;
  }
  return all > 0 ? expected / all : 0;
}

const costOf = ({ take }: WeighedCandidate): number =>
  take.seconds === null ? lastSeconds : take.seconds + costs.heatRisk;

/** Expected cost after something that parts the candidates into these sets. */
function costAfter(
  candidates: readonly WeighedCandidate[],
  sets: readonly (readonly WeighedCandidate[])[],
  parts: number,
): number {
  const whole = searchCost(withCosts(candidates));
  const split = sets.reduce((sum, set) => {
    const share = set.reduce((all, one) => all + one.probability, 0);
    return sum + share * searchCost(withCosts(set));
  }, 0);
  // A test that may fail to tell leaves things as they are.
  return parts * split + (1 - parts) * whole;
}

const withCosts = (all: readonly WeighedCandidate[]): { probability: number; cost: number }[] =>
  all.map((one) => ({ probability: one.probability, cost: costOf(one) }));

/**
 * What to do next, least expected work until the part is found first: splitting the rail, a limited
 * injection under the camera, millivolts along it, taking the likeliest part off. What would harm is not
 * among them.
 */
export function proposeHunt(now: HuntNow): HuntAction[] {
  const open = now.candidates.filter((one) => one.probability > leastWorth);
  if (open.length === 0) return [];
  const actions = [
    ...splitActions(now, open),
    ...injectAction(now, open),
    ...dropAction(now, open),
    ...liftActions(now, open),
  ];
  return actions.sort((a, b) => a.untilFound - b.untilFound);
}

function splitActions({ board, lifted }: HuntNow, open: readonly WeighedCandidate[]): HuntAction[] {
  const stands = asOnBench(board, { lifted });
  return stands.parts.flatMap((part): HuntAction[] => {
    if (!isSeriesPart(part) || lifted.includes(part.ref)) return [];
    const [a, b] = part.pins.map((pin) => pin.net);
    if (!a || !b || a === board.ground || b === board.ground) return [];
    const left = joinedTo(stands, [a], part.ref);
    if (left.has(b)) return [];
    const [onLeft, onRight] = [
      open.filter((one) => left.has(one.net)),
      open.filter((one) => !left.has(one.net)),
    ];
    if (onLeft.length === 0 || onRight.length === 0) return [];
    const share = onLeft.reduce((sum, one) => sum + one.probability, 0);
    const cost = costs.splitSeconds + costs.heatRisk;
    const sense = splitSense(board, part.ref);
    return [
      {
        kind: 'split',
        what: [part.ref],
        text: `Split the rail: lift one end of ${part.ref}, read ohms on ${a} and on ${b}`,
        outcomes: byChance([
          { text: `low on ${a}: all on ${b} is cleared`, probability: share },
          { text: `low on ${b}: all on ${a} is cleared`, probability: 1 - share },
        ]),
        cost,
        untilFound: cost + costAfter(open, [onLeft, onRight], 1),
        cautions: [cautionText('lift'), ...(sense ? [sense] : [])],
      },
    ];
  });
}

const byChance = (outcomes: HuntAction['outcomes']): HuntAction['outcomes'] =>
  [...outcomes].sort((a, b) => b.probability - a.probability);

/** Candidates a camera cannot tell apart. Where no place is known of any, it tells each of them apart. */
function warmSpots(open: readonly WeighedCandidate[], copper: Copper): WeighedCandidate[][] {
  const spots: WeighedCandidate[][] = [];
  if (open.every((one) => one.isNet || copper.padOf(one.name) === null))
    return open.map((one) => [one]);
  for (const one of open) {
    const pad = one.isNet ? null : copper.padOf(one.name);
    const near = spots.find((spot) => {
      const other = spot[0]!.isNet ? null : copper.padOf(spot[0]!.name);
      if (!pad || !other) return !pad && !other;
      return Math.hypot(pad.x - other.x, pad.y - other.y) < spreadMillimetres;
    });
    if (near) near.push(one);
    else spots.push([one]);
  }
  return spots;
}

/** The part a bench supply is best clipped to: the largest on the rail, as far from chips as may be. */
export function feedPlace({
  board,
  copper,
  lifted,
}: Pick<HuntNow, 'board' | 'copper' | 'lifted'>): string | null {
  const rank = ['coil', 'fuse', 'connector', 'jumper', 'ferrite', 'resistor', 'capacitor'];
  const of = (ref: string): number => {
    const part = findPart(board, ref);
    const place = part ? rank.indexOf(part.kind) : -1;
    const big = part?.kind === 'capacitor' ? -Math.log10((part.value ?? 1e-9) * 1e9) / 20 : 0;
    return place < 0 ? rank.length + 1 : place + big;
  };
  const pads = copper.pads.filter((one) => !lifted.includes(one.ref));
  return [...pads].sort((a, b) => of(a.ref) - of(b.ref))[0]?.ref ?? null;
}

function injectAction(now: HuntNow, open: readonly WeighedCandidate[]): HuntAction[] {
  const { injection, fed, copper } = now;
  if (injection.harms.length > 0) return [];
  // Looked at these amps or more already.
  const looked = Math.max(0, ...fed.filter((one) => one.warm.length > 0).map((one) => one.amps));
  if (injection.shownAmps < looked * 1.3) return [];
  const chance = seenChance(injection.watts);
  const spots = warmSpots(open, copper);
  if (spots.length < 2 || chance < 0.1) return [];
  const cost = (fed.length > 0 ? costs.moreAmpsSeconds : costs.injectSeconds) + costs.injectRisk;
  const at = feedPlace(now);
  const top = spots
    .map((spot) => ({ spot, share: spot.reduce((sum, one) => sum + one.probability, 0) }))
    .sort((a, b) => b.share - a.share);
  return [
    {
      kind: 'inject',
      what: [injection.net, ...(at ? [at] : [])],
      text: `Feed ${injection.net}${at ? ` at ${at}` : ''} with ${injection.volts} V, limit ${injection.limitAmps} A, every source off, and look with a camera`,
      outcomes: [
        ...top.slice(0, 3).map(({ spot, share }) => ({
          text: `warm at ${[...new Set(spot.map((one) => one.name))].join(', ')}`,
          probability: share * chance,
        })),
        { text: 'nothing to be seen: more amps, or millivolts', probability: 1 - chance },
      ].filter((one) => one.probability > 0.005),
      cost,
      untilFound: cost + costAfter(open, spots, chance),
      cautions: [cautionText('inject'), cautionText('look-for-heat')],
    },
  ];
}

/** Places in order along the rail, spread over it, whose millivolts part the candidates. */
export function dropPlaces(
  copper: Copper,
  open: readonly WeighedCandidate[],
  feed: string,
  most = mostDropPlaces,
): string[] {
  const likely = open.filter((one) => !one.isNet && copper.padOf(one.name) !== null);
  const refs = [...new Set(copper.pads.map((one) => one.ref))];
  const chosen: string[] = [];
  // Farthest from those chosen, weighted by what sits there: the candidates' own pads first.
  while (chosen.length < Math.min(most, refs.length)) {
    let best: { ref: string; worth: number } | null = null;
    for (const ref of refs) {
      if (chosen.includes(ref)) continue;
      const here = likely.find((one) => one.name === ref)?.probability ?? 0;
      const away = Math.min(
        ...[feed, ...chosen].map((other) => copper.millimetres(ref, other)),
        200,
      );
      const worth = (0.02 + here) * Math.min(away, 40);
      if (!best || worth > best.worth) best = { ref, worth };
    }
    if (!best || best.worth <= 0) break;
    chosen.push(best.ref);
  }
  return chosen.sort((a, b) => copper.ohms(feed, a) - copper.ohms(feed, b));
}

function dropAction(now: HuntNow, open: readonly WeighedCandidate[]): HuntAction[] {
  const { copper, injection, fed, net } = now;
  if (injection.harms.length > 0) return [];
  const amps = Math.max(injection.shownAmps, ...fed.map((one) => one.amps));
  const feed = fed.findLast((one) => one.at !== null)?.at ?? feedPlace(now);
  if (feed === null || amps < 0.2) return [];
  const places = dropPlaces(copper, open, feed);
  const isRead = fed.some(
    (one) =>
      one.amps >= amps * 0.9 &&
      one.drops.length >= places.length &&
      dropsCount(now.candidates, copper, one, fed),
  );
  if (places.length < 2 || isRead) return [];
  // Candidates whose drops differ by less than three steps at every place read the same.
  const sets: WeighedCandidate[][] = [];
  const shapeOf = (one: WeighedCandidate): number[] | null =>
    one.isNet || copper.padOf(one.name) === null
      ? null
      : centred(places.map((ref) => amps * sharedOhms(copper, feed, one.name, ref)));
  for (const one of open) {
    const shape = shapeOf(one);
    const alike = sets.find((set) => {
      const other = shapeOf(set[0]!);
      if (!shape || !other) return !shape && !other;
      return shape.every((volts, i) => Math.abs(volts - other[i]!) < 3 * leastStepVolts);
    });
    if (alike) alike.push(one);
    else sets.push([one]);
  }
  if (sets.length < 2) return [];
  const cost =
    costs.dropSeconds +
    places.length * costs.readSeconds +
    (fed.length > 0 ? 0 : costs.injectSeconds + costs.injectRisk);
  const resolved = leastMillimetres(amps, leastStepVolts);
  return [
    {
      kind: 'drops',
      what: [net, feed, ...places],
      text: `With ${net} fed at ${feed}, ${amps.toPrecision(2)} A: read millivolts to ground at ${places.join(', ')}`,
      outcomes: [
        {
          text: `lowest is nearest to the short; ${resolved.toPrecision(2)} mm of rail are one step of a meter that shows 0.1 mV`,
          probability: 1,
        },
      ],
      cost,
      untilFound: cost + costAfter(open, sets, 0.75),
      cautions: [cautionText('inject')],
    },
  ];
}

const centred = (volts: readonly number[]): number[] => {
  const mean = volts.reduce((sum, one) => sum + one, 0) / volts.length;
  return volts.map((one) => one - mean);
};

function liftActions(
  { board, lifted, looks }: HuntNow,
  open: readonly WeighedCandidate[],
): HuntAction[] {
  // Taken off, a part is off with all its pins.
  const names = [...new Set(open.map((one) => one.name))];
  return (
    names
      .map((name) => {
        const own = open.filter((one) => one.name === name);
        return { ...own[0]!, probability: own.reduce((sum, one) => sum + one.probability, 0) };
      })
      .filter((one) => one.take.seconds !== null && !lifted.includes(one.name))
      .sort((a, b) => b.probability / costOf(b) - a.probability / costOf(a))
      // What looks bad is offered whatever else is likelier.
      .filter((one, index) => index < 4 || looks.has(one.name))
      .map((one) => {
        const cost = costOf(one);
        const rest = open.filter((other) => other.name !== one.name);
        const part = findPart(board, one.name);
        const isCheap = part?.kind === 'capacitor' && (part.value ?? 0) < 47e-6;
        return {
          kind: 'lift',
          what: [one.name],
          text: `Take ${one.name} off${isCheap ? ', or replace it at once,' : ''} and read ohms on ${one.net} again${looks.has(one.name) ? `: it was seen ${looks.get(one.name)}` : ''}`,
          outcomes: byChance([
            { text: `the short is gone: it was ${one.name}`, probability: one.probability },
            {
              text: `it stays: ${one.name} was not it${isCheap ? '' : ', and goes back'}`,
              probability: 1 - one.probability,
            },
          ]),
          cost,
          untilFound: cost + (1 - one.probability) * searchCost(withCosts(rest)),
          cautions: [cautionText('lift')],
        };
      })
  );
}
