import { somethingVolts } from '../readings/index.ts';
import {
  netById,
  type Board,
  type GoalId,
  type NetId,
  type PartRef,
  joinedTo,
} from '../board/index.ts';
import type { Play } from '../play/index.ts';
import { mapUpstream } from './upstream.ts';

/** A rail of the processor or its memory by its name: common practice, no source. */
const codeName = /(MEM|DDR|VDDQ|VPP|VTT|CORE|CPU|GFX|GT|VCCSA|_SA|_IO)(?=$|[_\d])/i;
/** Such rails are low; what carries "IO" at 3.3 V feeds something else. */
const mostCodeVolts = 2.6;

/**
 * Rails without which a processor runs no code: what feeds memory and chipset, what a core regulator
 * makes, and by their names those a sheet draws no chip for. Common practice, no source.
 */
export function codeRails(board: Board): NetId[] {
  const found = new Set<NetId>();
  const netById = new Map(board.nets.map((net) => [net.id, net]));
  const add = (id: NetId | undefined): void => {
    const net = id && netById.get(id);
    if (net && net.kind === 'rail') found.add(net.id);
  };
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    if (chip.kind === 'memory' || chip.kind === 'chipset')
      for (const net of chip.pins.values()) add(net);
    if (chip.kind === 'cpu-regulator')
      for (const one of chip.behaviours) if (one.do === 'regulator') add(chip.pins.get(one.sense));
  }
  for (const net of board.nets) {
    const volts = net.rangeVolts?.[1] ?? net.volts;
    if (net.kind === 'rail' && volts !== null && volts < mostCodeVolts && codeName.test(net.id))
      found.add(net.id);
  }
  return [...found];
}

/** A switching regulator whose upper switch, gone short, would put its feed on a rail that cannot bear it. */
export interface RiskyStage {
  chip: PartRef;
  feed: NetId;
  /** Where its coil hangs. */
  output: NetId;
  rail: NetId;
  feedVolts: number;
}

/** So much above the rail's own volts destroys what hangs there. Common practice, no source. */
const riskyTimes = 1.5;

/** The stages in front of processor, memory and chipset: read through them before any source is connected. */
export function riskyStages(board: Board): RiskyStage[] {
  const rails = new Set(codeRails(board));
  const voltsOf = (id: NetId): number => {
    const net = netById(board, id);
    return net?.rangeVolts?.[1] ?? net?.volts ?? 0;
  };
  return board.chips.flatMap((chip) =>
    !chip.fitted || chip.virtual
      ? []
      : chip.behaviours.flatMap((one): RiskyStage[] => {
          if (one.do !== 'regulator' || one.pass !== 'switching') return [];
          const [feed, output] = [chip.pins.get(one.in), chip.pins.get(one.out)];
          const rail =
            output &&
            [...joinedTo(board, [output, chip.pins.get(one.sense)])].find((net) => rails.has(net));
          if (!feed || !output || !rail) return [];
          const feedVolts = voltsOf(feed);
          return feedVolts > riskyTimes * voltsOf(rail)
            ? [{ chip: chip.ref, feed, output, rail, feedVolts }]
            : [];
        }),
  );
}

/**
 * What must be there for each goal: what stages on its way give, and, for a goal that comes after
 * them, the rails without which no code runs. By goal, nets that the healthy board has then.
 */
export function goalNets(board: Board, play: Play): Record<GoalId, NetId[]> {
  const setup = play.setup;
  const fed = board.sources
    .filter((one) => one.id === setup.source || setup.staying.includes(one.id))
    .map((one) => one.net);
  const upstream = mapUpstream(board, fed);
  const given = new Set(board.stages.flatMap((stage) => stage.gives));
  const code = codeRails(board);
  const needs: Record<GoalId, NetId[]> = {};
  for (const goal of board.goals) {
    const volts = play.phases.get(goal.phase)?.volts;
    const isUp = (net: NetId): boolean => (volts?.get(net) ?? 0) > somethingVolts;
    const reach = new Set<NetId>(goal.reached.map((one) => one.net));
    for (const net of reach) for (const { net: up } of upstream.of(net)) reach.add(up);
    const settledAt = (net: NetId): number => play.settledAt.get(net) ?? 0;
    const at = Math.max(...goal.reached.map((one) => settledAt(one.net)));
    const comesAfterCode =
      goal.phase === 'run' &&
      code.length > 0 &&
      code.filter(isUp).every((net) => settledAt(net) < at);
    needs[goal.id] = [
      ...new Set([...[...reach].filter((net) => given.has(net)), ...(comesAfterCode ? code : [])]),
    ].filter(isUp);
  }
  return needs;
}
