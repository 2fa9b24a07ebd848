import {
  attachmentOf,
  isSeriesPart,
  pinsOnNet,
  takeOff,
  type Board,
  type Chip,
  type NetId,
  type Part,
  findChip,
  netById,
} from '../../board/index.ts';
import { flashOwner, type Fault } from '../../faults/index.ts';
import { cautionText } from '../../safety/index.ts';

/** How to tell the members of a group apart, where no reading on the nets does. */
export interface SeparatingTest {
  text: string;
  caution: string | null;
}

/** Heat on a board. */
const heatCaution = cautionText('lift');

/** Tests that belong to a way of failing, whatever else is in the group. */
function ownTest(board: Board, fault: Fault, shortedNet: NetId | null): SeparatingTest | null {
  const kindOf = (id: NetId): string | undefined => netById(board, id)?.kind;
  switch (fault.kind) {
    case 'source':
      return {
        text: 'Measure the source by itself and while the board draws, at its plug and behind the jack; then try another one that works elsewhere, with its own lead.',
        caution: null,
      };
    case 'warm':
      return {
        text: 'Let it go off once more and note the seconds, cold and after a short rest: sooner when it is warm speaks for heat. Then the cooler: seated, its paste, its pads of the right thickness, its fan turning. Then what gets hotter than on a good board: cool one part at a time and see which makes it last.',
        caution: cautionText('test-heat'),
      };
    case 'nets-joined':
      return {
        text: `Source off: ohms from ${fault.nets[0]} to ${fault.nets[1]}. Look between their pads for dirt and solder, clean and dry them, and measure again.`,
        caution: null,
      };
    case 'break': {
      const along = netById(board, fault.net)?.along ?? [];
      const name = (at: number): string => (along[at] ? `${along[at].ref}.${along[at].pin}` : '');
      return {
        text: `No connection between ${name(fault.after)} and ${name(fault.after + 1)}: ohms between the two, then a jumper.`,
        caution: null,
      };
    }
    case 'pins-short':
      // A part's own short on a line is as any short there: see below.
      if (!board.chips.some((chip) => chip.ref === fault.part)) break;
      return {
        text: `Source off and battery unplugged: ohms from ${fault.pins[0]} to ${fault.pins[1]} of ${fault.part}, at its own pins. Near nothing is its upper switch gone short: change it, then read what hangs on its output for shorts before any source is connected.`,
        caution: cautionText('measure-switch'),
      };
    case 'open':
      if (board.button?.part !== fault.part) break;
      return {
        text: 'Join its two pads with tweezers for a moment: the board answers. Then ohms across them while it is pressed.',
        caution: null,
      };
    case 'corrupt':
    case 'stops':
    case 'blank': {
      const chip = findChip(board, fault.part);
      const runner = fault.kind === 'blank' ? flashOwner(board, fault.part) : chip;
      const ref = runner?.ref ?? fault.part;
      const reset = runner ? resetOf(runner) : null;
      const crystal = runner?.crystal ? `, then its crystal ${runner.crystal}` : '';
      return {
        text: `No voltage shows firmware. Supply and reset of ${ref} at its own pins first${crystal}; then read its flash out, keep the copy, and compare or write a known-good one. Last the chip itself.${reset === null || fault.kind === 'blank' ? '' : ` A reset let go before its rail stands hangs ${ref} just so, and no hand meter sees milliseconds: hold ${reset} to ground through 1 kΩ before the source is connected, and let go a second after. If it runs then, look at what times that reset.`}`,
        caution: cautionText('test-firmware'),
      };
    }
    default:
      break;
  }
  if (shortedNet === null || kindOf(shortedNet) === 'rail') return null;
  return {
    text: `Ohms from ${shortedNet} to ground, unpowered. Clean what is wet about it; then ${offInTurn(board, shortedNet)}. No current is to be driven into a signal.`,
    caution: heatCaution,
  };
}

/** What hangs on a signal, in the order in which it is taken away: plugs first, what has its joints below not at all. */
function offInTurn(board: Board, net: NetId): string {
  const on = [...new Set(pinsOnNet(board, net).map((pin) => pin.ref as string))];
  const plugged = [...new Set(on.flatMap((ref) => attachmentOf(board, ref) ?? []))];
  const [offs, stay] = [
    on.filter((ref) => takeOff(board, ref).seconds !== null),
    on.filter((ref) => takeOff(board, ref).seconds === null && attachmentOf(board, ref) === null),
  ];
  offs.sort((a, b) => takeOff(board, a).seconds! - takeOff(board, b).seconds!);
  return [
    ...(plugged.length > 0 ? [`unplug the ${plugged.join(' and the ')} and read again; then`] : []),
    `take what hangs on it off one at a time, the easiest first: ${offs.join(', ') || 'its parts'}`,
    ...(stay.length > 0
      ? [
          `; ${stay.join(', ')} ${stay.length > 1 ? 'stay' : 'stays'} on, for its joints are below it`,
        ]
      : []),
  ]
    .join(' ')
    .replace(' ;', ';');
}

/** A regulator that chops, with a coil; neither linear nor a switch. */
const switches = (one: Chip['behaviours'][number]): boolean =>
  one.do === 'regulator' && one.pass !== 'linear' && one.pass !== 'switch';

const isCodeless = ({ kind }: Fault): boolean =>
  kind === 'corrupt' || kind === 'stops' || kind === 'blank';

/** The net that holds a chip in reset; null where the sheet draws none. */
function resetOf(chip: Chip): NetId | null {
  const pins = chip.behaviours.flatMap((one) =>
    one.do === 'sequence' ? one.needs.map((need) => need.pin) : [],
  );
  const pin = pins.find((one) => /RST|RESET/i.test(`${one} ${chip.pins.get(one)}`));
  return pin === undefined ? null : (chip.pins.get(pin) ?? null);
}

/** Parts that are off the board, and those a reading was taken across, unpowered. */
export interface Handled {
  gone?: readonly string[];
  measured?: readonly string[];
  /** A part that most of it stands on and at which something was seen; null where none stands out. */
  seen?: string | null;
}

/** The test that separates a group, by what its members are. Common practice, no source. */
export function separatingTest(
  board: Board,
  faults: readonly Fault[],
  shortedNet: NetId | null,
  { gone = [], measured = [], seen = null }: Handled = {},
): SeparatingTest {
  const [lead] = faults;
  const missing = [...new Set(faults.flatMap((one) => ('part' in one ? [one.part] : [])))].filter(
    (ref) => gone.includes(ref),
  );
  if (lead && 'part' in lead && missing.includes(lead.part))
    return {
      text: `${missing.join(', ')} ${missing.length > 1 ? 'are' : 'is'} not on the board: look whether ${missing.length > 1 ? 'their' : 'its'} pads are whole, fit ${missing.length > 1 ? 'them' : 'one'} and read the same points again.`,
      caution: heatCaution,
    };
  if (
    lead?.kind === 'dead' &&
    board.chips.some(({ ref, kind }) => ref === lead.part && kind === 'panel')
  )
    return {
      text: `Read the rails of the panel at its plug first. Where all are there, look at plug and cable under the microscope, and seat both ends again with everything off. Then another cable and another panel, or the picture on an outer screen: where it comes, the board is good.`,
      caution: cautionText('plug'),
    };
  const attachment = lead && 'part' in lead ? attachmentOf(board, lead.part) : null;
  if (lead && 'part' in lead && attachment !== null)
    return {
      text: `${lead.part} is in the ${attachment}: unplug the ${attachment} and read the same points again. Where they come then, try another ${attachment}; it is changed whole.`,
      caution: cautionText('change-with-attachment', { attachment }),
    };
  if (lead) {
    // Whether a chip is dead or its code does not run is one test.
    const codeless = lead.kind === 'dead' ? faults.find(isCodeless) : undefined;
    const own = ownTest(board, codeless ?? lead, shortedNet);
    if (own) return own;
    if ('part' in lead && measured.includes(lead.part))
      return {
        text: `${lead.part} was measured in its place: touch up its joints and measure it once more, one end lifted where something beside it reads along. Where it reads wrong still, change it.`,
        caution: heatCaution,
      };
  }
  if (shortedNet !== null) {
    const volts = netById(board, shortedNet)?.volts ?? null;
    const coil = board.parts.find(
      (part) =>
        part.kind === 'coil' && part.fitted && part.pins.some((pin) => pin.net === shortedNet),
    );
    if (seen !== null && takeOff(board, seen).seconds !== null)
      return {
        text: `${seen} stands out by what was seen at it: source off, take it off and read ohms on ${shortedNet} again. The short is gone: it was ${seen}, fit a new one. It stays: fit it again, and look for the part that gets warm.`,
        caution: heatCaution,
      };
    const limit = volts === null ? 'its own volts or less' : `${Math.min(1, volts)} V`;
    return {
      text: `${coil ? `Lift coil ${coil.ref}: is the short on the regulator's side or the load's? Then inject` : 'Inject'} ${limit} with a small current limit on ${shortedNet} and look for the part that gets warm, or follow the millivolt drop to where it is lowest.`,
      caution: cautionText('inject'),
    };
  }
  const parts = new Set(faults.flatMap((fault) => ('part' in fault ? [fault.part] : [])));
  const isLeft = ({ ref }: Part): boolean => parts.has(ref) && !measured.includes(ref);
  const series = board.parts.find((part) => isLeft(part) && isSeriesPart(part));
  if (series) {
    return {
      text: `Measure ${series.ref} from end to end, unpowered: below an ohm it is whole. If it is, touch the pins of the chips beside it themselves: a cut trace or joint reads right on the pad and wrong on the pin.`,
      caution: null,
    };
  }
  const resistors = board.parts.filter((part) => isLeft(part) && part.kind === 'resistor');
  if (resistors.length > 0) {
    return {
      text: `Measure ${resistors.map((part) => part.ref).join(', ')} unpowered against ${resistors.map((part) => part.valueText).join(', ')}; lift one end where something beside it reads along.`,
      caution: heatCaution,
    };
  }
  const chips = board.chips.filter((chip) => parts.has(chip.ref));
  const others = board.parts.filter(isLeft);
  if (others.length > 0) {
    return {
      text: `Measure ${others.map((part) => part.ref).join(', ')} from end to end, unpowered, both ways round, and hold it against the same part of a good board; lift one end where something beside it reads along.`,
      caution: heatCaution,
    };
  }
  if (chips.length === 1) {
    const around = chips[0]!.behaviours.some(switches)
      ? ' First check the parts around it: its bootstrap capacitor and diode, and put a good capacitor across its output, for worn ones stop it without a short.'
      : '';
    return {
      text: `Go round ${chips[0]?.ref} pin by pin with the probe on the pins themselves: where pad and pin differ the joint is open; where all are right the chip is bad. Touch up its pins before changing it.${around}`,
      caution: heatCaution,
    };
  }
  if (chips.length === 0)
    return {
      text: 'No part stands alone here: read both ends of what leads to it once more, and look at its joints under the microscope.',
      caution: null,
    };
  return {
    text: `Compare the pins of ${chips.map((chip) => chip.ref).join(', ')} themselves with their nets; then take them out of the line one at a time, the easiest first.`,
    caution: heatCaution,
  };
}
