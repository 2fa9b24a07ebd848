/** What makes a board and the one who works on it safe, in the order in which it is done. */
export const safetyItems = [
  'source-off',
  'battery-out',
  'storage-out',
  'discharged',
  'coin-cell',
  'esd',
  'swollen-cell',
  'mains-side',
  'liquids',
  'hot-air',
  'liquid-metal',
] as const;
export type SafetyItem = (typeof safetyItems)[number];

/** What decides whether a line of the list is asked. */
export interface DeviceFacts {
  /** Somebody looked, and this device has no battery. */
  hasNoBattery: boolean;
  /** The sheet draws a coin cell; null: it says nothing of cells. */
  hasCoinCell: boolean | null;
  hasStorage: boolean;
  /** What may have happened to it: words of the intake. */
  happened: readonly string[];
}

export interface SafetyLine {
  item: SafetyItem;
  /** Steps are done before the board is opened or measured cold; cautions are to be looked for. */
  kind: 'step' | 'caution';
  title: string;
  why: string;
  asked: (device: DeviceFacts) => boolean;
  /** It concerns this device more than others. */
  presses: (device: DeviceFacts) => boolean;
}

const always = (): boolean => true;
const never = (): boolean => false;
const after =
  (...kinds: string[]) =>
  ({ happened }: DeviceFacts): boolean =>
    happened.some((one) => kinds.includes(one));

/** Common practice, no source. Local rules and licensed practice stand above all of it. */
export const safetyLines: readonly SafetyLine[] = [
  {
    item: 'source-off',
    kind: 'step',
    title: 'Source off and unplugged, button held for ten seconds',
    why: 'Ohms and diode-mode on a live board read nonsense and can burn the meter.',
    asked: always,
    presses: never,
  },
  {
    // Asked of every device, whatever its sheet says: a sheet may have forgotten it.
    item: 'battery-out',
    kind: 'step',
    title: 'Battery unplugged first, before any screw near the board',
    why: 'It feeds the board with nothing else connected; a slip shorts cells that can burn.',
    asked: always,
    presses: never,
  },
  {
    item: 'storage-out',
    kind: 'step',
    title: 'Storage out and laid aside',
    why: "The owner's data is on it; a wrong rail ends it.",
    asked: ({ hasStorage }) => hasStorage,
    presses: never,
  },
  {
    item: 'discharged',
    kind: 'step',
    title: 'Large capacitors discharged through a resistor, checked in volts',
    why: 'The main rail holds its charge for a while; a screwdriver across it takes parts along.',
    asked: always,
    presses: never,
  },
  {
    item: 'coin-cell',
    kind: 'step',
    title: 'Coin cell known: there, out, or none',
    why: 'It holds the clock domain up: cold readings there are wrong while it is in.',
    asked: ({ hasCoinCell }) => hasCoinCell !== false,
    presses: never,
  },
  {
    item: 'esd',
    kind: 'step',
    title: 'Wrist strap and mat on',
    why: 'What static kills reads like what you came to find.',
    asked: always,
    presses: never,
  },
  {
    item: 'swollen-cell',
    kind: 'caution',
    title: 'Battery looked at: not swollen, dented or hot',
    why: 'A swollen or pierced cell can catch fire hours later. Do not press, bend or charge it; put it outside what burns and follow your local rules for it.',
    asked: ({ hasNoBattery }) => !hasNoBattery,
    presses: after('drop', 'bite'),
  },
  {
    item: 'mains-side',
    kind: 'caution',
    title: 'No mains-side work: adapters and supplies stay closed',
    why: 'Their capacitors kill with the plug out. That work is for licensed practice, not for this tool.',
    asked: always,
    presses: never,
  },
  {
    item: 'liquids',
    kind: 'caution',
    title: 'Liquids and cleaners',
    why: 'A wet board is dried before power. Alcohol and spray cleaners burn: no hot air, iron or source until they are gone, and fresh air.',
    asked: always,
    presses: after('liquid', 'frost'),
  },
  {
    item: 'hot-air',
    kind: 'caution',
    title: 'Hot air and fumes',
    why: 'Flux and lead fumes are drawn off, eyes covered, cells and plastic shielded; what was heated stays hot for minutes.',
    asked: always,
    presses: never,
  },
  {
    item: 'liquid-metal',
    kind: 'caution',
    title: 'Liquid metal under the heatsink',
    why: 'It runs, conducts and eats aluminium. Look before wiping; keep it off the board and away from skin.',
    asked: always,
    presses: never,
  },
];
