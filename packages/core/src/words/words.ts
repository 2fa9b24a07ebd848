import { readNetName } from '../board/index.ts';

/** Where a word's meaning comes from. Figures not read from their source say so. */
export type WordSource =
  | 'ACPI specification, from memory'
  | 'JEDEC standards, from memory'
  | 'USB Type-C and Power Delivery specifications, from memory'
  | 'ATX design guide, from memory'
  | 'IEC 60062, from memory'
  | 'common practice, no source';

export interface Word {
  term: string;
  room: 'Rails' | 'States' | 'Signals' | 'Packages' | 'Parts' | 'Rules of thumb';
  says: string;
  source: WordSource;
  /** Whether a net's name holds it. */
  inName?: RegExp;
}

const practice = 'common practice, no source';
const acpi = 'ACPI specification, from memory';
const jedec = 'JEDEC standards, from memory';
const usb = 'USB Type-C and Power Delivery specifications, from memory';

/** Words of the bench. A hint is shown for a net by the parts of its name. */
export const words: readonly Word[] = [
  {
    room: 'Rails',
    term: 'ALW, AON, AUX, SB, VSB',
    says: 'Always on: there as soon as the board has its source, before the button.',
    source: practice,
    inName: /(^|[_+\d])(ALW|ALWAYS|AON|AUX|SB|VSB|STBY)\b|ALW$|_SB$/,
  },
  {
    room: 'Rails',
    term: 'LDO, REG',
    says: 'A small linear supply, often of the chip that makes the larger rail: milliamps only.',
    source: practice,
    inName: /LDO|VREG/,
  },
  {
    room: 'Rails',
    term: 'S5, PRIM, A, DSW',
    says: 'Suspend rails: the chipset lives on them while the board is off but supplied.',
    source: practice,
    inName: /_(S5|PRIM|DSW|A)\b/,
  },
  {
    room: 'Rails',
    term: 'SUS, S3, MEM, DDR, VDDQ',
    says: 'There while memory has to keep its content: in S3 and S0.',
    source: practice,
    inName: /SUS|_S3\b|MEM|DDR|VDDQ|DIMM/,
  },
  {
    room: 'Rails',
    term: 'VTT, VPP',
    says: 'Beside the memory rail: VTT is half of it, VPP 2.5 V for DDR4.',
    source: jedec,
    inName: /VTT|VPP/,
  },
  {
    room: 'Rails',
    term: 'RUN, S0',
    says: 'There while the board runs, gone in every sleep.',
    source: practice,
    inName: /RUN|_S0\b/,
  },
  {
    room: 'Rails',
    term: 'VCORE, VCC_CORE, GFX, SA',
    says: 'Rails of the processor, set by it: a range and not a value. A few ohms to a few hundred cold, which is no short.',
    source: practice,
    inName: /CORE|GFX|VCCSA/,
  },
  {
    room: 'Rails',
    term: 'VBUS',
    says: 'The bus of a USB plug: nothing until something is attached, then 5 V until more is agreed on (9, 15, 20; extended range 28, 36, 48 V).',
    source: usb,
    inName: /VBUS/,
  },
  {
    room: 'Rails',
    term: 'VIN, DC_IN, ADP, VMAIN, VSYS, B+',
    says: 'From the plug to what all converters are fed from. Across its fuse and FETs a healthy board loses tenths of a volt at most.',
    source: practice,
    inName: /^(V?DC_?IN|VIN|ADP|VMAIN|VSYS|B\+|VBATA|PWR_SRC)/,
  },
  {
    room: 'Rails',
    term: 'memory volts',
    says: 'DDR3 1.5, DDR3L 1.35, DDR4 1.2, DDR5 1.1 (made on the module from 5 V), LPDDR4X 1.1 and 0.6, LPDDR5 1.05 and 0.5.',
    source: jedec,
  },
  {
    room: 'States',
    term: 'G3',
    says: 'Mechanical off: no source at all, but perhaps the coin cell.',
    source: acpi,
  },
  {
    room: 'States',
    term: 'S5',
    says: 'Soft off: the source is on, suspend rails may be there, nothing runs. What the bench calls standby.',
    source: acpi,
  },
  {
    room: 'States',
    term: 'S4',
    says: 'Suspended to storage: like S5, its content kept on the drive.',
    source: acpi,
  },
  {
    room: 'States',
    term: 'S3',
    says: 'Suspended to memory: the memory rail stays, the run rails are off.',
    source: acpi,
  },
  { room: 'States', term: 'S0', says: 'Running: every rail on.', source: acpi },
  {
    room: 'Signals',
    term: 'name with # or _N, _L',
    says: 'Active low: what it says happens when it is low. RESET# high means released.',
    source: practice,
    inName: /(#|_N|_L)$/,
  },
  {
    room: 'Signals',
    term: 'EN, ON',
    says: 'Enable: lets a converter on when it is high, most from about 1.2 V.',
    source: practice,
    inName: /(^|_)(EN|ON)(_|$)|_EN\b/,
  },
  {
    room: 'Signals',
    term: 'PG, PGOOD, OK, RDY',
    says: 'Power-good: an open drain pulled up, low until the rail is within limits. Low with the rail there: look at its pull-up and at who else pulls.',
    source: practice,
    inName: /(PG|PGOOD|_OK|RDY|READY)\b/,
  },
  {
    room: 'Signals',
    term: 'ACOK, ACIN, ACDET',
    says: 'The charger sees a source it takes: a divider from the input into ACDET, ACOK as its answer.',
    source: practice,
    inName: /AC(OK|IN|DET)/,
  },
  {
    room: 'Signals',
    term: 'RSMRST#',
    says: 'Suspend rails are good, said to the chipset by the controller. Low: the chipset is held.',
    source: practice,
    inName: /RSM_?RST/,
  },
  {
    room: 'Signals',
    term: 'PWRBTN#',
    says: 'The button, passed on to the chipset as a low pulse.',
    source: practice,
    inName: /PWR_?BTN|BTN/,
  },
  {
    room: 'Signals',
    term: 'SLP_S4#, SLP_S3#',
    says: 'The chipset asks for memory (S4 high), then for the run rails (S3 high).',
    source: acpi,
    inName: /SLP_S[345]/,
  },
  {
    room: 'Signals',
    term: 'PWROK, PCH_PWROK, SYS_PWROK',
    says: 'All run rails are good. A desktop supply gives it 100 to 500 ms after them.',
    source: 'ATX design guide, from memory',
    inName: /PWR_?OK/,
  },
  {
    room: 'Signals',
    term: 'PLTRST#',
    says: 'Platform reset: high when processor and devices are let go. The last of the sequence.',
    source: practice,
    inName: /PLT_?RST/,
  },
  {
    room: 'Signals',
    term: 'RTCRST#',
    says: 'Reset of the clock domain: high by the coin cell or its stand-in. Low clears the settings.',
    source: practice,
    inName: /RTC_?RST/,
  },
  {
    room: 'Packages',
    term: 'SOIC, SO-8',
    says: 'Pin 1 at the dot or the bevelled edge; counted against the clock seen from above.',
    source: practice,
  },
  {
    room: 'Packages',
    term: 'QFN, QFP',
    says: 'Pin 1 at the dot or the cut corner, counted against the clock; the pad below is ground on most.',
    source: practice,
  },
  {
    room: 'Packages',
    term: 'BGA',
    says: 'Rows by letters without I, O, Q, S, X, Z, columns by numbers; A1 at the marked corner.',
    source: jedec,
  },
  {
    room: 'Packages',
    term: 'SOT-23',
    says: 'Seen from above with the single pin up: most FETs have gate and source below, drain above; transistors base and emitter below, collector above. Data sheets differ: read it.',
    source: practice,
  },
  {
    room: 'Parts',
    term: '4R7, 4k7, 4u7',
    says: 'The letter stands for the point: 4.7 ohms, 4.7 kilohms, 4.7 microfarads or henries.',
    source: 'IEC 60062, from memory',
  },
  {
    room: 'Parts',
    term: 'P-channel input FET',
    says: 'On when its gate sits well below its source. Off, it still passes its source less a diode drop.',
    source: practice,
  },
  {
    room: 'Parts',
    term: 'N-channel input FET',
    says: 'On when its gate stands about 5 V above its source: a charge pump makes that.',
    source: practice,
  },
  {
    room: 'Parts',
    term: 'body diode',
    says: 'From source to drain of an N-channel FET, from drain to source of a P-channel one: 0.4 to 0.6 V on a healthy one.',
    source: practice,
  },
  {
    room: 'Parts',
    term: 'coin cell',
    says: 'New 3.0 V or more; below about 2.7 V it is replaced.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'rails',
    says: 'Within about 5 % of their volts.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'a short',
    says: 'Judged by what its converter can drive: volts over current limit. Core rails are low by nature.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'heat',
    says: 'A part far hotter than the board around it sits in the short.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'a missing capacitor',
    says: 'Seldom stops a board; a shorted one takes its rail down. A missing series resistor breaks its path.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'charging',
    says: 'A small current first, 0.1 to 0.2 A, then the full one.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'backlight',
    says: 'Above 30 V with no load, 24 to 27 V working, 8 to 18 V when it does not boost, 0 V for a short or its fuse.',
    source: practice,
  },
  {
    room: 'Rules of thumb',
    term: 'nothing read',
    says: 'A probe that does not touch reads 0 V and OL too: read once more before the iron is warm.',
    source: practice,
  },
];

/** Words whose meaning a net's name holds, for a hint beside it; with its volts where the name tells them. */
export function hintsFor(net: string): string[] {
  const upper = net.toUpperCase();
  const { volts } = readNetName(net);
  return [
    ...(volts === null ? [] : [`${volts} V by its name.`]),
    ...words.filter((one) => one.inName?.test(upper)).map((one) => `${one.term}: ${one.says}`),
  ];
}

/** Words that hold all that is typed, in their term or meaning. */
export function findWords(typed: string): Word[] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return words.filter((one) => {
    const text = `${one.term} ${one.says} ${one.room}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  });
}
