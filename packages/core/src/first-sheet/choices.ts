import { z } from 'zod';

/**
 * The handful of choices a first sheet of an unknown board is made from. Each may be left open (null).
 * How an option is recognised on the bench is common practice, no source.
 */
export const questions = [
  {
    id: 'input',
    title: 'Way in',
    asks: 'How does power come in, and through what?',
    options: [
      {
        id: 'barrel-pfet',
        title: 'Barrel, two P-channel FETs',
        tell: 'Two eight-pin FETs in a row behind the jack, a milliohm resistor near them. Gates are pulled well below the source when on.',
      },
      {
        id: 'barrel-nfet',
        title: 'Barrel, N-channel pair',
        tell: 'Two eight-pin FETs in a row behind the jack; the charger drives both gates about 5 to 6 V above the input.',
      },
      {
        id: 'usb-c',
        title: 'USB-C alone',
        tell: 'No other way in. A small chip beside the plug asks for 20 V; a FET pair lets it on to the board.',
      },
      {
        id: 'both',
        title: 'Barrel and USB-C',
        tell: 'A jack with two FETs, and a USB-C plug with a pair of its own, both on to the same rail.',
      },
      {
        id: 'bus-charger',
        title: 'Charger-fed bus, small standby supply',
        tell: 'The charger with its coil makes the main rail itself (about battery volts), and a tiny converter at the input makes 3.4 V first.',
      },
      {
        id: 'desktop-standby',
        title: 'Desktop style, standby first',
        tell: '12 V in; a 5 V standby coil runs at once, the larger coils only after the button.',
      },
      {
        id: 'single',
        title: 'Straight in, single 5 V or 12 V',
        tell: 'No FETs and no charger: fuse or ferrite, then the converters.',
      },
    ],
  },
  {
    id: 'alwaysOn',
    title: 'Always-on rails',
    asks: 'Who makes 3.3 V and 5 V before the button?',
    options: [
      {
        id: 'dual',
        title: 'One dual regulator with two LDOs',
        tell: 'One chip between two coils of the same size side by side; it gives small 5 V and 3.3 V of its own first.',
      },
      {
        id: 'separate',
        title: 'Separate regulators',
        tell: 'Two small converters, each with a coil of its own, often apart from each other.',
      },
      {
        id: 'ldo-only',
        title: 'LDO only, coils after the button',
        tell: 'Before the button only a few milliamps of 3.3 V; 3.3 V and 5 V coils stay dead until it is pressed.',
      },
    ],
  },
  {
    id: 'controller',
    title: 'Controller',
    asks: 'Who sees the button?',
    options: [
      {
        id: 'one',
        title: 'One embedded controller',
        tell: 'A square chip of 64 to 144 pins with a flash and a crystal beside it.',
      },
      {
        id: 'two',
        title: 'Two controllers',
        tell: 'A small one near the always-on supply wakes a larger one.',
      },
      {
        id: 'none',
        title: 'None: the chipset itself',
        tell: 'The button line goes to the chipset or power chip; no controller of its own.',
      },
    ],
  },
  {
    id: 'handshake',
    title: 'Handshake',
    asks: 'What happens between button and reset?',
    options: [
      {
        id: 'chipset',
        title: 'Chipset with suspend rails',
        tell: 'After the button come 1.8 V and about 1 V for the chipset, then RSMRST#, then SLP_S4# and SLP_S3#.',
      },
      {
        id: 'soc',
        title: 'System on a chip',
        tell: 'One large chip only; its suspend rails and a rail of 0.7 to 1 V beside it come before SLP_S3#.',
      },
      {
        id: 'plain',
        title: 'Plain enable chain',
        tell: 'Each power-good lets the next converter on; the last one releases reset.',
      },
    ],
  },
  {
    id: 'memory',
    title: 'Memory',
    asks: 'What does its rail read?',
    options: [
      { id: 'ddr3', title: 'DDR3, 1.5 V', tell: 'Printed on the module: PC3.' },
      { id: 'ddr3l', title: 'DDR3L, 1.35 V', tell: 'Printed on the module: PC3L.' },
      {
        id: 'ddr4',
        title: 'DDR4, 1.2 V',
        tell: 'Printed on the module: PC4; a 2.5 V rail beside.',
      },
      {
        id: 'ddr5',
        title: 'DDR5, modules make 1.1 V from 5 V',
        tell: 'A power chip and coils on the module itself.',
      },
      {
        id: 'lpddr4x',
        title: 'LPDDR4X, soldered: 1.1 V and 0.6 V',
        tell: 'Square chips close to the processor, no slot.',
      },
      {
        id: 'lpddr5',
        title: 'LPDDR5, soldered: 1.05 V and 0.5 V',
        tell: 'Square chips close to the processor, no slot, newer boards.',
      },
    ],
  },
  {
    id: 'phases',
    title: 'Core phases',
    asks: 'How many equal coils stand around the processor on one rail?',
    options: ['1', '2', '3', '4', '6'].map((id) => ({
      id,
      title: id === '1' ? 'One coil' : `${id} coils`,
      tell: 'Equal large coils in a row, beep from coil to coil.',
    })),
  },
] as const;

export type QuestionId = (typeof questions)[number]['id'];

/** What hangs beside the way to boot. */
export const branches = [
  { id: 'charging', title: 'Charging', tell: 'A battery plug and a charger with its coil.' },
  {
    id: 'backlight',
    title: 'Backlight',
    tell: 'A boost converter near the panel plug, diode and coil.',
  },
  { id: 'storage', title: 'Storage', tell: 'A slot or plug for a drive, with its 3.3 V switch.' },
  { id: 'fan', title: 'Fan', tell: 'A three- or four-pin plug, 5 V.' },
  { id: 'lights', title: 'Lights', tell: 'A power light that shows that the button was seen.' },
] as const;
export type BranchId = (typeof branches)[number]['id'];

const idsOf = <const T extends readonly { id: string }[]>(list: T) =>
  z.enum(list.map((one) => one.id) as [T[number]['id'], ...T[number]['id'][]]);

const open = <T extends z.ZodType>(one: T) => one.nullable().default(null);

export const choicesSchema = z.strictObject({
  input: open(idsOf(questions[0].options)),
  alwaysOn: open(idsOf(questions[1].options)),
  controller: open(idsOf(questions[2].options)),
  handshake: open(idsOf(questions[3].options)),
  memory: open(idsOf(questions[4].options)),
  phases: open(z.enum(['1', '2', '3', '4', '6'])),
  branches: z.array(idsOf(branches)).max(branches.length).default([]),
  /** Volts of the source as printed on it; null where nobody looked. */
  inputVolts: open(z.number().min(3).max(60)),
});
export type Choices = z.output<typeof choicesSchema>;

export const nothingChosen: Choices = choicesSchema.parse({});

/** A board nobody has a sheet of. */
export const unknownBoardSchema = z.strictObject({
  title: z.string().trim().min(1, 'is empty').max(80),
  /** What is printed on the board. */
  marking: z.string().trim().max(60).default(''),
  choices: choicesSchema.default(nothingChosen),
});
export type UnknownBoard = z.output<typeof unknownBoardSchema>;

/** An id for a sheet, from its title: small letters, digits and dashes; `taken` ones get a number. */
export function boardIdFrom(title: string, taken: ReadonlySet<string> = new Set()): string {
  const plain = title
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 36)
    .replace(/-+$/, '');
  const base = plain.length >= 2 ? plain : `board${plain === '' ? '' : `-${plain}`}`;
  for (let number = 1; ; number++) {
    const id = number === 1 ? base : `${base}-${number}`;
    if (!taken.has(id)) return id;
  }
}

/** What is left open, by the titles of its questions. */
export const leftOpen = (choices: Choices): QuestionId[] =>
  questions.map((one) => one.id).filter((id) => choices[id] === null);
