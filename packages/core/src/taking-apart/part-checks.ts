import {
  isFet,
  isSeriesPart,
  type Board,
  type NetId,
  type Part,
  findPart,
} from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import {
  leadOhms,
  type Mode,
  type Phase,
  type ProbePlace,
  type Reading,
} from '../readings/index.ts';
import { cautionText } from '../safety/index.ts';
import { formatOhms, formatVolts } from '../units/index.ts';

/** One reading of a check. */
export interface CheckStep {
  text: string;
  at: ProbePlace;
  reference: ProbePlace | null;
  mode: Mode;
  polarity: Reading['polarity'];
  phase: Phase;
  /** What a good one reads, in words. */
  good: string;
}

/** How a part is checked before it is heated. */
export interface PartCheck {
  ref: string;
  title: string;
  /** What is to be known before: which way round it stands, what lies beside it. */
  notes: string[];
  steps: CheckStep[];
  caution: string;
}

/** How to check a part where it stands, from its kind and what lies around it on the board. */
export function checkPart(healthy: HealthyBoard, ref: string): PartCheck | null {
  const { board } = healthy;
  const part = findPart(board, ref);
  if (!part) return null;
  const base = {
    ref,
    title: `${ref}, ${part.title || part.kind}${part.valueText ? `, ${part.valueText}` : ''}`,
    caution: cautionText('measure-part'),
  };
  const from = (a: string, b: string, mode: Mode, polarity: Reading['polarity'], good: string) =>
    between(part, a, b, mode, polarity, good);
  const ohms = (a: string, b: string, good: string): CheckStep =>
    from(a, b, 'ohms', 'red-on-point', good);
  const [one, two] = part.pins.map((pin) => pin.name) as [string, string];
  switch (part.kind) {
    case 'resistor':
    case 'fuse':
    case 'coil':
    case 'ferrite':
    case 'jumper':
      if (isSeriesPart(part))
        return {
          ...base,
          notes: [
            'From end to end next to nothing: the leads are most of it. More than some ohms: gone, or its joint.',
            ...(part.kind === 'fuse'
              ? ['A blown fuse had a cause: read what follows it for a short first.']
              : []),
          ],
          steps: [ohms(one, two, `below ${formatOhms(leadOhms.dirty)} with the leads`)],
        };
      return { ...base, ...resistorCheck(healthy, part, ohms) };
    case 'capacitor': {
      const live = part.pins.find((pin) => pin.net !== board.ground)?.name ?? one;
      const ground = part.pins.find((pin) => pin.net === board.ground)?.name ?? two;
      return {
        ...base,
        notes: [
          'A short shows, on its net and with all that hangs there; an open one does not: bridge it with a good one, or lift it and take its farads.',
        ],
        steps: [
          {
            ...ohms(live, ground, 'what its net reads; near nothing is a short'),
            reference: null,
          },
        ],
      };
    }
    case 'diode':
    case 'schottky':
    case 'zener':
    case 'tvs':
    case 'led':
      return {
        ...base,
        notes: [
          'What lies beside it is in what the healthy play reads.',
          ...(part.kind === 'zener' || part.kind === 'tvs'
            ? ['Its breakdown does not show here; a short does.']
            : []),
        ],
        steps: [
          from('A', 'K', 'diode', 'red-on-point', junctionText(healthy, part, 'red-on-point')),
          from('A', 'K', 'diode', 'black-on-point', junctionText(healthy, part, 'black-on-point')),
        ],
      };
    case 'pfet':
    case 'nfet':
      return { ...base, notes: fetNotes(healthy, part), steps: fetSteps(part, from) };
    case 'npn':
    case 'pnp':
      return {
        ...base,
        notes: ['Two junctions from the base; none from collector to emitter.'],
        steps: [
          from(
            'B',
            'E',
            'diode',
            part.kind === 'npn' ? 'red-on-point' : 'black-on-point',
            '0.55 to 0.75 V',
          ),
          from(
            'B',
            'C',
            'diode',
            part.kind === 'npn' ? 'red-on-point' : 'black-on-point',
            '0.55 to 0.75 V',
          ),
        ],
      };
    case 'button':
      return {
        ...base,
        notes: ['Open at rest, next to nothing while it is pressed.'],
        steps: [ohms(one, two, 'open at rest')],
      };
    case 'connector':
      return {
        ...base,
        notes: [
          'Look at each contact: bent, black, pushed back. Then each pin in diode-mode against a good board.',
        ],
        steps: part.pins
          .filter((pin) => pin.net !== board.ground)
          .map((pin) => ({
            text: `pin ${pin.name}: ${pin.net}`,
            at: { net: pin.net, part: ref, pin: pin.name },
            reference: null,
            mode: 'diode' as const,
            polarity: 'black-on-point' as const,
            phase: 'cold' as const,
            good: diodeText(healthy, pin.net),
          })),
      };
    case 'crystal':
    case 'fan':
      return {
        ...base,
        notes: [
          part.kind === 'crystal'
            ? 'No meter sees it run: a scope with a light probe does, or another one in its place.'
            : 'Its volts, then another fan in its place.',
        ],
        steps: [],
      };
  }
}

const place = (part: Part, pin: string): ProbePlace => ({
  net: part.pins.find((one) => one.name === pin)?.net ?? '',
  part: part.ref,
  pin,
});

const pinWords: Record<string, string> = {
  G: 'gate',
  S: 'source',
  D: 'drain',
  A: 'anode',
  K: 'cathode',
  B: 'base',
  C: 'collector',
  E: 'emitter',
};

function between(
  part: Part,
  a: string,
  b: string,
  mode: Mode,
  polarity: Reading['polarity'],
  good: string,
): CheckStep {
  const name = (pin: string): string => pinWords[pin] ?? `pin ${pin}`;
  const leads =
    mode === 'diode'
      ? polarity === 'red-on-point'
        ? `, red on ${name(a)}`
        : `, black on ${name(a)}`
      : '';
  return {
    text: `${name(a)} to ${name(b)}${leads}`,
    at: place(part, a),
    reference: place(part, b),
    mode,
    polarity,
    phase: 'cold',
    good,
  };
}

function resistorCheck(
  healthy: HealthyBoard,
  part: Part,
  ohms: (a: string, b: string, good: string) => CheckStep,
): Pick<PartCheck, 'notes' | 'steps'> {
  const [one, two] = part.pins as [Part['pins'][number], Part['pins'][number]];
  const known = healthy.across({
    net: one.net,
    reference: two.net,
    mode: 'ohms',
    phase: 'cold',
    polarity: 'red-on-point',
    part: part.ref,
  })?.inCircuit;
  if (!known) return { notes: ['The sheet gives it no value.'], steps: [] };
  const beside = Number.isFinite(known.beside)
    ? `${formatOhms(Number(known.beside.toPrecision(2)))} lie beside it: a good one reads ${formatOhms(Number(known.expected.toPrecision(3)))} here. What is higher convicts it; what is lower may be what lies beside it.`
    : part.isGuess
      ? `${part.ref} is no part of the board that anybody has seen: it stands for what is not known, and its value is a guess. What is read there convicts nothing.`
      : 'Nothing lies beside it: it reads its own value.';
  return {
    notes: [beside, `To read it alone lift its end on ${known.lift.net}. ${cautionText('lift')}`],
    steps: [ohms(one.name, two.name, `about ${formatOhms(Number(known.expected.toPrecision(3)))}`)],
  };
}

function junctionText(healthy: HealthyBoard, part: Part, polarity: Reading['polarity']): string {
  const [a, k] = ['A', 'K'].map((pin) => part.pins.find((one) => one.name === pin)?.net) as [
    NetId,
    NetId,
  ];
  const known = healthy.across({
    net: a,
    reference: k,
    mode: 'diode',
    phase: 'cold',
    polarity,
    part: part.ref,
  });
  return voltsText(known?.healthy ?? null);
}

const voltsText = (volts: number | null): string =>
  volts === null
    ? 'as on a good board'
    : volts === Infinity
      ? 'OL'
      : `about ${formatVolts(Number(volts.toPrecision(2)))}`;

function diodeText(healthy: HealthyBoard, net: NetId): string {
  const known = healthy.expect(net, 'diode', 'cold');
  return known.kind === 'value' ? voltsText(known.value) : 'as on a good board';
}

/** Which way round a FET stands, and what that makes of its body diode. */
function fetNotes({ board, upstream }: HealthyBoard, part: Part): string[] {
  const on = (pin: string): NetId => part.pins.find((one) => one.name === pin)?.net as NetId;
  const [s, d] = [on('S'), on('D')];
  const isInput = upstream.distance(s) !== upstream.distance(d);
  const feed = upstream.distance(s) < upstream.distance(d) ? 'S' : 'D';
  const passes = (part.kind === 'pfet') === (feed === 'D');
  const kind = part.kind === 'pfet' ? 'P-channel' : 'N-channel';
  return [
    `${kind}: on with its gate ${part.kind === 'pfet' ? 'well below' : 'about 5 V above'} its source.`,
    isInput
      ? `Its ${feed === 'S' ? 'source' : 'drain'} is on ${feed === 'S' ? s : d}, where the feed comes in: its body diode ${passes ? `passes on to ${feed === 'S' ? d : s} even when it is off` : 'blocks when it is off'}.`
      : `Source on ${s}, drain on ${d}.`,
    ...(s === board.ground
      ? ['Its source is on ground: it pulls its drain low when it is on.']
      : []),
  ];
}

function fetSteps(
  part: Part,
  from: (
    a: string,
    b: string,
    mode: Mode,
    polarity: Reading['polarity'],
    good: string,
  ) => CheckStep,
): CheckStep[] {
  // The body diode lies from source to drain in an N-channel one, from drain to source in a P-channel one.
  const forward = part.kind === 'nfet' ? 'red-on-point' : 'black-on-point';
  const backward = part.kind === 'nfet' ? 'black-on-point' : 'red-on-point';
  return [
    from('D', 'S', 'ohms', 'red-on-point', 'no short; what lies beside it shows'),
    from('S', 'D', 'diode', forward, 'its body diode, 0.4 to 0.6 V'),
    from('S', 'D', 'diode', backward, 'OL, or what lies beside it'),
    from('G', 'S', 'ohms', 'red-on-point', 'what its gate resistor reads, never near nothing'),
  ];
}

/** The part's gate, source and drain in volts, for the judgement of its state. */
export const fetPinsPowered = (board: Board, ref: string): ProbePlace[] => {
  const part = findPart(board, ref);
  return part && isFet(part) ? ['S', 'G', 'D'].map((pin) => place(part, pin)) : [];
};
