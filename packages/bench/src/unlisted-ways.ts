import { draw } from '@jiko/core/base';
import {
  netById,
  type Behaviour,
  type Board,
  type Chip,
  type Net,
  type NetId,
  type Part,
  type PartRef,
  type Regulator,
} from '@jiko/core/board';

// Ways a board may fail that are in no list of faults: what the diagnosis has never met.

/** A board with something wrong in it, and where that sits. */
export interface Failing {
  board: Board;
  name: string;
  parts: string[];
  nets: NetId[];
}

export type Way = (board: Board, chance: () => number) => Failing | null;

export const about = (chance: () => number, low: number, high: number): number =>
  low * (high / low) ** chance();

export const regulatorsOf = (board: Board): { chip: Chip; one: Regulator }[] =>
  board.chips.flatMap((chip) =>
    chip.behaviours.flatMap((one) =>
      one.do === 'regulator' && chip.fitted ? [{ chip, one }] : [],
    ),
  );

export function withRegulator(
  board: Board,
  chip: Chip,
  one: Regulator,
  change: Partial<Regulator>,
): Board {
  return {
    ...board,
    chips: board.chips.map((other) =>
      other === chip
        ? {
            ...chip,
            behaviours: chip.behaviours.map((behaviour): Behaviour =>
              behaviour === one ? { ...one, ...change } : behaviour,
            ),
          }
        : other,
    ),
  };
}

export const netsOf = (chip: Chip, pins: readonly (string | null)[]): NetId[] =>
  pins.flatMap((pin) => (pin === null ? [] : (chip.pins.get(pin) ?? [])));

export function withResistor(board: Board, a: NetId, b: NetId, ohms: number): Board {
  const part: Part = {
    ref: 'UNSEEN' as PartRef,
    kind: 'resistor',
    title: '',
    pins: [
      { name: '1', net: a },
      { name: '2', net: b },
    ],
    value: ohms,
    isGuess: false,
    valueText: '',
    fitted: true,
    marking: '',
    package: '',
    on: null,
    side: null,
    x: null,
    y: null,
  };
  return { ...board, parts: [...board.parts, part] };
}

const signalLike = (net: Net): boolean => net.kind === 'signal' || net.kind === 'analog';

/** By name: a chip, a part or a net is drawn at random and changed. */
export const ways: Record<string, Way> = {
  'a regulator whose output has ohms of its own': (board, chance) => {
    const { chip, one } = draw(regulatorsOf(board), chance);
    const ohms = about(chance, 0.5, 30);
    return {
      board: withRegulator(board, chip, one, { outOhms: ohms }),
      name: `${chip.ref} ${one.name} behind ${ohms.toFixed(1)} ohms`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out, one.sense]),
    };
  },
  'a power-good that comes seconds late': (board, chance) => {
    const list = regulatorsOf(board).filter(({ one }) => one.powerGood !== null);
    if (list.length === 0) return null;
    const { chip, one } = draw(list, chance);
    return {
      board: withRegulator(board, chip, one, { powerGoodDelaySeconds: 40 }),
      name: `${chip.ref} ${one.name} late`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.powerGood]),
    };
  },
  'an enable threshold drifted up': (board, chance) => {
    const list = regulatorsOf(board).filter(({ one }) => one.needs.length > 1);
    if (list.length === 0) return null;
    const { chip, one } = draw(list, chance);
    const need = draw(one.needs, chance);
    return {
      board: withRegulator(board, chip, one, {
        needs: one.needs.map((other) =>
          other === need ? { ...need, volts: need.volts * 6 + 3 } : other,
        ),
      }),
      name: `${chip.ref} ${one.name} wants more at ${need.pin}`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out, one.sense, need.pin]),
    };
  },
  'two nets anywhere joined': (board, chance) => {
    const nets = board.nets.filter((net) => net.kind !== 'ground' && net.kind !== 'switch');
    const [a, b] = [draw(nets, chance), draw(nets, chance)];
    if (a === b) return null;
    const ohms = about(chance, 0.3, 3000);
    return {
      board: withResistor(board, a.id, b.id, ohms),
      name: `${a.id} and ${b.id} joined by ${ohms.toFixed(0)} ohms`,
      parts: ['UNSEEN'],
      nets: [a.id, b.id],
    };
  },
  'a signal leaking to the highest rail': (board, chance) => {
    const rails = board.nets.filter((net) => net.kind === 'rail' && net.volts !== null);
    const top = rails.reduce((most, net) => ((net.volts ?? 0) > (most.volts ?? 0) ? net : most));
    const signal = draw(board.nets.filter(signalLike), chance);
    const ohms = about(chance, 300, 20_000);
    return {
      board: withResistor(board, signal.id, top.id, ohms),
      name: `${signal.id} leaks to ${top.id}`,
      parts: ['UNSEEN'],
      nets: [signal.id],
    };
  },
  'a joint of some hundred ohms at a supply pin': (board, chance) => {
    const list = regulatorsOf(board).filter(({ chip }) => !chip.virtual);
    if (list.length === 0) return null;
    const { chip, one } = draw(list, chance);
    const from = chip.pins.get(one.in) as NetId;
    const beyond = 'UNSEEN PAD' as NetId;
    const model = netById(board, from) as Net;
    const pins = new Map(chip.pins).set(one.in, beyond);
    const cut: Board = {
      ...board,
      nets: [
        ...board.nets,
        { ...model, id: beyond, aliases: [], loadAmps: 0, coldOhms: null, coldDiodeVolts: null },
      ],
      chips: board.chips.map((other) => (other === chip ? { ...chip, pins } : other)),
    };
    return {
      board: withResistor(cut, from, beyond, about(chance, 100, 3000)),
      name: `${chip.ref} ${one.in} bad joint`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out, one.sense]),
    };
  },
  'a controller that starts over at a step': (board, chance) => {
    const list = board.chips.flatMap((chip) =>
      chip.behaviours.flatMap((one) => (one.do === 'sequence' ? [{ chip, one }] : [])),
    );
    if (list.length === 0) return null;
    const { chip, one } = draw(list, chance);
    const acts = one.steps.flatMap((step, index) => (step.kind === 'drive' ? [index] : []));
    if (acts.length < 2) return null;
    const at = draw(acts.slice(1), chance);
    const never = {
      pin: one.high,
      side: 'above' as const,
      volts: 1e6,
      hysteresisVolts: 0,
      than: null,
    };
    return {
      board: {
        ...board,
        chips: board.chips.map((other) =>
          other === chip
            ? {
                ...chip,
                behaviours: chip.behaviours.map((behaviour): Behaviour =>
                  behaviour === one
                    ? {
                        ...one,
                        steps: [
                          ...one.steps.slice(0, at),
                          { kind: 'wait', needs: [never], withinSeconds: 0.3 },
                          ...one.steps.slice(at),
                        ],
                      }
                    : behaviour,
                ),
              }
            : other,
        ),
      },
      name: `${chip.ref} gives up before step ${at + 1}`,
      parts: [chip.ref],
      nets: [],
    };
  },
  'a chip that draws far too much': (board, chance) => {
    const list = board.chips.flatMap((chip) => chip.draws.map((drawn) => ({ chip, drawn })));
    if (list.length === 0) return null;
    const { chip, drawn } = draw(list, chance);
    const amps = about(chance, 0.3, 6);
    return {
      board: {
        ...board,
        chips: board.chips.map((other) =>
          other === chip
            ? {
                ...chip,
                draws: chip.draws.map((one) => (one === drawn ? { ...drawn, amps } : one)),
              }
            : other,
        ),
      },
      name: `${chip.ref} ${drawn.pin} draws ${amps.toFixed(1)} A`,
      parts: [chip.ref],
      nets: netsOf(chip, [drawn.pin]),
    };
  },
  'a diode fitted in place of a link, fuse or coil': (board, chance) => {
    const list = board.parts.filter(
      (part) => part.fitted && ['fuse', 'ferrite', 'coil', 'jumper'].includes(part.kind),
    );
    if (list.length === 0) return null;
    const part = draw(list, chance);
    const [a, b] = part.pins;
    if (!a || !b) return null;
    return {
      board: {
        ...board,
        parts: board.parts.map((one) =>
          one === part
            ? {
                ...part,
                kind: 'diode',
                value: null,
                pins: [
                  { name: 'A', net: a.net },
                  { name: 'K', net: b.net },
                ],
              }
            : one,
        ),
      },
      name: `${part.ref} is a diode`,
      parts: [part.ref],
      nets: [a.net, b.net],
    };
  },
  'a load nobody drew': (board, chance) => {
    const { chip, one } = draw(regulatorsOf(board), chance);
    const net = chip.pins.get(one.sense) as NetId;
    const amps = one.limitAmps * about(chance, 0.6, 2);
    return {
      board: {
        ...board,
        nets: board.nets.map((other) =>
          other.id === net ? { ...other, loadAmps: other.loadAmps + amps } : other,
        ),
      },
      name: `${net} loaded with ${amps.toFixed(1)} A`,
      parts: [],
      nets: [net],
    };
  },
  'a reset chip that waits for too much': (board, chance) => {
    const list = board.chips.filter(
      (chip) => chip.kind === 'supervisor' || chip.kind === 'detector',
    );
    if (list.length === 0) return null;
    const chip = draw(list, chance);
    return {
      board: {
        ...board,
        chips: board.chips.map((other) =>
          other === chip
            ? {
                ...chip,
                behaviours: chip.behaviours.map((one): Behaviour =>
                  one.do === 'follower'
                    ? {
                        ...one,
                        needs: one.needs.map((need) => ({ ...need, volts: need.volts * 1.3 })),
                      }
                    : one,
                ),
              }
            : other,
        ),
      },
      name: `${chip.ref} threshold too high`,
      parts: [chip.ref],
      nets: netsOf(
        chip,
        chip.behaviours.flatMap((one) => (one.do === 'follower' ? [one.out] : [])),
      ),
    };
  },
};
