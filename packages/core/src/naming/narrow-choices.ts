import { findNet, type Board, type NetId } from '../board/index.ts';
import { questions, type Choices, type QuestionId } from '../first-sheet/index.ts';
import type { KeptReading } from '../record/index.ts';
import { type Phase, type Reading, nothingVolts } from '../readings/index.ts';
import { formatVolts } from '../units/index.ts';

/** What a reading says of a choice that was left open. */
export interface Narrowing {
  question: QuestionId;
  /** Options that still fit, the likeliest first; one alone is what it is. */
  fits: { id: string; title: string }[];
  why: string;
}

/** JEDEC nominal volts of the memory rail, from memory; two that lie within a meter's and a rail's stray stay two. */
const memoryVolts: Record<string, number> = {
  ddr3: 1.5,
  ddr3l: 1.35,
  ddr4: 1.2,
  lpddr4x: 1.1,
  lpddr5: 1.05,
  ddr5: 5,
};
const memoryStray = 0.035;

/** Readings of a board made by choices, held against the options that were left open. */
export function narrowChoices(
  board: Board,
  choices: Choices,
  readings: readonly KeptReading[],
): Narrowing[] {
  const standing = readings
    .filter((one) => one.standing.kind === 'stands')
    .map((one) => one.reading);
  const volts = (name: string, ...phases: Phase[]): number | null => {
    const net = findNet(board, name)?.id ?? (name as NetId);
    return numberOf(
      standing.findLast(
        ({ at, mode, phase, reference }) =>
          at.net === net && mode === 'volts' && reference === null && phases.includes(phase),
      ),
    );
  };
  return [
    ...(choices.input === null ? input(volts) : []),
    ...(choices.alwaysOn === null ? alwaysOn(volts) : []),
    ...(choices.controller === null ? controller(volts) : []),
    ...(choices.handshake === null ? handshake(volts) : []),
    ...(choices.memory === null ? memory(volts) : []),
    ...(choices.phases === null ? phases(board) : []),
  ];
}

type VoltsAt = (net: string, ...phases: Phase[]) => number | null;
const powered = ['standby', 'pressed', 'trying', 'run'] as const;
const pressed = ['run', 'trying', 'pressed'] as const;

function input(volts: VoltsAt): Narrowing[] {
  const source = volts('DC_IN', ...powered);
  const main = volts('VMAIN', ...powered);
  if (source === null) return [];
  const near = (wanted: number): boolean => Math.abs(source - wanted) < 0.07 * wanted;
  if (main !== null && main > 7 && main < 13.4 && source > main + 3)
    return [
      fits(
        'input',
        ['bus-charger'],
        `The main rail stands at ${formatVolts(main)} with ${formatVolts(source)} at the input: the charger makes it.`,
      ),
    ];
  if (near(5))
    return [
      fits(
        'input',
        ['single', 'usb-c'],
        `${formatVolts(source)} at the input: a single 5 V, or USB-C that nobody has asked for more.`,
      ),
    ];
  if (near(12))
    return [fits('input', ['desktop-standby', 'single'], `${formatVolts(source)} at the input.`)];
  if (source > 17) {
    const passes = main !== null && Math.abs(source - main) < 0.5;
    return [
      fits(
        'input',
        passes
          ? ['barrel-pfet', 'barrel-nfet', 'usb-c', 'both']
          : ['barrel-pfet', 'barrel-nfet', 'both', 'usb-c', 'bus-charger'],
        passes
          ? `${formatVolts(source)} at the input and as much on the main rail: FETs pass it on. Read a gate against its source: about 5 V above is an N-channel pair, well below a P-channel one.`
          : `${formatVolts(source)} at the input: a laptop source, let on by FETs or made into a bus by the charger.`,
      ),
    ];
  }
  return [];
}

function alwaysOn(volts: VoltsAt): Narrowing[] {
  const five = volts('5V_ALW', 'standby');
  const three = volts('3V3_ALW', 'standby');
  const late =
    volts('5V_ALW', 'pressed', 'trying', 'run') ?? volts('3V3_ALW', 'pressed', 'trying', 'run');
  const isUp = (one: number | null): boolean => one !== null && one > 2.8;
  if (isUp(five) || isUp(three))
    return [
      fits(
        'alwaysOn',
        ['separate', 'dual'],
        `${isUp(five) ? '5 V' : '3.3 V'} is there before the button.`,
      ),
    ];
  if (five !== null && three !== null && isUp(late))
    return [
      fits('alwaysOn', ['ldo-only'], 'Nothing at the coils before the button, and there after it.'),
    ];
  return [];
}

/** A reset that stands, and one that is held. */
const releasedVolts = 1.6;

/**
 * Only a board whose 3.3 V comes after the button tells at its reset line: a controller on the small
 * regulator is let go at rest; where a small one wakes a larger, the larger has no supply by then.
 */
function controller(volts: VoltsAt): Narrowing[] {
  const three = volts('3V3_ALW', 'standby');
  const atRest = volts('EC_RST#', 'standby');
  if (three === null || atRest === null || three > nothingVolts) return [];
  if (atRest > releasedVolts)
    return [
      fits(
        'controller',
        ['one'],
        `The controller's reset stands at ${formatVolts(atRest)} with no 3.3 V coil running: it lives on the small regulator.`,
      ),
    ];
  const after = volts('EC_RST#', ...pressed);
  return atRest < nothingVolts && after !== null && after > releasedVolts
    ? [
        fits(
          'controller',
          ['two'],
          `The reset is held at rest and let go after the press: something before it sees the button.`,
        ),
      ]
    : [];
}

/** Volts of the rail beside the 1.8 V suspend rail, common practice: a system on a chip takes less than chipsets. */
const mostSocVolts = 0.93;
const chipsetVolts = [0.95, 1.12] as const;

function handshake(volts: VoltsAt): Narrowing[] {
  const beside = volts('1V05_S5', ...powered);
  const suspend = volts('1V8_S5', ...pressed);
  const runs = volts('PLTRST#', ...pressed) ?? 0;
  if (beside !== null && beside > 0.6 && beside < mostSocVolts)
    return [
      fits(
        'handshake',
        ['soc'],
        `The rail beside the 1.8 V reads ${formatVolts(beside)}: less than a chipset takes.`,
      ),
    ];
  if (beside !== null && beside >= chipsetVolts[0] && beside <= chipsetVolts[1])
    return [
      fits(
        'handshake',
        ['chipset', 'soc'],
        `The rail beside the 1.8 V reads ${formatVolts(beside)}, as chipsets take it, and some systems on a chip.`,
      ),
    ];
  return suspend !== null && suspend < nothingVolts && runs > releasedVolts
    ? [
        fits(
          'handshake',
          ['plain'],
          `Reset is released with nothing on the 1.8 V suspend rail: nobody here waits for it.`,
        ),
      ]
    : [];
}

/** Coils that somebody found on the core rail. */
function phases(board: Board): Narrowing[] {
  const core = findNet(board, 'VCORE')?.id;
  const coils = board.points.filter(({ net, title }) => net === core && /\bcoil/i.test(title));
  const { options } = questions.find((one) => one.id === 'phases')!;
  const left = options.map((one) => one.id).filter((id) => Number(id) >= coils.length);
  return core === undefined || coils.length < 2 || left.length === 0
    ? []
    : [
        fits(
          'phases',
          left,
          `${coils.length} coils were found on the core rail. Beep from coil to coil for more of them.`,
        ),
      ];
}

function memory(volts: VoltsAt): Narrowing[] {
  const read = volts('VMEM', 'run', 'trying', 'pressed');
  if (read === null) return [];
  const near = Object.entries(memoryVolts)
    .map(([id, nominal]) => ({ id, off: Math.abs(read - nominal) / nominal }))
    .filter((one) => one.off < memoryStray)
    .sort((a, b) => a.off - b.off);
  return near.length > 0
    ? [
        fits(
          'memory',
          near.map((one) => one.id),
          `The memory rail reads ${formatVolts(read)}.`,
        ),
      ]
    : [];
}

const numberOf = (reading: Reading | undefined): number | null =>
  reading?.value.kind === 'number' ? reading.value.value : null;

function fits(question: QuestionId, ids: readonly string[], why: string): Narrowing {
  const { options } = questions.find((one) => one.id === question)!;
  const title = (id: string): string =>
    (options as readonly { id: string; title: string }[]).find((one) => one.id === id)?.title ?? id;
  return { question, fits: ids.map((id) => ({ id, title: title(id) })), why };
}
