import {
  allNeeds,
  isFet,
  isSeriesPart,
  outputPins,
  type Behaviour,
  type Board,
  type Chip,
  type Need,
  type NetId,
  type PartRef,
  netById,
} from '../board/index.ts';

export type Role =
  | 'feed'
  | 'supply'
  | 'power-good'
  | 'enable'
  /** A line at rest that starts something when it is pulled low: a button. */
  | 'trigger'
  | 'gate'
  | 'watched'
  | 'pull-up';

/** One thing a net needs: another net, in which role, and through what. */
export interface Upstream {
  net: NetId;
  role: Role;
  /** The part or chip between the two. */
  via: PartRef;
  /** What the chip wants to see there; null for a plain path. */
  threshold: { side: 'above' | 'below'; volts: number } | null;
}

/** Who needs what on a board, computed from chips' needs and gives and the parts between. */
export interface UpstreamMap {
  of(net: NetId): readonly Upstream[];
  /** Steps from the connected source along conducting parts; Infinity where nothing leads. */
  distance(net: NetId): number;
}

const roleOrder: readonly Role[] = [
  'feed',
  'supply',
  'watched',
  'power-good',
  'enable',
  'trigger',
  'gate',
  'pull-up',
];

export function mapUpstream(board: Board, sourceNets: readonly NetId[]): UpstreamMap {
  const distances = distancesFrom(board, sourceNets);
  const distance = (net: NetId): number => distances.get(net) ?? Infinity;
  const powerGoods = new Set<NetId>();
  for (const { chip, behaviour } of blocks(board)) {
    if (behaviour.do === 'regulator' && behaviour.powerGood) {
      powerGoods.add(chip.pins.get(behaviour.powerGood) as NetId);
    }
  }
  const isRail = (net: NetId): boolean => netById(board, net)?.kind === 'rail';
  const roleOf = (net: NetId): Role => {
    if (powerGoods.has(net)) return 'power-good';
    return isRail(net) ? 'supply' : 'enable';
  };
  const known = new Map<NetId, Upstream[]>();

  const collect = (net: NetId): Upstream[] => {
    const found: Upstream[] = [];
    const add = (one: Upstream): void => {
      if (one.net === net || one.net === board.ground) return;
      if (!found.some((other) => other.net === one.net)) found.push(one);
    };
    const addNeeds = (chip: Chip, needs: readonly Need[], inSequence = false): void => {
      for (const need of needs) {
        // A comparison across a part guards against faults: nothing waits for it.
        if (need.than !== null) continue;
        const on = chip.pins.get(need.pin) as NetId;
        const isTrigger = inSequence && need.side === 'below';
        add({
          net: on,
          role: isTrigger ? 'trigger' : roleOf(on),
          via: chip.ref,
          threshold: isTrigger ? null : { side: need.side, volts: need.volts },
        });
      }
    };
    let drivenByChip = false;
    // A USB-C source gives what is asked for: who asks needs a supply of its own.
    if (board.sources.some((one) => one.kind === 'usb-c' && one.net === net))
      for (const { chip, behaviour } of blocks(board))
        if (behaviour.do === 'sequence' && behaviour.steps.some((step) => step.kind === 'ask'))
          addNeeds(chip, behaviour.supply);
    for (const { chip, behaviour } of blocks(board)) {
      const on = (pin: string | null): NetId | undefined =>
        pin === null ? undefined : chip.pins.get(pin);
      if (behaviour.do === 'regulator') {
        const isOutput = on(behaviour.out) === net || on(behaviour.sense) === net;
        if (isOutput) {
          drivenByChip = true;
          add({ net: on(behaviour.in) as NetId, role: 'feed', via: chip.ref, threshold: null });
          addNeeds(chip, behaviour.needs);
        } else if (on(behaviour.powerGood) === net) {
          drivenByChip = true;
          add({
            net: on(behaviour.sense) as NetId,
            role: 'watched',
            via: chip.ref,
            threshold: null,
          });
        }
        continue;
      }
      const pin = outputPins(behaviour).find((one) => on(one) === net);
      if (pin === undefined) continue;
      drivenByChip = true;
      addNeeds(chip, needsBeforeDriving(behaviour, pin), behaviour.do === 'sequence');
    }
    for (const part of board.parts) {
      if (!part.fitted) continue;
      const here = part.pins.find((pin) => pin.net === net);
      if (!here) continue;
      if (isFet(part)) {
        if (here.name === 'G') continue;
        const other = part.pins.find((pin) => pin.name !== 'G' && pin.name !== here.name);
        const gate = part.pins.find((pin) => pin.name === 'G');
        if (!other || !gate) continue;
        // Pulled down through it: its gate decides.
        if (other.net === board.ground) {
          add({ net: gate.net, role: 'gate', via: part.ref, threshold: null });
          continue;
        }
        if (!(distance(other.net) < distance(net))) continue;
        add({ net: other.net, role: 'feed', via: part.ref, threshold: null });
        add({ net: gate.net, role: 'gate', via: part.ref, threshold: null });
        continue;
      }
      if (part.kind === 'npn' || part.kind === 'pnp') {
        const base = part.pins.find((pin) => pin.name === 'B');
        if (base && here.name === 'C')
          add({ net: base.net, role: 'gate', via: part.ref, threshold: null });
        continue;
      }
      const other = part.pins.find((pin) => pin !== here);
      if (!other || other.net === board.ground) continue;
      const isNearer = distance(other.net) < distance(net);
      if (isSeriesPart(part)) {
        // A coil's other side is the regulator's switch node: the regulator is asked instead.
        const isSwitch = netById(board, other.net)?.kind === 'switch';
        if (isNearer && !isSwitch)
          add({ net: other.net, role: 'feed', via: part.ref, threshold: null });
      } else if (part.kind === 'diode' || part.kind === 'schottky') {
        if (here.name === 'K' && isNearer)
          add({ net: other.net, role: 'feed', via: part.ref, threshold: null });
      } else if (part.kind === 'resistor') {
        // A rail is not fed back through the pull-ups and dividers that hang on it.
        if (isRail(net) && !isRail(other.net)) continue;
        if (drivenByChip && isNearer && isRail(other.net))
          add({ net: other.net, role: 'pull-up', via: part.ref, threshold: null });
        else if (!drivenByChip && (isNearer || isDriven(board, other.net))) {
          add({ net: other.net, role: 'feed', via: part.ref, threshold: null });
        }
      }
    }
    return found.sort((a, b) => roleOrder.indexOf(a.role) - roleOrder.indexOf(b.role));
  };

  return {
    distance,
    of(net) {
      let list = known.get(net);
      if (!list) known.set(net, (list = collect(net)));
      return list;
    },
  };
}

function blocks(board: Board): { chip: Chip; behaviour: Behaviour }[] {
  return board.chips
    .filter((chip) => chip.fitted)
    .flatMap((chip) => chip.behaviours.map((behaviour) => ({ chip, behaviour })));
}

function isDriven(board: Board, net: NetId): boolean {
  return blocks(board).some(({ chip, behaviour }) =>
    outputPins(behaviour).some((pin) => chip.pins.get(pin) === net),
  );
}

/** What a behaviour must have seen before it drives the pin away from idle. */
function needsBeforeDriving(behaviour: Behaviour, pin: string): Need[] {
  if (behaviour.do !== 'sequence') return allNeeds(behaviour);
  const needs = [...behaviour.supply, ...behaviour.needs];
  for (const step of behaviour.steps) {
    if (step.kind === 'wait') needs.push(...step.needs);
    if (step.kind === 'drive' && step.levels.some((one) => one.pin === pin)) break;
    if (step.kind === 'pulse' && step.pin === pin) break;
  }
  return needs;
}

function distancesFrom(board: Board, starts: readonly NetId[]): Map<NetId, number> {
  const edges: [NetId, NetId][] = [];
  const both = (a: NetId, b: NetId): void => {
    edges.push([a, b], [b, a]);
  };
  for (const part of board.parts) {
    if (!part.fitted) continue;
    const nets = part.pins.filter((pin) => pin.name !== 'G').map((pin) => pin.net);
    const [a, b] = nets;
    if (!a || !b) continue;
    if (isSeriesPart(part) || part.kind === 'resistor' || isFet(part)) both(a, b);
    else if (part.kind === 'diode' || part.kind === 'schottky' || part.kind === 'led')
      edges.push([a, b]);
  }
  for (const { chip, behaviour } of blocks(board)) {
    const on = (pin: string): NetId => chip.pins.get(pin) as NetId;
    if (behaviour.do === 'regulator') edges.push([on(behaviour.in), on(behaviour.out)]);
    else if (behaviour.high) {
      for (const pin of outputPins(behaviour)) edges.push([on(behaviour.high), on(pin)]);
    } else
      for (const need of behaviour.supply) {
        for (const pin of outputPins(behaviour)) edges.push([on(need.pin), on(pin)]);
      }
  }
  const distances = new Map<NetId, number>(starts.map((net) => [net, 0]));
  let front: NetId[] = [...starts];
  for (let steps = 1; front.length > 0; steps++) {
    const next: NetId[] = [];
    for (const [from, to] of edges) {
      if (to === board.ground || from === board.ground) continue;
      if (!front.includes(from) || distances.has(to)) continue;
      distances.set(to, steps);
      next.push(to);
    }
    front = next;
  }
  return distances;
}
