import { draw } from '@jiko/core/base';
import type { Behaviour, Board, Chip, NetId, Part } from '@jiko/core/board';
import {
  about,
  netsOf,
  regulatorsOf,
  withRegulator,
  withResistor,
  type Way,
} from '../unlisted-ways.ts';

// Twelve ways of failing that nobody listed, neither in the faults nor in unlisted-ways.ts. They are opened
// for a measurement and not worked on.

const withBehaviour = (board: Board, chip: Chip, old: Behaviour, one: Behaviour): Board => ({
  ...board,
  chips: board.chips.map((other) =>
    other === chip
      ? { ...chip, behaviours: chip.behaviours.map((each) => (each === old ? one : each)) }
      : other,
  ),
});
const withPart = (board: Board, part: Part, change: Partial<Part>): Board => ({
  ...board,
  parts: board.parts.map((one) => (one === part ? { ...part, ...change } : one)),
});
const scaled =
  (low: number, high: number, word: string): Way =>
  (board, chance) => {
    const { chip, one } = draw(regulatorsOf(board), chance);
    const factor = low + (high - low) * chance();
    return {
      board: withRegulator(board, chip, one, { volts: one.volts * factor }),
      name: `${chip.ref} ${one.name} ${word} by ${factor.toFixed(2)}`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out, one.sense]),
    };
  };
const rail = (board: Board, chance: () => number): NetId =>
  draw(
    board.nets.filter((net) => net.kind === 'rail' && net.volts !== null),
    chance,
  ).id;

export const newWays: Record<string, Way> = {
  'a regulator that gives an eighth too little': scaled(0.82, 0.92, 'low'),
  'a regulator that gives a fifth too much': scaled(1.1, 1.3, 'high'),
  'a rail that leaks by ten to a hundred ohms': (board, chance) => {
    const net = rail(board, chance);
    const ohms = about(chance, 10, 100);
    return {
      board: withResistor(board, net, board.ground, ohms),
      name: `${net} leaks by ${ohms.toFixed(0)} ohms`,
      parts: ['UNSEEN'],
      nets: [net],
    };
  },
  'a link, fuse or switch of three to forty ohms': (board, chance) => {
    const list = board.parts.filter(
      (part) => part.fitted && ['fuse', 'ferrite', 'jumper'].includes(part.kind),
    );
    if (list.length === 0) return null;
    const part = draw(list, chance);
    return {
      board: withPart(board, part, { kind: 'resistor', value: about(chance, 3, 40) }),
      name: `${part.ref} of some ohms`,
      parts: [part.ref],
      nets: part.pins.map((pin) => pin.net),
    };
  },
  'a resistor of another hundredfold': (board, chance) => {
    const list = board.parts.filter(
      (part) => part.fitted && part.kind === 'resistor' && part.value !== null,
    );
    if (list.length === 0) return null;
    const part = draw(list, chance);
    const factor = chance() < 0.5 ? 100 : 0.01;
    return {
      board: withPart(board, part, { value: (part.value ?? 1) * factor }),
      name: `${part.ref} times ${factor}`,
      parts: [part.ref],
      nets: part.pins.map((pin) => pin.net),
    };
  },
  'a part turned round': (board, chance) => {
    const list = board.parts.filter(
      (part) =>
        part.fitted && ['diode', 'schottky', 'led'].includes(part.kind) && part.pins.length === 2,
    );
    if (list.length === 0) return null;
    const part = draw(list, chance);
    const [a, b] = part.pins;
    if (!a || !b) return null;
    return {
      board: withPart(board, part, {
        pins: [
          { name: a.name, net: b.net },
          { name: b.name, net: a.net },
        ],
      }),
      name: `${part.ref} turned round`,
      parts: [part.ref],
      nets: [a.net, b.net],
    };
  },
  'an enable that wants the other level': (board, chance) => {
    const list = regulatorsOf(board).filter(({ one }) => one.needs.length > 0);
    if (list.length === 0) return null;
    const { chip, one } = draw(list, chance);
    const need = draw(one.needs, chance);
    const side = need.side === 'above' ? 'below' : 'above';
    return {
      board: withRegulator(board, chip, one, {
        needs: one.needs.map((other) => (other === need ? { ...need, side } : other)),
      }),
      name: `${chip.ref} ${one.name} wants ${need.pin} ${side}`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out, one.sense, need.pin]),
    };
  },
  'a soft start that takes a minute': (board, chance) => {
    const { chip, one } = draw(regulatorsOf(board), chance);
    return {
      board: withRegulator(board, chip, one, { onDelaySeconds: 60 }),
      name: `${chip.ref} ${one.name} a minute late`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out, one.sense]),
    };
  },
  'dirt of some kilohms between two pins side by side': (board, chance) => {
    const list = board.chips.filter((chip) => chip.pins.size > 3 && !chip.virtual);
    if (list.length === 0) return null;
    const chip = draw(list, chance);
    const nets = [...chip.pins.values()];
    const at = Math.floor(chance() * (nets.length - 1));
    const [a, b] = [nets[at], nets[at + 1]];
    if (!a || !b || a === b) return null;
    return {
      board: withResistor(board, a, b, about(chance, 500, 15_000)),
      name: `${chip.ref} dirt between ${a} and ${b}`,
      parts: ['UNSEEN', chip.ref],
      nets: [a, b].filter((net) => net !== board.ground),
    };
  },
  'a source with ohms of its own': (board, chance) => {
    const source = draw(board.sources, chance);
    return {
      board: {
        ...board,
        sources: board.sources.map((one) =>
          one === source ? { ...source, seriesOhms: about(chance, 2, 30) } : one,
        ),
      },
      name: `${source.id} behind some ohms`,
      parts: [],
      nets: [source.net],
    };
  },
  'a rail fed from another one through a diode of a chip': (board, chance) => {
    const rails = board.nets.filter((net) => net.kind === 'rail' && net.volts !== null);
    const [low, high] = [draw(rails, chance), draw(rails, chance)];
    if ((low.volts ?? 0) >= (high.volts ?? 0)) return null;
    const model = board.parts.find((part) => part.kind === 'resistor');
    if (!model) return null;
    return {
      board: {
        ...board,
        parts: [
          ...board.parts,
          {
            ...model,
            ref: 'UNSEEN' as Part['ref'],
            kind: 'diode',
            value: null,
            on: null,
            pins: [
              { name: 'A', net: high.id },
              { name: 'K', net: low.id },
            ],
          },
        ],
      },
      name: `${low.id} fed from ${high.id}`,
      parts: ['UNSEEN'],
      nets: [low.id, high.id],
    };
  },
  'a power-good that lets go again': (board, chance) => {
    const list = board.chips.flatMap((chip) =>
      chip.behaviours.flatMap((one) =>
        one.do === 'follower' && one.needs.length > 0 ? [{ chip, one }] : [],
      ),
    );
    if (list.length === 0) return null;
    const { chip, one } = draw(list, chance);
    const need = draw(one.needs, chance);
    return {
      board: withBehaviour(board, chip, one, {
        ...one,
        needs: one.needs.map((other) =>
          other === need
            ? { ...need, volts: need.volts * (need.side === 'above' ? 1.25 : 0.7) }
            : other,
        ),
      }),
      name: `${chip.ref} ${one.name} lets go`,
      parts: [chip.ref],
      nets: netsOf(chip, [one.out]),
    };
  },
};
