import {
  isSeriesPart,
  netOf,
  takeOff,
  type Board,
  type NetId,
  findPart,
  joinedTo,
} from '../../board/index.ts';
import { type Fault, groundedNet } from '../../faults/index.ts';
import { entropy } from '../../inference/index.ts';
import { cautionText } from '../../safety/index.ts';

/** Something to do on the bench and read again, where it tells suspects apart that readings alone do not. */
export interface BenchAction {
  kind: 'unplug' | 'lift' | 'feed';
  /** The attachment, the part or the net. */
  what: string;
  text: string;
  gainBits: number;
  seconds: number;
  outcomes: { text: string; probability: number }[];
  caution: string;
  /** What is read once it is done; null where it is the supply that tells. */
  then: { net: NetId; mode: 'ohms' | 'volts' } | null;
}

/** A fault with its probability among all, and the group it is shown in. */
export interface WeighedFault {
  fault: Fault;
  probability: number;
  /** Nets the board would miss with it, first to wake first. */
  missing: readonly NetId[];
}

// Seconds by common practice, no source.
const unplugSeconds = 70;
const feedSeconds = 150;
const liftSeconds = 300;
const leastBits = 0.05;

/**
 * Unplugging, feeding and lifting, each where the suspects fall on both sides of it; best gain for its
 * time first. `wakesBackwards` tells, from a play, whether a rail that is fed from outside drives what
 * should feed it.
 */
export function proposeActions(
  board: Board,
  weighed: readonly WeighedFault[],
  bench: { attached: readonly string[]; lifted: readonly string[]; gone: readonly string[] },
  wakesBackwards: (net: NetId, fault: Fault) => boolean,
): BenchAction[] {
  // What was off once has told what it can.
  const isOff = (ref: string): boolean => bench.lifted.includes(ref) || bench.gone.includes(ref);
  const actions = [
    ...bench.attached.flatMap((id) => unplug(board, weighed, id) ?? []),
    ...(feed(board, weighed, wakesBackwards) ?? []),
    ...splits(board, weighed),
    ...takeOffs(board, weighed),
  ].filter((one) => one.kind !== 'lift' || !isOff(one.what));
  return actions
    .filter((one) => one.gainBits > leastBits)
    .sort((a, b) => b.gainBits / b.seconds - a.gainBits / a.seconds);
}

const sum = (weighed: readonly WeighedFault[]): number =>
  weighed.reduce((all, one) => all + one.probability, 0);

function unplug(board: Board, weighed: readonly WeighedFault[], id: string): BenchAction | null {
  const title = (board.attachments.find((one) => one.id === id)?.title ?? id).toLowerCase();
  const on = new Set<string>(
    [...board.parts, ...board.chips].filter((one) => one.on === id).map((one) => one.ref),
  );
  const inside = weighed.filter(({ fault }) => 'part' in fault && on.has(fault.part));
  const p = sum(inside);
  const net = inside[0]?.missing[0] ?? (inside[0] && groundedNet(board, inside[0].fault));
  if (!net) return null;
  return {
    kind: 'unplug',
    what: id,
    text: `Unplug the ${title} and read ${net} again`,
    gainBits: entropy(p),
    seconds: unplugSeconds,
    outcomes: [
      { text: `${net} comes: the fault is in the ${title}`, probability: p },
      { text: `it stays as it was: the fault is on the board`, probability: 1 - p },
    ],
    caution: cautionText('plug'),
    then: { net, mode: 'volts' },
  };
}

/** A missing rail fed from a bench supply: is it what makes it, or what hangs on it? */
function feed(
  board: Board,
  weighed: readonly WeighedFault[],
  wakesBackwards: (net: NetId, fault: Fault) => boolean,
): BenchAction[] | null {
  const net = weighed.find(({ missing }) => missing.length > 0)?.missing[0];
  const rail = net && netOf(board, net);
  if (!rail || rail.kind !== 'rail' || rail.volts === null) return null;
  // What milliohms join is one rail.
  const rails = joinedTo(board, [net]);
  const about = weighed.filter(({ missing: [first] }) => first !== undefined && rails.has(first));
  const pulled = about.filter(({ fault }) => {
    const low = groundedNet(board, fault);
    return low !== null && rails.has(low);
  });
  const made = about.filter((one) => !pulled.includes(one));
  const first = made[0];
  if (!first || pulled.length === 0 || wakesBackwards(rail.id, first.fault)) return null;
  const [all, low] = [sum(about), sum(pulled)];
  return [
    {
      kind: 'feed',
      what: rail.id,
      text: `Feed ${rail.id} with ${rail.volts} V from a bench supply, limit 0.5 A`,
      gainBits: all * entropy(low / all),
      seconds: feedSeconds,
      outcomes: [
        {
          text: 'the supply goes to its limit: something on the rail is low',
          probability: low / all,
        },
        {
          text: 'it holds its volts at a few milliamps: what makes the rail is at fault',
          probability: 1 - low / all,
        },
      ],
      caution: cautionText('feed-rail'),
      then: null,
    },
  ];
}

/** A coil or link taken out of a shorted rail: which side is it on? */
function splits(board: Board, weighed: readonly WeighedFault[]): BenchAction[] {
  const low = weighed.flatMap((one) => {
    const net = groundedNet(board, one.fault);
    return net ? [{ ...one, net }] : [];
  });
  return board.parts.flatMap((part): BenchAction[] => {
    if (!isSeriesPart(part) || part.kind === 'fuse' || part.on !== null) return [];
    const [a, b] = part.pins.map((pin) => pin.net);
    if (!a || !b || a === board.ground || b === board.ground) return [];
    const [left, right] = [joinedTo(board, [a], part.ref), joinedTo(board, [b], part.ref)];
    if (left.has(b)) return [];
    const [onLeft, onRight] = [left, right].map((side) =>
      sum(low.filter(({ net }) => side.has(net))),
    ) as [number, number];
    const all = onLeft + onRight;
    if (all === 0) return [];
    return [
      {
        kind: 'lift',
        what: part.ref,
        text: `Lift one end of ${part.ref} and read ohms on both sides`,
        gainBits: all * entropy(onLeft / all),
        seconds: liftSeconds,
        outcomes: [
          { text: `low on ${a}: the short is there`, probability: onLeft / all },
          { text: `low on ${b}: it is on that side`, probability: onRight / all },
        ],
        caution: cautionText('lift'),
        then: { net: a, mode: 'ohms' },
      },
    ];
  });
}

/** Of what is low, so much must be one part's before it is taken off to see. */
const leastShare = 0.15;

/** A capacitor, a clamp or the chip itself taken off a shorted net: does the short go with it? What is plugged in or has its joints below is not. */
function takeOffs(board: Board, weighed: readonly WeighedFault[]): BenchAction[] {
  const low = weighed.flatMap((one) => {
    const net = groundedNet(board, one.fault);
    return net ? [{ ...one, net }] : [];
  });
  const all = sum(low);
  const byPart = new Map<string, typeof low>();
  for (const one of low)
    if ('part' in one.fault)
      byPart.set(one.fault.part, [...(byPart.get(one.fault.part) ?? []), one]);
  return [...byPart].flatMap(([ref, own]): BenchAction[] => {
    const part = findPart(board, ref);
    const { seconds } = takeOff(board, ref);
    const share = sum(own) / all;
    if (seconds === null || (part && isSeriesPart(part)) || share < leastShare) return [];
    const { net } = own[0]!;
    return [
      {
        kind: 'lift',
        what: ref,
        text: `Take ${ref} off and read ohms on ${net} again`,
        gainBits: all * entropy(share),
        seconds,
        outcomes: [
          { text: `the short is gone: it was ${ref}`, probability: share },
          { text: `it stays: ${ref} was not it, and goes back`, probability: 1 - share },
        ],
        caution: cautionText('lift'),
        then: { net, mode: 'ohms' },
      },
    ];
  });
}
