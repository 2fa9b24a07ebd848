import { formatVolts } from '../units/index.ts';

/** Volts to ground at an input FET's three pins; null where not read yet. */
export interface FetReadings {
  gate: number | null;
  source: number | null;
  drain: number | null;
}

export interface FetSituation {
  ref: string;
  kind: 'pfet' | 'nfet';
  /** Which channel end the power comes in at. */
  inputPin: 'S' | 'D';
  readings: FetReadings;
}

export type FetState =
  | 'on'
  | 'off'
  | 'half-on'
  | 'conducts-with-gate-off'
  | 'blocks-with-gate-on'
  | 'no-feed'
  | 'unread';

/** What can be behind it, with the reading that tells it from the others. */
export interface FetCause {
  cause: string;
  toldApartBy: string;
  /** That its driver holds it off and is right to: never with a gate half driven. */
  isOnPurpose?: true;
}

export interface FetJudgement {
  state: FetState;
  why: string;
  /** What can be behind it, most usual first. */
  causes: FetCause[];
  /** The reading to take next; null when nothing more is needed. */
  next: string | null;
}

/**
 * Judges an input FET by its pins. Common practice, no source: an N-channel one is on with its gate
 * about 5 V above its source, a P-channel one with its gate well below; a healthy body diode drops
 * 0.4 to 0.6 V at a milliamp and up to 0.9 V when it carries the board.
 */
export function judgeFet(situation: FetSituation): FetJudgement {
  const { ref, kind, inputPin, readings } = situation;
  const { gate, source, drain } = readings;
  const unread = (['S', 'G', 'D'] as const).filter(
    (pin) => ({ G: gate, S: source, D: drain })[pin] === null,
  );
  if (gate === null || source === null || drain === null) {
    const first = unread.includes(inputPin) ? inputPin : (unread[0] as string);
    return {
      state: 'unread',
      why: `${ref} needs all three pins: ${unread.map(pinWord).join(', ')} not read yet.`,
      causes: [],
      next: `${ref} ${pinWord(first)}`,
    };
  }
  const input = inputPin === 'S' ? source : drain;
  const output = inputPin === 'S' ? drain : source;
  if (input < 1) {
    return {
      state: 'no-feed',
      why: `Only ${formatVolts(input)} comes in at the ${pinWord(inputPin)}: look before ${ref}.`,
      causes: [],
      next: null,
    };
  }
  // Positive when the gate turns the channel on.
  const overdrive = kind === 'nfet' ? gate - source : source - gate;
  const drop = input - output;
  const vgs = `gate ${formatVolts(gate)}, source ${formatVolts(source)}: ${formatVolts(Math.abs(gate - source))} ${gate < source ? 'below' : 'above'}`;
  const conducts = drop < 0.15 + input * 0.002;
  // The body diode lies from drain to source in a P-channel one, from source to drain in an N-channel one.
  const passes = (kind === 'pfet') === (inputPin === 'D');
  const diodeOnly = passes && drop >= 0.25 && drop <= 1.1;
  const follows = kind === 'nfet' && inputPin === 'D' && !conducts && overdrive >= 0.8;

  if (follows && overdrive < 3.5)
    return {
      state: 'half-on',
      why: `${vgs}: it only follows its gate, which has to stand about 5 V above the ${formatVolts(input)} that come in.`,
      causes: [
        {
          cause: 'the driver gives too little: its charge pump, or the resistor to the gate',
          toldApartBy:
            "the driver's own pin: too low there as well is the driver or its capacitors",
        },
        {
          cause: 'something drags the gate down: the clamp across it, dirt, the FET itself',
          toldApartBy: 'source off, ohms from gate to source and to ground',
        },
      ],
      next: `the driver's pin that works the gate of ${ref}`,
    };
  if (overdrive >= 3.5) {
    if (conducts) {
      return {
        state: 'on',
        why: `${vgs}; drop ${formatVolts(drop)}. It is told to be on, and is.`,
        causes: [],
        next: null,
      };
    }
    return {
      state: 'blocks-with-gate-on',
      why: `${vgs}, so it is told to be on, but ${formatVolts(drop)} stand across it${diodeOnly ? ", a body diode's drop" : ''}.`,
      causes: [
        {
          cause: `${ref} itself: channel open, or a cracked joint at drain or source`,
          toldApartBy: 'read right on the leads, then on the pads: a difference is the joint',
        },
        {
          cause: 'more current than it can carry: the rail behind it is loaded far too hard',
          toldApartBy: 'source off, ohms from its output to ground',
        },
      ],
      next: `${ref} output to ground in ohms, source off`,
    };
  }
  if (conducts && overdrive < 1) {
    return {
      state: 'conducts-with-gate-off',
      why: `${vgs}, so it should be off, yet only ${formatVolts(drop)} stand across it.`,
      causes: [
        {
          cause: `${ref} shorted from drain to source`,
          toldApartBy: 'source off, ohms across drain and source both ways',
        },
        {
          cause: 'the output is fed from elsewhere (battery, another source)',
          toldApartBy: 'unplug the battery and read again',
        },
      ],
      next: `${ref} drain to source in ohms, source off`,
    };
  }
  if (overdrive >= 1) {
    return {
      state: 'half-on',
      why: `${vgs}: a gate only half driven. It will run hot under load.`,
      causes: offCauses(situation).filter((one) => !one.isOnPurpose),
      next: 'ohms across gate and source, source off',
    };
  }
  return {
    state: 'off',
    why: `${vgs}, so it is off${diodeOnly ? `; the ${formatVolts(drop)} across it is its body diode` : ''}.${!passes && output > 1 && drop < input / 2 ? ` Its body diode lies the other way round: ${formatVolts(output)} behind it come from elsewhere, or it leaks.` : ''}`,
    causes: offCauses(situation),
    next: `the driver's pin that works the gate of ${ref}`,
  };
}

/** Everything an "off" can mean, with the reading that tells it from the others. */
function offCauses({ ref, kind }: FetSituation): FetCause[] {
  const p = kind === 'pfet';
  return [
    {
      cause:
        'held off on purpose: overload behind it, wrong source volts, or a shorted partner FET seen by the driver',
      toldApartBy:
        "the driver's pin is at its off level while its supply is good: then ohms of the rail behind, source volts, and drain to source of the partner",
      isOnPurpose: true,
    },
    {
      cause: p
        ? 'the driver does not pull the gate down, or has no supply'
        : 'the driver gives no gate volts, or has no supply',
      toldApartBy: "the driver's supply and detect pins",
    },
    {
      cause: p
        ? 'gate divider: the resistor towards the driver is open, or drifted up'
        : 'gate resistor open between driver and gate',
      toldApartBy: "the driver's pin is at its on level while the gate is not",
    },
    {
      cause: 'gate shorted to source, or the clamp across them failed short',
      toldApartBy: 'source off, ohms across gate and source: far below the divider resistor',
    },
    {
      cause: `${ref} itself (gate leaking)`,
      toldApartBy: 'lift the gate resistor: gate to source in ohms should then be OL',
    },
  ];
}

function pinWord(pin: string): string {
  return pin === 'G' ? 'gate' : pin === 'S' ? 'source' : 'drain';
}
